<script setup lang="ts">
import { computed, onMounted } from "vue";
import { client, take, type RemedyVerdict, type Trial, type Verdict } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { fewer } from "../../charts/efficacy";
import PlantTag from "../PlantTag.vue";

/** What each remedy removed, and its price: deaths, leaves, helpers, money and minutes. */
const props = defineProps<{ verdict: Verdict; trial: Trial }>();

const yard = useAnswer(() => take(client.GET("/api/yard")));
onMounted(yard.load);
const control = computed(() => props.verdict.verdict.remedies.find((r) => r.role === "control"));
const helpersCounted = computed(() => props.verdict.verdict.remedies.some((r) => r.helpers !== null));
const rows = computed(() =>
  props.verdict.verdict.remedies
    .filter((r) => r.role === "remedy")
    .map((result) => {
      const remedy = props.trial.remedies.find((r) => r.name === result.name);
      const bottles = props.trial.batches.filter((b) => b.remedy_id === remedy?.id);
      const work = props.trial.work.find((w) => w.remedy_id === remedy?.id);
      const costs = [...bottles.map((b) => b.cost), work?.cost ?? null].filter((cost) => cost !== null);
      return {
        result,
        remedy,
        money: costs.length ? `${yard.data.value?.currency ?? ""} ${costs.reduce((sum, cost) => sum + cost, 0).toFixed(2)}`.trim() : "–",
        minutes: work?.minutes ?? 0,
      };
    }),
);

function leaves(r: RemedyVerdict): string {
  if (r.damage_beyond_control === null) return "not scored";
  const most = r.damage_high === null ? "" : ` (at most ${Math.min(r.damage_high, 5).toFixed(1)})`;
  const mean = r.damage_beyond_control < 0.05 ? "none beyond the control" : `+${r.damage_beyond_control.toFixed(1)} steps`;
  return `${mean}${most}, ${r.damage_plants} plants`;
}

/** Only what was recorded as lost is; of others it is said that nobody counted them. */
function losses(r: RemedyVerdict): string {
  const uncounted = r.lost - r.died;
  const lost = r.died ? `${r.died} of ${r.plants + r.lost}` : uncounted ? "" : "none";
  return [lost, uncounted ? `${uncounted} not counted` : ""].filter(Boolean).join(", ");
}

function helpers(r: RemedyVerdict): string {
  if (r.helpers === null) return "–";
  const beside = control.value?.helpers;
  return beside === null || beside === undefined ? r.helpers.toFixed(1) : `${r.helpers.toFixed(1)} (control ${beside.toFixed(1)})`;
}

function effect(r: RemedyVerdict): string {
  if (r.efficacy === null) return r.kills ? "no plant left" : "–";
  const even = r.missed.length ? `, missed ${r.missed.length} of ${r.plants}` : r.failed_on ? `, failed on ${r.failed_on} of ${r.plants}` : "";
  return fewer(r.efficacy, props.verdict.verdict.measure) + even;
}
</script>

<template>
  <div class="wide-table" tabindex="0" role="region" aria-label="What each removed, and its price">
    <table>
      <thead>
        <tr>
          <th scope="col">Remedy</th><th scope="col">Removed</th><th scope="col">Plants lost</th><th scope="col">Leaf damage</th>
          <th v-if="helpersCounted" scope="col">Helpers a plant</th><th scope="col">Cost</th><th scope="col">Work</th><th v-if="Object.keys(verdict.mess).length" scope="col">Mess</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ result, remedy, money, minutes } in rows" :key="result.name">
          <th scope="row"><span class="row"><PlantTag :letter="remedy?.letter ?? null" :notches="remedy?.notches ?? null" :height="30" /> {{ result.name }}</span></th>
          <td>{{ effect(result) }}</td>
          <td :class="{ harm: result.kills }">{{ losses(result) }}</td>
          <td :class="{ harm: result.vetoed && !result.kills }">{{ leaves(result) }}</td>
          <td v-if="helpersCounted">{{ helpers(result) }}</td>
          <td>{{ money }}</td><td>{{ minutes ? `about ${Math.round(minutes)} min` : "–" }}</td>
          <td v-if="Object.keys(verdict.mess).length">{{ verdict.mess[result.name] ?? "not said" }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
@media (width < 760px) {
  .wide-table table {
    min-width: 40rem;
  }
}

thead th {
  border-top: 0;
  font-weight: 600;
}

.row {
  flex-wrap: nowrap;
  gap: var(--space-2);
}

.harm {
  color: var(--bad);
  font-weight: 700;
}
</style>
