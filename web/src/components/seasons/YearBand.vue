<script setup lang="ts">
import { computed, ref } from "vue";
import { RouterLink } from "vue-router";
import type { Schemas } from "../../api/client";
import { tagPath } from "../../charts/tag";
import { months, sizeOf, warmthLine, xOf } from "../../charts/year";
import { useWidth } from "../../composables/useWidth";
import { shown } from "../../units";
import { dayName, localDay } from "../../words";

/** A year as a band: for each pest when it was first seen, this year and before, and what was done. */
const props = defineProps<{ year: Schemas["YearOut"] }>();
const frame = ref<HTMLElement | null>(null);
const width = useWidth(frame, 1080);
const narrow = computed(() => width.value < 640);
const LANE = computed(() => (narrow.value ? 112 : 92)); // names stand above the line where it is narrow
const TOP = 34;
const WARM = 88;

const scale = computed(() => ({
  start: props.year.start,
  days: Math.round((localDay(props.year.end).getTime() - localDay(props.year.start).getTime()) / 86_400_000),
  left: narrow.value ? 8 : 150,
  right: width.value - 12,
}));
const at = (iso: string): number => xOf(scale.value, iso);
const bottom = computed(() => TOP + props.year.lanes.length * LANE.value);
const warm = computed(() => props.year.warmth.length > 0 || props.year.warmth_before.length > 0);
const height = computed(() => bottom.value + (warm.value ? WARM + 14 : 14) + 26);
const running = computed(() => props.year.today < props.year.end);
const most = computed(() => Math.max(1, ...props.year.warmth, ...props.year.warmth_before));
const base = computed(() => bottom.value + WARM);

/** The same day of the year shown: of a first sighting in another year. */
function moved(first: Schemas["FirstOut"]): string {
  const day = localDay(props.year.start);
  day.setDate(day.getDate() + first.day);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}

const lanes = computed(() =>
  props.year.lanes.map((lane, k) => ({
    ...lane,
    y: TOP + (k + 1) * LANE.value - 46,
    before: lane.firsts.map((first) => ({
      ...first,
      x: at(moved(first)),
      size: sizeOf(localDay(props.year.start).getFullYear() - localDay(first.start).getFullYear()),
    })),
  })),
);
/** Words stand left of a mark near the right end. */
const side = (x: number): "start" | "end" => (x > scale.value.right - 170 ? "end" : "start");
const beside = (x: number, gap: number): number => (side(x) === "end" ? x - gap : x + gap);
const warmPath = computed(() => warmthLine(scale.value, props.year.warmth, most.value, base.value, WARM - 12));
const warmEnd = computed(() => scale.value.left + (props.year.warmth.length / scale.value.days) * (scale.value.right - scale.value.left));
</script>

