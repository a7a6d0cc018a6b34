<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { asFault, client, Fault, take, type Schemas } from "../../api/client";
import { useRoving } from "../../composables/useRoving";
import { readList } from "../../words";
import type { RemedyIn, Setup } from "../../question";
import FaultNote from "../FaultNote.vue";
import { inUnits, kept, shown as inTheirs, strengthOf, unitOf } from "../../units";

/** `shelf` changes when the gardener's own list does. */
const props = defineProps<{ pest: string; setup: Setup; taken: readonly string[]; shelf?: number }>();
const emit = defineEmits<{ add: [remedies: RemedyIn[]]; replace: [remedies: RemedyIn[]]; control: [remedy: RemedyIn] }>();

const OWN = "own:";
const list = ref<Schemas["CatalogueOut"][]>([]);
const fault = ref<Fault | null>(null);
const first = ref<string | null>(null);
const strengths = ref("");
const box = ref<HTMLElement | null>(null);
useRoving(box, "button.remedy");
let newest = 0;

watch(
  () => JSON.stringify([props.pest, props.setup, props.shelf]),
  async () => {
    const mine = ++newest;
    try {
      const found = await take(client.POST("/api/queries/remedies", { body: { pest: props.pest, setup: props.setup } }));
      if (mine === newest) list.value = found;
    } catch (thrown) {
      fault.value = asFault(thrown);
    }
  },
  { immediate: true },
);

const kind = computed(() => props.setup.kind ?? "compare");
const shown = computed(() =>
  [...list.value]
    .filter((r) => (["ladder", "square"].includes(kind.value) ? r.ingredients.length > 0 : true))
    .sort((a, b) => a.reasons.length - b.reasons.length),
);
const ladderOf = computed(() => list.value.find((r) => r.key === first.value) ?? null);

async function make(body: Schemas["ProposalIn"]): Promise<RemedyIn[]> {
  try {
    fault.value = null;
    return (await take(client.POST("/api/queries/proposal", { body }))).remedies;
  } catch (thrown) {
    fault.value = asFault(thrown);
    return [];
  }
}

async function pick(remedy: Schemas["CatalogueOut"]): Promise<void> {
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
  const what = strengthOf(i.unit);
  return what ? `${inTheirs(i.low, what)}–${inTheirs(i.high, what)} ${unitOf(what)}` : `${i.low}–${i.high} ${i.unit}`;
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
    fault.value = new Fault("bad_input", `“${strengths.value}” are not strengths`, "strengths", "Write numbers with a comma and a blank between them, such as 2.5, 5, 10.", 422);
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
      <template v-else-if="kind === 'square'">Choose two: {{ first ? `${list.find((r) => r.key === first)?.name} and …` : "their main ingredients form the square." }}</template>
      <template v-else>Choose from the list, or write your own below. What does not suit stands last, with the reason.</template>
    </p>
    <ul ref="box">
      <li v-for="r in shown" :key="r.key">
        <button type="button" class="remedy" :class="{ unsuited: r.reasons.length }" :aria-pressed="taken.includes(r.name) || first === r.key" @click="pick(r)">
          <strong>{{ r.name }}</strong>
          <span class="small soft">{{ r.role === "control" ? "control" : r.acts }}<template v-for="i in r.ingredients.slice(0, 1)" :key="i.key"> · typical {{ typical(i) }}</template></span>
          <span v-for="reason in r.reasons" :key="reason" class="small reason">{{ inUnits(reason) }}</span>
          <span v-for="school in r.schools" :key="school.name" class="small soft">{{ school.name }}: {{ inUnits(school.reason) }}</span>
        </button>
        <button v-if="r.key.startsWith(OWN)" type="button" class="off" :aria-label="`Take ${r.name} off my list`" @click="dropOwn(r)">Off my list</button>
      </li>
    </ul>
    <div v-if="kind === 'ladder' && ladderOf" class="row">
      <label class="row">Strengths ({{ rungs ? unitOf(rungs) : ladderOf.ingredients[0]?.unit }})
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

.picker {
  gap: var(--space-3);
}

ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: var(--space-2);
  max-height: 330px;
  overflow-y: auto;
  margin: 0;
  padding: 2px;
  list-style: none;
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
