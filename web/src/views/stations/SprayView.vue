<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Schemas } from "../../api/client";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import PlantTag from "../../components/PlantTag.vue";
import RoundChecks from "../../components/RoundChecks.vue";
import { useKeys } from "../../composables/useKeys";
import { useSpraying, type WalkOrder } from "../../composables/useSpraying";
import { useTrial } from "../../composables/useTrial";
import { amount } from "../../mixing";
import { dayName } from "../../words";

const props = defineProps<{ number: number }>();
const { trial, change } = useTrial();
const fault = ref<Fault | null>(null);
const skipping = ref(false);
const why = ref("");
const deviation = ref("");
const undoing = ref(false);
const last = ref<{ id: number; name: string } | null>(null);
const round = computed(() => trial.value?.rounds.find((r) => r.number === props.number));
const walk = useSpraying(computed(() => trial.value), props.number, () => crypto.randomUUID());
const { stop, stops, details, done, neighbours, order, index } = walk;
const all = computed(() => stops.value.length > 0 && done.value === stops.value.length);
const path = computed(() => ({ trial_id: trial.value?.id ?? 0, number: props.number }));
const refusal = computed(() => (fault.value && ["already_sprayed", "too_soon"].includes(fault.value.code) ? fault.value : null));
const orders: Record<WalkOrder, string> = { bottles: "Bottle by bottle", plants: "Plant by plant" };
const skips = ["A bee on the flowers", "In full sun", "Too weak today", "Could not reach it"];

watch(order, () => walk.first());

async function start(checks: Schemas["ChecksIn"]): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/start", { params: { path: path.value }, body: checks })));
  if (fault.value) return;
  walk.first();
  window.scrollTo({ top: 0 });
}

async function record(kind: "sprayed" | "skipped", more: { note?: string; deviation?: string } = {}): Promise<void> {
  const here = stop.value;
  if (!here) return;
  const body = walk.entry(kind, more);
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/sprays", { params: { path: path.value }, body })));
  if (fault.value) return;
  if (stop.value?.plant.id !== here.plant.id) return; // a second tap: it has gone on already
  last.value = { id: here.plant.id, name: here.plant.name };
  skipping.value = false;
  why.value = "";
  deviation.value = "";
  walk.next();
  window.scrollTo({ top: 0 });
}

async function undo(plant: number): Promise<void> {
  fault.value = await change(() => take(client.DELETE("/api/trials/{trial_id}/rounds/{number}/sprays/{plant_id}", { params: { path: { ...path.value, plant_id: plant } } })));
  last.value = null;
  walk.go(Math.max(stops.value.findIndex((s) => s.plant.id === plant), 0));
}

async function undoRound(): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/undo", { params: { path: path.value }, body: { reason: why.value } })));
  if (!fault.value) undoing.value = false;
}

const aftercare = computed(() => [...new Set((trial.value?.remedies ?? []).map((r) => r.aftercare).filter(Boolean))]);
const dryLeaves: Record<Schemas["DryLeaf"], string> = { dull: "Dull", shiny: "Shiny", sticky: "Sticky" };
const dryLeaf = computed(() => round.value?.events.filter((e) => e.kind === "dry_leaf").at(-1));

async function recordDry(looks: Schemas["DryLeaf"]): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/dry-leaf", { params: { path: path.value }, body: { looks } })));
}

async function openKey(): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/key", { params: { path: { trial_id: path.value.trial_id } } })));
}

useKeys([
  { key: "Enter", label: "This plant is sprayed", when: () => Boolean(round.value?.running), run: () => void record("sprayed") },
  { key: "ArrowRight", label: "Next plant", run: () => walk.go(index.value + 1) },
  { key: "ArrowLeft", label: "Plant before", run: () => walk.go(index.value - 1) },
]);
</script>

