<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { asFault, client, take, type Fault, type Round, type Schemas, type Trial } from "../../api/client";
import { tagsByLetter } from "../../charts/tag";
import FaultNote from "../FaultNote.vue";
import PlantTag from "../PlantTag.vue";

/** What each bottle, or each way to take pests off, was like to use: it stands with the price of a remedy. */
const props = defineProps<{ trial: Trial; round: Round }>();
type Kind = Schemas["MessIn"]["kinds"][number];
/** What the dry leaf tells of an oil's dose; asked of every bottle, for which of them holds it is sealed. */
const dryLeaves = { dull: "As before", shiny: "Even thin gloss", sticky: "Holds a finger" } satisfies Partial<Record<Kind, string>>;
const words: Record<Exclude<Kind, keyof typeof dryLeaves>, string> = {
  smells: "Smells",
  stains: "Stains",
  clogs: "Clogs",
  film: "Leaves a film",
  foams: "Foams over",
  spills: "Spills",
  hands: "Needs two people",
  eggs: "Eggs stay on",
};
const isDry = (kind: Kind): boolean => kind in dryLeaves;
const oil = computed(() => props.trial.remedies.some((r) => r.oil));
const said = ref<Record<string, Kind[]>>({});
const fault = ref<Fault | null>(null);
const path = computed(() => ({ trial_id: props.trial.id, number: props.round.number }));
const letters = computed(() => {
  const due = new Set(props.round.due);
  const given = new Set(props.trial.plants.filter((p) => due.has(p.id)).map((p) => p.letter));
  const alone = new Set(props.trial.remedies.filter((r) => r.traits.way === "none").map((r) => r.id));
  return props.trial.tags.filter((tag) => given.has(tag.letter) && !alone.has(tag.remedy_id ?? -1)).map((tag) => tag.letter);
});
const tags = computed(() => tagsByLetter(props.trial));

onMounted(() => act(() => take(client.GET("/api/trials/{trial_id}/rounds/{number}/mess", { params: { path: path.value } }))));

async function act(work: () => Promise<Record<string, Kind[]>>): Promise<void> {
  try {
    said.value = await work();
    fault.value = null;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

/** One press after the other, each from what the one before has made of it. */
let last = Promise.resolve();
function say(letter: string, kind: Kind | null): void {
  last = last.then(() => put(letter, kind));
}

function put(letter: string, kind: Kind | null): Promise<void> {
  const before = said.value[letter] ?? [];
  const others = before.filter((k) => (kind === null ? isDry(k) : isDry(kind) ? !isDry(k) : k !== kind));
  const now = kind === null || before.includes(kind) ? others : [...others, kind];
  return act(() => take(client.PUT("/api/trials/{trial_id}/rounds/{number}/mess", { params: { path: path.value }, body: { letter, kinds: now } })));
}
</script>

<template>
  <section v-if="letters.length" class="sheet stack" aria-label="What they were like to use">
    <h2>What were they like to use?</h2>
    <p v-if="oil">
      Once it has dried, look at the leaves of each again: an oil that left them as before arrived too thinly; an even thin gloss is enough; a film that holds
      dust or a finger is too much.
    </p>
    <div v-for="letter in letters" :key="letter" class="fingers bottle" role="group" :aria-label="`Bottle ${letter}`">
      <PlantTag :letter="letter" :notches="tags.get(letter)?.notches" :height="44" />
      <div>
        <span class="kinds">
          <button v-for="(word, kind) in words" :key="kind" type="button" :aria-pressed="said[letter]?.includes(kind) ?? false" @click="say(letter, kind)">
            {{ word }}
          </button>
          <button type="button" :aria-pressed="said[letter]?.every(isDry) ?? false" @click="say(letter, null)">Fine</button>
        </span>
        <span v-if="oil" class="kinds" role="group" :aria-label="`Dry leaves of bottle ${letter}`">
          <span class="small">Dry leaves:</span>
          <button v-for="(word, kind) in dryLeaves" :key="kind" type="button" :aria-pressed="said[letter]?.includes(kind) ?? false" @click="say(letter, kind)">
            {{ word }}
          </button>
        </span>
      </div>
    </div>
    <FaultNote :fault="fault?.offline ? null : fault" />
  </section>
</template>

<style scoped>
.bottle {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--space-3);
  align-items: center;
}

.kinds {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: var(--space-1);
}

.kinds + .kinds {
  margin-top: var(--space-2);
}

.kinds button {
  padding: 0 var(--space-3);
  font-size: var(--text-s);
}
</style>
