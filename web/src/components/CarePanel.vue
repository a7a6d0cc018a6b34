<script setup lang="ts">
import { reactive, ref, watch } from "vue";
import { client, take, type Fault, type Schemas } from "../api/client";
import { useTrial } from "../composables/useTrial";
import { readNumber } from "../words";
import FaultNote from "./FaultNote.vue";
import FieldRow from "./FieldRow.vue";

/** Where the bench stands, limits for spraying, rest between sprays, and the pest's development. */
const { trial, change } = useTrial();
const props = defineProps<{ stages: readonly Schemas["StageIO"][] }>();
const fault = ref<Fault | null>(null);
const form = reactive({
  outdoors: true, bees: true, sun_from: "0", sun_to: "24", lamp_from: "", lamp_to: "",
  low: "", high: "", wind: "", days_between: "3", stages: [] as { name: string; part: Schemas["Part"]; k: string; t0: string }[],
});
const said = (value: number | null | undefined): string => (value === null || value === undefined ? "" : String(value));

watch(
  [trial, () => props.stages],
  () => {
    const care = trial.value?.care;
    if (!care) return;
    const spot: Partial<Schemas["SpotIO"]> = care.spot ?? {};
    Object.assign(form, {
      outdoors: spot.outdoors ?? true, bees: spot.bees ?? true, sun_from: said(spot.sun_from), sun_to: said(spot.sun_to),
      lamp_from: said(spot.lamp_from), lamp_to: said(spot.lamp_to), low: said(care.low), high: said(care.high),
      wind: said(care.wind), days_between: said(care.days_between),
      stages: props.stages.map((s) => ({ name: s.name, part: s.part, k: String(s.k), t0: String(s.t0) })),
    });
  },
  { immediate: true },
);

function maybe(text: string): number | null {
  return text.trim() ? (readNumber(text) ?? -999) : null;
}

async function save(): Promise<void> {
  const care = trial.value?.care;
  if (!trial.value || !care) return;
  const stages = form.stages.map((s) => ({ name: s.name, part: s.part, k: readNumber(s.k) ?? -1, t0: readNumber(s.t0) ?? -99 }));
  const same = stages.every((s, k) => s.k === props.stages[k]?.k && s.t0 === props.stages[k]?.t0);
  const body: Schemas["CareIO"] = {
    ...care,
    spot: {
      outdoors: form.outdoors, bees: form.bees, sun_from: readNumber(form.sun_from) ?? -1, sun_to: readNumber(form.sun_to) ?? -1,
      lamp_from: maybe(form.lamp_from), lamp_to: maybe(form.lamp_to),
    },
    low: maybe(form.low), high: maybe(form.high), wind: maybe(form.wind),
    days_between: Math.round(readNumber(form.days_between) ?? -1),
    stages: same ? (care.stages ?? null) : stages,
  };
  fault.value = await change(() => take(client.PUT("/api/trials/{trial_id}/care", { params: { path: { trial_id: trial.value?.id ?? 0 } }, body })));
}
</script>

<template>
  <details class="sheet">
    <summary>How this bench is cared for</summary>
    <form class="stack" novalidate @submit.prevent="save">
      <div class="row">
        <el-checkbox v-model="form.outdoors">It stands outdoors</el-checkbox>
        <el-checkbox v-if="form.outdoors" v-model="form.bees">Bees visit there</el-checkbox>
      </div>
      <div class="fields">
        <template v-if="form.outdoors">
          <FieldRow v-slot="{ id }" label="Sun from (hour)" help="When the sun can reach it."><el-input :id="id" v-model="form.sun_from" inputmode="decimal" /></FieldRow>
          <FieldRow v-slot="{ id }" label="Sun until (hour)"><el-input :id="id" v-model="form.sun_to" inputmode="decimal" /></FieldRow>
        </template>
        <template v-else>
          <FieldRow v-slot="{ id }" label="Lamp from (hour)"><el-input :id="id" v-model="form.lamp_from" inputmode="decimal" /></FieldRow>
          <FieldRow v-slot="{ id }" label="Lamp until (hour)"><el-input :id="id" v-model="form.lamp_to" inputmode="decimal" /></FieldRow>
        </template>
        <FieldRow v-slot="{ id }" label="Not below (°C)" help="Empty: each remedy's own, typical."><el-input :id="id" v-model="form.low" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Not above (°C)" help="Soap about 27, oils 25 to 29."><el-input :id="id" v-model="form.high" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Wind up to (km/h)" help="Typical: 15."><el-input :id="id" v-model="form.wind" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Days between two sprays" help="A plant sprayed within them is refused."><el-input :id="id" v-model="form.days_between" inputmode="numeric" /></FieldRow>
      </div>
      <fieldset v-if="form.stages.length">
        <legend>Development (typical values)</legend>
        <div v-for="(stage, k) in form.stages" :key="stage.name" class="stage">
          <span>{{ stage.name }}</span>
          <label><span class="small">degree-days</span><el-input v-model="stage.k" inputmode="decimal" :aria-label="`Degree-days of ${stage.name}`" /></label>
          <label><span class="small">above °C</span><el-input v-model="stage.t0" inputmode="decimal" :aria-label="`Threshold of ${stage.name}`" /></label>
          <span v-if="fault?.field === `stages.${k}`" class="small wrong">{{ fault.message }}. {{ fault.fix }}</span>
        </div>
      </fieldset>
      <FaultNote :fault="fault" />
      <div><el-button type="primary" native-type="submit">Keep</el-button></div>
    </form>
  </details>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: var(--space-3);
}

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
  display: grid;
  grid-template-columns: minmax(6rem, 16rem) minmax(0, 130px) minmax(0, 130px);
  gap: var(--space-3);
  align-items: end;
}

.stage > span {
  align-self: center;
}

.wrong {
  grid-column: 1 / -1;
  color: var(--bad);
}
</style>
