<script setup lang="ts">
import { computed } from "vue";
import { clockFormat } from "../units";

/** Says that what is shown is as this device read it last, for the program does not answer. */
const props = defineProps<{ keptAt: number | null }>();
const emit = defineEmits<{ again: [] }>();
const format = clockFormat({ weekday: "short", hour: "2-digit", minute: "2-digit" });
const when = computed(() => (props.keptAt === null ? "" : format.format(props.keptAt)));
</script>

<template>
  <p v-if="keptAt !== null" class="reach notice small" role="status">
    Out of reach: this is as of {{ when }}. What you count or spray is kept here and sent later.
    <button type="button" class="as-text" @click="emit('again')">Try again</button>
  </p>
</template>

<style scoped>
.reach {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 0 var(--space-3);
  max-width: 720px;
  margin: 0 auto;
  padding-block: 0;
}
</style>
