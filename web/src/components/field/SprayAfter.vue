<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import type { Round, Schemas, Trial } from "../../api/client";
import CautionList from "../CautionList.vue";
import MessPanel from "./MessPanel.vue";

/** What is left once every plant is recorded: care afterwards, and the look of the dry leaf. */
const props = defineProps<{ trial: Trial; round: Round; plants: number }>();
const emit = defineEmits<{ dry: [looks: Schemas["DryLeaf"]] }>();
const aftercare = computed(() => [...new Set(props.trial.remedies.map((r) => r.aftercare).filter(Boolean))]);
const dryLeaves: Record<Schemas["DryLeaf"], string> = { dull: "As before", shiny: "Even thin gloss", sticky: "Holds dust or a finger" };
const dryLeaf = computed(() => props.round.events.filter((e) => e.kind === "dry_leaf").at(-1));
</script>

<template>
  <p class="sheet">
    <strong>All {{ plants }} plants are recorded.</strong> Clean the bottles, wash your hands, and keep people and pets away until the leaves are dry.
    <RouterLink :to="`/trial/${trial.id}/rounds`">Back to the rounds →</RouterLink>
  </p>
  <CautionList :texts="aftercare" title="Afterwards" />
  <MessPanel :trial="trial" :round="round" />
  <section v-if="trial.remedies.some((r) => r.oil)" class="sheet stack" aria-label="Once dry">
    <p>Once the oil has dried, look at its leaves. As before: too little arrived. An even thin gloss: enough. A film that holds dust or a finger: too much.</p>
    <p v-if="dryLeaf" role="status">
      <strong>{{ dryLeaf.text }}</strong>
    </p>
    <div class="orders">
      <button v-for="(word, key) in dryLeaves" :key="key" type="button" @click="emit('dry', key)">{{ word }}</button>
    </div>
  </section>
</template>

<style scoped>
button {
  min-height: var(--touch);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--paper);
  color: var(--ink);
  font-size: var(--text-m);
  cursor: pointer;
  touch-action: manipulation;
}

.orders,
.toggles {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(90px, 1fr));
  gap: var(--space-2);
}
</style>
