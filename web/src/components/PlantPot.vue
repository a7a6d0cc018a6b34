<script setup lang="ts">
import { computed } from "vue";
import { drawPot, drawStem, type PotDrawing, type PotState } from "../charts/pot";
import { tagColour, tagPath } from "../charts/tag";
import { usePrinting } from "../composables/usePrinting";

/** A plant from above: its leaves and its tag in the soil. What sits on it and its harm are painted above it (charts/potPaint); on paper all is drawn here. */
const props = defineProps<{
  /** Asked for here: what the next look changes draws no leaf anew. */ state: () => PotState;
  letter: string | null | undefined;
  notches: number | undefined;
  pale?: boolean;
}>();

/** From below to the top. */
const PARTS: readonly (readonly [keyof PotDrawing, string])[] = [
  ["stalks", "stalks"],
  ["rims", "rim"],
  ["leaves", "leaf"],
  ["deepRims", "rim"],
  ["deep", "leaf deep"],
  ["ill", "ill"],
  ["veins", "veins"],
  ["bites", "bites"],
  ["dust", "dust"],
  ["drops", "drops"],
  ["pestRims", "rim"],
  ["pests", "pests"],
];
const printing = usePrinting();
const unit = computed(() => props.state().drawn ?? "plant");
/** A thread round the stalk, with as many knots as the tag has notches. */
const knots = computed(() => {
  const wide = 8 + 3 * (props.notches ?? 0);
  return { wide, at: Array.from({ length: props.notches ?? 0 }, (_, k) => 54 + 6.2 * (k - ((props.notches ?? 0) - 1) / 2)) };
});
const drawn = computed<Partial<PotDrawing>>(() => (printing.value ? drawPot : drawStem)(props.state()));
</script>

<template>
  <svg class="plant" :class="{ pale }" viewBox="0 0 100 84" aria-hidden="true">
    <template v-if="unit === 'leaf'" />
    <template v-else-if="unit === 'trap'">
      <rect x="22" y="3" width="66" height="78" rx="3" class="edge" />
      <rect x="24" y="5" width="62" height="74" rx="2" class="card" />
    </template>
    <template v-else-if="unit === 'plant' && state().habit === 'tray'">
      <rect x="14" y="3" width="80" height="78" rx="5" class="edge" />
      <rect x="16" y="5" width="76" height="74" rx="4" class="soil" />
    </template>
    <template v-else>
      <circle cx="54" cy="42" r="40" class="edge" />
      <circle cx="54" cy="42" r="38" :class="unit === 'jar' ? 'glass' : 'soil'" />
    </template>
    <template v-for="[part, look] in PARTS" :key="part"><path v-if="drawn[part]" :d="drawn[part]" :class="look" /></template>
    <g v-if="letter && notches && unit === 'leaf'" class="thread">
      <path :d="`M${54 - knots.wide} 77q${knots.wide} 4 ${2 * knots.wide} 0`" />
      <circle v-for="x in knots.at" :key="x" :cx="x" cy="79" r="2.7" />
    </g>
    <g v-if="letter" transform="translate(2 3)">
      <path :d="tagPath(20, 34, notches ?? 0)" :fill="tagColour(notches)" class="tag" />
      <text x="7.6" y="18.5">{{ letter }}</text>
    </g>
  </svg>
</template>

<style scoped>
.plant {
  display: block;
  width: 88px;
  height: 74px;
}

/* Filled shapes below one another in place of lines round them: drawn in half the time. */
.edge {
  fill: var(--hair);
}

.soil {
  fill: var(--soil);
}

.glass {
  fill: var(--well);
}

.card {
  fill: var(--trap);
}

.rim {
  fill: var(--outline);
}

.stalks {
  fill: none;
  stroke: var(--leaf-deep);
  stroke-width: 2.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}

.ill,
.drops,
.bites {
  stroke: var(--outline);
  stroke-width: 1.2;
  stroke-linejoin: round;
}

.leaf {
  fill: var(--leaf);
}

.deep {
  fill: var(--leaf-deep);
}

.ill {
  fill: var(--leaf-ill);
}

.veins {
  fill: none;
  stroke: var(--leaf-vein);
  stroke-width: 1.1;
}

.bites {
  fill: var(--soil);
}

.dust {
  fill: var(--dust);
  fill-opacity: 0.92;
  stroke: var(--outline);
  stroke-width: 0.7;
  stroke-dasharray: 1.6 1.8;
}

.drops {
  fill: var(--drop);
}

.pests {
  fill: var(--pest);
}

.thread path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.6;
}

.thread circle {
  fill: var(--accent);
}

.tag {
  stroke: var(--sheet);
  stroke-width: 1.2;
}

.pale .leaf {
  fill: var(--well);
}

.pale .rim {
  fill: var(--line);
}

.pale .stalks {
  stroke: var(--line);
}

.pale .veins {
  stroke: var(--hair);
}

text {
  fill: var(--sheet);
  font-family: var(--font);
  font-size: 15px;
  font-weight: 750;
  text-anchor: middle;
}
</style>
