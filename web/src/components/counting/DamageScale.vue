<script setup lang="ts">
import { damageWords } from "../../counting";
import CoverLeaf from "./CoverLeaf.vue";

/** How much of the leaves is damaged, 0 to 5. */
defineProps<{ score: number | null; scoring: boolean; /** What it was before the first spray. */ before?: number | undefined }>();
const emit = defineEmits<{ score: [grade: number] }>();
/** The middle of each grade, in per cent of the leaf. */
const shown = [0, 3, 10, 22, 45, 75];
const shares = ["0%", "under 5%", "5–15%", "15–30%", "30–60%", "over 60%"];
</script>

<template>
  <fieldset class="damage fingers" :class="{ scoring }">
    <legend>
      Leaf damage: <strong>{{ score === null ? "not scored" : `${damageWords[score]}, ${shares[score]}` }}</strong><template v-if="before !== undefined"
        >, before {{ damageWords[Math.round(before)] }}</template
      >{{ " " }}
      <span class="key" aria-hidden="true">d</span>
    </legend>
    <button
      v-for="(word, grade) in damageWords"
      :key="grade"
      type="button"
      :aria-pressed="score === grade"
      :aria-label="`Damage ${grade}, ${word}`"
      @click="emit('score', grade)">
      <CoverLeaf :percent="shown[grade] ?? 0" as="harm" />{{ grade }}
    </button>
  </fieldset>
</template>

<style scoped>
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
</style>