<template>
  <div ref="frame" class="frame">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`The year ${year.name} as a band; the table below says the same.`">
      <g v-for="month in months(scale)" :key="month.x" class="month">
        <path :d="`M${month.x} 20V${base + (warm ? 0 : -WARM)}`" />
        <text :x="month.x + (narrow ? 2 : 6)" y="14">{{ month.name }}</text>
      </g>
      <g v-if="warm" class="warmth">
        <path v-if="year.warmth.length" class="now" :d="`M${scale.left} ${base}${warmPath.replace('M', 'L')}L${warmEnd} ${base}Z`" />
        <path v-if="year.warmth_before.length" class="then" :d="warmthLine(scale, year.warmth_before, most, base, WARM - 12)" />
        <text
          v-if="year.warmth.length"
          :x="Math.max(scale.left + 4, Math.min(warmEnd - 4, scale.right))"
          :y="base - 6"
          :text-anchor="warmEnd > scale.left + 150 ? 'end' : 'start'">
          warmth{{ running ? " so far" : "" }}
        </text>
        <text v-if="year.warmth_before.length && !narrow" :x="scale.right - 4" :y="base - 6" text-anchor="end">the year before, dashed</text>
      </g>
      <path v-if="running" class="today" :d="`M${at(year.today)} 20V${height - 24}`" />
      <g v-if="running" class="flag">
        <rect :x="Math.min(at(year.today) - 26, scale.right - 52)" :y="height - 24" width="52" height="22" rx="3" />
        <text :x="Math.min(at(year.today), scale.right - 26)" :y="height - 8" text-anchor="middle">today</text>
      </g>
      <g v-for="lane in lanes" :key="lane.pest">
        <text class="name" :x="narrow ? scale.left : 0" :y="narrow ? lane.y - 48 : lane.y + 6">{{ lane.name }}</text>
        <path class="line" :d="`M${scale.left} ${lane.y}H${scale.right}`" />
        <g v-if="lane.expected" class="expected">
          <rect
            :x="at(lane.expected.prevent_from)"
            :y="lane.y - 13"
            :width="Math.max(at(lane.expected.on) - at(lane.expected.prevent_from), 4)"
            height="26"
            rx="3" />
          <path :d="`M${at(lane.expected.earliest)} ${lane.y + 17}H${Math.max(at(lane.expected.latest), at(lane.expected.earliest) + 2)}`" />
          <text :x="beside(at(lane.expected.on), 4)" :y="lane.y + 33" :text-anchor="side(at(lane.expected.on))">expected {{ dayName(lane.expected.on) }}</text>
        </g>
        <circle v-for="first in lane.before" :key="first.start" class="before" :cx="first.x" :cy="lane.y" :r="first.size" />
        <g v-if="lane.this" class="seen">
          <circle :cx="at(lane.this.on)" :cy="lane.y" r="9" />
          <text :x="beside(at(lane.this.on), 0)" :y="lane.y + 29" :text-anchor="side(at(lane.this.on))">first seen {{ dayName(lane.this.on) }}</text>
        </g>
        <path v-for="(mark, k) in lane.treated" :key="`t${k}`" class="drop" :d="`M${at(mark.on)} ${lane.y + 32}q-6 9 0 13q6 -4 0 -13`">
          <title>{{ mark.words }}</title>
        </path>
        <g v-for="mark in lane.trials" :key="`r${mark.trial_id}`" class="trial" :transform="`translate(${at(mark.on) - 8} ${lane.y - 40})`">
          <path :d="tagPath(17, 28, 1)" />
          <text v-if="!narrow" :x="side(at(mark.on)) === 'end' ? -6 : 23" y="13" :text-anchor="side(at(mark.on))">{{ mark.words }}</text>
        </g>
      </g>
    </svg>
    <p class="small soft">
      The yellow mark is when it was first seen in {{ year.name }}; rings are years before, smaller the older. A yellow stretch is when to look or to prevent,
      two to four weeks ahead and until it is expected; the line beneath spans the years. Tags are trials, drops are treatments outside them.
    </p>
    <details>
      <summary>The same as a table</summary>
      <div class="wide-table" tabindex="0" role="region" aria-label="First seen by year">
        <table>
          <thead>
            <tr>
              <th scope="col">Pest or disease</th>
              <th scope="col">First seen, year by year</th>
              <th scope="col">Trials</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="lane in lanes" :key="lane.pest">
              <th scope="row">{{ lane.name }}</th>
              <td>
                <span v-for="first in [...lane.firsts, ...(lane.this ? [lane.this] : [])]" :key="first.start" class="once"
                  >{{ dayName(first.on) }} {{ first.on.slice(0, 4) }}, {{ first.place
                  }}<template v-if="first.degree_days !== null">
                    (after {{ Math.round(Number(shown(first.degree_days, "warmer"))) }} degree-days)</template
                  ></span
                >
              </td>
              <td>
                <RouterLink v-for="mark in lane.trials" :key="mark.trial_id ?? 0" class="once" :to="`/trial/${mark.trial_id}/verdict`">{{
                  mark.words
                }}</RouterLink>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  gap: var(--space-2);
  min-width: 0;
}

svg {
  display: block;
  max-width: 100%;
}

text {
  font-size: 13px;
  fill: var(--ink-soft);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
  stroke-linejoin: round;
}

.name {
  font-size: 16px;
  font-weight: 700;
  fill: var(--ink);
}

.month path {
  stroke: var(--hair);
}

.line {
  stroke: var(--line);
  stroke-width: 1.5;
}

.warmth .now {
  fill: var(--trap-wash);
}

.warmth .then {
  fill: none;
  stroke: var(--line);
  stroke-width: 1.5;
  stroke-dasharray: 5 5;
}

.today {
  stroke: var(--accent);
  stroke-width: 3;
}

.flag rect {
  fill: var(--band);
}

.flag text {
  fill: var(--on-band);
  stroke: none;
  font-weight: 700;
}

.expected rect {
  fill: var(--trap);
}

.expected path {
  stroke: var(--ink);
  stroke-width: 2;
}

.before {
  fill: var(--sheet);
  stroke: var(--outline);
  stroke-width: 1.6;
}

.seen circle {
  fill: var(--pest);
  stroke: var(--outline);
  stroke-width: 1.6;
}

.seen text,
.expected text,
.trial text {
  fill: var(--ink);
}

.drop {
  fill: var(--drop);
  stroke: var(--outline);
}

.trial path {
  fill: var(--tag-3);
}

.once {
  display: block;
}
</style>
