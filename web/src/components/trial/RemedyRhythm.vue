<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Schemas } from "../../api/client";
import { readDays, readNumber } from "../../words";

/** When a remedy is given, and how much each time where that is not told in ml. */
const { index, disabled = false } = defineProps<{ index: number; disabled?: boolean }>();
const traits = defineModel<Partial<Schemas["TraitsIO"]> | undefined>({ required: true });

const rhythms: Record<Schemas["Rhythm"], string> = {
  rounds: "on the trial's rounds, as the others",
  once: "once, on day 0 (hung, laid, released)",
  every: "every so many days",
  days: "on days of its own",
  watering: "at each watering",
};
const programme = computed<Schemas["ProgrammeIO"]>(() => traits.value?.programme ?? { rhythm: "rounds", every: 0, days: [] });
const every = ref("");
const days = ref("");

watch(programme, (now) => {
  if (readNumber(every.value) !== now.every) every.value = now.every ? String(now.every) : "";
  if (readDays(days.value)?.join() !== now.days?.join()) days.value = (now.days ?? []).join(", ");
}, { immediate: true });

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
    <label>
      <span class="small">When it is given</span>
      <el-select :model-value="programme.rhythm" :disabled="disabled" :aria-label="`When remedy ${index} is given`" @update:model-value="choose">
        <el-option v-for="(words, key) in rhythms" :key="key" :value="key" :label="words" />
      </el-select>
    </label>
    <label v-if="programme.rhythm === 'days'">
      <span class="small">days, 0 the first</span>
      <el-input v-model="days" :disabled="disabled" :aria-label="`Days of remedy ${index}`" @change="change({ days: readDays(days) ?? [] })" />
    </label>
    <label v-if="['every', 'days', 'watering'].includes(programme.rhythm)">
      <span class="small">{{ programme.rhythm === "days" ? "then every … days (empty: no more)" : "every … days" }}</span>
      <el-input v-model="every" :disabled="disabled" inputmode="numeric" :aria-label="`Days between two times of remedy ${index}`" @change="change({ every: Math.round(readNumber(every) ?? 0) })" />
    </label>
    <span v-if="traits?.dose" class="small soft dose">{{ traits.dose }} {{ traits.dose_unit }} a plant each time</span>
  </div>
</template>

<style scoped>
.rhythm {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
  grid-column: 1 / -1;
  gap: var(--space-3);
}

label {
  display: grid;
}

.dose {
  align-self: end;
  padding-bottom: var(--space-2);
}
</style>
