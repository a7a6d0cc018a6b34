<script setup lang="ts">
import { computed, type FunctionalComponent } from "vue";
import type { Measure } from "../../api/client";
import { vPress, type Press } from "../../press";
import { tallyWords } from "../../counting";
import CoverLeaf from "./CoverLeaf.vue";
import type { Count } from "../../composables/useCounting";

/** What the thumb taps: steps or more and less, and to keep the number. */
const props = defineProps<{
  measure: Measure;
  /** What the steps go to when it is not the trial's own number; "" when it is. */
  aimed: string;
  /** What the trial's own number is of, said where a second pest is counted beside it. */
  own?: string;
  /** Asked for here, so that a tap draws anew what it changes and not the page around it. */
  count: () => Count;
  canUndo: boolean;
  /** What keeping does, as the button says it. */
  keepWords: () => string;
  /** The plant that comes next, when keeping goes on to one. */
  nextName: string | undefined;
  /** Classes in place of steps, where many are told by them. */
  classes?: readonly { words: string; reads: number }[] | undefined;
}>();
const emit = defineEmits<{ set: [value: number]; class: [reads: number]; add: [by: number]; one: []; addRest: []; undo: []; keep: [] }>();
const steps: Record<string, number[] | undefined> = {
  percent: [0, 1, 2, 5, 10, 20, 30, 40, 50, 60, 80, 100],
  grade: [0, 1, 2, 3, 4, 5],
};
const value = computed(() => props.count().value);
const none = computed(() => !value.value);
/** Only where a step stands for a number does one of them look pressed. */
const pressed = computed(() => (steps[props.measure.scale] ? value.value : null));
const classed = computed(() => (props.count().classed ? value.value : null));
/** Counted at the touch; what slides off or scrolls is taken back. */
const pressing = (run: () => void): Press => ({ run, back: () => emit("undo") });
const KeepWords: FunctionalComponent = () => props.keepWords();
</script>

<template>
  <section class="thumb fingers">
    <div v-if="steps[measure.scale] && !aimed" class="steps">
      <button
        v-for="step in steps[measure.scale]"
        :key="step"
        type="button"
        :aria-pressed="pressed === step"
        :aria-label="measure.scale === 'percent' ? `${step}% of the leaf` : `${step}`"
        @click="emit('set', step)">
        <CoverLeaf v-if="measure.scale === 'percent'" :percent="step" as="film" />{{ step }}
      </button>
    </div>
    <div v-if="classes && !aimed" class="steps" role="group" aria-label="Classes">
      <button
        v-for="kind in classes"
        :key="kind.reads"
        type="button"
        :aria-pressed="classed === kind.reads"
        :aria-label="`${kind.words}, read as ${kind.reads}`"
        @click="emit('class', kind.reads)">
        {{ kind.words }}
      </button>
    </div>
    <div class="taps">
      <button type="button" :disabled="!canUndo" @click="emit('undo')">Undo</button>
      <button v-press="pressing(() => emit('add', -1))" type="button" aria-label="One less" :disabled="none">
        −1<small v-if="aimed">{{ aimed }}</small>
      </button>
      <template v-if="measure.scale === 'count' || aimed">
        <button v-press="pressing(() => emit('add', 10))" type="button" aria-label="Ten more">
          +10<small v-if="aimed">{{ aimed }}</small>
        </button>
        <button v-press="pressing(() => emit('add', 5))" type="button" aria-label="Five more">
          +5<small v-if="aimed">{{ aimed }}</small>
        </button>
      </template>
      <button v-else-if="measure.scale === 'share'" v-press="pressing(() => emit('addRest'))" type="button">
        +1 {{ measure.key === "dead" ? "alive" : "not hatched" }}
      </button>
      <button v-press="pressing(() => emit('one'))" type="button" class="one" aria-label="One more">
        +1<small v-if="own || aimed || measure.scale === 'share'" :class="{ own }"> {{ own || tallyWords[measure.key] }}</small>
      </button>
    </div>
    <button type="button" class="keep" @click="emit('keep')">
      <span class="still"
        ><KeepWords /><span v-if="nextName"> · next {{ nextName }}</span
        ><span class="key" aria-hidden="true">Enter</span></span
      >
    </button>
    <slot />
  </section>
</template>

<style scoped>
.thumb,
.steps {
  display: grid;
  gap: var(--space-2);
}

.steps {
  grid-template-columns: repeat(6, 1fr);
  gap: var(--space-1);
}

.taps {
  display: flex;
  gap: var(--space-2);
}

.taps button {
  flex: 1 1 auto; /* as wide as its word: large letters on a small phone */
  min-width: 0;
  padding: 0 var(--space-1);
}

.taps small {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: var(--text-s);
  font-weight: 450;
}

.taps button.one {
  flex: 2 1 20%;
}

.taps button {
  min-height: 72px;
}

.taps .one {
  font-size: var(--text-2xl);
  background: var(--trap);
  border-color: var(--trap);
  color: var(--on-trap);
}

/* No other look while pressed: the number answers at the touch, and a colour would come and go twice. */
.taps button:active:not(:disabled) {
  background: var(--sheet);
  color: var(--ink);
}

.taps button.one:active {
  background: var(--trap);
  color: var(--on-trap);
}

.taps .one small {
  display: inline;
  font-size: var(--text-m);
}

.taps .one small.own {
  display: block;
  font-size: var(--text-s);
}

.keep {
  min-height: 64px;
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}

/* Two lines have room, where the words are large. */
.keep .still {
  height: 2.5em;
  align-content: center;
}

.keep .key {
  margin-left: 0.7em;
}
</style>
