<script setup lang="ts">
import { partWords } from "../../counting";
import type { Leaf } from "../../composables/useCounting";

/** The leaves of one plant: what was counted on each, and where one is. */
defineProps<{ leaves: () => readonly Leaf[]; current: number; unit: string; whole: () => number | null }>();
const emit = defineEmits<{ go: [leaf: number] }>();
</script>

<template>
  <section class="leaves fingers" :aria-label="`The ${unit}s of this plant`">
    <button
      v-for="leaf in leaves()"
      :key="leaf.number"
      v-memo="[leaf.value, leaf.finished, leaf.part, leaf.number === current, unit]"
      type="button"
      :class="{ here: leaf.number === current, done: leaf.finished }"
      :aria-current="leaf.number === current"
      :aria-label="`${unit} ${leaf.number}, ${leaf.finished ? `${leaf.value} kept` : leaf.value === null ? 'not counted' : `${leaf.value} so far`}`"
      @click="emit('go', leaf.number)">
      <span class="small">{{ leaf.number }}</span><strong :class="{ still: leaf.part === 1 }"
        >{{ leaf.value ?? "·" }}<small v-if="leaf.part < 1"> of {{ partWords(leaf.part) }}</small></strong
      >
    </button>
    <span class="sum" role="status"
      ><span class="small soft">plant</span><strong class="still">{{ whole() ?? "–" }}</strong></span
    >
  </section>
</template>

<style scoped>
.leaves {
  display: flex;
  gap: var(--space-1);
  overflow-x: auto;
  padding: 3px;
}

.leaves button,
.sum {
  flex: 1 0 48px;
  min-height: 52px;
  padding: 0 var(--space-1);
  line-height: 1.15;
  text-align: center;
}

.sum {
  align-content: center;
}

.leaves .small,
strong {
  display: block;
}

.done {
  background: var(--accent-wash);
}

.done strong {
  color: var(--good);
}

.here {
  outline: 3px solid var(--trap);
  outline-offset: 0;
}
</style>
