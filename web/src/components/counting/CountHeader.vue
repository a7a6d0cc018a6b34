<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import type { Plant, Trial } from "../../api/client";

/** Which look is counted, whether all of it is kept, and how far it is. */
const props = defineProps<{
  trial: Trial;
  title: string;
  plants: readonly Plant[];
  done: ReadonlySet<number>;
  index: number;
  /** How far keeping is, asked for here. */ kept: () => string;
}>();

/** While a tap takes its usual moment one word stands still; what lasts longer is told in full. */
const MOMENT_MS = 400;
const told = ref(props.kept());
let timer: ReturnType<typeof setTimeout> | undefined;
watch(props.kept, (now) => {
  clearTimeout(timer);
  if (now.startsWith("✓")) told.value = now;
  else {
    if (told.value.startsWith("✓")) told.value = "keeping …";
    timer = setTimeout(() => (told.value = now), MOMENT_MS);
  }
});
onBeforeUnmount(() => clearTimeout(timer));
</script>

<template>
  <header>
    <RouterLink :to="`/trial/${trial.id}/rounds`" class="field-back" aria-label="Back to rounds and looks">←</RouterLink>
    <div class="field-which">
      <h1>{{ title }}</h1>
      <span class="small soft">{{ trial.name }}</span>
    </div>
    <span class="kept small" role="status"
      ><span :class="{ still: told.length < 12 }">{{ told }}</span></span
    >
  </header>
  <div class="progress" role="img" :aria-label="`${done.size} of ${plants.length} plants counted`">
    <span v-for="(p, k) in plants" :key="p.id" :class="{ done: done.has(p.id), here: k === index }" />
  </div>
</template>

<style scoped>
h1 {
  font-size: var(--text-m);
}

header {
  display: flex;
  align-items: center;
  gap: var(--space-3);
}

.kept {
  min-width: 6em;
  margin-left: auto;
  text-align: right;
}

.progress {
  display: flex;
  gap: 2px;
}

.progress span {
  flex: 1;
  height: 8px;
  background: var(--hair);
}

.progress .done {
  background: var(--accent);
}

.progress .here {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
</style>
