<script setup lang="ts">
/** Where sun or wind comes from, as an arrow into the bench and in words. */
defineProps<{ what: "sun" | "wind"; side: "top" | "right" | "bottom" | "left" }>();
const turns = { top: 90, right: 180, bottom: 270, left: 0 };
const from = { top: "from above", right: "from the right", bottom: "from below", left: "from the left" };
</script>

<template>
  <span class="air">
    <svg viewBox="-20 -20 40 40" aria-hidden="true">
      <g :transform="`rotate(${turns[side]})`">
        <template v-if="what === 'sun'">
          <circle cx="-8" r="6" class="sun" />
          <path d="M-18 0h3M-8 -11v3M-8 8v3M-15 -7l2 2M-15 7l2 -2" class="line" />
        </template>
        <path v-else d="M-18 -6c6 -5 12 5 18 0M-18 0c6 -5 12 5 18 0M-18 6c6 -5 12 5 18 0" class="line" />
        <path d="M2 0h14M11 -5l5 5l-5 5" class="line" />
      </g>
    </svg>
    {{ what === "sun" ? "Sun" : "Wind" }} {{ from[side] }}
  </span>
</template>

<style scoped>
.air {
  display: inline-flex;
  align-items: center;
  gap: var(--space-1);
  margin-right: var(--space-4);
}

svg {
  width: 32px;
  height: 32px;
}

.sun {
  fill: var(--trap);
  stroke: var(--outline);
  stroke-width: 1.5;
}

.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  stroke-linecap: round;
}
</style>
