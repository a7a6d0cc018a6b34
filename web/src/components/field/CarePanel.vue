<script setup lang="ts">
import { computed, reactive, ref, watch } from "vue";
import { client, take, type Fault, type Schemas } from "../../api/client";
import { ifStill } from "../../api/once";
import { useTrial } from "../../composables/useTrial";
import { maybe, need, needWhole, readAll } from "../../entered";
import { momentName } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import { inUnits, kept, shown, unitOf, type Quantity } from "../../units";

/** Where the bench stands, limits for spraying, rest between sprays, and the pest's development. */
const { trial, change, load } = useTrial();
const props = defineProps<{ stages: readonly Schemas["StageIO"][] }>();
const fault = ref<Fault | null>(null);
type Place = "open" | "covered" | "room";
type Side = Schemas["Side"];
const sides: Record<Side, string> = { none: "not told", top: "above (row 1)", right: "the right", bottom: "below", left: "the left" };
const places: Record<Place, string> = { open: "in the open", covered: "in a tunnel or greenhouse", room: "in a room" };
const form = reactive({
  place: "open" as Place,
  bees: true,
  night: false,
  sun_from: "0",
  sun_to: "24",
  lamp_from: "",
  lamp_to: "",
  rise: "15",
  room: "",
  sun_side: "none" as Side,
  wind_side: "none" as Side,
  low: "",
  high: "",
  wind: "",
  days_between: "3",
  stages: [] as { name: string; phase: Schemas["Phase"]; k: string; t0: string }[],
});
const said = (value: number | null | undefined): string => (value === null || value === undefined ? "" : String(value));

watch(
  [trial, () => props.stages],
  () => {
    const care = trial.value?.care;
    if (!care) return;
    const spot: Partial<Schemas["SpotIO"]> = care.spot ?? {};
    Object.assign(form, {
      place: spot.outdoors === false ? "room" : spot.covered ? "covered" : "open",
      rise: shown(spot.rise ?? 15, "warmer"),
      bees: spot.bees ?? true,
      night: spot.night ?? false,
      room: shown(spot.room, "temperature"),
      sun_side: spot.sun_side ?? "none",
      wind_side: spot.wind_side ?? "none",
      sun_from: said(spot.sun_from),
      sun_to: said(spot.sun_to),
      lamp_from: said(spot.lamp_from),
      lamp_to: said(spot.lamp_to),
      low: shown(care.low, "temperature"),
      high: shown(care.high, "temperature"),
      wind: shown(care.wind, "wind"),
      days_between: said(care.days_between),
      stages: props.stages.map((s) => ({ name: s.name, phase: s.phase, k: shown(s.k, "warmer"), t0: shown(s.t0, "temperature") })),
    });
  },
  { immediate: true },
);

/** A number typed in the gardener's unit, as it is kept; nothing for an empty field. */
function typedIn(text: string, field: string, what: Quantity, before: number | null | undefined): number | null {
  const value = maybe(text, field);
  return value === null ? null : kept(value, what, before);
}

/** The care as typed; a field that holds no number is named. */
function typed(care: Schemas["CareIO"]): Schemas["CareIO"] {
  const stages = form.stages.map((s, k) => ({
    name: s.name,
    phase: s.phase,
    k: kept(need(s.k, `stages.${k}`), "warmer", props.stages[k]?.k),
    t0: kept(need(s.t0, `stages.${k}`), "temperature", props.stages[k]?.t0),
  }));
  const same = stages.every((s, k) => s.k === props.stages[k]?.k && s.t0 === props.stages[k]?.t0);
  return {
    ...care,
    spot: {
      outdoors: form.place !== "room",
      covered: form.place === "covered",
      rise: typedIn(form.rise, "spot.rise", "warmer", care.spot?.rise) ?? 15,
      night: form.night,
      room: typedIn(form.room, "spot.room", "temperature", care.spot?.room),
      bees: form.bees,
      sun_side: form.sun_side,
      wind_side: form.wind_side,
      sun_from: need(form.sun_from, "spot.sun_from"),
      sun_to: need(form.sun_to, "spot.sun_to"),
      lamp_from: maybe(form.lamp_from, "spot.lamp_from"),
      lamp_to: maybe(form.lamp_to, "spot.lamp_to"),
    },
    low: typedIn(form.low, "low", "temperature", care.low),
    high: typedIn(form.high, "high", "temperature", care.high),
    wind: typedIn(form.wind, "wind", "wind", care.wind),
    days_between: needWhole(form.days_between, "days_between"),
    stages: same ? (care.stages ?? null) : stages,
  };
}

