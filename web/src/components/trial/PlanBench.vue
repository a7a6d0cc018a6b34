<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import type { PotState } from "../../charts/pot";
import { partsOf, type Rows } from "../../question";
import { readNumber } from "../../words";
import PlantPot from "../PlantPot.vue";

/** The plants of a plan as they stand, each with the quick count that matches like with like. */
const bench = defineModel<Rows>({ required: true });
const props = defineProps<{ count: number; rows: number; prefix: string; habit: Schemas["Habit"] | null; what: string }>();

/** Numbers of the plants, row by row. */
const shelves = computed(() => {
  let next = 1;
  return partsOf(props.count, props.rows).flatMap(({ rows, per_row }) => Array.from({ length: rows }, () => Array.from({ length: per_row }, () => next++)));
});

function state(k: number): PotState {
  return { id: k, size: 1, count: readNumber(bench.value.counts[k - 1] ?? "") ?? null, cover: null, damage: null, fresh: false, habit: props.habit };
}

/** Enter walks along the bench. */
function onward(event: KeyboardEvent): void {
  const fields = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLInputElement>("input")];
  const next = fields[fields.indexOf(event.target as HTMLInputElement) + 1];
  event.preventDefault();
  next?.focus();
  next?.select();
}

function keep(k: number, text: string): void {
  bench.value.counts[k - 1] = text;
}
</script>

<template>
  <section class="stack" aria-label="Your plants">
    <h2>Your plants</h2>
    <div class="shelves" role="region" aria-label="The bench" tabindex="0" @keydown.enter.exact="onward">
      <div v-for="(shelf, row) in shelves" :key="row" class="shelf" :style="{ gridTemplateColumns: `repeat(${shelf.length}, minmax(42px, 78px))` }">
        <label v-for="k in shelf" :key="k" class="place">
          <PlantPot class="pot" :state="() => state(k)" :letter="null" :notches="undefined" pale />
          <span class="small">{{ prefix }}{{ k }}</span>
          <input
            :value="bench.counts[k - 1] ?? ''"
            inputmode="decimal"
            autocomplete="off"
            :aria-label="`Count of ${prefix}${k}`"
            @input="keep(k, ($event.target as HTMLInputElement).value)" />
        </label>
      </div>
    </div>
    <p class="small soft">
      {{ what }} Count each once, quickly, so that like is matched with like; or later, or not at all: then neighbours form the blocks. Where the first spray is
      on the same day, these are the counts before.
    </p>
  </section>
</template>

<style scoped>
.shelves {
  display: grid;
  gap: var(--space-2);
  max-width: 100%;
  overflow-x: auto;
}

.shelf {
  display: grid;
  gap: 2px;
  width: max-content;
  padding: var(--space-1);
  border-radius: var(--radius-m);
  background: var(--well);
}

.place {
  display: grid;
  justify-items: center;
  min-width: 0;
  padding-bottom: 2px;
  border-radius: var(--radius-s);
  background: var(--sheet);
}

.pot {
  width: 100%;
  height: auto;
}

.place input {
  width: calc(100% - 6px);
  min-height: 40px;
  padding: 0 2px;
  border: 1.5px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  text-align: center;
}

@media (width < 640px) {
  .shelf {
    width: 100%;
  }
}
</style>
