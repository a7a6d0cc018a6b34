<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import { RouterLink } from "vue-router";
import type { Plant } from "../../api/client";
import BenchMap from "../../components/BenchMap.vue";
import FewPlants from "../../components/planning/FewPlants.vue";
import AddPlants from "../../components/trial/AddPlants.vue";
import NextStep from "../../components/trial/NextStep.vue";
import PlantTable from "../../components/trial/PlantTable.vue";
import { useKnowledge } from "../../composables/useKnowledge";
import { useTrial } from "../../composables/useTrial";
import { pluralOf } from "../../question";

const { trial } = useTrial();
const table = ref<InstanceType<typeof PlantTable> | null>(null);
const { knowledge } = useKnowledge();
const least = computed(() => (knowledge.value?.numbers.least_blocks ?? 0) * (trial.value?.remedies.length ?? 0));
const usual = computed(() => (knowledge.value?.numbers.usual_blocks ?? 0) * (trial.value?.remedies.length ?? 0));
const fixed = computed(() => trial.value?.sprayed_on !== null);
const active = computed(() => (trial.value?.plants ?? []).filter((p) => !p.set_aside));
const uncounted = computed(() => active.value.filter((p) => p.match_count === null));
const enough = computed(() => active.value.length >= least.value);

function setAside(id: number, why: string): void {
  const plant = trial.value?.plants.find((p) => p.id === id);
  if (plant) void table.value?.save(plant, { set_aside: `${why.charAt(0).toUpperCase()}${why.slice(1)}.` });
}

async function toCount(plant: Plant): Promise<void> {
  await nextTick();
  const field = document.getElementById(`count-${plant.id}`) as HTMLInputElement | null;
  field?.focus();
  field?.select();
}
</script>

<template>
  <div v-if="trial" class="stack">
    <section class="sheet stack">
      <div class="head">
        <div>
          <h2>{{ trial.plants.length ? `${pluralOf(active.length, trial.setup.unit)} ${active.length === 1 ? "takes" : "take"} part` : "Which plants?" }}</h2>
          <p class="soft">
            Same kind, size and place. Count each once, quickly, so that like can be matched with like; set the odd ones aside.
            <template v-if="trial.pest_card">{{ trial.pest_card.where }}</template>
          </p>
        </div>
        <NextStep v-if="enough && !uncounted.length" from="plants" />
      </div>
      <BenchMap v-if="trial.plants.length" :trial="trial" figure="match" :still="fixed" @pick="toCount" />
      <ul v-if="Object.keys(trial.odd_plants).length && !fixed" class="odd">
        <li v-for="(why, id) in trial.odd_plants" :key="id" class="row">
          <span
            ><strong>{{ trial.plants.find((p) => p.id === Number(id))?.name }}</strong
            >: {{ why }}.</span
          >
          <el-button @click="setAside(Number(id), why)">Set it aside</el-button>
        </li>
      </ul>
      <FewPlants v-if="trial.plants.length && active.length < usual && trial.setup.unit === 'plant' && !fixed" />
      <p v-if="trial.plants.length && !enough" class="soft">
        {{ trial.remedies.length }} remedies, the control included, need at least {{ pluralOf(least, trial.setup.unit) }}; {{ usual }} or more tell much more.
      </p>
      <p v-else-if="uncounted.length" class="soft">
        {{
          uncounted.length === active.length
            ? "Nothing has a match count yet; without any, neighbours form the blocks."
            : `${pluralOf(uncounted.length, trial.setup.unit)} still without a match count.`
        }}
        <RouterLink v-if="uncounted.length === active.length" :to="`/trial/${trial.id}/layout`">Go on without</RouterLink>
      </p>
    </section>

    <p v-if="!fixed" class="soft">
      Was it done on paper already? <RouterLink :to="`/trial/${trial.id}/paper`">Enter it as a table</RouterLink>, with plants, days and counts.
    </p>
    <AddPlants v-if="!fixed" />
    <PlantTable ref="table" />
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: var(--space-4);
}

.odd {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