<template>
  <div v-if="trial && round" class="field">
    <header>
      <RouterLink :to="`/trial/${trial.id}/rounds`" class="field-back" aria-label="Back to rounds and looks">←</RouterLink>
      <div class="field-which">
        <h1>Spray, round {{ number }}</h1>
        <span class="small soft">{{ trial.name }} · {{ dayName(round.on) }}</span>
      </div>
      <strong class="left" role="status">{{ done }} of {{ stops.length }}</strong>
    </header>

    <p v-if="!stops.length" class="sheet">No plant has a tag yet. <RouterLink :to="`/trial/${trial.id}/layout`">Draw the layout</RouterLink> first.</p>
    <template v-else-if="!round.running && !all">
      <p v-if="round.started_at" class="sheet">You stopped at {{ done }} of {{ stops.length }} plants. Check the bottles and the hour again, then go on where you were.</p>
      <FaultNote :fault="fault" />
      <RoundChecks :trial="trial" :number="number" @start="start" />
      <el-button v-if="!trial.key_opened_at" @click="openKey">Open the key (recorded)</el-button>
    </template>

    <template v-else>
      <p v-if="all" class="sheet"><strong>All {{ stops.length }} plants are recorded.</strong> Clean the bottles, wash your hands, and keep people and pets away until the leaves are dry. <RouterLink :to="`/trial/${trial.id}/rounds`">Back to the rounds →</RouterLink></p>
      <CautionList v-if="all" :texts="aftercare" title="Afterwards" />
      <section v-if="all && trial.remedies.some((r) => r.oil)" class="sheet stack" aria-label="Once dry">
        <p>Once the oil has dried, look at its leaves: what they look like tells the dose.</p>
        <p v-if="dryLeaf" role="status"><strong>{{ dryLeaf.text }}</strong></p>
        <div class="orders"><button v-for="(word, key) in dryLeaves" :key="key" type="button" @click="recordDry(key)">{{ word }}</button></div>
      </section>
      <section v-if="stop" class="sheet here" :aria-label="`Plant ${stop.plant.name}`">
        <div class="who">
          <PlantTag :letter="stop.remedy.letter" :notches="stop.remedy.notches" :height="96" />
          <div>
            <span class="name">{{ stop.plant.name }}</span>
            <span>row {{ stop.plant.row }}, place {{ stop.plant.place }}</span>
            <span class="small">
              bottle {{ stop.remedy.letter }}<template v-if="trial.key_opened_at"> · {{ stop.remedy.name }}</template><template v-if="round.batches[stop.remedy.id]"> · batch {{ round.batches[stop.remedy.id] }}</template>
            </span>
            <strong v-if="stop.mark !== 'open'" class="mark">{{ stop.mark === "sprayed" ? "✓ sprayed" : "– skipped" }}</strong>
          </div>
        </div>
        <p v-if="!stop.remedy.poured" class="small">{{ trial.key_opened_at || stop.remedy.role === "control" ? stop.remedy.recipe : "As its tag says; nothing is measured in ml." }} Handle it as long as the others.</p>
        <p v-else-if="trial.key_opened_at" class="small">{{ stop.remedy.coverage }} {{ stop.remedy.agitation }}</p>
        <div v-if="stop.remedy.poured" class="amount" role="group" aria-label="Millilitres">
          <button type="button" aria-label="5 ml less" @click="details.volume = Math.max(details.volume - 5, 5)">−</button>
          <output>{{ amount(details.volume) }} ml</output>
          <button type="button" aria-label="5 ml more" @click="details.volume += 5">+</button>
        </div>
        <p v-if="stop.remedy.poured && details.volume !== trial.care.ml_per_plant" class="small warn">The others get {{ amount(trial.care.ml_per_plant) }} ml: this will be a deviation.</p>
        <div class="toggles">
          <button type="button" :aria-pressed="details.undersides" @click="details.undersides = !details.undersides">Undersides done</button>
          <button type="button" :aria-pressed="details.drifted" @click="details.drifted = !details.drifted">Drifted</button>
        </div>
        <label v-if="neighbours.length" class="hit">
          <span>Neighbour hit</span>
          <select v-model="details.neighbour">
            <option :value="null">none</option>
            <option v-for="plant in neighbours" :key="plant.id" :value="plant.id">{{ plant.name }}</option>
          </select>
        </label>

        <FaultNote :fault="fault">
          <div v-if="refusal" class="stack">
            <el-input v-model="deviation" maxlength="500" aria-label="Why it was sprayed all the same" placeholder="Why it was sprayed all the same" />
            <el-button :disabled="!deviation.trim()" @click="record('sprayed', { deviation })">Record it as a deviation</el-button>
          </div>
        </FaultNote>

        <div v-if="skipping" class="stack">
          <div class="toggles">
            <button v-for="reason in skips" :key="reason" type="button" @click="record('skipped', { note: reason })">{{ reason }}</button>
          </div>
          <el-input v-model="why" maxlength="500" aria-label="Another reason" placeholder="Another reason" />
          <div class="row"><el-button :disabled="!why.trim()" @click="record('skipped', { note: why })">Skip it</el-button><el-button @click="skipping = false">Do not skip</el-button></div>
        </div>
      </section>

      <section class="plants" aria-label="All plants in walking order">
        <button v-for="(item, k) in stops" :key="item.plant.id" type="button" :class="item.mark" :aria-current="k === index ? 'step' : undefined" :aria-label="`${item.plant.name}, ${item.mark}`" @click="walk.go(k)">
          <span aria-hidden="true">{{ item.mark === "sprayed" ? "✓" : item.mark === "skipped" ? "–" : (item.remedy.letter ?? "") }}</span>
          <strong>{{ item.plant.name }}</strong>
        </button>
      </section>
      <div class="orders" role="group" aria-label="Order of the walk">
        <button v-for="(word, key) in orders" :key="key" type="button" :aria-pressed="order === key" @click="order = key">{{ word }}</button>
      </div>
      <el-button v-if="!trial.key_opened_at" @click="openKey">Open the key (recorded)</el-button>
      <CautionList v-else :texts="stop?.remedy.cautions ?? []" />
      <details v-if="round.sprayed.length">
        <summary>Take back the whole round</summary>
        <div class="stack">
          <p>Every record of this round is taken back; its trace and your reason are kept and shown with the verdict.</p>
          <el-input v-model="why" maxlength="500" aria-label="Why the round is taken back" placeholder="Why" />
          <el-button :disabled="!why.trim()" @click="undoRound">Take back {{ round.sprayed.length }} records</el-button>
        </div>
      </details>
      <div class="foot">
        <div v-if="last" class="undo"><span>{{ last.name }} is recorded.</span><button type="button" @click="undo(last.id)">Undo</button></div>
        <div v-if="stop && !skipping && stop.mark === 'open'" class="acts">
          <button type="button" class="skip" @click="skipping = true">Skip</button>
          <button type="button" class="did" @click="record('sprayed')">Sprayed</button>
        </div>
        <div v-else-if="stop && !skipping && !all" class="acts">
          <button type="button" class="skip" @click="undo(stop.plant.id)">Take back</button>
          <button type="button" class="did" @click="walk.next()">Next plant</button>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: var(--space-3);
  max-width: 720px;
  margin: 0 auto;
}

