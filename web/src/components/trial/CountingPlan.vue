<script setup lang="ts">
import type { Fault, Pest } from "../../api/client";
import { manyOf } from "../../counting";
import type { Setup } from "../../question";
import FieldRow from "../FieldRow.vue";

/** Which leaves of each plant are counted, and what is tallied beside the trial's own number. */
const setup = defineModel<Required<Setup>>({ required: true });
const props = defineProps<{ pest: Pest | undefined; measure: string; disabled: boolean | undefined; faultOf: (field: string) => Fault | null }>();
const numbers = [0, 1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20];
const asides = [
  { key: "young", words: "Young ones apart" },
  { key: "eggs", words: "Eggs" },
  { key: "dead", words: "Dead ones" },
  { key: "helpers", words: "Helpers" },
  { key: "damage", words: "Leaf damage 0 to 5" },
] as const;

function words(count: number): string {
  const unit = props.pest?.sample_unit ?? "leaf";
  if (!count) return "the plant as a whole";
  return count === 1 ? `1 ${unit}` : `${count} ${manyOf(unit)}`;
}

function toggle(key: (typeof asides)[number]["key"], on: boolean): void {
  setup.value.beside = on ? [...setup.value.beside, key] : setup.value.beside.filter((k) => k !== key);
}
</script>

<template>
  <section class="sheet stack">
    <h2>How it is counted</h2>
    <div class="pair">
      <FieldRow v-slot="{ id }" label="Counted on each plant" help="One by one, each leaf with its own number: more leaves, surer numbers." :fault="faultOf('setup.samples')">
        <el-select :id="id" v-model="setup.samples" :disabled="disabled ?? false" aria-label="Counted on each plant">
          <el-option v-for="n in numbers" :key="n" :value="n" :label="words(n)" />
        </el-select>
      </FieldRow>
      <FieldRow v-slot="{ id, described }" label="Which ones" :help="pest?.where ?? 'The same places on every plant: low, middle and high.'" :fault="faultOf('setup.which')">
        <el-input :id="id" v-model="setup.which" maxlength="300" :aria-describedby="described" :disabled="disabled ?? false" />
      </FieldRow>
    </div>
    <div class="row checks" role="group" aria-label="Tallied beside it">
      <el-checkbox v-for="aside in asides.filter((a) => a.key !== measure)" :key="aside.key" :model-value="setup.beside.includes(aside.key)" :disabled="disabled ?? false" @update:model-value="toggle(aside.key, Boolean($event))">{{ aside.words }}</el-checkbox>
    </div>
  </section>
</template>
