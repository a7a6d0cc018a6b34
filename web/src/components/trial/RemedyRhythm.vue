<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Schemas } from "../../api/client";
import { kept, shown, unitOf } from "../../units";
import { readDays, readNumber } from "../../words";
import WayPicker from "./WayPicker.vue";

/** How and when a remedy is given, and how much each time: in ml of its own, else as the others get, or in the unit of its way. */
const { index, ways, disabled = false } = defineProps<{ index: number; ways: readonly Schemas["WayOut"][]; disabled?: boolean }>();
const traits = defineModel<Partial<Schemas["TraitsIO"]> | undefined>({ required: true });

const rhythms: Record<Schemas["Rhythm"], string> = {
  rounds: "on the trial's rounds, as the others",
  once: "once, on day 0 (hung, laid, released)",
  every: "every so many days",
  days: "on days of its own",
  watering: "at each watering",
};
const programme = computed<Schemas["ProgrammeIO"]>(() => traits.value?.programme ?? { rhythm: "rounds", every: 0, days: [] });
const way = computed(() => traits.value?.way ?? "spray");
const unit = computed(() => ways.find((one) => one.key === way.value)?.unit ?? "ml");
const dose = ref("");
const every = ref("");
const days = ref("");

watch(
  programme,
  (now) => {
    if (readNumber(every.value) !== now.every) every.value = now.every ? String(now.every) : "";
    if (readDays(days.value)?.join() !== now.days?.join()) days.value = (now.days ?? []).join(", ");
  },
  { immediate: true },
);

watch(
  () => traits.value?.dose,
  (now) => {
    if (typed() !== now) dose.value = unit.value === "ml" ? shown(now, "volume") : String(now ?? "");
  },
  { immediate: true },
);

/** The dose as it is kept: ml, or the way's own unit. */
function typed(): number | undefined {
  const value = readNumber(dose.value) ?? undefined;
  return value === undefined || unit.value !== "ml" ? value : kept(value, "volume", traits.value?.dose);
}

function chooseWay(key: string): void {
  const found = ways.find((one) => one.key === key);
  traits.value = { ...traits.value, way: key, wets: found?.wets ?? true, dose: null, dose_unit: "" };
}

function keepDose(): void {
  const value = typed();
  traits.value = { ...traits.value, dose: value ?? null, dose_unit: value === undefined ? "" : (traits.value?.dose_unit ?? "") || unit.value };
}

function change(part: Partial<Schemas["ProgrammeIO"]>): void {
  traits.value = { ...traits.value, programme: { ...programme.value, ...part } };
}

function choose(rhythm: Schemas["Rhythm"]): void {
  const usual = { rounds: 0, once: 0, every: 3, days: 0, watering: 7 }[rhythm];
  change({ rhythm, every: usual, days: rhythm === "days" ? [0, 4, 9] : [] });
}
</script>

<template>
  <div class="rhythm">
    <div class="named">
      <span class="small">How it is given</span>
      <WayPicker :model-value="way" :ways="ways" :disabled="disabled" :label="`How remedy ${index} is given`" @update:model-value="chooseWay" />
    </div>
    <label>
      <span class="small">for a plant, each time ({{ unit === "ml" ? unitOf("volume") : traits?.dose_unit || unit }})</span>
      <el-input
        v-model="dose"
        :placeholder="unit === 'ml' ? 'as the others' : ''"
        :disabled="disabled"
        inputmode="decimal"
        :aria-label="`Dose of remedy ${index}`"
        @change="keepDose" />
    </label>
    <div class="named">
      <span class="small">When it is given</span>
      <el-select :model-value="programme.rhythm" :disabled="disabled" :aria-label="`When remedy ${index} is given`" @update:model-value="choose">
        <el-option v-for="(words, key) in rhythms" :key="key" :value="key" :label="words" />
      </el-select>
    </div>
    <label v-if="programme.rhythm === 'days'">
      <span class="small">days, 0 the first</span>
      <el-input v-model="days" :disabled="disabled" :aria-label="`Days of remedy ${index}`" @change="change({ days: readDays(days) ?? [] })" />
    </label>
    <label v-if="['every', 'days', 'watering'].includes(programme.rhythm)">
      <span class="small">{{ programme.rhythm === "days" ? "then every … days (empty: no more)" : "every … days" }}</span>
      <el-input
        v-model="every"
        :disabled="disabled"
        inputmode="numeric"
        :aria-label="`Days between two times of remedy ${index}`"
        @change="change({ every: Math.round(readNumber(every) ?? 0) })" />
    </label>
  </div>
</template>

<style scoped>
.rhythm {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  grid-column: 1 / -1;
  gap: var(--space-3);
}

label,
.named {
  display: grid;
}
</style>
