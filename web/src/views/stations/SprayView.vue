<script setup lang="ts">
import { computed, ref } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Plant } from "../../api/client";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import PlantTag from "../../components/PlantTag.vue";
import { useTrial } from "../../composables/useTrial";
import { dayName } from "../../words";

const props = defineProps<{ number: number }>();
const { trial, change } = useTrial();
const fault = ref<Fault | null>(null);
const refusedPlant = ref<Plant | null>(null);
const round = computed(() => trial.value?.rounds.find((r) => r.number === props.number));
const sprayed = computed(() => new Set(round.value?.sprayed ?? []));
const done = computed(() => bottles.value.flatMap((b) => b.plants).filter((p) => sprayed.value.has(p.id)).length);
const last = ref<Plant | null>(null);

/** One bottle after the other, plants in walking order: nobody rinses a sprayer 24 times. */
const bottles = computed(() =>
  [...(trial.value?.remedies ?? [])]
    .filter((r) => r.letter)
    .sort((a, b) => (a.letter ?? "").localeCompare(b.letter ?? ""))
    .map((remedy) => ({
      remedy,
      plants: (trial.value?.walk ?? []).flatMap((id) => {
        const plant = trial.value?.plants.find((p) => p.id === id);
        return plant?.remedy_id === remedy.id ? [plant] : [];
      }),
    })),
);
const total = computed(() => bottles.value.reduce((sum, b) => sum + b.plants.length, 0));

/** While the key is sealed, the cautions of all bottles are shown together. */
const sealedCautions = computed(() => [...new Set((trial.value?.remedies ?? []).flatMap((r) => r.cautions))]);

async function openKey(): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0 };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/key", { params: { path } })));
}

async function toggle(plant: Plant, withoutBefore = false): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0, number: props.number };
  const undo = sprayed.value.has(plant.id);
  fault.value = await change(() =>
    undo
      ? take(client.DELETE("/api/trials/{trial_id}/rounds/{number}/sprays/{plant_id}", { params: { path: { ...path, plant_id: plant.id } } }))
      : take(client.POST("/api/trials/{trial_id}/rounds/{number}/sprays", { params: { path }, body: { plant_id: plant.id, without_before: withoutBefore } })),
  );
  refusedPlant.value = fault.value ? plant : null;
  last.value = fault.value || undo ? null : plant;
}
</script>

<template>
  <div v-if="trial" class="field">
    <header>
      <RouterLink :to="`/trial/${trial.id}/rounds`" class="field-back" aria-label="Back to rounds and looks">←</RouterLink>
      <div class="field-which">
        <strong>Spray, round {{ number }}</strong>
        <span class="small soft">{{ trial.name }}<template v-if="round"> · {{ dayName(round.on) }}</template></span>
      </div>
      <strong class="left" role="status">{{ done }} of {{ total }}</strong>
    </header>
    <details class="before" :open="!sprayed.size">
      <summary>Before you spray</summary>
      <CautionList :texts="trial.general_cautions" />
      <CautionList v-if="!trial.key_opened_at" :texts="sealedCautions" title="One or more of the bottles" />
    </details>
    <div v-if="!trial.key_opened_at" class="row">
      <el-button @click="openKey">Open the key (recorded)</el-button>
    </div>
    <section v-for="bottle in bottles" :key="bottle.remedy.id" class="sheet bottle">
      <div class="label">
        <PlantTag :letter="bottle.remedy.letter" :notches="bottle.remedy.notches" :height="60" />
        <div>
          <template v-if="trial.key_opened_at">
            <h2>{{ bottle.remedy.name }}</h2>
            <p>{{ bottle.remedy.recipe || "No recipe was written down." }}</p>
          </template>
          <template v-else>
            <h2>Bottle {{ bottle.remedy.letter }}</h2>
            <p class="soft">What is in it stays sealed while you count.</p>
          </template>
        </div>
      </div>
      <CautionList v-if="trial.key_opened_at" :texts="bottle.remedy.cautions" />
      <div class="plants">
        <button v-for="plant in bottle.plants" :key="plant.id" type="button" :aria-pressed="sprayed.has(plant.id)" @click="toggle(plant)">
          <span class="tick" aria-hidden="true">{{ sprayed.has(plant.id) ? "✓" : "" }}</span>
          <span class="plant-name">{{ plant.name }}</span>
          <span class="small soft">r{{ plant.row }}·{{ plant.place }}</span>
        </button>
      </div>
    </section>
    <div v-if="fault || last" class="foot">
      <FaultNote :fault="fault">
        <span v-if="fault?.code === 'before_missing'" class="row">
          <RouterLink :to="`/trial/${trial.id}/look/0`">Count before</RouterLink>
          <el-button v-if="refusedPlant" @click="toggle(refusedPlant, true)">Spray all the same</el-button>
        </span>
      </FaultNote>
      <div v-if="last" class="undo"><span>{{ last.name }} is marked.</span><button type="button" @click="toggle(last)">Undo</button></div>
    </div>
    <RouterLink v-if="done === total" :to="`/trial/${trial.id}/rounds`" class="all">All {{ total }} plants are done. Go back to the rounds →</RouterLink>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: var(--space-4);
  max-width: 720px;
  margin: 0 auto;
}

header {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  position: sticky;
  top: 0;
  z-index: 2;
  padding-block: var(--space-1);
  background: var(--paper);
}

.left {
  margin-left: auto;
  font-size: var(--text-l);
  white-space: nowrap;
}

.before summary {
  min-height: var(--touch);
  display: flex;
  align-items: center;
  font-weight: 700;
  text-decoration: underline;
  cursor: pointer;
}

.bottle {
  display: grid;
  gap: var(--space-3);
}

.label {
  display: flex;
  gap: var(--space-4);
  align-items: center;
}

.plants {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: var(--space-2);
}

.plants button,
.undo button {
  display: flex;
  align-items: center;
  gap: var(--space-2);
  min-height: 56px;
  padding: 0 var(--space-2);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--paper);
  color: var(--ink);
  font-size: var(--text-m);
  cursor: pointer;
  touch-action: manipulation;
}

.plant-name {
  font-weight: 700;
}

.tick {
  width: 1em;
  font-weight: 800;
}

.plants [aria-pressed="true"] {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}

.plants [aria-pressed="true"] .soft {
  color: var(--on-accent);
}

.foot {
  position: sticky;
  bottom: 0;
  display: grid;
  gap: var(--space-2);
}

.undo {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: var(--space-2) var(--space-4);
  background: var(--ink);
  color: var(--paper);
  border-radius: var(--radius-m);
}

.all {
  display: grid;
  place-items: center;
  min-height: var(--touch);
}
</style>