h1 {
  font-size: var(--text-m);
}

header {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  position: sticky;
  top: 0;
  z-index: 2;
  padding-block: var(--space-1);
  background: var(--paper);
}

.field-which .small {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.field-which {
  min-width: 0;
}

.left {
  margin-left: auto;
  font-size: var(--text-l);
  white-space: nowrap;
}

.orders,
.toggles {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(90px, 1fr));
  gap: var(--space-2);
}

button {
  min-height: var(--touch);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--paper);
  color: var(--ink);
  font-size: var(--text-m);
  cursor: pointer;
  touch-action: manipulation;
}

[aria-pressed="true"] {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}

.here {
  display: grid;
  gap: var(--space-3);
}

.who {
  display: flex;
  gap: var(--space-5);
  align-items: center;
}

.who > div {
  display: grid;
}

.name {
  font-size: var(--text-2xl);
  font-weight: 750;
  line-height: 1.1;
}

.mark {
  color: var(--good);
}

.amount {
  display: grid;
  grid-template-columns: 64px 1fr 64px;
  align-items: center;
  text-align: center;
}

.amount button {
  min-height: 56px;
  font-size: var(--text-xl);
}

.amount output {
  font-size: var(--text-xl);
  font-weight: 700;
}

.warn {
  color: var(--warn);
}

.hit {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-2);
  align-items: center;
}

.hit select {
  min-height: var(--touch);
  padding: 0 var(--space-3);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--paper);
  color: var(--ink);
  font-size: var(--text-m);
}

.foot {
  position: sticky;
  bottom: 0;
  z-index: 1;
  display: grid;
  gap: var(--space-2);
  padding-block: var(--space-2);
  background: var(--paper);
}

.acts {
  display: grid;
  grid-template-columns: 1fr 2fr;
  gap: var(--space-2);
}

.acts button {
  min-height: 68px;
  font-size: var(--text-l);
  font-weight: 700;
}

.did {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}

.undo {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: var(--space-1) var(--space-4);
  background: var(--ink);
  color: var(--paper);
  border-radius: var(--radius-m);
}

.plants {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(64px, 1fr));
  gap: var(--space-1);
}

.plants button {
  display: grid;
  place-items: center;
  align-content: center;
  min-height: 56px;
  padding: 0;
}

.plants .sprayed {
  background: var(--accent-wash);
}

.plants .skipped {
  background: var(--warn-wash);
}

.plants [aria-current="step"] {
  outline: 3px solid var(--accent);
}
</style>
