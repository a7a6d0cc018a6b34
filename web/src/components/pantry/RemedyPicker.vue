<script setup lang="ts">
import { computed, ref } from "vue";
import { asFault, client, Fault, take, type Schemas } from "../../api/client";
import { useCatalogue } from "../../composables/useCatalogue";
import { useRoving } from "../../composables/useRoving";
import { listing, readList } from "../../words";
import type { RemedyIn, Setup } from "../../question";
import FaultNote from "../FaultNote.vue";
import HouseShelf from "./HouseShelf.vue";
import { inUnits, kept, shown as inTheirs, strengthOf, unitOf } from "../../units";

/** `shelf` changes when the gardener's own list does; `whole`: all remedies at once. */
const props = defineProps<{ pest: string; setup: Setup; taken: readonly string[]; shelf?: number; whole?: boolean }>();
const emit = defineEmits<{ add: [remedies: RemedyIn[]]; replace: [remedies: RemedyIn[]]; control: [remedy: RemedyIn] }>();

const OWN = "own:";
const house = ref(0); // changes when somebody says what is in the house
const { list, fault, make } = useCatalogue(() => ({ pest: props.pest, setup: props.setup, shelf: (props.shelf ?? 0) + house.value }));
const first = ref<string | null>(null);
const strengths = ref("");
const box = ref<HTMLElement | null>(null);
useRoving(box, "button.remedy");
const kind = computed(() => props.setup.kind ?? "compare");
const query = ref("");
const all = ref(false);
const FIRST = 8; // remedies that are shown before any wish
const known = computed(() =>
  [...list.value]
    .filter((r) => (["ladder", "square"].includes(kind.value) ? r.ingredients.length > 0 : true))
    .sort((a, b) => Number(a.missing.length > 0) - Number(b.missing.length > 0) || a.reasons.length - b.reasons.length),
);
/** What suits comes first; the rest is one search, or one click, away. */
const shown = computed(() => {
  const words = query.value.trim().toLowerCase();
  if (words) return known.value.filter((r) => `${r.name} ${r.acts} ${r.key}`.toLowerCase().includes(words));
  const able = list.value
    .filter((r) => r.role === "remedy" && r.acts_on_it)
    .sort((a, b) => Number(a.missing.length > 0) - Number(b.missing.length > 0) || Number(a.reasons.length > 1) - Number(b.reasons.length > 1));
  return props.whole || all.value || !able.length ? known.value : able.slice(0, FIRST);
});
const ladderOf = computed(() => list.value.find((r) => r.key === first.value) ?? null);

/** They are added in the order of the presses, not in that of the answers. */
let picked = Promise.resolve();
function pick(remedy: Schemas["CatalogueOut"]): void {
  picked = picked.then(() => add(remedy));
}

async function add(remedy: Schemas["CatalogueOut"]): Promise<void> {
  if (remedy.role === "control") {
    const [made] = await make({ keys: [remedy.key], square: false });
    if (made) emit("control", made);
    return;
  }
  if (kind.value === "ladder") {
    first.value = remedy.key;
    const what = strengthOf(remedy.ingredients[0]?.unit ?? "");
    strengths.value = remedy.usual_ladder.map((one) => (what ? inTheirs(one, what) : String(one))).join(", ");
    await climb();
    return;
  }
  if (kind.value === "square") {
    if (first.value === null || first.value === remedy.key) {
      first.value = first.value === remedy.key ? null : remedy.key;
      return;
    }
    const made = await make({ keys: [first.value, remedy.key], square: true });
    first.value = null;
    if (made.length) emit("replace", made);
    return;
  }
  const made = await make({ keys: [remedy.key], square: false });
  if (made.length) emit("add", made);
}

