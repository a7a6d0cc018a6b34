<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { strengthAxis } from "../../charts/strength";
import { inUnits, strengthWords } from "../../units";

/** One ingredient: this recipe, the other, and the usual range up to its harsh end. */
const props = defineProps<{ axis: Schemas["AxisOut"] }>();
const WIDTH = 460;
const scale = computed(() => strengthAxis([props.axis.yours, props.axis.theirs, props.axis.low, props.axis.high], WIDTH));
/** The unit stands with one's own number alone. */
function said(value: number, whole = false): string {
  const words = strengthWords(value, props.axis.unit);
  return whole ? words : (words.split(" ")[0] ?? words);
}
function anchor(x: number): string {
  return x < 60 ? "start" : x > WIDTH - 60 ? "end" : "middle";
}
</script>

<template>
  <figure>
    <svg v-if="scale" :viewBox="`-8 0 ${WIDTH + 16} 84`" role="img" :aria-label="inUnits(axis.text)">
      <path class="line" :d="`M0 44H${WIDTH}`" />
      <template v-if="axis.low !== null && axis.high !== null">
        <rect class="usual" :x="scale.at(axis.low)" y="36" :width="scale.at(axis.high) - scale.at(axis.low)" height="16" />
        <path class="harsh" :d="`M${scale.at(axis.high)} 32V58`" />
        <text :x="scale.at(axis.low)" y="72" text-anchor="start">typical from {{ said(axis.low) }}</text>
        <text :x="scale.at(axis.high)" y="72" :text-anchor="anchor(scale.at(axis.high))">harsh end {{ said(axis.high) }}</text>
      </template>
      <g v-if="axis.theirs !== null">
        <circle class="theirs" :cx="scale.at(axis.theirs)" cy="44" r="8" />
        <text :x="scale.at(axis.theirs)" y="12" :text-anchor="anchor(scale.at(axis.theirs))">the other {{ said(axis.theirs) }}</text>
      </g>
      <g v-if="axis.yours !== null">
        <circle class="yours" :cx="scale.at(axis.yours)" cy="44" r="8" />
        <text class="strong" :x="scale.at(axis.yours)" y="28" :text-anchor="anchor(scale.at(axis.yours))">yours {{ said(axis.yours, true) }}</text>
      </g>
    </svg>
    <figcaption>{{ inUnits(axis.text) }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  max-width: 520px;
}

svg {
  width: 100%;
  font-family: var(--font);
}

.line {
  stroke: var(--line);
  stroke-width: 2;
}

.usual {
  fill: var(--accent-wash);
  stroke: var(--accent);
}

.harsh {
  stroke: var(--bad);
  stroke-width: 4;
}

.theirs {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 3;
}

.yours {
  fill: var(--accent);
  stroke: var(--sheet);
  stroke-width: 2;
}

text {
  font-size: 13px;
  fill: var(--ink);
}

.strong {
  font-weight: 700;
}

@media (width < 640px) {
  text {
    font-size: 18px;
  }
}
</style>