async function save(): Promise<void> {
  const now = trial.value;
  if (!now) return;
  fault.value = await change(() =>
    Promise.resolve()
      .then(() => readAll(() => typed(now.care)))
      .then((body) => take(client.PUT("/api/trials/{trial_id}/care", { params: { path: { trial_id: now.id }, header: ifStill(now.care_revision) }, body }))),
  );
}

function at(field: string): Fault | null {
  return fault.value?.at(field) ?? null;
}

const named = ["spot.sun_from", "spot.sun_to", "spot.lamp_from", "spot.lamp_to", "spot.room", "spot.rise", "low", "high", "wind", "days_between"];
const limits = new Map<string, readonly [name: string, what?: Quantity]>([
  ["low", ["not below", "temperature"]],
  ["high", ["not above", "temperature"]],
  ["wind", ["wind up to", "wind"]],
  ["days between", ["days between two sprays"]],
  ["stages", ["development"]],
]);
/** A limit as it stood, in the gardener's unit. */
function limit(value: string, what?: Quantity): string {
  if (value === "none") return "each remedy's own";
  return what ? `${shown(Number(value), what)} ${unitOf(what)}` : inUnits(value);
}
/** What was changed of the limits, the newest first; it stands with the verdict. */
const changes = computed(() =>
  [...(trial.value?.changes ?? [])].reverse().flatMap((c) =>
    c.parts.flatMap((p) => {
      const [name, what] = limits.get(p.name) ?? [null];
      return name ? [{ name, before: limit(p.before, what), after: limit(p.after, what), made_at: c.made_at }] : [];
    }),
  ),
);
</script>

