<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { fillLines } from "../../charts/bottle";
import { amount, how, volume } from "../../mixing";

/** The gardener's own bottle with its fill lines in pouring order. */
const props = defineProps<{ mix: Schemas["MixOut"] }>();
const HEIGHT = 330;
const lines = computed(() =>
  fillLines(
    props.mix.pours.map((p) => p.level),
    props.mix.bottle,
    HEIGHT,
    52,
  ),
);
const said = computed(() => props.mix.pours.map((p) => `${p.name} ${amount(p.amount)} ${p.unit}, then at ${volume(p.level)}`).join("; "));
</script>

<template>
  <svg :viewBox="`0 0 460 ${HEIGHT + 92}`" role="img" :aria-label="`A bottle of ${volume(mix.bottle)} with its fill lines: ${said}`">
    <g transform="translate(10 56)">
      <path
        class="glass"
        :d="`M40 -50H90V-24C90 -12 124 -6 124 20V${HEIGHT - 12}Q124 ${HEIGHT} 112 ${HEIGHT}H18Q6 ${HEIGHT} 6 ${HEIGHT - 12}V20C6 -6 40 -12 40 -24Z`" />
      <rect v-if="lines.length" class="liquid" x="8" :y="lines.at(-1)!.y" width="114" :height="HEIGHT - lines.at(-1)!.y - 2" />
      <g v-for="(line, k) in lines" :key="k">
        <path class="fill" :d="`M6 ${line.y}H124L150 ${line.labelY}`" />
        <text x="156" :y="line.labelY - 1">
          <tspan class="strong">{{ k + 1 }} {{ mix.pours[k]?.name }}</tspan>
          <tspan x="156" dy="1.2em">{{ how(mix.pours[k]!) }}</tspan>
        </text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 460px;
  font-family: var(--font);
}

.glass {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 3;
}

.liquid {
  fill: var(--accent-wash);
}

.fill {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

text {
  font-size: 15px;
  fill: var(--ink);
}

.strong {
  font-weight: 700;
}

@media (width < 640px) {
  text {
    font-size: 19px;
  }
}
</style>