async function dropOwn(remedy: Schemas["CatalogueOut"]): Promise<void> {
  try {
    await take(client.DELETE("/api/own-remedies/{remedy_id}", { params: { path: { remedy_id: Number(remedy.key.slice(OWN.length)) } } }));
    list.value = list.value.filter((one) => one.key !== remedy.key);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

/** Strengths as this gardener measures them. */
function typical(i: { low: number; high: number; unit: string }): string {
  const what = strengthOf(i.unit) ?? (i.unit === "g per plant" ? "weight" : null);
  if (!what) return `${i.low}–${i.high} ${i.unit}`;
  return `${inTheirs(i.low, what)}–${inTheirs(i.high, what)} ${what === "weight" ? i.unit.replace("g", unitOf(what)) : unitOf(what)}`;
}

/** The rungs' unit, as a quantity that may be told otherwise. */
const rungs = computed(() => strengthOf(ladderOf.value?.ingredients[0]?.unit ?? ""));

/** What the rungs were made of last: Enter and leaving the field after it are one wish. */
let climbed = "";

async function climb(): Promise<void> {
  const wish = `${first.value ?? ""} ${strengths.value}`;
  if (wish === climbed) return;
  climbed = wish;
  const amounts = readList(strengths.value);
  if (!amounts) {
    fault.value = new Fault(
      "bad_input",
      `“${strengths.value}” are not strengths`,
      "strengths",
      "Write numbers with a comma and a blank between them, such as 2.5, 5, 10.",
      422,
    );
    return;
  }
  const made = await make({ keys: [first.value ?? ""], strengths: amounts.map(metric), square: false });
  if (made.length) emit("replace", made);
}

/** A strength as it is kept; one that was only shown keeps its number to the last figure. */
function metric(typed: number): number {
  const what = rungs.value;
  const usual = what && ladderOf.value?.usual_ladder.find((one) => inTheirs(one, what) === String(typed));
  return what ? kept(typed, what, usual || null) : typed;
}
</script>

<template>
  <div class="stack picker">
    <p class="soft">
      <template v-if="kind === 'ladder'">Choose the remedy whose strengths you compare.</template>
      <template v-else-if="kind === 'square'"
        >Choose two: {{ first ? `${list.find((r) => r.key === first)?.name} and …` : "their main ingredients form the square." }}</template
      >
      <template v-else>Choose from the list, or write your own below. What speaks against one here stands with it.</template>
    </p>
    <HouseShelf v-if="!whole" @kept="house += 1" />
    <div v-if="!whole" class="row">
      <el-input v-model="query" style="width: 16rem" placeholder="Search all of them" aria-label="Search the remedies" @keydown.enter.prevent />
      <el-button v-if="!query && shown.length < known.length" @click="all = true">Show all {{ known.length }}</el-button>
    </div>
    <div ref="box" role="toolbar" aria-label="Remedies: arrow keys go from one to the next">
      <ul :class="{ whole }">
        <li v-for="r in shown" :key="r.key">
          <button
            type="button"
            class="remedy"
            :class="{ unsuited: r.reasons.length }"
            :aria-pressed="taken.includes(r.name) || first === r.key"
            @click="pick(r)">
            <strong>{{ r.name }}</strong>
            <span class="small soft"
              >{{ r.role === "control" ? "control" : r.acts
              }}<template v-for="i in r.ingredients.slice(0, 1).filter((one) => one.low < one.high)" :key="i.key"> · typical {{ typical(i) }}</template></span
            >
            <span v-if="r.tried" class="small own">{{ r.tried }}</span>
            <span v-if="r.missing.length" class="small soft">Not in the house: {{ listing(r.missing) }}</span>
            <span v-for="reason in r.reasons" :key="reason" class="small reason">{{ inUnits(reason) }}</span>
            <span v-for="school in r.schools" :key="school.name" class="small soft">{{ school.name }}: {{ inUnits(school.reason) }}</span>
          </button>
          <button v-if="r.key.startsWith(OWN)" type="button" class="off" :aria-label="`Take ${r.name} off my list`" @click="dropOwn(r)">Off my list</button>
        </li>
      </ul>
    </div>
    <div v-if="kind === 'ladder' && ladderOf" class="row">
      <label class="row"
        >Strengths ({{ rungs ? unitOf(rungs) : ladderOf.ingredients[0]?.unit }})
        <el-input v-model="strengths" style="width: 12rem" aria-label="Strengths" @change="climb" @keydown.enter.prevent="climb" />
      </label>
      <span class="small soft">The rungs below follow what is written here.</span>
    </div>
    <FaultNote :fault="fault" />
  </div>
</template>

<style scoped>
.off {
  min-height: var(--touch);
  border: 0;
  background: none;
  color: var(--ink-soft);
  text-decoration: underline;
  cursor: pointer;
}

.own {
  color: var(--good);
  font-weight: 600;
}

.picker {
  gap: var(--space-3);
}

ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: var(--space-2);
  margin: 0;
  padding: 2px;
  list-style: none;
}

.whole {
  max-height: 330px;
  overflow-y: auto;
}

button:not(.el-button) {
  display: grid;
  align-content: start;
  width: 100%;
  height: 100%;
  min-height: 56px;
  padding: var(--space-2) var(--space-3);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-m);
  text-align: left;
  cursor: pointer;
}

button[aria-pressed="true"]:not(.el-button) {
  background: var(--accent-wash);
  border-color: var(--accent);
}

.unsuited {
  border-style: dashed !important;
}

.reason {
  color: var(--warn);
  font-weight: 600;
}
</style>
