<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import { percent } from "../../charts/efficacy";
import { useAnswer } from "../../composables/useAnswer";
import FaultNote from "../FaultNote.vue";

type Mind = Schemas["Mind"];
/** Which of the remedies that work suits, by what the gardener minds; said once, for all trials. */
const props = defineProps<{ trialId: number; look: number }>();
const yard = useAnswer(() => take(client.GET("/api/yard")));
void yard.load();
const found = useAnswer(() =>
  take(client.GET("/api/trials/{trial_id}/verdict/suited", { params: { path: { trial_id: props.trialId }, query: { look: props.look } } })),
);
watch(() => [props.trialId, props.look], found.load, { immediate: true });
const fault = ref<Fault | null>(null);
const NAMES: Record<Mind, string> = {
  leaves: "Marked leaves",
  helpers: "Fewer helpers",
  pets: "Pets and children",
  smell: "Smell",
  money: "Money",
  minutes: "Work",
  food: "Waiting to eat",
};
const WEIGHTS = ["not", "some", "much"] as const;
const ranked = computed(() => found.data.value?.ranked ?? []);
const first = computed(() => ranked.value[0]);

function said(mind: Mind, cost: number | null | undefined): string {
  if (cost === null || cost === undefined) return "not known";
  if (mind === "leaves") return `${cost > 0 ? "+" : ""}${cost.toFixed(1)} steps`;
  if (mind === "helpers") return cost > 0 ? `${cost.toFixed(1)} fewer a plant` : "as many";
  if (mind === "pets") return cost > 0 ? "keep them away" : "the usual care";
  if (mind === "smell") return cost > 0 ? `in ${percent(cost)} of rounds` : "none";
  if (mind === "money") return `${yard.data.value?.currency ?? ""} ${cost.toFixed(2)} a plant`.trim();
  if (mind === "minutes") return `${cost.toFixed(1)} min a plant`;
  return cost > 0 ? `${Math.round(cost)} days` : "none";
}

async function mind(name: Mind, weight: number): Promise<void> {
  try {
    await take(client.PUT("/api/minds", { body: { minds: { [name]: weight } } }));
    fault.value = null;
    await found.load();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
</script>

<template>
  <section v-if="first && ranked.length > 1" class="sheet stack record" aria-labelledby="suits">
    <h2 id="suits">Which suits you</h2>
    <p class="suits" role="status">
      By what you mind: <strong>{{ first.name }}</strong> ({{ percent(first.removes) }} fewer)<template v-if="ranked[1]"
        >, before {{ ranked[1].name }} ({{ percent(ranked[1].removes) }})</template
      >.
    </p>
    <div class="wide-table" tabindex="0" role="region" aria-label="What each costs, and how much you mind it">
      <table>
        <thead>
          <tr>
            <th scope="col">What you mind</th>
            <th scope="col">How much</th>
            <th v-for="one in ranked" :key="one.name" scope="col">{{ one.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="name in found.data.value?.asked ?? []" :key="name">
            <th scope="row">{{ NAMES[name] }}</th>
            <td>
              <span class="row how" role="group" :aria-label="`How much you mind: ${NAMES[name]}`"
                ><button
                  v-for="(word, weight) in WEIGHTS"
                  :key="word"
                  type="button"
                  :aria-pressed="(found.data.value?.minds[name] ?? 0) === weight"
                  @click="mind(name, weight)">
                  {{ word }}
                </button></span
              >
            </td>
            <td v-for="one in ranked" :key="one.name">
              {{ said(name, one.costs[name]) }}<span v-if="one.off[name]" class="small soft"> −{{ one.off[name]?.toFixed(0) }}</span>
            </td>
          </tr>
          <tr class="sum">
            <th scope="row">Per cent fewer, less what you mind</th>
            <td></td>
            <td v-for="one in ranked" :key="one.name">
              <strong>{{ one.score.toFixed(0) }}</strong>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="found.data.value?.flips.length" class="small">
      It would be
      <template v-for="(flip, k) in found.data.value.flips" :key="flip.mind"
        >{{ k ? "; " : "" }}{{ flip.name }} if you minded {{ NAMES[flip.mind].toLowerCase() }} {{ flip.weight ? WEIGHTS[flip.weight] : "not at all" }}</template
      >.
    </p>
    <p v-else class="small">No other weight of one thing alone would change it.</p>
    <p class="small soft">
      “Some” gives up to 5 of 100 pests for it, “much” up to 20, the dearest of these paying all. What is not known of all of them weighs nothing. A remedy that
      harmed plants or was not shown to work is not here, whatever you mind.
    </p>
    <FaultNote :fault="fault ?? found.fault.value" />
  </section>
</template>

<style scoped>
.suits {
  font-size: var(--text-l);
}

.how {
  flex-wrap: nowrap;
  gap: 0;
}

.how button {
  min-height: var(--touch);
  min-width: var(--touch);
  padding: 0 var(--space-2);
  border: 1px solid var(--line);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-s);
  cursor: pointer;
}

.how [aria-pressed="true"] {
  background: var(--accent);
  color: var(--on-accent);
}

.sum td,
.sum th {
  border-top: 2px solid var(--line);
}
</style>
