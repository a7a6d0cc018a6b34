<script setup lang="ts">
import { computed } from "vue";
import type { Verdict } from "../../api/client";
import { fewer, percent } from "../../charts/efficacy";
import { isSize } from "../../counting";

/** Of what grows there is less or more, told as it is. */
function grown(less: number): string {
  return less > 0 ? `${percent(less)} less` : `${percent(-less)} more`;
}

/** What each remedy did to young, eggs and whatever else was counted beside the measure that decides. */
const props = defineProps<{ beside: Verdict["verdict"]["beside"] }>();
const names = computed(() => [...new Set(props.beside.flatMap((b) => b.remedies.map((r) => r.name)))]);

function read(measure: Verdict["verdict"]["beside"][number], name: string): string {
  const found = measure.remedies.find((r) => r.name === name);
  if (found && isSize(measure.measure)) return `${grown(found.efficacy)} (${grown(found.efficacy_high)} to ${grown(found.efficacy_low)})`;
  return found ? `${fewer(found.efficacy, measure.measure)} (${percent(found.efficacy_low)} to ${percent(found.efficacy_high)})` : "–";
}
</script>

<template>
  <div class="wide-table" tabindex="0" role="region" aria-label="Counted beside the measure that decides">
    <table>
      <thead>
        <tr><th scope="col">Remedy</th><th v-for="measure in beside" :key="measure.measure" scope="col">{{ measure.label }}</th></tr>
      </thead>
      <tbody>
        <tr v-for="name in names" :key="name"><th scope="row">{{ name }}</th><td v-for="measure in beside" :key="measure.measure">{{ read(measure, name) }}</td></tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
thead th {
  border-top: 0;
  font-weight: 600;
}
</style>
