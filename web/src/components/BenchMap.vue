<script setup lang="ts">
import { computed, ref } from "vue";
import type { Course, Plant, Trial } from "../api/client";
import { figureOf, sayPot } from "../charts/pot";
import { tagName, tagsByLetter } from "../charts/tag";
import { usePots } from "../composables/usePots";
import { useRoving } from "../composables/useRoving";
import BenchAir from "./BenchAir.vue";
import PlantPot from "./PlantPot.vue";

/** The plants where they stand, seen from above; a plant is a button unless the map is `still`. */
const props = defineProps<{
  trial: Trial;
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

function arrow(event: KeyboardEvent, plant: Plant): void {
  const step = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key];
  if (!props.movable || !event.altKey || !step) return;
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

const { pots, counted, chosen, shownLook, valueOf } = usePots(props);

/** Where sun and wind mostly come from, where somebody said. */
const airs = computed(() => {
  const { sun_side: sun, wind_side: wind } = props.trial.care?.spot ?? {};
  return [{ what: "sun" as const, side: sun }, { what: "wind" as const, side: wind }].flatMap(({ what, side }) => (side && side !== "none" ? [{ what, side }] : []));
});

function figure_(plant: Plant): string {
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
  const state = pots.value.get(plant.id);
  if (props.figure === "course" && state && shownLook.value && !plant.set_aside) parts.push(...sayPot(state));
  if (props.figure === "done") parts.push(props.done?.has(plant.id) ? "done" : "to do");
  return parts.join(", ");
}
</script>

<template>
  <div ref="bench" class="bench" :style="{ '--places': places, '--gap-x': `${gapX}px`, '--gap-y': `${gapY}px` }" role="group" aria-label="The bench, seen from above" @keydown.escape="lifted = null">
    <div v-for="[row, plants] in rows" :key="row" class="shelf">
      <span class="row-name" aria-hidden="true">{{ row }}</span>
      <template v-for="place in places" :key="place">
        <component
          :is="still ? 'div' : 'button'"
          v-if="plants.get(place)"
          :type="still ? undefined : 'button'"
          :role="still ? 'img' : undefined"
          :aria-pressed="movable ? lifted?.id === plants.get(place)!.id : undefined"
          class="pot"
          :data-plant="plants.get(place)!.id"
          :draggable="movable"
          :class="{
            over: over === `${row}/${place}`,
            'shield-right': shielded.right.has(plants.get(place)!.id),
            'shield-below': shielded.below.has(plants.get(place)!.id),
            aside: plants.get(place)!.set_aside,
            done: done?.has(plants.get(place)!.id),
            current: current === plants.get(place)!.id,
            mate: pointed !== null && plants.get(place)!.block === pointed,
          }"
          :aria-label="describe(plants.get(place)!)"
          @click="still || press(plants.get(place)!)"
          @keydown="arrow($event, plants.get(place)!)"
          @dragstart="dragged = plants.get(place)!"
          @dragend="dragged = null"
          @dragover.prevent="over = `${row}/${place}`"
          @drop.prevent="drop(row, place)"
          @mouseenter="pointed = plants.get(place)!.block"
          @mouseleave="pointed = null"
          @focus="pointed = plants.get(place)!.block"
          @blur="pointed = null"
        >
          <span class="inside">
          <PlantPot :state="pots.get(plants.get(place)!.id)!" :letter="plants.get(place)!.letter" :notches="tags.get(plants.get(place)!.letter ?? '')?.notches" :pale="isPale(plants.get(place)!)" />
          <span class="under"><span class="name">{{ plants.get(place)!.name }}</span><span class="figure">{{ figure_(plants.get(place)!) }}<template v-if="done?.has(plants.get(place)!.id)"> ✓</template></span></span>
          <span v-if="plants.get(place)!.block" class="tray">{{ plants.get(place)!.block }}</span>
          </span>
        </component>
        <span v-else class="gap" :class="{ over: over === `${row}/${place}`, free: lifted }" @click="putDown(row, place)" @dragover.prevent="over = `${row}/${place}`" @drop.prevent="drop(row, place)" />
      </template>
    </div>
    <p v-if="airs.length" class="airs small"><BenchAir v-for="air in airs" :key="air.what" :what="air.what" :side="air.side" /></p>
    <label v-if="figure === 'course' && counted.length > 1" class="time no-print">
      <span>{{ shownLook?.number ? `Look ${shownLook.number}, ${shownLook.when}` : "Before" }}</span>
      <input type="range" min="0" :max="counted.length - 1" :value="chosen ?? counted.length - 1" :aria-valuetext="shownLook?.number ? shownLook.when : 'before'" @input="chosen = Number(($event.target as HTMLInputElement).value)" />
    </label>
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

.pot {
  position: relative;
  /* Of one size, and what changes inside is laid out there alone: two hundred are drawn anew at once. */
  height: calc(82px + 1.35rem);
  contain: size layout style;
  padding: 0;
  border: 1.5px solid var(--hair);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-s);
  cursor: pointer;
}

/* What is out of sight is not drawn; shields stand outside of it. */
.inside {
  display: grid;
  justify-items: center;
  align-content: center;
  gap: 1px;
  height: 100%;
  padding: 3px;
  content-visibility: auto;
}

.pot:hover,
.pot.mate {
  border-color: var(--accent);
  background: var(--accent-wash);
}

.pot[draggable="true"] {
  cursor: grab;
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

div.pot {
  cursor: default;
}

.pot[aria-pressed="true"] {
  outline: 3px solid var(--accent);
  background: var(--accent-wash);
}

.over {
  outline: 3px dashed var(--accent);
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
  position: relative;
  width: 88px;
  height: 1.2rem;
  contain: strict;
  content-visibility: auto;
  line-height: 1.2rem;
}

.under .name {
  position: absolute;
  left: 3px;
}

.under .figure {
  position: absolute;
  right: 3px;
}

.time {
  position: sticky;
  left: 0;
  display: grid;
  grid-template-columns: 10em minmax(120px, 320px);
  align-items: center;
  gap: var(--space-3);
  min-height: var(--touch);
  font-weight: 650;
}

.time input {
  accent-color: var(--accent);
  min-height: 32px;
}

.name {
  font-weight: 650;
}

.figure {
  font-weight: 500;
  font-variant-numeric: tabular-nums;
}

.tray {
  position: absolute;
  top: 2px;
  right: 5px;
  font-size: 0.72rem;
  color: var(--ink-soft);
}
</style>
