<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import type { Round, Trial } from "../../api/client";
import CautionList from "../CautionList.vue";
import MessPanel from "./MessPanel.vue";

/** What is left once every plant is recorded: care afterwards, and what each was like to use. */
const props = defineProps<{ trial: Trial; round: Round; plants: number }>();
const aftercare = computed(() => [...new Set(props.trial.remedies.map((r) => r.aftercare).filter(Boolean))]);
</script>

<template>
  <p class="sheet">
    <strong>All {{ plants }} plants are recorded.</strong> Clean the bottles, wash your hands, and keep people and pets away until the leaves are dry.
    <RouterLink :to="`/trial/${trial.id}/rounds`">Back to the rounds →</RouterLink>
  </p>
  <CautionList :texts="aftercare" title="Afterwards" />
  <MessPanel :trial="trial" :round="round" />
</template>
