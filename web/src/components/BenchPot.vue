<script lang="ts">
import type { Plant } from "../api/client";
import type { PotState } from "../charts/pot";

/** What the pots of a bench show; asked for by each pot, so that one look after the other draws pots and no bench. */
export interface PotShows {
  state: (plant: Plant) => PotState;
  /** The number below it. */
  figure: (plant: Plant) => string;
  /** Nothing is counted on it. */
  pale: (plant: Plant) => boolean;
  /** All of it in words. */
  describe: (plant: Plant) => string;
}
</script>

<script setup lang="ts">
import { computed, useTemplateRef, watchPostEffect } from "vue";
import { useAfterPaint } from "../composables/useAfterPaint";
import { usePrinting } from "../composables/usePrinting";
import PlantPot from "./PlantPot.vue";

/** One plant in its place on the bench; a button unless the bench is `still`. */
const props = defineProps<{
  plant: Plant;
  shows: PotShows;
  notches: number | undefined;
  still: boolean;
  draggable: boolean;
  /** Picked up; undefined where no plant can be. */
  lifted: boolean | undefined;
  /** Another plant is held above it. */
  over: boolean;
  shieldRight: boolean;
  shieldBelow: boolean;
  done: boolean;
  current: boolean;
  /** In the block that is pointed at. */
  mate: boolean;
}>();
const state = (): PotState => props.shows.state(props.plant);
const pale = computed(() => props.shows.pale(props.plant));

const printing = usePrinting();

// What the next look changes is set without drawing the place anew (numbers and dots: ShelfPaint).
const pot = useTemplateRef<HTMLElement>("pot");
const words = useAfterPaint(() => props.shows.describe(props.plant), [() => props.plant]);
watchPostEffect(() => pot.value?.setAttribute("aria-label", words.value));
</script>

<template>
  <component
    :is="still ? 'div' : 'button'"
    ref="pot"
    :type="still ? undefined : 'button'"
    :role="still ? 'img' : undefined"
    :aria-pressed="lifted"
    class="pot"
    :data-plant="plant.id"
    :data-at="`${plant.row}/${plant.place}`"
    :draggable="draggable"
    :class="{ over, 'shield-right': shieldRight, 'shield-below': shieldBelow, 'aside': plant.set_aside, done, current, mate }">
    <span class="inside">
      <PlantPot :state="state" :letter="plant.letter" :notches="notches" :pale="pale" />
      <span class="under"
        ><span class="name">{{ plant.name }}</span
        ><span v-if="printing" class="figure">{{ shows.figure(plant) }}</span></span
      >
      <span v-if="plant.block" class="tray">{{ plant.block }}</span>
    </span>
  </component>
</template>

<style scoped>
.pot {
  position: relative;
  height: calc(82px + 1.35rem);
  padding: 0;
  border: 1.5px solid var(--hair);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-s);
  cursor: pointer;
}

.inside {
  display: block;
  height: 100%;
  padding-top: 3px;
}

.inside :deep(.plant) {
  margin: 0 auto;
}

.pot:hover,
.pot.mate {
  border-color: var(--accent);
  background: var(--accent-wash);
}

.pot[draggable="true"] {
  cursor: grab;
}

div.pot {
  cursor: default;
}

.pot[aria-pressed="true"] {
  outline: 3px solid var(--accent);
  background: var(--accent-wash);
}

.shield-right::after,
.shield-below::before {
  content: "";
  position: absolute;
  background: repeating-linear-gradient(var(--ink), var(--ink) 2px, transparent 2px, transparent 4px);
}

.shield-right::after {
  top: 8%;
  bottom: 8%;
  right: calc(-0.5 * var(--gap-x) - 4px);
  width: 5px;
  background: linear-gradient(to right, var(--ink) 2px, transparent 2px 3px, var(--ink) 3px);
}

.shield-below::before {
  left: 8%;
  right: 8%;
  bottom: calc(-0.5 * var(--gap-y) - 10px);
  height: 5px;
  background: linear-gradient(var(--ink) 2px, transparent 2px 3px, var(--ink) 3px);
}

.pot.current {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 2px var(--accent);
}

.pot.aside {
  background: transparent;
  border-style: dashed;
  border-color: var(--line);
  color: var(--ink-soft);
}

.pot.done {
  background: var(--trap-wash);
}

.under {
  display: block;
  position: relative;
  margin: 1px auto 0;
  width: 88px;
  height: 1.2rem;
  line-height: 1.2rem;
}

.name {
  position: absolute;
  left: 3px;
  font-weight: 650;
}

.figure {
  position: absolute;
  right: 3px;
  font-weight: 500;
  font-variant-numeric: tabular-nums;
  text-align: right;
}

.tray {
  position: absolute;
  top: 2px;
  right: 5px;
  font-size: 0.72rem;
  color: var(--ink-soft);
}

.over {
  outline: 3px dashed var(--accent);
}
</style>
