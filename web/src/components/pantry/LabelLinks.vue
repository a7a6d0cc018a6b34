<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import PhonesNote from "../PhonesNote.vue";

/** The pages of bottle labels to print; nothing while no bottle is there to be labelled. */
const props = defineProps<{ labels: Schemas["LabelsOut"] | null }>();
const pages = computed(() => props.labels?.pages ?? []);
</script>

<template>
  <div v-if="pages.length" class="stack labels">
    <span class="row"
      ><a v-for="(page, k) in pages" :key="page" :href="page" target="_blank" rel="noopener"
        >Print the labels{{ pages.length > 1 ? `, page ${k + 1}` : "" }}</a
      ></span
    >
    <PhonesNote v-if="!labels?.phones_can_open" class="small" />
  </div>
</template>

<style scoped>
.labels {
  grid-column: 1 / -1;
}
</style>
