<script setup lang="ts">
import type { Pots } from "../composables/usePots";

/** A slider through the looks that the pots show; by itself, so that it draws no bench anew. */
const props = defineProps<{ looks: Pick<Pots, "counted" | "chosen" | "shownLook"> }>();
const { counted, chosen, shownLook } = props.looks;

function choose(event: Event): void {
  chosen.value = Number((event.target as HTMLInputElement).value);
}
</script>

<template>
  <label v-if="counted.length > 1" class="time no-print">
    <span>{{ shownLook?.number ? `Look ${shownLook.number}, ${shownLook.when}` : "Before" }}</span>
    <input
      type="range"
      min="0"
      :max="counted.length - 1"
      :value="chosen ?? counted.length - 1"
      :aria-valuetext="shownLook?.number ? shownLook.when : 'before'"
      @input="choose" />
  </label>
</template>

<style scoped>
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
</style>
