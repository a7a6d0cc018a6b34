<script setup lang="ts">
import { useId } from "vue";

/** Leaf damage 0 to 5, by finger. */
defineProps<{ label: string; modelValue: number }>();
const emit = defineEmits<{ "update:modelValue": [value: number] }>();
const id = useId();
const words = ["none", "under 5%", "5 to 15%", "15 to 30%", "30 to 60%", "over 60%"];
</script>

<template>
  <div class="score" role="group" :aria-labelledby="id">
    <span :id="id" class="label"
      >{{ label }}: <strong>{{ words[modelValue] }}</strong></span
    >
    <div class="steps">
      <button
        v-for="(word, step) in words"
        :key="step"
        type="button"
        :aria-pressed="modelValue === step"
        :aria-label="`${step}, ${word}`"
        @click="emit('update:modelValue', step)">
        {{ step }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.score {
  display: grid;
  gap: var(--space-1);
}

.steps {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: var(--space-1);
  max-width: 360px;
}

button {
  min-height: var(--touch);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-l);
  cursor: pointer;
}

[aria-pressed="true"] {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
  font-weight: 700;
}
</style>
