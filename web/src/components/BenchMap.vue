<script setup lang="ts">
import { computed, ref } from "vue";
import type { Course, Plant } from "../api/client";
import { figureOf, sayPot } from "../charts/pot";
import { tagName, tagsByLetter } from "../charts/tag";
import { usePots, type BenchOf } from "../composables/usePots";
import { useRoving } from "../composables/useRoving";
import BenchAir from "./BenchAir.vue";
import BenchPot, { type PotShows } from "./BenchPot.vue";
import BenchTime from "./BenchTime.vue";
import ShelfPaint from "./ShelfPaint.vue";

/** The plants where they stand, seen from above; a plant is a button unless the map is `still`. */
const props = defineProps<{
  trial: BenchOf;
  /** What the pots show: the match count, a look's counts, or what is counted now and is done. */
  figure: "match" | "course" | "done";
  /** The numbers of every plant, for the figure "course"; a slider goes through the looks. */
  course?: Course | null;
  /** What is counted on each plant at this moment, for the figure "done". */
  now?: ReadonlyMap<number, number | null>;
  done?: ReadonlySet<number>;
  current?: number | null;
  /** Plants can be moved: dragged, picked up by a click and put down by another, or with Alt and the arrow keys. */
  movable?: boolean;
  /** A picture only: nothing happens at a click. */
  still?: boolean;
}>();
const emit = defineEmits<{ pick: [plant: Plant]; move: [plant: Plant, row: number, place: number] }>();

const dragged = ref<Plant | null>(null);
const lifted = ref<Plant | null>(null);
const bench = ref<HTMLElement | null>(null);
useRoving(bench, "button.pot");

/** The plant or the free place that something happens at: told by the bench, for two hundred pots. */
function placeOf(event: Event): { row: number; place: number; plant: Plant | undefined } | null {
  const at = (event.target as Element).closest<HTMLElement>("[data-at]")?.dataset["at"];
  if (!at) return null;
  const [row = 0, place = 0] = at.split("/").map(Number);
  return { row, place, plant: props.trial.plants.find((p) => p.row === row && p.place === place) };
}

function onClick(event: Event): void {
  const at = placeOf(event);
  if (!at || props.still) return;
  if (at.plant) press(at.plant);
  else putDown(at.row, at.place);
}

function onPoint(event: Event): void {
  pointed.value = placeOf(event)?.plant?.block ?? null;
}

function onOver(event: DragEvent): void {
  const at = placeOf(event);
  if (!at) return;
  event.preventDefault();
  over.value = `${at.row}/${at.place}`;
}

function onDrop(event: DragEvent): void {
  const at = placeOf(event);
  if (!at) return;
  event.preventDefault();
  drop(at.row, at.place);
}

/** A click picks a plant up, the next puts it down there; Escape leaves it where it was. */
function press(plant: Plant): void {
  if (!props.movable) emit("pick", plant);
  else if (!lifted.value) lifted.value = plant;
  else putDown(plant.row, plant.place);
}

function putDown(row: number, place: number): void {
  const plant = lifted.value;
  lifted.value = null;
  if (plant && (plant.row !== row || plant.place !== place)) emit("move", plant, row, place);
}
const over = ref<string | null>(null);

function arrow(event: KeyboardEvent): void {
  const plant = placeOf(event)?.plant;
  const step = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key];
  if (!plant || !props.movable || !event.altKey || !step) return;
  event.preventDefault();
  const row = plant.row + (step[0] ?? 0);
  const place = plant.place + (step[1] ?? 0);
  if (row >= 1 && place >= 1) emit("move", plant, row, place);
}

function drop(row: number, place: number): void {
  if (dragged.value) emit("move", dragged.value, row, place);
  dragged.value = null;
  over.value = null;
}

/** Gaps drawn to the real spacing: a third of a pixel for each centimetre, within what can be read. */
const gapX = computed(() => Math.min(Math.max((props.trial.setup.place_cm ?? 40) * 0.22, 4), 34));
const gapY = computed(() => Math.min(Math.max((props.trial.setup.row_cm ?? 60) * 0.22, 4), 44));
const shielded = computed(() => {
  const at = new Map(props.trial.plants.map((p) => [p.id, p]));
  const right = new Set<number>();
  const below = new Set<number>();
  for (const { one, other } of props.trial.shields) {
    const [a, b] = [at.get(one), at.get(other)];
    if (!a || !b) continue;
    if (a.row === b.row) right.add(a.place < b.place ? a.id : b.id);
    else below.add(a.row < b.row ? a.id : b.id);
  }
  return { right, below };
});

const rows = computed(() => {
  const byRow = new Map<number, Map<number, Plant>>();
  for (const plant of props.trial.plants) {
    const row = byRow.get(plant.row) ?? new Map<number, Plant>();
    byRow.set(plant.row, row.set(plant.place, plant));
  }
  return [...byRow].sort((a, b) => a[0] - b[0]);
});
const places = computed(() => Math.max(1, ...props.trial.plants.map((p) => p.place)));
const tags = computed(() => tagsByLetter(props.trial));
const pointed = ref<number | null>(null);

