<script setup lang="ts">
import { damageWords } from "../../counting";

/** How much of the leaves is damaged, 0 to 5. */
defineProps<{ score: number | null; scoring: boolean }>();
const emit = defineEmits<{ score: [grade: number] }>();
const shares = ["0%", "under 5%", "5–15%", "15–30%", "30–60%", "over 60%"];
</script>

<template>
  <fieldset class="damage" :class="{ scoring }">
    <legend>Leaf damage: <strong>{{ score === null ? "not scored" : `${damageWords[score]}, ${shares[score]} of the leaves` }}</strong> <span class="key" aria-hidden="true">d</span></legend>
    <button v-for="(word, grade) in damageWords" :key="grade" type="button" :aria-pressed="score === grade" :aria-label="`Damage ${grade}, ${word}`" @click="emit('score', grade)">{{ grade }}</button>
  </fieldset>
</template>

<style scoped>
:where(button:not(.el-button)) {
  min-height: var(--touch);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-l);
  font-weight: 650;
  cursor: pointer;
  touch-action: manipulation;
  -webkit-tap-highlight-color: transparent;
}

:where(button:not(.el-button)):active:not(:disabled) {
  background: var(--trap);
  color: var(--on-trap);
}

:where(button:not(.el-button)):disabled {
  color: var(--ink-soft);
  border-color: var(--hair);
  cursor: default;
}

.damage {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: var(--space-1);
  margin: 0;
  padding: 0;
  border: 0;
}

.damage.scoring {
  outline: 3px solid var(--trap);
  outline-offset: 4px;
}

.damage legend {
  padding: 0 0 var(--space-1);
}

[aria-pressed="true"] {
  background: var(--accent);
  color: var(--on-accent);
  border-color: var(--accent);
}
</style>
