<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { heaps, alongHeaps } from "../../charts/heaps";
import { percent } from "../../charts/efficacy";
import { useWidth } from "../../composables/useWidth";

/** Many gardens as dots on a line, done without the thing and with it; those that mislead are filled. */
const props = defineProps<{ lesson: Schemas["LessonOut"] }>();

const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 640);
const HEIGHT = 104;
const rows = computed(() => {
  const { about, without, with_, limit, either_way } = props.lesson;
  const named = {
    control: [
      ["by its own plants alone", without],
      ["against untreated plants", with_],
    ],
    lot: [
      ["each remedy its own part of the bench", without],
      ["places drawn by lot", with_],
    ],
    wait: [["a day after the first spray", without]],
  } as const;
  return named[about].map(([name, values]) => ({ name, dots: heaps(values, whole.value, HEIGHT - 34, (v) => (either_way ? Math.abs(v) : v) > limit) }));
});
const MARKS = [-0.5, 0, 0.5];
</script>

<template>
  <figure ref="frame" class="stack">
    <p>{{ lesson.says }}</p>
    <div v-for="row in rows" :key="row.name">
      <p class="small">
        <strong>{{ row.name.charAt(0).toUpperCase() + row.name.slice(1) }}</strong>
      </p>
      <svg
        :width="whole"
        :height="HEIGHT"
        role="img"
        :aria-label="`${lesson.asks}, ${row.name}: ${row.dots.filter((d) => d.fooled).length} of ${row.dots.length} gardens mislead`">
        <line class="rail" x1="0" :x2="whole" :y1="HEIGHT - 26" :y2="HEIGHT - 26" />
        <template v-for="mark in MARKS" :key="mark">
          <line class="rail" :x1="whole * alongHeaps(mark)" :x2="whole * alongHeaps(mark)" :y1="HEIGHT - 26" :y2="HEIGHT - 20" />
          <text :x="whole * alongHeaps(mark)" :y="HEIGHT - 4" text-anchor="middle">{{ mark > 0 ? "+" : "" }}{{ percent(mark) }}</text>
        </template>
        <circle v-for="(dot, k) in row.dots" :key="k" :cx="dot.x" :cy="dot.y" r="3" :class="{ fooled: dot.fooled }" />
      </svg>
    </div>
    <figcaption class="small soft">{{ lesson.asks }}. Each dot is a garden; dark ones mislead.</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
  gap: var(--space-3);
  overflow: hidden;
}

svg {
  display: block;
  font-family: var(--font);
}

.rail {
  stroke: var(--line);
}

circle {
  fill: var(--sheet);
  stroke: var(--line);
}

.fooled {
  fill: var(--accent);
  stroke: var(--accent);
}

text {
  fill: var(--ink-soft);
  font-size: 14px;
}
</style>