const looks = usePots(props);
const { stateOf, shownLook, valueOf } = looks;

/** Where sun and wind mostly come from, where somebody said. */
const airs = computed(() => {
  const { sun_side: sun, wind_side: wind } = props.trial.care?.spot ?? {};
  return [
    { what: "sun" as const, side: sun },
    { what: "wind" as const, side: wind },
  ].flatMap(({ what, side }) => (side && side !== "none" ? [{ what, side }] : []));
});

function figure_(plant: Plant): string {
  return numberOf(plant) + (props.done?.has(plant.id) ? " ✓" : "");
}

function numberOf(plant: Plant): string {
  const value = valueOf(plant);
  if (plant.set_aside) return "aside";
  if (value === null) return "–";
  if (props.trial.measure.scale === "percent") return `${figureOf(value)}%`;
  return props.trial.measure.scale === "share" && props.figure === "course" ? `${Math.round(100 * value)}%` : figureOf(value);
}

function isPale(plant: Plant): boolean {
  return plant.set_aside !== null || valueOf(plant) === null;
}

function describe(plant: Plant): string {
  const parts = [plant.name];
  if (plant.set_aside) parts.push(`set aside: ${plant.set_aside}`);
  else if (plant.block !== null) {
    const tag = tags.value.get(plant.letter ?? "");
    parts.push(`block ${plant.block}`, tagName(tag?.letter, tag?.notches));
  }
  if (props.figure === "match" && plant.match_count !== null) parts.push(`match count ${plant.match_count}`);
  if (props.figure === "course" && shownLook.value && !plant.set_aside) parts.push(...sayPot(stateOf(plant)));
  if (props.figure === "done") parts.push(props.done?.has(plant.id) ? "done" : "to do");
  return parts.join(", ");
}

// Functions, so that each pot asks for its own and is drawn anew alone.
const shows: PotShows = { state: stateOf, figure: figure_, pale: isPale, describe };
</script>

<template>
  <div
    ref="bench"
    class="bench"
    :style="{ '--places': places, '--gap-x': `${gapX}px`, '--gap-y': `${gapY}px` }"
    :role="still ? 'group' : 'toolbar'"
    :tabindex="still ? 0 : undefined"
    aria-label="The bench, seen from above"
    @click="onClick"
    @keydown="arrow"
    @keydown.escape="lifted = null"
    @dragstart="dragged = placeOf($event)?.plant ?? null"
    @dragend="dragged = null"
    @dragover="onOver"
    @drop="onDrop"
    @mouseover="onPoint"
    @mouseleave="pointed = null"
    @focusin="onPoint"
    @focusout="pointed = null">
    <div v-for="[row, plants] in rows" :key="row" class="shelf">
      <span class="row-name" aria-hidden="true">{{ row }}</span>
      <template v-for="place in places" :key="place">
        <BenchPot
          v-if="plants.get(place)"
          :plant="plants.get(place)!"
          :shows="shows"
          :notches="tags.get(plants.get(place)!.letter ?? '')?.notches"
          :still="still"
          :draggable="movable"
          :lifted="movable ? lifted?.id === plants.get(place)!.id : undefined"
          :over="over === `${row}/${place}`"
          :shield-right="shielded.right.has(plants.get(place)!.id)"
          :shield-below="shielded.below.has(plants.get(place)!.id)"
          :done="done?.has(plants.get(place)!.id) ?? false"
          :current="current === plants.get(place)!.id"
          :mate="pointed !== null && plants.get(place)!.block === pointed" />
        <span v-else class="gap" :data-at="`${row}/${place}`" :class="{ over: over === `${row}/${place}`, free: lifted }" />
      </template>
      <ShelfPaint :plants="plants" :places="places" :gap="gapX" :shows="shows" />
    </div>
    <p v-if="airs.length" class="airs small"><BenchAir v-for="air in airs" :key="air.what" :what="air.what" :side="air.side" /></p>
    <BenchTime v-if="figure === 'course'" :looks="looks" />
    <p v-if="lifted" class="lifted" role="status">{{ lifted.name }} is picked up: press the place where it goes, or Escape.</p>
  </div>
</template>

<style scoped>
/* On paper nothing scrolls: a long row is drawn smaller. */
@media print {
  .bench {
    overflow: visible;
    zoom: 0.6;
  }
}

.bench {
  display: grid;
  gap: var(--gap-y);
  overflow-x: auto;
  padding: 4px 4px var(--space-2);
}

.shelf {
  position: relative;
  display: grid;
  grid-template-columns: 1.2em repeat(var(--places), 94px);
  gap: var(--gap-x);
  align-items: stretch;
  padding: 6px;
  background: var(--well);
  border-radius: var(--radius-m);
  width: max-content;
}

.row-name {
  align-self: center;
  color: var(--ink-soft);
  font-size: var(--text-s);
}

.gap {
  border-radius: var(--radius-m);
}

.lifted {
  position: sticky;
  bottom: 0;
  padding: var(--space-2);
  background: var(--trap-wash);
}

.free {
  outline: 2px dashed var(--line);
  cursor: pointer;
}

.over {
  outline: 3px dashed var(--accent);
}
</style>
