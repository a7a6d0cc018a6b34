<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { percent } from "../../charts/efficacy";
import { tagColour, tagPath } from "../../charts/tag";
import { useWidth } from "../../composables/useWidth";

/** What was said of each remedy as a band, and what it truly took away as a cross upon it. */
const props = defineProps<{ told: readonly Schemas["ToldOut"][]; tags: readonly Schemas["PlayedTagOut"][]; threshold: number }>();

const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 640);
const ROW = 76;
const EDGE = 16;
const x = (share: number): number => EDGE + (whole.value - 2 * EDGE) * Math.min(Math.max(share, 0), 1);
const rows = computed(() =>
  props.told.map((one, k) => {
    const tag = props.tags.find((t) => t.name === one.name);
    const said =
      one.low === null || one.high === null
        ? "no interval could be given"
        : `said: ${one.low < 0 ? "maybe nothing" : percent(one.low)} to ${percent(one.high)}`;
    return { one, tag, y: k * ROW, said, truth: `${percent(Math.max(one.truth, 0))} in truth` };
  }),
);
</script>

<template>
  <figure ref="frame">
    <svg :width="whole" :height="rows.length * ROW + 26" role="img" :aria-label="rows.map((r) => `${r.one.name}: ${r.said}, ${r.truth}`).join('. ')">
      <line
        v-for="mark in [0, threshold, 1]"
        :key="mark"
        :x1="x(mark)"
        :x2="x(mark)"
        y1="0"
        :y2="rows.length * ROW"
        :class="mark === threshold ? 'edge' : 'end'" />
      <g v-for="{ one, tag, y, said, truth } in rows" :key="one.name" :transform="`translate(0 ${y})`">
        <text class="name" :x="EDGE" y="20">
          {{ one.name }}
          <tspan class="note" dx="5">{{ said }} · {{ truth }}</tspan>
        </text>
        <line class="rail" :x1="x(0)" :x2="x(1)" y1="48" y2="48" />
        <rect
          v-if="one.low !== null && one.high !== null"
          class="band"
          :x="x(one.low)"
          y="37"
          :width="Math.max(x(one.high) - x(one.low), 3)"
          height="22"
          rx="11"
          :fill="tagColour(tag?.tag)" />
        <path class="cross" :d="`M${x(one.truth) - 7} 41l14 14m0 -14l-14 14`" />
        <g v-if="one.low === null" :transform="`translate(${EDGE} 30)`"><path :d="tagPath(20, 34, tag?.tag ?? 0)" :fill="tagColour(tag?.tag)" /></g>
      </g>
      <text class="scale" :x="x(0)" :y="rows.length * ROW + 18" text-anchor="start">takes nothing away</text>
      <text class="scale" :x="x(1)" :y="rows.length * ROW + 18" text-anchor="end">all gone</text>
    </svg>
    <figcaption class="small soft">The band is what the verdict said; the cross is the truth. The dashed line is what you asked for.</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
  overflow: hidden;
}

svg {
  display: block;
  font-family: var(--font);
}

.rail {
  stroke: var(--hair);
}

.end {
  stroke: var(--line);
  stroke-width: 1.5;
}

.edge {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}

.band {
  opacity: 0.35;
}

.cross {
  fill: none;
  stroke: var(--ink);
  stroke-width: 4;
  stroke-linecap: round;
}

.name {
  fill: var(--ink);
  font-size: 16px;
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 6px;
}

.note {
  fill: var(--ink-soft);
  font-size: 14px;
  font-weight: 450;
}

.scale {
  fill: var(--ink-soft);
  font-size: 14px;
}
</style>
