<script setup lang="ts">
import { computed, ref } from "vue";
import { inPieces, type Term } from "../help/help";
import { inUnits } from "../units";

/** A sentence whose terms open their own where they stand. */
const props = defineProps<{ text: string }>();
const pieces = computed(() => inPieces(props.text));
const open = ref<Term | null>(null);

function toggle(term: Term): void {
  open.value = open.value?.word === term.word ? null : term;
}
</script>

<template>
  <span class="terms" @keydown.escape="open = null"><template v-for="(piece, k) in pieces" :key="k"><template v-if="!piece.term">{{ piece.text }}</template><button v-else type="button" :aria-expanded="open?.word === piece.term.word" @click="toggle(piece.term)">{{ piece.text }}</button></template><span v-if="open" class="means" role="status"><strong>{{ open.word }}:</strong> {{ inUnits(open.says) }}</span></span>
</template>

<style scoped>
/* As words of their sentence: no box, and broken as it is; around it there is room enough for a finger. */
button {
  display: inline;
  padding: 0;
  border: 0;
  border-bottom: 2px dotted currentColor;
  background: none;
  color: inherit;
  font: inherit;
  cursor: help;
}

.means {
  display: block;
  margin: var(--space-2) 0;
  padding: var(--space-2) var(--space-3);
  border-left: 3px solid var(--accent);
  background: var(--accent-wash);
  color: var(--ink);
  font-size: var(--text-m);
  font-weight: 450;
}

@media print {
  button {
    border: 0;
  }
}
</style>
