<script setup lang="ts">
import type { Stop, WalkOrder } from "../../composables/useSpraying";

/** All plants of the round in walking order, and which order that is. */
defineProps<{ stops: readonly Stop[]; index: number }>();
const order = defineModel<WalkOrder>("order", { required: true });
const emit = defineEmits<{ go: [to: number] }>();
const orders: Record<WalkOrder, string> = { bottles: "Bottle by bottle", plants: "Plant by plant" };
</script>

<template>
  <section class="plants fingers words" aria-label="All plants in walking order">
    <button
      v-for="(item, k) in stops"
      :key="item.plant.id"
      type="button"
      :class="item.mark"
      :aria-current="k === index ? 'step' : undefined"
      :aria-label="`${item.plant.name}, ${item.mark}`"
      @click="emit('go', k)">
      <span aria-hidden="true">{{ item.mark === "sprayed" ? "✓" : item.mark === "skipped" ? "–" : item.tag.letter }}</span>
      <strong>{{ item.plant.name }}</strong>
    </button>
  </section>
  <div class="orders fingers words" role="group" aria-label="Order of the walk">
    <button v-for="(word, key) in orders" :key="key" type="button" :aria-pressed="order === key" @click="order = key">{{ word }}</button>
  </div>
</template>

<style scoped>
.orders {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(90px, 1fr));
  gap: var(--space-2);
}

.plants {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(64px, 1fr));
  gap: var(--space-1);
}

.plants button {
  display: grid;
  place-items: center;
  align-content: center;
  min-height: 56px;
  padding: 0;
}

.plants .sprayed {
  background: var(--accent-wash);
}

.plants .skipped {
  background: var(--warn-wash);
}

.plants [aria-current="step"] {
  outline: 3px solid var(--accent);
}
</style>
