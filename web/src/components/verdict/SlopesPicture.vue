<script setup lang="ts">
import { computed } from "vue";
import type { Course, Trial } from "../../api/client";
import { axisMarks, slopesOf, yOf, type Slope } from "../../charts/slopes";
import { tagColour } from "../../charts/tag";
import PlantTag from "../PlantTag.vue";

const props = defineProps<{ trial: Trial; course: Course; lookNumber: number; order: readonly string[]; missed: readonly string[] }>();

const W = 150;
const H = 170;

const panels = computed(() =>
  props.order.flatMap((name) => {
    const remedy = props.trial.remedies.find((r) => r.name === name);
    if (!remedy?.letter) return [];
    return [{ remedy, slopes: slopesOf(props.trial, props.course, remedy.letter, props.lookNumber) }];
  }),
);
const top = computed(() => Math.max(1, ...panels.value.flatMap((p) => p.slopes.flatMap((s) => [s.before, s.after]))));
/** Plants with nothing left lie on one another at zero, so they are counted. */
function zeros(slopes: readonly Slope[]): number {
  return slopes.filter((slope) => slope.after === 0).length;
}
const wasMissed = (slope: Slope): boolean => props.missed.includes(slope.plant);
const marks = computed(() => axisMarks(top.value));
const when = computed(() => props.trial.looks.find((l) => l.number === props.lookNumber)?.when);
</script>

<template>
  <figure>
    <div class="panels">
      <div v-for="panel in panels" :key="panel.remedy.id" class="panel">
        <div class="row head">
          <PlantTag :letter="panel.remedy.letter" :notches="panel.remedy.notches" :height="30" />
          <strong>{{ panel.remedy.name }}</strong>
        </div>
        <svg
          :viewBox="`-34 -8 ${W + 44} ${H + 34}`"
          role="img"
          :aria-label="`${panel.remedy.name}: ${panel.slopes.map((s) => `${s.plant} from ${s.before} to ${s.after}${wasMissed(s) ? ', as if untreated' : ''}`).join(', ')}`">
          <g v-for="mark in marks" :key="mark">
            <line class="grid" x1="0" :x2="W" :y1="yOf(mark, top, H)" :y2="yOf(mark, top, H)" />
            <text x="-6" :y="yOf(mark, top, H) + 4" text-anchor="end">{{ mark }}</text>
          </g>
          <g v-for="slope in panel.slopes" :key="slope.plantId" :stroke="tagColour(panel.remedy.notches)">
            <line class="slope" x1="6" :x2="W - 6" :y1="yOf(slope.before, top, H)" :y2="yOf(slope.after, top, H)" />
            <circle cx="6" :cy="yOf(slope.before, top, H)" r="3.4" fill="var(--sheet)" />
            <circle :cx="W - 6" :cy="yOf(slope.after, top, H)" r="3.4" :fill="tagColour(panel.remedy.notches)" />
            <circle v-if="wasMissed(slope)" :cx="W - 6" :cy="yOf(slope.after, top, H)" r="7" fill="none" />
          </g>
          <text v-if="zeros(panel.slopes)" class="zeros" :x="W - 14" :y="H - 7" text-anchor="end">{{ zeros(panel.slopes) }} with none</text>
          <text x="6" :y="H + 20" text-anchor="middle">before</text>
          <text :x="W - 6" :y="H + 20" text-anchor="middle">{{ when }}</text>
        </svg>
        <p v-if="panel.slopes.some(wasMissed)" class="small">
          Ringed:
          {{
            panel.slopes
              .filter(wasMissed)
              .map((s) => s.plant)
              .join(", ")
          }}, as if untreated.
        </p>
      </div>
    </div>
    <figcaption class="small soft">{{ trial.measure.label }}: one line for each plant, on a scale on which halving always looks alike.</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

.panels {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: var(--space-4);
}

.head {
  min-height: 42px;
  gap: var(--space-2);
  flex-wrap: nowrap;
}

svg:not(.tag) {
  width: 100%;
  font-family: var(--font);
}

text {
  fill: var(--ink-soft);
  font-size: 12px;
}

.zeros {
  font-weight: 700;
  fill: var(--ink);
}

.grid {
  stroke: var(--hair);
}

.slope {
  stroke-width: 1.6;
}

circle {
  stroke-width: 1.6;
}
</style>
