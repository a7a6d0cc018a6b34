<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from "vue";
import { client, take, type Fault } from "../../api/client";
import BottleCard from "../../components/pantry/BottleCard.vue";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import FieldRow from "../../components/FieldRow.vue";
import LabelLinks from "../../components/pantry/LabelLinks.vue";
import NextStep from "../../components/trial/NextStep.vue";
import PlantTag from "../../components/PlantTag.vue";
import { ifStill } from "../../api/once";
import { need } from "../../entered";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { volume } from "../../mixing";
import { pluralOf } from "../../question";
import { kept, shown as inOwn, unitOf } from "../../units";

const { trial, change } = useTrial();
const helper = ref(false);
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const bottles = useAnswer(() => take(client.GET("/api/trials/{trial_id}/bottles", { params: { path: path.value, query: { helper: helper.value } } })));
const fault = ref<Fault | null>(null);
const form = reactive({ by: "", each: "", margin: "" });
const labels = useAnswer(() => take(client.GET("/api/trials/{trial_id}/labels", { params: { path: path.value } })));
const sorted = computed(() => [...(bottles.data.value ?? [])].sort((a, b) => (a.letter ?? "").localeCompare(b.letter ?? "")));
const shown = computed(() => !trial.value?.sealed || helper.value);
/** A control that is wetted has a bottle too: plain water, so that it is handled alike. */
const water = useAnswer(() => take(client.GET("/api/trials/{trial_id}/bottles/water", { params: { path: path.value, query: { helper: helper.value } } })));

onMounted(load);
watch(shown, load);

async function load(): Promise<void> {
  await Promise.all([...(shown.value ? [bottles.load(), water.load()] : []), labels.load()]);
  form.each = inOwn(trial.value?.care.ml_per_plant ?? 40, "volume");
  form.margin = String(Math.round((trial.value?.care.margin ?? 0.1) * 100));
}

async function openKey(): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/key", { params: { path: path.value } })));
}

async function saveAmounts(): Promise<void> {
  if (!trial.value) return;
  const { care, care_revision: read } = trial.value;
  fault.value = await change(() =>
    Promise.resolve()
      .then(() => ({ ...care, ml_per_plant: kept(need(form.each, "ml_per_plant"), "volume", care.ml_per_plant), margin: need(form.margin, "margin") / 100 }))
      .then((body) => take(client.PUT("/api/trials/{trial_id}/care", { params: { path: path.value, header: ifStill(read) }, body }))),
  );
  if (!fault.value) await load();
}

async function reload(): Promise<void> {
  await Promise.all([bottles.load(), labels.load()]);
}
</script>

<template>
  <div v-if="trial" class="stack">
    <FaultNote :fault="bottles.fault.value ?? (!['ml_per_plant', 'margin'].includes(fault?.field ?? '') ? fault : null)" />
    <section v-if="!shown" class="sheet stack">
      <h2>The bottles are sealed</h2>
      <p>Mixing shows what is in which bottle. Best is a helper who mixes and labels them; then whoever counts stays blind.</p>
      <div class="row">
        <el-button type="primary" size="large" @click="helper = true">A helper mixes: show it to them</el-button>
        <el-button size="large" @click="openKey">I mix myself: open the key (recorded)</el-button>
      </div>
      <LabelLinks :labels="labels.data.value" />
    </section>
    <template v-else>
      <form class="sheet fields narrow" novalidate @submit.prevent="saveAmounts">
        <FieldRow
          v-slot="{ id, described }"
          :label="`${unitOf('volume')} for each plant`"
          help="The same for all without an amount of their own, the control too."
          :fault="fault?.field === 'ml_per_plant' ? fault : null"
          ><el-input :id="id" v-model="form.each" inputmode="decimal" :aria-describedby="described"
        /></FieldRow>
        <FieldRow v-slot="{ id, described }" label="More, to be safe (%)" :fault="fault?.field === 'margin' ? fault : null"
          ><el-input :id="id" v-model="form.margin" inputmode="decimal" :aria-describedby="described"
        /></FieldRow>
        <el-button native-type="submit" class="again">Work it out again</el-button>
        <FieldRow v-if="helper" v-slot="{ id }" label="Who mixes (a helper)"><el-input :id="id" v-model="form.by" maxlength="40" /></FieldRow>
        <LabelLinks :labels="labels.data.value" />
      </form>
      <BottleCard v-for="bottle in sorted" :key="`${bottle.remedy_id}/${bottle.step}`" :bottle="bottle" :by="helper ? form.by : ''" @changed="reload" />
      <section v-if="water.data.value" class="sheet stack" aria-label="The control's bottle">
        <header>
          <PlantTag :letter="water.data.value.letter" :notches="water.data.value.notches" :height="60" />
          <div>
            <h2>{{ water.data.value.name }}</h2>
            <p>
              {{ pluralOf(water.data.value.plants, trial?.setup.unit ?? "plant") }}: {{ volume(water.data.value.volume) }} of the water the others are mixed
              with, in a bottle like theirs, labelled like theirs.
            </p>
          </div>
        </header>
      </section>
      <p v-if="bottles.data.value && !bottles.data.value.length" class="sheet">No remedy of this trial comes out of a bottle.</p>
      <CautionList :texts="trial.general_cautions" title="For every bottle" />
      <NextStep from="mix" />
    </template>
  </div>
</template>

<style scoped>
/* On a line with the fields, below their labels. */
.again {
  align-self: start;
  justify-self: start;
  margin-top: 1.7em;
}

header {
  display: flex;
  gap: var(--space-4);
  align-items: center;
}
</style>
