<script setup lang="ts">
import { computed, ref } from "vue";
import type { Remedy, Verdict } from "../../api/client";
import { efficacyMarks, fewer, floorName, floorOf, percent, xOf } from "../../charts/efficacy";
import { tagColour, tagPath } from "../../charts/tag";
import { useWidth } from "../../composables/useWidth";

const props = defineProps<{ verdict: Verdict; remedies: readonly Remedy[] }>();

const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 640);
const narrow = computed(() => whole.value < 560);
// On a wide screen names stand left of the line, on a narrow one above it.
const left = computed(() => (narrow.value ? 14 : 178));
const plot = computed(() => Math.max(whole.value - left.value - 18, 120));
const row = computed(() => (narrow.value ? 96 : 70));
const TOP = 34;

const rows = computed(() =>
  efficacyMarks(props.verdict.verdict.remedies, plot.value, props.verdict.verdict.measure).map((mark, k) => ({
    mark,
    y: TOP + k * row.value + (narrow.value ? 46 : 16),
    remedy: props.remedies.find((r) => r.name === mark.name),
    result: props.verdict.verdict.remedies.find((r) => r.name === mark.name),
  })),
);
const bottom = computed(() => TOP + rows.value.length * row.value + 8);
const threshold = computed(() => xOf(props.verdict.verdict.threshold, plot.value));
const summary = computed(() => rows.value.map((r) => `${r.mark.name}: ${r.mark.text}`).join(". "));
const floor = computed(() => floorOf(props.verdict.verdict.remedies));
const ends = computed(() => [
  ...(narrow.value ? [] : [{ at: floor.value, text: floorName(floor.value), anchor: "start" }]),
  { at: 0, text: "as if untreated", anchor: "middle" },
  ...(narrow.value ? [] : [{ at: 0.5, text: "half gone", anchor: "middle" }]),
  { at: 1, text: "all gone", anchor: "end" },
]);
</script>

<template>
  <figure ref="frame">
    <svg
      v-if="rows.length"
      :width="whole"
      :height="bottom + 26"
      role="img"
      :aria-label="`How much each remedy removed. ${summary}.`"
    >
      <g :transform="`translate(${left} 0)`">
        <rect class="worth" :x="threshold" :y="TOP" :width="plot - threshold" :height="bottom - TOP" />
        <line class="edge" :x1="threshold" :x2="threshold" :y1="TOP - 6" :y2="bottom" />
        <text class="scale strong" :x="threshold" :y="TOP - 14" text-anchor="middle">
          worth it from {{ percent(verdict.verdict.threshold) }}
        </text>
        <line class="nothing" :x1="xOf(0, plot)" :x2="xOf(0, plot)" :y1="TOP" :y2="bottom" />
        <g v-for="{ mark, y, remedy, result } in rows" :key="mark.name" :class="{ out: result?.vetoed }">
          <line class="rail" x1="0" :x2="plot" :y1="y + 22" :y2="y + 22" />
          <rect class="band" :x="mark.from" :y="y + 11" :width="Math.max(mark.to - mark.from, 2)" height="22" rx="11" :fill="tagColour(remedy?.notches)" />
          <path v-if="mark.beyondLeft" class="arrow" :d="`M8 ${y + 15}L0 ${y + 22}L8 ${y + 29}`" />
          <g :transform="`translate(${mark.at - 13} ${y})`">
            <path class="tag" :d="tagPath(26, 45, remedy?.notches ?? 0)" :fill="tagColour(remedy?.notches)" />
            <text class="letter" x="9.5" y="24" text-anchor="middle">{{ remedy?.letter }}</text>
          </g>
          <text class="name" :x="narrow ? 0 : -left" :y="narrow ? y - 26 : y + 18">
            {{ mark.name }}
            <tspan class="note" :x="narrow ? 0 : -left" dy="1.25em">{{ fewer(result?.efficacy ?? 0, verdict.verdict.measure) }}{{ result?.vetoed ? ", harms the plant" : result?.worse_than_control ? ", worse than nothing" : "" }}</tspan>
          </text>
        </g>
        <text v-for="end in ends" :key="end.at" class="scale" :x="xOf(end.at, plot, floor)" :y="bottom + 20" :text-anchor="end.anchor">{{ end.text }}</text>
      </g>
    </svg>
    <p v-else>No remedy could be put on the line; the warnings below say why.</p>
    <figcaption v-if="rows.length" class="small soft">
      The tag is the best guess; the band holds the truth in 95 of 100 such trials (95% confidence
      interval). The table below has the numbers.
    </figcaption>
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

.worth {
  fill: var(--trap-wash);
  opacity: 0.6;
}

.edge {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}

.nothing {
  stroke: var(--line);
  stroke-width: 2;
}

.rail {
  stroke: var(--hair);
  stroke-width: 1;
}

.band {
  opacity: 0.32;
}

.arrow {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}

.tag {
  stroke: var(--sheet);
  stroke-width: 1.5;
}

.out .tag {
  opacity: 0.6;
}

.letter {
  fill: var(--sheet);
  font-size: 18px;
  font-weight: 750;
}

.name {
  /* A name may lie over the line of "as if untreated": the sheet shows around its letters. */
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 7px;
  stroke-linejoin: round;
  fill: var(--ink);
  font-size: 16px;
  font-weight: 700;
}

.note {
  font-weight: 450;
  font-size: 14px;
}

.scale {
  fill: var(--ink-soft);
  font-size: 13.5px;
}

.strong {
  fill: var(--ink);
  font-weight: 650;
}
</style>
