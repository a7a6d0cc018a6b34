<script setup lang="ts">
import { computed } from "vue";
import { RouterLink, useRoute } from "vue-router";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import ConvertedUnits from "../../components/pantry/ConvertedUnits.vue";
import DilutionSteps from "../../components/pantry/DilutionSteps.vue";
import MixedBottle from "../../components/pantry/MixedBottle.vue";
import PourList from "../../components/pantry/PourList.vue";
import QuantityFields from "../../components/pantry/QuantityFields.vue";
import RecipeFields from "../../components/pantry/RecipeFields.vue";
import StrengthFields from "../../components/pantry/StrengthFields.vue";
import StrengthPicture from "../../components/pantry/StrengthPicture.vue";
import { inUnits } from "../../units";
import { provideMixing } from "../../composables/useMixing";

const modes = { recipe: "A recipe", strength: "A stock to a strength", parts: "One part in N", convert: "Other units" } as const;
const route = useRoute();
const { form, fault, found, diluted, others, beside, currency, make, choose } = provideMixing({ recipe: asked("recipe"), plants: asked("plants") });

const settled = computed(() => found.value !== null && found.value.open.length === 0);

function asked(key: string): string | undefined {
  const value = route.query[key];
  return typeof value === "string" ? value : undefined;
}
</script>

<template>
  <div class="stack">
    <div>
      <h1>Mixing bench</h1>
      <p class="soft">
        Say the recipe as you know it; see what it means, and how to measure it with what you have. Spoons, bottles, prices and water are set in
        <RouterLink to="/yard">the yard</RouterLink>.
      </p>
    </div>
    <div class="two">
      <form class="sheet stack" novalidate @submit.prevent="make">
        <div class="choices modes" role="group" aria-label="What is mixed">
          <button v-for="(name, key) in modes" :key="key" type="button" :aria-pressed="form.mode === key" @click="choose(key)">{{ name }}</button>
        </div>
        <RecipeFields v-if="form.mode === 'recipe'" />
        <StrengthFields v-else />
        <QuantityFields v-if="form.mode !== 'convert'" />
        <FaultNote :fault="fault && !beside.includes(fault.field ?? '') ? fault : null" />
      </form>
      <MixedBottle v-if="settled && found" :mix="found" :currency="currency" />
      <ConvertedUnits v-else-if="others" :amounts="others" />
      <DilutionSteps v-else-if="diluted" :dilution="diluted" />
    </div>

    <template v-if="found">
      <section v-if="settled" class="sheet stack">
        <h2>In this order</h2>
        <PourList :mix="found" />
      </section>
      <section v-if="found.axes.length" class="sheet stack">
        <h2>How strong that is</h2>
        <StrengthPicture v-for="axis in found.axes" :key="axis.name" :axis="axis" />
        <ul v-if="found.schools.length" class="small">
          <li v-for="line in found.schools" :key="line">{{ inUnits(line) }}</li>
        </ul>
      </section>
      <CautionList :texts="[...found.cautions, ...found.general_cautions]" title="Before you mix" />
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--space-4);
  align-items: start;
}

.modes {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--space-1);
}

.modes button {
  align-content: center;
  min-height: var(--touch);
  padding: var(--space-2);
}

ul {
  margin: 0;
  padding-left: 1.4em;
}

@media (width < 820px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
