<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, Fault, take, type Schemas } from "../../api/client";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import KeptSprays from "../../components/field/KeptSprays.vue";
import RoundChecks from "../../components/field/RoundChecks.vue";
import SprayAfter from "../../components/field/SprayAfter.vue";
import SprayPlant from "../../components/field/SprayPlant.vue";
import SprayWalk from "../../components/field/SprayWalk.vue";
import TakeBackRound from "../../components/field/TakeBackRound.vue";
import { useKeys } from "../../composables/useKeys";
import { useSprayBox, type KeptSpray } from "../../composables/useSprayBox";
import { useSpraying } from "../../composables/useSpraying";
import { useTrial } from "../../composables/useTrial";
import { verbOf } from "../../rounds";
import { dayName } from "../../words";

const props = defineProps<{ number: number }>();
const { trial, change, make, mark, load } = useTrial();
const fault = ref<Fault | null>(null);
const PATIENCE_MS = 4000;
const skipping = ref(false);
const last = ref<{ id: number; name: string } | null>(null);
const round = computed(() => trial.value?.rounds.find((r) => r.number === props.number));
const box = useSprayBox();
/** The record that is on its way: on this device already, and not shown as waiting before it has to. */
const onItsWay = ref("");
const held = computed(() => box.of(trial.value?.id ?? 0, props.number).filter((s) => s.key !== onItsWay.value));
const heldMarks = computed(
  () =>
    new Map(
      held.value.filter((s) => !s.fault).map((s): [number, "sprayed" | "skipped"] => [s.body.plant_id, s.body.kind === "skipped" ? "skipped" : "sprayed"]),
    ),
);
const walk = useSpraying(
  computed(() => trial.value),
  props.number,
  () => crypto.randomUUID(),
  () => heldMarks.value,
);
const { stop, stops, details, done, neighbours, order, index } = walk;
const verb = computed(() => (trial.value && round.value ? verbOf(trial.value, round.value) : "Spray"));
const all = computed(() => stops.value.length > 0 && done.value === stops.value.length);
const path = computed(() => ({ trial_id: trial.value?.id ?? 0, number: props.number }));

watch(order, () => walk.first());
watch(box.waiting, (now, before) => {
  if (before && !now && !onItsWay.value) void load();
});
onMounted(async () => {
  await sendHeld();
  walk.first();
});

async function start(checks: Schemas["ChecksIn"]): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/start", { params: { path: path.value }, body: checks })));
  if (fault.value) return;
  walk.first();
  window.scrollTo({ top: 0 });
}

async function record(kind: "sprayed" | "skipped", more: { note?: string; deviation?: string } = {}): Promise<void> {
  const here = stop.value;
  if (!here) return;
  const body = { ...walk.entry(kind, more), tapped_at: new Date().toISOString() };
  // On the device first; what waits there is sent before it, and a weak signal holds nobody up.
  onItsWay.value = body.key ?? "";
  const spray = box.put({ trial: path.value.trial_id, round: props.number, plant: here.plant.name, body });
  const after = await Promise.race([
    box.flush(),
    new Promise<null>((done) =>
      setTimeout(() => {
        done(null);
      }, PATIENCE_MS),
    ),
  ]);
  const refused = box.of(spray.trial, spray.round).find((s) => s.key === spray.key)?.fault;
  if (refused) box.drop(spray); // said here, where it can be put right
  fault.value = refused ? new Fault(refused.code, refused.message, "deviation", refused.fix, 409) : after ? await mark(() => Promise.resolve(after)) : null;
  if (onItsWay.value === spray.key) onItsWay.value = "";
  if (fault.value) return;
  if (stop.value?.plant.id !== here.plant.id) return; // a second tap: it has gone on already
  last.value = { id: here.plant.id, name: here.plant.name };
  skipping.value = false;
  walk.next();
  window.scrollTo({ top: 0 });
}

async function sendHeld(): Promise<void> {
  if ((await box.flush()) && !box.waiting.value) await load();
}

function deviate(spray: KeptSpray, why: string): void {
  const { trial: id, round: number, plant, body } = spray;
  box.drop(spray);
  box.put({ trial: id, round: number, plant, body: { ...body, deviation: why, key: crypto.randomUUID() } });
  void sendHeld();
}

async function undo(plant: number): Promise<void> {
  const unsent = held.value.find((s) => s.body.plant_id === plant && !s.fault);
  if (unsent) {
    box.drop(unsent);
    last.value = null;
    walk.go(
      Math.max(
        stops.value.findIndex((s) => s.plant.id === plant),
        0,
      ),
    );
    return;
  }
  fault.value = await make(() =>
    take(client.DELETE("/api/trials/{trial_id}/rounds/{number}/sprays/{plant_id}", { params: { path: { ...path.value, plant_id: plant } } })),
  );
  last.value = null;
  walk.go(
    Math.max(
      stops.value.findIndex((s) => s.plant.id === plant),
      0,
    ),
  );
}

async function undoRound(reason: string): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/undo", { params: { path: path.value }, body: { reason } })));
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
        <h1>{{ verb }}, round {{ number }}</h1>
        <span class="small soft">{{ trial.name }} · {{ dayName(round.on) }}</span>
      </div>
      <strong class="left" role="status">{{ done }} of {{ stops.length }}</strong>
    </header>

    <KeptSprays :sprays="held" :trouble="box.trouble.value" @drop="box.drop" @deviate="deviate" @send="sendHeld" />
    <p v-if="!stops.length" class="sheet">No plant has a tag yet. <RouterLink :to="`/trial/${trial.id}/layout`">Draw the layout</RouterLink> first.</p>
    <template v-else-if="!round.running && !all">
      <p v-if="round.started_at" class="sheet">
        You stopped at {{ done }} of {{ stops.length }} plants. Check the bottles and the hour again, then go on where you were.
      </p>
      <FaultNote :fault="fault" />
      <RoundChecks :trial="trial" :number="number" @start="start" />
      <el-button v-if="trial.sealed" @click="openKey">Open the key (recorded)</el-button>
    </template>

    <template v-else>
      <SprayAfter v-if="all" :trial="trial" :round="round" :plants="stops.length" />
      <SprayPlant
        v-if="stop"
        v-model:details="details"
        :trial="trial"
        :stop="stop"
        :batch="round.batches[stop.tag.letter]"
        :neighbours="neighbours"
        :fault="fault"
        :skipping="skipping"
        @skip="record('skipped', { note: $event })"
        @deviate="record('sprayed', { deviation: $event })"
        @stay="skipping = false" />
      <SprayWalk v-model:order="order" :stops="stops" :index="index" @go="walk.go" />
      <el-button v-if="trial.sealed" @click="openKey">Open the key (recorded)</el-button>
      <CautionList v-else :texts="stop?.remedy?.cautions ?? []" />
      <TakeBackRound v-if="round.sprayed.length" :records="round.sprayed.length" @undo="undoRound" />
      <div class="foot">
        <div v-if="last" class="undo">
          <span>{{ last.name }} is recorded.</span><button type="button" @click="undo(last.id)">Undo</button>
        </div>
        <div v-if="stop && !skipping && stop.mark === 'open'" class="acts">
          <button type="button" class="skip" @click="skipping = true">Skip</button>
          <button type="button" class="did" @click="record('sprayed')">{{ verb === "Spray" ? "Sprayed" : "Done" }}</button>
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

.field-which {
  min-width: 0;
}

.left {
  margin-left: auto;
  font-size: var(--text-l);
  white-space: nowrap;
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

.plants .skipped {
  background: var(--warn-wash);
}
</style>
