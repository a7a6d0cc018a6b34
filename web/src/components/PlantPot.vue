<script lang="ts">
/** Pots that are scrolled away; on paper nothing is. */
const scrolledAway = new Set<Ref<boolean>>();
window.addEventListener("beforeprint", () => {
  for (const away of scrolledAway) away.value = false;
});
</script>

<script setup lang="ts">
import { computed, onUnmounted, ref, watch, type Ref } from "vue";
import { drawPot, type PotDrawing, type PotState } from "../charts/pot";
import { tagColour, tagPath } from "../charts/tag";

/** A plant from above as it stands: its leaves, what sits on them, its harm, its tag in the soil. */
const props = defineProps<{ /** Asked for here: the next look changes a few outlines, and they are set without drawing the pot anew. */ state: () => PotState; letter: string | null | undefined; notches: number | undefined; pale?: boolean }>();

/** From below to the top. */
const PARTS: readonly (readonly [keyof PotDrawing, string])[] = [["rims", "rim"], ["leaves", "leaf"], ["deepRims", "rim"], ["deep", "leaf deep"], ["ill", "ill"], ["veins", "veins"], ["bites", "bites"], ["dust", "dust"], ["drops", "drops"], ["pestRims", "rim"], ["pests", "pests"]];
const drawn = computed(() => drawPot(props.state()));
const begun = drawn.value;
const outlines = new Map<keyof PotDrawing, Element>();
let set = begun;

/** A pot that is scrolled away is drawn when it comes into view; browsers that do not tell draw all. */
const away = ref(false);

function onSeen(event: Event): void {
  away.value = (event as Event & { skipped?: boolean }).skipped === true;
  if (away.value) scrolledAway.add(away);
  else scrolledAway.delete(away);
}

onUnmounted(() => scrolledAway.delete(away));

watch(
  () => (away.value ? set : drawn.value),
  (now) => {
    for (const [part, outline] of outlines) if (now[part] !== set[part]) outline.setAttribute("d", now[part]);
    set = now;
  },
);
</script>

<template>
  <svg class="plant" :class="{ pale }" viewBox="0 0 100 84" aria-hidden="true" @contentvisibilityautostatechange="onSeen">
    <circle cx="54" cy="42" r="40" class="edge" /><circle cx="54" cy="42" r="38" class="soil" />
    <path v-for="[part, look] in PARTS" :key="part" :ref="(el) => { if (el) outlines.set(part, el as Element); }" :d="begun[part]" :class="look" />
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

/* Filled shapes below one another in place of lines round them: drawn in half the time. */
.edge {
  fill: var(--hair);
}

.soil {
  fill: var(--soil);
}

.rim {
  fill: var(--outline);
}

.ill,
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
}

.pale .rim {
  fill: var(--line);
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
