<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { readNumber } from "../../words";
import WayPicker from "./WayPicker.vue";

/** What follows in a remedy: each time, some days later (after soap, the next day neem), or by a rule where it was not enough. */
const {
  index,
  ways,
  per = "plant",
  disabled = false,
} = defineProps<{ index: number; /** On what the trial counts. */ per?: string; ways: readonly Schemas["WayOut"][]; disabled?: boolean }>();
const traits = defineModel<Partial<Schemas["TraitsIO"]> | undefined>({ required: true });
type Step = Schemas["StepIO"];

const MOST = 3;
const MANY = 20; // pests left on a plant, as a rule proposes them
const steps = computed<readonly Step[]>(() => traits.value?.steps ?? []);

function put(next: readonly Step[]): void {
  traits.value = { ...traits.value, steps: [...next] };
}

const rule = computed(() => steps.value.find(isRule));
/** A rule waits for a count; it stands behind the steps that have a day. */
function isRule(step: Step): boolean {
  return step.above !== null && step.above !== undefined;
}

function add(): void {
  const dated = steps.value.filter((step) => !isRule(step));
  const fresh = { after: (dated.at(-1)?.after ?? 0) + 1, name: "", recipe: "", way: "spray", dose: null, dose_unit: "", above: null };
  put([...dated, fresh, ...steps.value.filter(isRule)]);
}

function addRule(): void {
  put([...steps.value, { after: 2, name: "", recipe: "", way: "spray", dose: null, dose_unit: "", above: MANY }]);
}

function change(at: number, part: Partial<Step>): void {
  put(steps.value.map((step, k) => (k === at ? { ...step, ...part } : step)));
}

/** Days, rounds and numbers while they are typed; what is no number is as it was once the field is left. */
const typed = ref<Record<string, string>>({});
function shown(at: number, key: "after" | "above"): string {
  return typed.value[`${at} ${key}`] ?? String(steps.value[at]?.[key] ?? "");
}

function number(at: number, key: "after" | "above", text: string): void {
  const value = readNumber(text);
  typed.value = {};
  if (value !== undefined) change(at, { [key]: key === "after" ? Math.round(value) : value });
}
</script>

<template>
  <div class="steps">
    <fieldset v-for="(step, at) in steps" :key="at" class="step" :class="{ rule: isRule(step) }">
      <legend class="small">{{ isRule(step) ? "If it is not enough: this instead, from the next round on, for all its plants" : `Step ${at + 2}` }}</legend>
      <template v-if="isRule(step)">
        <label
          ><span class="small">after so many rounds</span
          ><el-input
            :model-value="shown(at, 'after')"
            :disabled="disabled"
            inputmode="numeric"
            :aria-label="`Rounds before the rule of remedy ${index}`"
            @update:model-value="typed[`${at} after`] = $event"
            @change="number(at, 'after', $event)"
        /></label>
        <label
          ><span class="small">where a look finds more, a {{ per }} on average</span
          ><el-input
            :model-value="shown(at, 'above')"
            :disabled="disabled"
            inputmode="decimal"
            :aria-label="`More than so many are left, rule of remedy ${index}`"
            @update:model-value="typed[`${at} above`] = $event"
            @change="number(at, 'above', $event)"
        /></label>
      </template>
      <label v-else
        ><span class="small">days after the first</span
        ><el-input
          :model-value="shown(at, 'after')"
          :disabled="disabled"
          inputmode="numeric"
          :aria-label="`Days after the first, step ${at + 2} of remedy ${index}`"
          @update:model-value="typed[`${at} after`] = $event"
          @change="number(at, 'after', $event)"
      /></label>
      <label
        ><span class="small">what</span
        ><el-input
          :model-value="step.name"
          :disabled="disabled"
          maxlength="40"
          :aria-label="`Name of step ${at + 2} of remedy ${index}`"
          placeholder="neem"
          @update:model-value="change(at, { name: $event })"
      /></label>
      <label class="wide"
        ><span class="small">recipe</span
        ><el-input
          :model-value="step.recipe"
          :disabled="disabled"
          maxlength="2000"
          :aria-label="`Recipe of step ${at + 2} of remedy ${index}`"
          placeholder="5 ml neem and 2 ml soap per litre"
          @update:model-value="change(at, { recipe: $event })"
      /></label>
      <div class="named">
        <span class="small">how it is given</span>
        <WayPicker
          :model-value="step.way ?? 'spray'"
          :ways="ways"
          :disabled="disabled"
          :label="`How step ${at + 2} of remedy ${index} is given`"
          @update:model-value="change(at, { way: $event, dose: null, dose_unit: '' })" />
      </div>
      <el-button v-if="!disabled" :aria-label="`Take out step ${at + 2} of remedy ${index}`" @click="put(steps.filter((_, k) => k !== at))">Take out</el-button>
    </fieldset>
    <div v-if="!disabled && steps.length < MOST" class="row">
      <el-button size="small" @click="add"
        >{{ steps.some((step) => !isRule(step)) ? "Another step" : "Something follows a day or more later"
        }}<span class="visually-hidden"> in remedy {{ index }}</span></el-button
      >
      <el-button v-if="!rule" size="small" @click="addRule"
        >If it is not enough, something else<span class="visually-hidden"> in remedy {{ index }}</span></el-button
      >
    </div>
  </div>
</template>

<style scoped>
.steps {
  display: grid;
  grid-column: 1 / -1;
  gap: var(--space-2);
}

.step {
  display: grid;
  grid-template-columns: 8rem 10rem minmax(12rem, 1fr) 12rem auto;
  gap: var(--space-3);
  align-items: end;
  margin: 0;
  padding: 0 0 0 var(--space-4);
  border: 0;
  border-left: 3px solid var(--trap);
}

.rule {
  grid-template-columns: 9rem 12rem 10rem minmax(12rem, 1fr) 12rem auto;
}

label,
.named {
  display: grid;
}

@media (width < 1100px) {
  .step,
  .rule {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
