<script setup lang="ts">
import { computed } from "vue";
import type { Verdict } from "../../api/client";
import { percent } from "../../charts/efficacy";

/** Every number of a verdict, with the classical formulas beside it. */
const props = defineProps<{ verdict: Verdict }>();
const judged = computed(() => props.verdict.verdict);
const formulas = {
  abbott: "Abbott",
  henderson_tilton: "Henderson–Tilton",
  schneider_orelli: "Schneider-Orelli",
  sun_shepard: "Sun–Shepard",
} as const;

function number(value: number | null | undefined, digits = 1): string {
  return value === null || value === undefined ? "–" : value.toFixed(digits).replace("-", "−");
}

function chance(value: number | null | undefined): string {
  if (value === null || value === undefined) return "–";
  if (value > 0.99) return "over 99%";
  return value < 0.01 ? "under 1%" : percent(value);
}

function pValue(value: number | null): string {
  if (value === null) return "–";
  return value < 0.001 ? "under 0.001" : value.toFixed(3);
}
</script>

<template>
  <div class="wide-table" tabindex="0" role="region" aria-label="The arithmetic">
    <table>
      <thead>
        <tr>
          <th scope="col">Remedy</th>
          <th scope="col">Plants</th>
          <th scope="col">Before</th>
          <th scope="col">After</th>
          <th scope="col">Removed (95% interval)</th>
          <th scope="col">p, all remedies together</th>
          <th scope="col">Chance it is best</th>
          <th scope="col">Chance it is worth it</th>
          <th v-for="(label, key) in formulas" :key="key" scope="col">{{ label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in judged.remedies" :key="r.name">
          <th scope="row">{{ r.name }}</th>
          <td>{{ r.plants }}</td>
          <td>{{ number(r.mean_before) }}</td>
          <td>{{ number(r.mean_after) }}</td>
          <td>
            <template v-if="r.efficacy !== null"
              >{{ percent(r.efficacy)
              }}<template v-if="r.efficacy_low !== null && r.efficacy_high !== null">
                ({{ percent(r.efficacy_low) }} to {{ percent(r.efficacy_high) }})</template
              ></template
            >
            <template v-else>–</template>
          </td>
          <td>{{ pValue(r.p_adjusted) }}</td>
          <td>{{ chance(r.prob_best) }}</td>
          <td>{{ chance(r.prob_worth_it) }}</td>
          <td v-for="(_, key) in formulas" :key="key" :title="r.classic_notes[key]">
            {{ r.classic[key] === null || r.classic[key] === undefined ? "–" : percent(r.classic[key] ?? 0) }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <p class="small soft">
    In plain words: each plant's number is compared with what its own start, its block and its remedy let one expect, knowing that pests clump. What is removed
    is one less the ratio of expected numbers. p is the share of layouts that the lot could have drawn in which some remedy would look at least as good by luck,
    over all remedies and looks (limit 0.05). A model of clumped counts or shares, mixed over how much they clump (here about
    {{ Number(judged.method["dispersion"] ?? 0).toFixed(2) }}), {{ judged.method["df"] }} degrees of freedom, seed {{ judged.method["seed"] }}. The last four
    columns are the classical formulas on plain means, as a cross-check; a dash has its reason behind it:
    {{ [...new Set(judged.remedies.filter((r) => r.role === "remedy").flatMap((r) => Object.values(r.classic_notes)))].join("; ") || "none here" }}.
  </p>
</template>

<style scoped>
th,
td {
  padding: var(--space-2);
  text-align: right;
  border-top: 1px solid var(--hair);
  white-space: nowrap;
}

thead th {
  white-space: normal;
  vertical-align: bottom;
  border-top: 0;
  font-weight: 600;
}

th:first-child {
  text-align: left;
}
</style>
