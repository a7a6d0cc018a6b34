<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watchPostEffect } from "vue";
import type { Plant } from "../api/client";
import { drawPot } from "../charts/pot";
import { paintPots } from "../charts/potPaint";
import { potInk } from "../composables/usePotInk";
import type { PotShows } from "./BenchPot.vue";

/** What the looks change on the pots of one row, painted above all of them: no leaf is drawn anew. */
const props = defineProps<{
  /** By their place in the row, from 1. */
  plants: ReadonlyMap<number, Plant>;
  places: number;
  /** Between two pots, in pixels. */
  gap: number;
  shows: PotShows;
}>();

const POT = 94;
const INSET = 3;
const width = computed(() => props.places * (POT + props.gap) - props.gap);

const paint = useTemplateRef<HTMLCanvasElement>("paint");
/** A row far from the screen is painted when it comes near. */
const near = ref(true);
const watcher = new IntersectionObserver(
  ([seen]) => {
    if (seen) near.value = seen.isIntersecting;
  },
  { rootMargin: "50%" },
);
onMounted(() => {
  if (paint.value) watcher.observe(paint.value);
});
onBeforeUnmount(() => {
  watcher.disconnect();
});

watchPostEffect(() => {
  const canvas = paint.value;
  if (!canvas || !near.value) return;
  const ink = potInk(canvas);
  const pots = [...props.plants].map(([place, plant]) => ({
    x: (place - 1) * (POT + props.gap) + INSET,
    drawing: drawPot(props.shows.state(plant)),
    figure: props.shows.figure(plant),
    tagged: Boolean(plant.letter),
    soft: plant.set_aside !== null,
    pale: props.shows.pale(plant),
  }));
  paintPots(canvas, { width: width.value, height: ink.height }, pots, ink);
});
</script>

<template>
  <canvas ref="paint" class="paint" aria-hidden="true" :style="{ width: `${width}px` }" />
</template>

<style scoped>
.paint {
  position: absolute;
  top: 0;
  left: 0;
  grid-area: 1 / 2 / 2 / -1;
  height: calc(82px + 1.35rem);
  font-size: var(--text-s);
  pointer-events: none;
}

@media print {
  .paint {
    display: none;
  }
}
</style>
