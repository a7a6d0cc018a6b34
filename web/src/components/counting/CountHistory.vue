<script setup lang="ts">
import { ref, watch } from "vue";
import { client, take, type Measure } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { dayName } from "../../words";
import LiveOrDead from "./LiveOrDead.vue";
import { clockFormat } from "../../units";

/** Under the number: what counts as one, or what was kept of this plant before. */
const props = defineProps<{
  trialId: number;
  number: number;
  plantId: number;
  measure: Measure;
  finished: boolean;
  hint: string;
  pest: string;
  /** What this marked leaf had at the look before. */ earlier?: number | undefined;
  /** What tells a live one from a dead one. */ tell: string;
}>();
const history = useAnswer(() =>
  take(
    client.GET("/api/trials/{trial_id}/looks/{number}/tallies/{plant_id}", {
      params: { path: { trial_id: props.trialId, number: props.number, plant_id: props.plantId }, query: { measure: props.measure.key } },
    }),
  ),
);
const telling = ref(false);
const time = clockFormat({ day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
watch(
  () => props.plantId,
  () => (history.data.value = null),
);
</script>

<template>
  <p class="small soft">
    <template v-if="finished"
      >Kept; what it was stays on record. <template v-if="earlier !== undefined">Last time it had {{ earlier }}. </template
      ><button type="button" class="as-text" @click="history.load">History</button></template
    >
    <template v-else>{{ hint }}</template>
    <button v-if="tell" type="button" class="as-text" :aria-expanded="telling" @click="telling = !telling">Live or dead?</button>
  </p>
  <LiveOrDead v-if="telling" :pest="pest" :tell="tell" />
  <ul v-if="history.data.value" class="history small">
    <li v-for="h in history.data.value" :key="h.id">
      {{ h.value ?? "withdrawn" }}
      <span class="soft"
        >{{ time.format(Date.parse(h.counted_at)) }}<template v-if="!h.counted_at.startsWith(h.counted_on)">, of {{ dayName(h.counted_on) }}</template></span
      >
    </li>
  </ul>
</template>

<style scoped>
/* As large to the finger as any, without pushing the lines apart. */
.as-text {
  margin-block: -12px;
}

.history {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
