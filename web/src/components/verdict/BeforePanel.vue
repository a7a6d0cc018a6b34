<script setup lang="ts">
import { watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";

/** What comes of the remedies together with earlier trials: beside the verdict, never in its place. */
const props = defineProps<{ trialId: number; pest: string; look: number }>();
const found = useAnswer(() =>
  take(client.GET("/api/trials/{trial_id}/verdict/before", { params: { path: { trial_id: props.trialId }, query: { look: props.look } } })),
);
watch(() => [props.trialId, props.look], found.load, { immediate: true });
</script>

<template>
  <section v-if="Array.isArray(found.data.value) && found.data.value.length" class="sheet stack before record" aria-labelledby="before">
    <h2 id="before">With what was known before</h2>
    <p class="small soft">
      Not the verdict of this trial, which stands above by its own numbers alone. Here earlier trials of the same remedies at the same strength weigh in, yours
      and those of other gardens.
    </p>
    <ul>
      <li v-for="one in found.data.value" :key="one.name">{{ one.words }}</li>
    </ul>
    <p class="no-print"><RouterLink :to="`/known/${encodeURIComponent(pest)}`">Trial by trial →</RouterLink></p>
  </section>
</template>

<style scoped>
.before {
  border-left: 5px solid var(--line);
}

ul {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding-left: 1.2em;
}
</style>
