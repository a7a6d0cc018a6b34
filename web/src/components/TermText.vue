<script setup lang="ts">
import { computed, ref } from "vue";
import { inPieces, type Term } from "../help/help";
import { inUnits } from "../units";

/** A sentence whose terms open their own where they stand. */
const props = defineProps<{ text: string }>();
/** What touches a term (a bracket before, a mark after) stays on its line: around a button a browser may break. */
const pieces = computed(() => {
  const found = inPieces(props.text);
  return found.map((piece, k) => {
    const earlier = found[k - 1]?.text ?? "";
    const theirs = found[k - 2]?.term && !/\s/.test(earlier); // stands behind the term before already
    if (piece.term) return { ...piece, before: theirs ? "" : (/\S*$/.exec(earlier)?.[0] ?? ""), after: /^\S*/.exec(found[k + 1]?.text ?? "")?.[0] ?? "" };
    let text = piece.text;
    if (found[k - 1]?.term) text = text.replace(/^\S*/, "");
    if (found[k + 1]?.term) text = text.replace(/\S*$/, "");
    return { text, term: null, before: "", after: "" };
  });
});
const open = ref<Term | null>(null);

function toggle(term: Term): void {
  open.value = open.value?.word === term.word ? null : term;
}
</script>

<template>
  <span class="terms" @keydown.escape="open = null"
    ><template v-for="(piece, k) in pieces" :key="k"
      ><template v-if="!piece.term">{{ piece.text }}</template
      ><span v-else class="whole"
        >{{ piece.before }}<button type="button" :aria-expanded="open?.word === piece.term.word" @click="toggle(piece.term)">{{ piece.text }}</button
        >{{ piece.after }}</span
      ></template
    ><span v-if="open" class="means" role="status"
      ><strong>{{ open.word }}:</strong> {{ inUnits(open.says) }}</span
    ></span
  >
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

.whole {
  white-space: nowrap;
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
