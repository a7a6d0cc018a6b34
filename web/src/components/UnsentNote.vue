<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import { useOutbox } from "../composables/useOutbox";
import { useNoteBox } from "../composables/useNoteBox";
import { useSprayBox } from "../composables/useSprayBox";
import { plural } from "../words";

/** What is on this device only: waiting to be sent, or refused and to be settled. */
const outbox = useOutbox();
const sprays = useSprayBox();
const notes = useNoteBox();
const waiting = computed(() =>
  [plural(outbox.waiting.value, "tap"), plural(sprays.waiting.value, "spray"), plural(notes.waiting.value, "note")].filter((words) => !words.startsWith("0")),
);
const refused = computed(() => [
  ...outbox.refused.value.map(({ tap }) => `/trial/${tap.trial}/look/${tap.look}`),
  ...sprays.refused.value.map((spray) => `/trial/${spray.trial}/round/${spray.round}`),
  ...notes.refused.value.map((note) => `/trial/${note.trial}/look/${note.look}?plant=${note.body.plant_id}`),
]);
</script>

<template>
  <p v-if="waiting.length || refused.length" class="unsent no-print" role="status">
    <span v-if="waiting.length">{{ waiting.join(" and ") }} kept on this device, waiting for the program.</span>
    <span v-if="refused.length"
      >{{ plural(refused.length, "record") }} not taken by the program: <RouterLink :to="refused[0] ?? '/'">see why</RouterLink>.</span
    >
  </p>
</template>

<style scoped>
.unsent {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-4);
  padding: var(--space-2) var(--space-5);
  background: var(--warn-wash);
}
</style>