<template>
  <details class="sheet">
    <summary>How this bench is cared for</summary>
    <form class="stack" novalidate @submit.prevent="save">
      <div class="row">
        <el-radio-group v-model="form.place" aria-label="Where it stands"
          ><el-radio v-for="(name, key) in places" :key="key" :value="key">{{ name }}</el-radio></el-radio-group
        >
        <el-checkbox v-if="form.place !== 'room'" v-model="form.bees">Bees visit there</el-checkbox>
        <el-checkbox v-if="form.place !== 'room'" v-model="form.night">Sprayed by lamplight, after dark, too</el-checkbox>
      </div>
      <div class="fields">
        <FieldRow
          v-if="form.place === 'covered'"
          v-slot="{ id, described }"
          :label="`Warmer than outside in full sun by (${unitOf('warmer')})`"
          :help="inUnits('A closed one is 10 to 20 °C warmer, typical; hang a thermometer in it.')"
          :fault="at('spot.rise')"
          ><el-input :id="id" v-model="form.rise" inputmode="decimal" :aria-describedby="described"
        /></FieldRow>
        <template v-if="form.place !== 'room'">
          <FieldRow v-slot="{ id }" label="Sun from (hour)" help="When the sun can reach it." :fault="at('spot.sun_from')"
            ><el-input :id="id" v-model="form.sun_from" inputmode="decimal"
          /></FieldRow>
          <FieldRow v-slot="{ id }" label="Sun until (hour)" :fault="at('spot.sun_to')"
            ><el-input :id="id" v-model="form.sun_to" inputmode="decimal"
          /></FieldRow>
        </template>
        <template v-else>
          <FieldRow v-slot="{ id }" label="Lamp from (hour)" :fault="at('spot.lamp_from')"
            ><el-input :id="id" v-model="form.lamp_from" inputmode="decimal"
          /></FieldRow>
          <FieldRow v-slot="{ id }" label="Lamp until (hour)" :fault="at('spot.lamp_to')"
            ><el-input :id="id" v-model="form.lamp_to" inputmode="decimal"
          /></FieldRow>
          <FieldRow v-slot="{ id }" :label="`Warmth of the room (${unitOf('temperature')})`" help="Eggs and young grow by it." :fault="at('spot.room')"
            ><el-input :id="id" v-model="form.room" inputmode="decimal"
          /></FieldRow>
        </template>
        <FieldRow
          v-for="side in ['sun_side', 'wind_side'] as const"
          :key="side"
          v-slot="{ id }"
          :label="side === 'sun_side' ? 'Sun comes from' : 'Wind comes from'"
          help="As the bench is drawn, row 1 on top.">
          <el-select :id="id" v-model="form[side]" :aria-label="side === 'sun_side' ? 'Sun comes from' : 'Wind comes from'"
            ><el-option v-for="(name, key) in sides" :key="key" :value="key" :label="name"
          /></el-select>
        </FieldRow>
        <FieldRow v-slot="{ id }" :label="`Not below (${unitOf('temperature')})`" help="Empty: each remedy's own, typical." :fault="at('low')"
          ><el-input :id="id" v-model="form.low" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" :label="`Not above (${unitOf('temperature')})`" :help="inUnits('Soap about 27 °C, oils 25 to 29 °C.')" :fault="at('high')"
          ><el-input :id="id" v-model="form.high" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" :label="`Wind up to (${unitOf('wind')})`" :help="inUnits('Typical: 15 km/h.')" :fault="at('wind')"
          ><el-input :id="id" v-model="form.wind" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" label="Days between two sprays" help="A plant sprayed within them is refused." :fault="at('days_between')"
          ><el-input :id="id" v-model="form.days_between" inputmode="numeric"
        /></FieldRow>
      </div>
      <fieldset v-if="form.stages.length">
        <legend>Development (typical values)</legend>
        <div v-for="(stage, k) in form.stages" :key="stage.name" class="stage">
          <span>{{ stage.name }}</span>
          <label><span class="small">degree-days</span><el-input v-model="stage.k" inputmode="decimal" :aria-label="`Degree-days of ${stage.name}`" /></label>
          <label
            ><span class="small">above {{ unitOf("temperature") }}</span
            ><el-input v-model="stage.t0" inputmode="decimal" :aria-label="`Threshold of ${stage.name}`"
          /></label>
          <span v-if="fault?.field === `stages.${k}`" class="small wrong">{{ inUnits(`${fault.message}. ${fault.fix}`) }}</span>
        </div>
      </fieldset>
      <FaultNote :fault="fault && !named.includes(fault.field ?? '') && !fault.field?.startsWith('stages.') ? fault : null"
        ><el-button v-if="fault?.code === 'changed_elsewhere'" @click="load">Show what is there now</el-button></FaultNote
      >
      <div><el-button type="primary" native-type="submit">Keep</el-button></div>
    </form>
    <details v-if="changes.length" class="changes">
      <summary>What was changed ({{ changes.length }}); it stands with the verdict</summary>
      <ul class="small">
        <li v-for="c in changes" :key="c.made_at + c.name">{{ momentName(c.made_at) }}: {{ c.name }} from {{ c.before }} to {{ c.after }}</li>
      </ul>
    </details>
  </details>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  border: 0;
}

legend {
  font-weight: 650;
}

.stage {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: end;
}

.stage > span {
  flex: 0 1 14rem;
  align-self: center;
}

.stage > label {
  width: 8rem;
}

.stage > .wrong {
  flex: 1 0 100%;
  color: var(--bad);
}
</style>
