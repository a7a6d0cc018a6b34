<script setup lang="ts">
import { computed } from "vue";
import { drawPot, type PotState } from "../charts/pot";
import { tagColour, tagPath } from "../charts/tag";

/** A plant from above as it stands: its leaves, what sits on them, its harm, its tag in the soil. */
const props = defineProps<{ state: PotState; letter: string | null | undefined; notches: number | undefined; pale?: boolean }>();
const drawn = computed(() => drawPot(props.state));
</script>

<template>
  <svg class="plant" :class="{ pale }" viewBox="0 0 100 84" aria-hidden="true">
    <circle cx="54" cy="42" r="39" class="soil" />
    <path :d="drawn.leaves" class="leaf" /><path :d="drawn.deep" class="leaf deep" />
    <path v-if="drawn.ill" :d="drawn.ill" class="ill" />
    <path :d="drawn.veins" class="veins" />
    <path v-if="drawn.bites" :d="drawn.bites" class="bites" />
    <path v-if="drawn.dust" :d="drawn.dust" class="dust" />
    <path v-if="drawn.drops" :d="drawn.drops" class="drops" />
    <path v-if="drawn.pests" :d="drawn.pests" class="pests" />
    <g v-if="letter" transform="translate(2 3)">
      <path :d="tagPath(20, 34, notches ?? 0)" :fill="tagColour(notches)" class="tag" />
      <text x="7.6" y="18.5">{{ letter }}</text>
    </g>
  </svg>
</template>

<style scoped>
.plant {
  display: block;
  width: 88px;
  height: 74px;
  contain: strict;
  content-visibility: auto;
}

.soil {
  fill: var(--soil);
  stroke: var(--hair);
  stroke-width: 2;
}

.leaf,
.ill,
.pests,
.drops,
.bites {
  stroke: var(--outline);
  stroke-width: 1.2;
  stroke-linejoin: round;
}

.leaf {
  fill: var(--leaf);
}

.deep {
  fill: var(--leaf-deep);
}

.ill {
  fill: var(--leaf-ill);
}

.veins {
  fill: none;
  stroke: var(--leaf-vein);
  stroke-width: 1.1;
}

.bites {
  fill: var(--soil);
}

.dust {
  fill: var(--dust);
  fill-opacity: 0.92;
  stroke: var(--outline);
  stroke-width: 0.7;
  stroke-dasharray: 1.6 1.8;
}

.drops {
  fill: var(--drop);
}

.pests {
  fill: var(--pest);
}

.tag {
  stroke: var(--sheet);
  stroke-width: 1.2;
}

.pale .leaf {
  fill: var(--well);
  stroke: var(--line);
}

.pale .veins {
  stroke: var(--hair);
}

text {
  fill: var(--sheet);
  font-family: var(--font);
  font-size: 15px;
  font-weight: 750;
  text-anchor: middle;
}
</style>
