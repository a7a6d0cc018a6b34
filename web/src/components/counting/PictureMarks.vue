<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { markWords, type Stage } from "../../counting";

type Mark = Schemas["MarkOut"];
/** A picture with marks: a tap beside them adds one, a tap on one takes it away; it can be drawn nearer. */
const props = defineProps<{
  src: string;
  width: number;
  height: number;
  marks: readonly Mark[];
  alt: string;
  /** Laid over the picture, "" for nothing. */ over?: string;
  /** What a tap adds; none where marks are only shown. */ adds?: Stage | undefined;
}>();
const emit = defineEmits<{ change: [marks: Mark[]]; shown: [] }>();
const state = ref<"coming" | "here" | "gone">("coming");
const near = ref(1);
const ratio = computed(() => props.height / props.width);
/** A finger is about so wide, as a share of the picture's width. */
const NEAR = 0.022;

function tap(event: MouseEvent): void {
  if (!props.adds) return;
  const box = (event.currentTarget as Element).getBoundingClientRect();
  const [x, y] = [(event.clientX - box.left) / box.width, ((event.clientY - box.top) / box.height) * ratio.value];
  const hit = nearest(x, y);
  emit("change", hit >= 0 ? props.marks.filter((_, k) => k !== hit) : [...props.marks, { x, y, stage: props.adds }]);
}

function nearest(x: number, y: number): number {
  const far = props.marks.map((mark) => Math.hypot(mark.x - x, mark.y - y));
  const least = Math.min(...far);
  return least < NEAR / near.value ? far.indexOf(least) : -1;
}
</script>

<template>
  <figure>
    <div class="frame" tabindex="0" role="region" :aria-label="alt">
      <div class="shown" :style="{ width: `${100 * near}%`, aspectRatio: `${width} / ${height}` }">
        <p v-if="state !== 'here'" class="small" role="status">{{ state === "coming" ? "The picture comes …" : "The picture cannot be reached now." }}</p>
        <img
          :src="src"
          :alt="alt"
          :width="width"
          :height="height"
          draggable="false"
          @load="
            state = 'here';
            emit('shown');
          "
          @error="state = 'gone'" />
        <img v-if="over" :src="over" alt="" class="over" />
        <svg :viewBox="`0 0 100 ${100 * ratio}`" :class="{ taps: adds }" @click="tap">
          <g v-for="(mark, k) in marks" :key="k" :class="mark.stage" :transform="`translate(${100 * mark.x} ${100 * mark.y}) scale(${0.8 / Math.sqrt(near)})`">
            <title>{{ markWords[mark.stage] }}</title>
            <circle v-if="mark.stage === 'live'" r="1.5" />
            <path v-else-if="mark.stage === 'young'" d="M0 -1.6L1.5 1.1H-1.5Z" />
            <rect v-else-if="mark.stage === 'eggs'" x="-1.2" y="-1.2" width="2.4" height="2.4" />
            <path v-else d="M-1.2 -1.2L1.2 1.2M1.2 -1.2L-1.2 1.2" />
          </g>
        </svg>
      </div>
    </div>
    <label class="nearer small">Nearer <input v-model.number="near" type="range" min="1" max="4" step="0.5" /></label>
  </figure>
</template>

<style scoped>
figure {
  display: grid;
  gap: var(--space-2);
  margin: 0;
}

.frame {
  overflow: auto;
  max-height: 62dvh;
  border: 1px solid var(--line);
  background: var(--well);
}

.shown {
  position: relative;
}

.shown > p {
  padding: var(--space-4);
}

img,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

.taps {
  cursor: crosshair;
  touch-action: manipulation;
}

g > * {
  fill: none;
  stroke: var(--on-photo);
  stroke-width: 0.5;
  paint-order: stroke;
}

g > title {
  stroke: none;
}

g > circle,
g > path,
g > rect {
  filter: drop-shadow(0 0 1px var(--round-photo)) drop-shadow(0 0 1px var(--round-photo));
}

.nearer {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  min-height: var(--touch);
}

.nearer input {
  flex: 1;
  min-height: var(--touch);
  accent-color: var(--accent);
}
</style>
