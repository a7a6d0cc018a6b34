<script setup lang="ts">
import { computed } from "vue";
import type { Remedy, Verdict } from "../api/client";
import { efficacyMarks, percent, xOf } from "../charts/efficacy";
import { tagColour, tagPath } from "../charts/tag";

const props = defineProps<{ verdict: Verdict; remedies: readonly Remedy[] }>();

const WIDTH = 600;
const LEFT = 24;
const ROW = 74;
const TOP = 56;

const marks = computed(() => efficacyMarks(props.verdict.verdict.remedies, WIDTH));
const rows = computed(() =>
  marks.value.map((mark, k) => {
    const remedy = props.remedies.find((r) => r.name === mark.name);
    const result = props.verdict.verdict.remedies.find((r) => r.name === mark.name);
    return { mark, y: TOP + k * ROW, remedy, result };
  }),
);
const height = computed(() => TOP + rows.value.length * ROW + 30);
const threshold = computed(() => xOf(props.verdict.verdict.threshold, WIDTH));
const summary = computed(() => marks.value.map((m) => `${m.name}: ${m.text}`).join(". "));
</script>

<template>
  <figure v-if="rows.length">
    <svg
      :viewBox="`0 0 ${WIDTH + 2 * LEFT} ${height}`"
      role="img"
      :aria-label="`How much each remedy removed. ${summary}.`"
    >
      <g :transform="`translate(${LEFT} 0)`">
        <rect class="worth" :x="threshold" :y="30" :width="WIDTH - threshold" :height="height - 56" />
        <line class="edge" :x1="threshold" :x2="threshold" y1="30" :y2="height - 26" />
        <text class="scale strong" :x="threshold" y="20" text-anchor="middle">
          worth it from {{ percent(verdict.verdict.threshold) }}
        </text>
        <line class="nothing" :x1="xOf(0, WIDTH)" :x2="xOf(0, WIDTH)" y1="30" :y2="height - 26" />
        <g v-for="row in rows" :key="row.mark.name" :class="{ out: row.result?.vetoed }">
          <line class="rail" x1="0" :x2="WIDTH" :y1="row.y + 24" :y2="row.y + 24" />
          <rect
            class="band"
            :x="row.mark.from"
            :y="row.y + 14"
            :width="Math.max(row.mark.to - row.mark.from, 2)"
            height="20"
            rx="10"
            :fill="tagColour(row.remedy?.notches)"
          />
          <path
            v-if="row.mark.beyondLeft"
            class="arrow"
            :d="`M8 ${row.y + 17}L0 ${row.y + 24}L8 ${row.y + 31}`"
          />
          <g :transform="`translate(${row.mark.at - 11} ${row.y})`">
            <path
              class="tag"
              :d="tagPath(22, 46, row.remedy?.notches ?? 0)"
              :fill="tagColour(row.remedy?.notches)"
            />
            <text class="letter" x="9" y="22" text-anchor="middle">{{ row.remedy?.letter }}</text>
          </g>
          <text
            class="name"
            :x="row.mark.at > WIDTH * 0.5 ? Math.min(row.mark.from, row.mark.at - 11) - 8 : Math.max(row.mark.to, row.mark.at + 11) + 8"
            :y="row.y + 20"
            :text-anchor="row.mark.at > WIDTH * 0.5 ? 'end' : 'start'"
          >
            {{ row.mark.name }}
            <tspan
              class="note"
              :x="row.mark.at > WIDTH * 0.5 ? Math.min(row.mark.from, row.mark.at - 11) - 8 : Math.max(row.mark.to, row.mark.at + 11) + 8"
              dy="1.2em"
            >{{ percent(row.result?.efficacy ?? 0) }}{{ row.result?.vetoed ? ", but it harms the plant" : "" }}</tspan>
          </text>
        </g>
        <text class="scale" x="0" :y="height - 6">more than untreated</text>
        <text class="scale" :x="xOf(0, WIDTH)" :y="height - 6" text-anchor="middle">as if untreated</text>
        <text class="scale" :x="xOf(0.5, WIDTH)" :y="height - 6" text-anchor="middle">half gone</text>
        <text class="scale" :x="WIDTH" :y="height - 6" text-anchor="end">all gone</text>
      </g>
    </svg>
    <figcaption class="small soft">
      The tag is the best guess, the band holds the truth in 95 of 100 such trials (95% confidence
      interval).
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

svg {
  display: block;
  width: 100%;
  height: auto;
  font-family: var(--font);
}

.worth {
  fill: var(--trap-wash);
  opacity: 0.55;
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
  opacity: 0.3;
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
  opacity: 0.55;
}

.letter {
  fill: var(--sheet);
  font-size: 17px;
  font-weight: 750;
}

.name {
  fill: var(--ink);
  font-size: 16px;
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
  stroke-linejoin: round;
}

.note {
  font-weight: 450;
  font-size: 14.5px;
}

.scale {
  fill: var(--ink-soft);
  font-size: 14px;
}

.strong {
  fill: var(--ink);
  font-weight: 650;
}
</style>
