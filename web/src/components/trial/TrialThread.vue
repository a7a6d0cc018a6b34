<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import type { Station } from "../../api/client";
import { knots, threadPath } from "../../charts/thread";

const props = defineProps<{
  stations: readonly Station[];
  trialId: number;
  current?: string;
  small?: boolean;
}>();

const WIDTH = 1000;
const y = computed(() => (props.small ? 14 : 22));
const height = computed(() => (props.small ? 30 : 46));
const places = computed(() => knots(props.stations.length, WIDTH, y.value, WIDTH / (2 * props.stations.length)));
const reached = computed(() => props.stations.filter((s) => s.state !== "later").length);
const states = {
  done: "done",
  next: "next step",
  frayed: "done, not quite as planned",
  later: "later",
} as const;
</script>

<template>
  <component :is="small ? 'div' : 'nav'" class="thread" :class="{ small }" :aria-label="small ? undefined : 'Stations of this trial'">
    <svg :viewBox="`0 0 ${WIDTH} ${height}`" preserveAspectRatio="none" :height="height" aria-hidden="true">
      <template v-for="(place, k) in places" :key="k">
        <path v-if="k > 0" :d="threadPath(places[k - 1]!, place, small ? 6 : 12)" :class="k < reached ? 'spun' : 'loose'" />
      </template>
    </svg>
    <ol :style="{ '--count': stations.length }">
      <li v-for="(station, k) in stations" :key="station.key" :class="station.state">
        <component
          :is="small ? 'span' : RouterLink"
          :to="small ? undefined : `/trial/${trialId}/${station.key}`"
          :aria-current="current === station.key ? 'step' : undefined">
          <svg class="knot" width="30" height="30" viewBox="-13 -13 26 26" aria-hidden="true">
            <g v-if="station.state === 'frayed'" class="ends">
              <path d="M6 -6L13 -12M8 0L15 0M6 6L13 12" />
            </g>
            <path
              v-if="station.state === 'done' || station.state === 'frayed'"
              class="tied"
              d="M-9 0C-9 -9 5 -9 5 0C5 9 -9 9 -9 0ZM-5 0C-5 -9 9 -9 9 0C9 9 -5 9 -5 0Z" />
            <circle v-else r="7.5" class="loop" />
          </svg>
          <template v-if="!small">
            <span class="title"
              >{{ station.title }} <span class="key" aria-hidden="true">{{ k + 1 }}</span></span
            >
            <span class="line">{{ station.line }}</span>
          </template>
          <span class="visually-hidden">{{ small ? station.title : "" }} ({{ states[station.state] }})</span>
        </component>
      </li>
    </ol>
  </component>
</template>

<style scoped>
.thread {
  position: relative;
}

.thread > svg {
  position: absolute;
  inset: 0 0 auto;
  width: 100%;
}

.thread > svg path {
  fill: none;
  stroke-width: 3;
  vector-effect: non-scaling-stroke;
}

.spun {
  stroke: var(--accent);
}

.loose {
  stroke: var(--line);
  stroke-dasharray: 2 6;
}

ol {
  position: relative;
  display: grid;
  grid-template-columns: repeat(var(--count), minmax(0, 1fr));
  margin: 0;
  padding: 0;
  list-style: none;
}

li > * {
  display: grid;
  justify-items: center;
  gap: 2px;
  padding: 7px 4px var(--space-2);
  color: inherit;
  text-align: center;
  text-decoration: none;
  border-radius: var(--radius-m);
}

.small li > * {
  padding: 0;
  height: 30px;
}

.small .knot {
  width: 22px;
  height: 22px;
  margin-top: 3px;
}

.tied {
  fill: var(--accent);
  stroke: var(--paper);
  stroke-width: 1.2;
}

.loop {
  fill: var(--paper);
  stroke: var(--line);
  stroke-width: 3;
}

.next .loop {
  fill: var(--trap);
  stroke: var(--accent);
}

.ends path {
  stroke: var(--warn);
  stroke-width: 2.5;
  stroke-linecap: round;
}

.title {
  font-size: 0.95rem;
  font-weight: 700;
  white-space: nowrap;
}

.later .title {
  font-weight: 500;
}

.line {
  font-size: var(--text-s);
  color: var(--ink-soft);
}

[aria-current="step"] .title {
  box-shadow: inset 0 -0.5em 0 var(--trap-wash);
}

@media (width < 820px) {
  .title {
    white-space: normal;
  }
}

@media (width < 640px) {
  .line,
  .title .key {
    display: none;
  }

  .thread:not(.small) .title {
    font-size: 0.66rem;
    line-height: 1.15;
    white-space: normal;
  }

  .thread:not(.small) li > * {
    min-height: 64px;
    padding-inline: 0;
  }
}
</style>
