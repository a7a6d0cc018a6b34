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
const props = defineProps<{ beside: Verdict["verdict"]["beside"]; soFar?: boolean }>();
const names = computed(() => [...new Set(props.beside.flatMap((b) => b.remedies.map((r) => r.name)))]);

function read(measure: Verdict["verdict"]["beside"][number], name: string): string {
  const found = measure.remedies.find((r) => r.name === name);
  if (!found) return "–";
  if (isSize(measure.measure)) return `${grown(found.efficacy)} (${grown(found.efficacy_high)} to ${grown(found.efficacy_low)})`;
  return `${fewer(found.efficacy, measure.measure)} (${percent(found.efficacy_low)} to ${percent(found.efficacy_high)})`;
}
const isShown = (measure: Verdict["verdict"]["beside"][number], name: string) => Boolean(measure.remedies.find((r) => r.name === name)?.shown);
const luck = computed(() => {
  if (props.soFar) return "The look that decides will tell what of it is more than luck.";
  if (!props.beside.some((measure) => measure.remedies.some((r) => r.shown))) return "None of it is more than luck may do.";
  return "Shown: more than luck. Of twenty trials at most one says any such thing of all this by luck.";
});
</script>

<template>
  <div class="wide-table" tabindex="0" role="region" aria-label="Counted beside the measure that decides">
    <table>
      <thead>
        <tr>
          <th scope="col">Remedy</th>
          <th v-for="measure in beside" :key="measure.measure" scope="col">{{ measure.label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="name in names" :key="name">
          <th scope="row">{{ name }}</th>
          <td v-for="measure in beside" :key="measure.measure" :class="{ shown: isShown(measure, name) }">
            {{ read(measure, name) }}<template v-if="isShown(measure, name)"> · shown</template>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="small soft">{{ luck }}<template v-if="beside.some((measure) => measure.measure === 'eggs')"> Where eggs are left, more will hatch.</template></p>
  </div>
</template>

<style scoped>
.shown {
  font-weight: 600;
}

thead th {
  border-top: 0;
  font-weight: 600;
}
</style>
