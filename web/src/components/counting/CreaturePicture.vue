<script setup lang="ts">
import { computed } from "vue";
import { drawCreature, type Thing } from "../../charts/creature";

/** A pest as it looks close by. */
const props = defineProps<{ pest: string; thing: Thing }>();
const strokes = computed(() => drawCreature(props.pest, props.thing));
</script>

<template>
  <svg viewBox="0 0 100 72" aria-hidden="true"><path v-for="(stroke, k) in strokes" :key="k" :d="stroke.d" :class="stroke.as" /></svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 92px;
  background: var(--leaf);
  border-radius: var(--radius-m);
}

path {
  stroke: var(--outline);
  stroke-width: 1.6;
  stroke-linejoin: round;
}

.body {
  fill: var(--pest);
}

.dead {
  fill: var(--leaf-ill);
  stroke-dasharray: 3 2;
}

.egg,
.wax {
  fill: var(--dust);
}

.husk {
  fill: none;
  stroke: var(--dust);
  stroke-width: 2;
}

.husk + .line {
  stroke: var(--dust);
}

.line {
  fill: none;
}

.shine {
  fill: var(--dust);
  stroke: none;
}
</style>
