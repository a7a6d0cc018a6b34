<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { daysShown, layers } from "../../charts/generations";
import { useWidth } from "../../composables/useWidth";
import { dayName, localDay } from "../../words";

/** The generations against the rounds: what the last spray left, and when to come again. */
const props = defineProps<{
  generations: Schemas["GenerationsOut"];
  rounds: readonly { number: number; on: string; sprayed: boolean }[];
  proposed: string | null;
}>();
const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 920);
const wide = computed(() => Math.max(whole.value - 20, 200));
const HEIGHT = 150;
const start = computed(() => localDay(props.generations.days[0] ?? "1970-01-01").getTime());

function dayOf(iso: string | null): number | null {
  return iso === null ? null : Math.round((localDay(iso).getTime() - start.value) / 86_400_000);
}

const later = computed(() => props.rounds.map((r) => ({ ...r, day: dayOf(r.on) ?? 0 })).filter((r) => r.day >= 0));
const days = computed(() => daysShown(dayOf(props.generations.lays_on), Math.max(0, ...later.value.map((r) => r.day))));
const areas = computed(() => layers(props.generations, days.value, wide.value, HEIGHT));
const hatched = computed(() => dayOf(props.generations.hatched_on));
const lays = computed(() => dayOf(props.generations.lays_on));
const wanted = computed(() => dayOf(props.proposed));
/** Days between two marks of the axis: weeks, or fortnights where it is narrow. */
const step = computed(() => (wide.value / days.value < 16 ? 14 : 7));
const ticks = computed(() => Array.from({ length: Math.floor(days.value / step.value) + 1 }, (_, k) => k * step.value));
const x = (day: number) => (wide.value * day) / days.value;
const said = computed(() => {
  const { hatched_on, lays_on } = props.generations;
  const parts = [hatched_on ? `most eggs have hatched by ${dayName(hatched_on)}` : "most eggs have not hatched within two months"];
  parts.push(lays_on ? `their first daughters lay from ${dayName(lays_on)}` : "their daughters do not lay within two months");
  return `What the last spray left: ${parts.join("; ")}.`;
});
function side(day: number): "start" | "end" {
  return day > days.value * 0.7 ? "end" : "start";
}
</script>

<template>
  <figure ref="frame">
    <svg :viewBox="`-10 -48 ${wide + 20} ${HEIGHT + 92}`" :width="wide + 20" :height="HEIGHT + 92" role="img" :aria-label="said">
      <path v-for="area in areas" :key="area.key" :d="area.path" :class="area.key" />
      <template v-if="hatched !== null && lays !== null && lays > hatched">
        <rect class="between" :x="x(hatched)" y="-8" :width="x(lays) - x(hatched)" height="8" />
      </template>
      <g v-if="hatched !== null && hatched <= days" :transform="`translate(${x(hatched)} 0)`">
        <path class="mark" :d="`M0 -8V${HEIGHT}`" />
        <text y="-14" :text-anchor="side(hatched)">most eggs hatched</text>
      </g>
      <g v-if="lays !== null && lays <= days" :transform="`translate(${x(lays)} 0)`">
        <path class="mark" :d="`M0 -8V${HEIGHT}`" />
        <text y="-32" :text-anchor="side(lays)">daughters lay</text>
      </g>
      <g v-for="round in later" :key="round.number" :transform="`translate(${x(round.day)} 0)`">
        <path class="round" :class="{ planned: !round.sprayed }" :d="`M0 0V${HEIGHT + 6}`" />
        <text :y="HEIGHT + 38" :text-anchor="side(round.day)" class="strong">round {{ round.number }}</text>
      </g>
      <g v-if="wanted !== null && wanted <= days" :transform="`translate(${x(wanted)} ${HEIGHT + 4})`">
        <path class="wanted" d="M0 0l-9 14h18z" />
        <text y="34" :text-anchor="side(wanted)" class="strong">proposed</text>
      </g>
      <text v-for="tick in ticks" :key="tick" :x="x(tick)" :y="HEIGHT + 20" class="small" :text-anchor="tick ? 'middle' : 'start'">
        {{ tick ? `+${tick} d` : "spray" }}
      </text>
      <text x="8" :y="HEIGHT - 10" class="in">eggs</text>
      <text v-if="lays !== null" :x="x(Math.min(lays, days)) / 1.6" y="24" class="in on">young</text>
      <text v-if="lays !== null && lays + 3 < days" :x="wide - 8" y="24" class="in" text-anchor="end">grown</text>
    </svg>
    <figcaption>
      {{ said }}<template v-if="generations.safe_stages.length"> The spray does not reach {{ generations.safe_stages.join(" and ") }}.</template>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
}

svg {
  display: block;
  max-width: 100%;
  font-family: var(--font);
}

.eggs {
  fill: var(--well);
  stroke: var(--line);
}

.young {
  fill: var(--trap-wash);
  stroke: var(--line);
}

.grown {
  fill: var(--bad-wash);
  stroke: var(--line);
}

.between {
  fill: var(--good);
}

.mark {
  stroke: var(--ink);
  stroke-dasharray: 3 4;
  stroke-width: 1.5;
}

.round {
  stroke: var(--accent);
  stroke-width: 4;
}

.planned {
  stroke-dasharray: 8 6;
}

.wanted {
  fill: var(--accent);
}

text {
  font-size: 15px;
  fill: var(--ink);
}

.small {
  font-size: 13px;
}

.strong,
.in {
  font-weight: 700;
}
</style>
