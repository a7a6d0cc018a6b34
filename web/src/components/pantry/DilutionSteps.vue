<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { amount, measured, roundingNote, volume } from "../../mixing";
import CautionList from "../CautionList.vue";

/** A stock made weaker, in one step or several. */
defineProps<{ dilution: Schemas["DilutionOut"] }>();
</script>

<template>
  <section class="sheet stack" aria-labelledby="steps">
    <h2 id="steps">In {{ dilution.steps.length === 1 ? "one step" : `${dilution.steps.length} steps` }}</h2>
    <ol>
      <li v-for="(step, k) in dilution.steps" :key="k">
        <strong
          >{{ volume(step.take) }} {{ k ? "of the step before" : "of the stock" }}, topped up with {{ volume(step.water) }} water to
          {{ volume(step.makes) }}</strong
        >
        <p class="soft">Measure {{ measured(step.measured, "ml") }}. {{ roundingNote(step.measured, step.take, "ml") }}</p>
      </li>
    </ol>
    <p>
      The ready mix holds {{ amount(dilution.share * 100) }}% of the stock, one part in {{ amount(1 / dilution.share) }}. Shake it in a bottle of
      {{ volume(dilution.bottle) }}.
    </p>
    <CautionList
      :texts="[
        'Peroxide, alcohol and acids: gloves and eye protection. Never mix with bleach, nor peroxide with vinegar.',
        'Strain a brew well, and use it within a few days.',
      ]"
      title="Before you mix" />
  </section>
</template>

<style scoped>
ol {
  margin: 0;
  padding-left: 1.4em;
}
</style>
