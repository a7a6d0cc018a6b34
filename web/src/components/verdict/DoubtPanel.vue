<script setup lang="ts">
import { onMounted, watch } from "vue";
import { client, take } from "../../api/client";
import FaultNote from "../FaultNote.vue";
import { useAnswer } from "../../composables/useAnswer";

/** The same trial judged again without what may be doubted. */
const props = defineProps<{ trialId: number; look: number | null }>();
const checks = useAnswer(() =>
  take(client.GET("/api/trials/{trial_id}/verdict/checks", { params: { path: { trial_id: props.trialId }, query: { look: props.look } } })),
);
onMounted(checks.load);
watch(() => props.look, checks.load);
</script>

<template>
  <FaultNote :fault="checks.fault.value" />
  <p v-if="checks.data.value?.length === 0" class="soft">Without a control there is nothing to try.</p>
  <ul v-else-if="checks.data.value">
    <li v-for="check in checks.data.value" :key="check.way">
      <strong :class="{ changed: check.changed }">{{ check.way }}: {{ check.changed ? "the answer changes." : "it stands." }}</strong>
      {{ check.says }}
    </li>
  </ul>
  <p v-else class="soft">Judging it again …</p>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 1.2em;
  display: grid;
  gap: var(--space-2);
  max-width: var(--measure);
}

.changed {
  color: var(--bad);
}
</style>
