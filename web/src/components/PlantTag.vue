<script setup lang="ts">
import { computed } from "vue";
import { tagColour, tagName, tagPath } from "../charts/tag";

const props = withDefaults(
  defineProps<{
    letter: string | null | undefined;
    notches: number | null | undefined;
    height?: number;
    colour?: string;
    /** A tag that is only a picture, not a remedy's sign. */
    plain?: boolean;
  }>(),
  { height: 44, colour: undefined, plain: false },
);

const width = computed(() => Math.round(props.height * 0.58));
const path = computed(() => tagPath(width.value, props.height, props.notches ?? 0));
const fill = computed(() => props.colour ?? tagColour(props.notches));
</script>

<template>
  <svg
    class="tag"
    :width="width"
    :height="height"
    :viewBox="`0 0 ${width} ${height}`"
    :role="plain ? undefined : 'img'"
    :aria-hidden="plain ? 'true' : undefined"
    :aria-label="plain ? undefined : tagName(letter, notches)">
    <path :d="path" :fill="fill" />
    <text v-if="letter" :x="width * 0.37" :y="height * 0.53" :font-size="height * 0.44" text-anchor="middle" font-weight="750">
      {{ letter }}
    </text>
  </svg>
</template>

<style scoped>
.tag {
  flex: none;
  display: block;
  overflow: visible;
}

text {
  fill: var(--sheet);
  font-family: var(--font);
}
</style>
