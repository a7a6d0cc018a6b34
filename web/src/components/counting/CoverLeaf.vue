<script setup lang="ts">
import { computed, useId } from "vue";
import { coverPicture } from "../../charts/coverage";

/** A leaf with so much of its area covered: by white film or spots, or harmed. */
const props = defineProps<{ percent: number; as: "film" | "harm" }>();
const id = useId();
const drawn = computed(() => coverPicture(props.percent));
</script>

<template>
  <svg viewBox="0 0 100 60" aria-hidden="true">
    <clipPath :id="id"><path :d="drawn.leaf" /></clipPath>
    <path :d="drawn.leaf" class="leaf" />
    <path :d="drawn.veins" class="veins" />
    <path :d="drawn.patches" :class="as" :clip-path="`url(#${id})`" />
    <path :d="drawn.leaf" class="edge" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}

.leaf {
  fill: var(--leaf);
}

.veins {
  fill: none;
  stroke: var(--leaf-vein);
  stroke-width: 1.4;
}

.film {
  fill: var(--dust);
  stroke: var(--outline);
  stroke-width: 0.5;
}

.harm {
  fill: var(--leaf-ill);
  stroke: var(--outline);
  stroke-width: 0.8;
}

.edge {
  fill: none;
  stroke: var(--outline);
  stroke-width: 1.6;
}
</style>
