<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import type { Schemas } from "../../api/client";
import { biasX, biasTicks } from "../../charts/practice";
import { dayName, plural } from "../../words";

/** How somebody counts: what share is found, session by session, and what would help. */
const props = defineProps<{ title: string; error: Schemas["CounterErrorOut"]; sessions?: Schemas["SessionErrorOut"][] }>();
const percent = (share: number): string => `${Math.round(100 * share)}%`;
const says = computed(() => {
  const { bias, bias_low: low, bias_high: high, spread, leaves } = props.error;
  if (bias === null || low === null || high === null) return `${plural(leaves, "leaf", "leaves")} so far: from six on it can be told.`;
  return `Of 100 live ones ${Math.round(100 * bias)} are counted (${Math.round(100 * low)} to ${Math.round(100 * high)}; ${plural(leaves, "leaf", "leaves")})${spread === null ? "" : `; a single leaf is off by a further ${percent(Math.expm1(spread))} up or down`}.`;
});
const others = computed(() =>
  [
    ...Object.entries(props.error.found).map(([stage, share]) => `${stage}: ${percent(share)} found`),
    props.error.dead_taken === null ? "" : `dead taken for live: ${percent(props.error.dead_taken)}`,
    props.error.seconds === null ? "" : `${plural(Math.round(props.error.seconds), "second")} a leaf`,
  ]
    .filter(Boolean)
    .join(" · "),
);
const told = computed(() => (props.sessions ?? []).filter((s) => s.error.bias !== null));
const rows = computed(() =>
  told.value.map((s) => ({ ...s, x: biasX(s.error.bias ?? 1), low: biasX(s.error.bias_low ?? 1), high: biasX(s.error.bias_high ?? 1) })),
);
</script>

<template>
  <section class="sheet stack">
    <h2>{{ title }}</h2>
    <p>
      <strong>{{ says }}</strong>
    </p>
    <p v-if="others" class="small soft">{{ others }}</p>
    <ul v-if="error.advice.length" class="bare">
      <li v-for="advice in error.advice" :key="advice.code" class="notice small">{{ advice.text }}</li>
    </ul>
    <p v-else-if="error.bias !== null" class="small good">Nothing to better that these leaves could tell.</p>
    <figure v-if="rows.length > 1">
      <figcaption class="small">Live ones counted of those there are, spell by spell</figcaption>
      <svg
        :viewBox="`0 0 400 ${34 + 22 * rows.length}`"
        role="img"
        :aria-label="rows.map((r) => `${dayName(r.begun_at.slice(0, 10))}: ${percent(r.error.bias ?? 1)}`).join('; ')">
        <g v-for="tick in biasTicks" :key="tick">
          <line :x1="biasX(tick)" :x2="biasX(tick)" y1="4" :y2="10 + 22 * rows.length" :class="tick === 1 ? 'whole' : 'tick'" />
          <text :x="biasX(tick)" :y="26 + 22 * rows.length">{{ percent(tick) }}</text>
        </g>
        <g v-for="(row, k) in rows" :key="row.id">
          <line :x1="row.low" :x2="row.high" :y1="16 + 22 * k" :y2="16 + 22 * k" class="band" />
          <circle :cx="row.x" :cy="16 + 22 * k" r="6" />
        </g>
      </svg>
    </figure>
    <p v-if="sessions?.length" class="small">
      Spells:
      <template v-for="(s, k) in sessions" :key="s.id"
        ><template v-if="k">, </template><RouterLink :to="`/practice/${s.id}`">{{ dayName(s.begun_at.slice(0, 10)) }}</RouterLink></template
      >
    </p>
  </section>
</template>

<style scoped>
.good {
  color: var(--good);
}

figure {
  margin: 0;
  max-width: 480px;
}

svg {
  display: block;
  width: 100%;
}

.tick {
  stroke: var(--hair);
}

.whole {
  stroke: var(--ink);
  stroke-width: 2;
}

.band {
  stroke: var(--accent);
  stroke-width: 8;
  opacity: 0.35;
}

circle {
  fill: var(--accent);
}

text {
  fill: var(--ink-soft);
  font-size: 13px;
  text-anchor: middle;
}
</style>
