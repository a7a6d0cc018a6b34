<script setup lang="ts">
import { computed, ref } from "vue";
import { RouterLink } from "vue-router";
import type { Schemas } from "../../api/client";
import { floorName, fewer, percent, xOf } from "../../charts/efficacy";
import { tagColour, tagPath } from "../../charts/tag";
import { inUnits } from "../../units";
import { useWidth } from "../../composables/useWidth";

/** What is known of one remedy: a line for each trial, and beneath them all together and the next. */
const props = defineProps<{ remedy: Schemas["KnownRemedyOut"]; floor: number }>();
const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 600);
const EDGE = 10;
const HIGH = 30;
const TAG = { width: 15, height: 26 };
const plot = computed(() => Math.max(whole.value, 200));
const x = (share: number): number => EDGE + xOf(Math.max(share, props.floor), plot.value - 2 * EDGE, props.floor);
/** In which weather it was: warmth on the mean, and rain. */
function weather(trial: Schemas["KnownTrialOut"]): string {
  const told = [
    typeof trial.warmth === "number" ? `${Math.round(trial.warmth)} °C` : "",
    typeof trial.rain === "number" ? `${Math.round(trial.rain)} mm of rain` : "",
  ].filter(Boolean);
  const leaves = typeof trial.damage === "number" ? `; leaves ${trial.damage >= 0.05 ? `+${trial.damage.toFixed(1)} steps` : "as untreated"}` : "";
  return `${leaves}${told.length ? `; ${inUnits(told.join(", "))}` : ""}`;
}
const month = new Intl.DateTimeFormat("en-GB", { month: "short", year: "numeric" });
</script>

<template>
  <article class="known" :class="{ out: remedy.harmed }">
    <h3>
      {{ remedy.name }}<span v-if="remedy.strength" class="soft">, {{ inUnits(remedy.strength) }}</span>
    </h3>
    <p>{{ remedy.words }}</p>
    <ul>
      <li v-for="(trial, k) in remedy.trials" :key="k">
        <span class="of">
          <RouterLink v-if="trial.trial_id !== null" :to="`/trial/${trial.trial_id}/verdict`">{{ trial.name }}</RouterLink><span v-else
            >{{ trial.garden }}: {{ trial.name }}</span
          >
          <span class="small soft"
            >{{ month.format(Date.parse(trial.on)) }}{{ trial.crop ? `, ${trial.crop}` : "" }}: {{ fewer(trial.efficacy)
            }}{{ trial.best ? ", the best there" : "" }}{{ weather(trial) }}<strong v-if="trial.out" class="harm">{{ " " }}harmed the plants</strong></span
          >
        </span>
        <svg :width="plot" :height="HIGH" :class="{ harmed: trial.out }" aria-hidden="true">
          <line class="nothing" :x1="x(0)" :x2="x(0)" y1="0" :y2="HIGH" />
          <line class="reach" :x1="x(trial.low)" :x2="x(trial.high)" :y1="HIGH / 2" :y2="HIGH / 2" />
          <path
            class="trial"
            :transform="`translate(${x(trial.efficacy) - TAG.width / 2} ${(HIGH - TAG.height) / 2})`"
            :d="tagPath(TAG.width, TAG.height, trial.notches ?? 0)"
            :style="{ fill: tagColour(trial.notches) }" />
        </svg>
      </li>
      <li>
        <span class="of small">All together, and another trial (dotted)</span>
        <div ref="frame">
          <svg
            :width="plot"
            :height="HIGH + 22"
            role="img"
            :aria-label="`${percent(remedy.efficacy)} removed, likely ${percent(remedy.low)} to ${percent(remedy.high)}`">
            <line class="nothing" :x1="x(0)" :x2="x(0)" y1="0" :y2="HIGH" />
            <line class="next" :x1="x(remedy.next_low)" :x2="x(remedy.next_high)" :y1="HIGH / 2" :y2="HIGH / 2" />
            <rect class="all" :x="x(remedy.low)" :y="HIGH / 2 - 7" :width="Math.max(x(remedy.high) - x(remedy.low), 3)" height="14" rx="7" />
            <text v-if="plot > 480" class="scale" :x="x(floor)" :y="HIGH + 16">{{ floorName(floor) }}</text>
            <text class="scale" :x="x(0)" :y="HIGH + 16" text-anchor="middle">as untreated</text>
            <text class="scale" :x="x(1)" :y="HIGH + 16" text-anchor="end">all gone</text>
          </svg>
        </div>
      </li>
    </ul>
  </article>
</template>

<style scoped>
.known {
  display: grid;
  gap: var(--space-2);
  padding-block: var(--space-4);
  border-top: 1px solid var(--hair);
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 0 var(--space-4);
  align-items: start;
}

.of {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-2);
  align-items: baseline;
}

svg {
  display: block;
  font-family: var(--font);
}

.nothing {
  stroke: var(--line);
  stroke-width: 2;
}

.reach {
  stroke: var(--accent);
  stroke-width: 2;
}

.trial {
  stroke: var(--sheet);
  stroke-width: 1;
}

.harmed .reach {
  stroke: var(--bad);
}

.harmed .trial {
  stroke: var(--bad);
  stroke-width: 3;
}

.next {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 3 5;
}

.all {
  fill: var(--leaf);
  stroke: var(--outline);
}

.out .all {
  fill: var(--line);
}

.scale {
  fill: var(--ink-soft);
  font-size: 13px;
}

.harm {
  color: var(--bad);
}

@media (width < 820px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
