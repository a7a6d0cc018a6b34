<script setup lang="ts">
import { vPress } from "../../press";
import type { Key } from "../../composables/useCounting";

/** What is counted beside the trial's own number: one tap is one more; the steps go to the last one tapped. */
defineProps<{ fields: readonly Key[]; active: Key; value: (key: Key) => number | null; word: (key: Key) => string }>();
const emit = defineEmits<{ add: [key: Key]; undo: [] }>();
</script>

<template>
  <section class="tallies fingers" aria-label="Counted beside it">
    <button
      v-for="key in fields"
      :key="key"
      v-press="{ run: () => emit('add', key), back: () => emit('undo') }"
      type="button"
      :class="{ aimed: key === active }"
      :aria-label="`One more: ${word(key)}, now ${value(key) ?? 0}`">
      <strong>{{ value(key) ?? "–" }}</strong><span class="small">+1 {{ word(key) }}</span>
    </button>
  </section>
</template>

<style scoped>
.tallies {
  display: flex;
  gap: var(--space-1);
}

button {
  flex: 1;
  display: grid;
  justify-items: center;
  align-content: center;
  min-height: 56px;
  padding: 0 var(--space-1);
  line-height: 1.15;
}

.aimed {
  box-shadow: inset 0 -4px 0 var(--trap);
}
</style>
