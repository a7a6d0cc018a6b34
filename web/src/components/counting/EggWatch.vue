<script setup lang="ts">
import { computed, onMounted, watch } from "vue";
import { client, take, type Schemas, type Trial } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { dayName } from "../../words";

/** How each egg cluster went: hatched, gone, left, between which looks the first hatched, and when it ended. */
const props = defineProps<{ trial: Trial }>();
const answer = useAnswer(() => take(client.GET("/api/trials/{trial_id}/eggs", { params: { path: { trial_id: props.trial.id } } })));
const names = computed(() => new Map(props.trial.plants.map((p) => [p.id, p.name])));
const rows = computed(() => answer.data.value ?? []);
onMounted(answer.load);
watch(() => props.trial, answer.load);

function first(row: Schemas["ClusterWatchOut"]): string {
  if (!row.first_hatch_on) return "none yet";
  return row.first_hatch_after ? `after ${dayName(row.first_hatch_after)}, by ${dayName(row.first_hatch_on)}` : `by ${dayName(row.first_hatch_on)}`;
}
</script>

<template>
  <section v-if="rows.length" class="sheet stack">
    <h2>The eggs</h2>
    <div class="wide-table" tabindex="0" role="region" aria-label="Egg clusters">
      <table>
        <thead>
          <tr>
            <th scope="col">Cluster</th>
            <th scope="col">Eggs</th>
            <th scope="col">Hatched</th>
            <th scope="col">Gone</th>
            <th scope="col">Left</th>
            <th scope="col">The first hatched</th>
            <th scope="col">Ended</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.plant_id">
            <th scope="row">{{ names.get(row.plant_id) }}</th>
            <td>{{ row.total }}</td>
            <td>{{ row.hatched }}</td>
            <td>{{ row.vanished }}</td>
            <td>{{ row.left }}</td>
            <td>{{ first(row) }}</td>
            <td>
              {{ row.ended_on ? dayName(row.ended_on) : "watched"
              }}<span v-if="row.shrank" class="notice small">more hatched or gone than there were, or fewer than before: count again</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small soft">
      What became of eggs that are gone is noted at the cluster while counting. Eggs that are taken off are crushed or drowned in soapy water: dropped ones
      hatch on the ground.
    </p>
  </section>
</template>

<style scoped>
td .notice {
  display: block;
}
</style>
