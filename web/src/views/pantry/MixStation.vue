<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from "vue";
import { client, take, type Fault, type Schemas } from "../../api/client";
import BottlePicture from "../../components/pantry/BottlePicture.vue";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import FieldRow from "../../components/FieldRow.vue";
import NextStep from "../../components/trial/NextStep.vue";
import PlantTag from "../../components/PlantTag.vue";
import PourList from "../../components/pantry/PourList.vue";
import { formName, ifStill, once } from "../../api/once";
import { maybe, need } from "../../entered";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { amount, life, volume } from "../../mixing";

type Bottle = Schemas["BottleOut"];

const { trial, change, make } = useTrial();
const helper = ref(false);
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const bottles = useAnswer(() => take(client.GET("/api/trials/{trial_id}/bottles", { params: { path: path.value, query: { helper: helper.value } } })));
const fault = ref<Fault | null>(null);
const faulty = ref<number | null>(null);
const form = reactive({ by: "", each: "", margin: "" });
/** What is ticked and typed for each bottle, by remedy. */
const drafts = reactive<Record<number, { volume: string; life: string; recipe: string; note: string; read: string[]; form: string }>>({});
const labels = useAnswer(() => take(client.GET("/api/trials/{trial_id}/labels", { params: { path: path.value } })));
const sorted = computed(() => [...(bottles.data.value ?? [])].sort((a, b) => (a.letter ?? "").localeCompare(b.letter ?? "")));
const shown = computed(() => !trial.value?.sealed || helper.value);
/** A control that is wetted has a bottle too: plain water, so that it is handled alike. */
const water = computed(() => trial.value?.remedies.find((r) => r.role === "control" && r.poured));
/** The tag that is left over by the bottles is the control's. */
const waterTag = computed(() => trial.value?.tags.find((t) => t.poured && !t.bottled));
const waterPlants = computed(() => trial.value?.plants.filter((p) => p.letter && p.letter === waterTag.value?.letter && !p.set_aside).length ?? 0);
const waterVolume = computed(() => waterPlants.value * (trial.value?.care.ml_per_plant ?? 40) * (1 + (trial.value?.care.margin ?? 0)));
const when = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

onMounted(load);
watch(shown, load);

async function load(): Promise<void> {
  await Promise.all([shown.value ? bottles.load() : undefined, labels.load()]);
  form.each = String(trial.value?.care.ml_per_plant ?? 40);
  form.margin = String(Math.round((trial.value?.care.margin ?? 0.1) * 100));
  for (const bottle of bottles.data.value ?? []) {
    drafts[bottle.remedy_id] = { volume: amount(bottle.volume), life: bottle.card.life_hours === null ? "" : String(bottle.card.life_hours), recipe: "", note: "", read: [], form: formName() };
  }
}

function remedy(id: number) {
  return trial.value?.remedies.find((r) => r.id === id);
}

function batches(bottle: Bottle) {
  return [...bottle.batches].reverse().filter((b) => !b.discarded_at);
}

async function openKey(): Promise<void> {
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/key", { params: { path: path.value } })));
}

async function saveAmounts(): Promise<void> {
  if (!trial.value) return;
  const { care, care_revision: read } = trial.value;
  fault.value = await change(() =>
    Promise.resolve()
      .then(() => ({ ...care, ml_per_plant: need(form.each, "ml_per_plant"), margin: need(form.margin, "margin") / 100 }))
      .then((body) => take(client.PUT("/api/trials/{trial_id}/care", { params: { path: path.value, header: ifStill(read) }, body }))),
  );
  faulty.value = null;
  if (!fault.value) await load();
}

async function keep(id: number): Promise<void> {
  const draft = drafts[id];
  if (!draft) return;
  const { form: wish } = draft; // of this click: a second one is the same batch
  fault.value = await make(() =>
    Promise.resolve()
      .then(() => ({
        volume: need(draft.volume, "volume"),
        life_hours: maybe(draft.life, "life_hours"),
        recipe: draft.recipe.trim() || null,
        note: draft.note,
        acknowledged: draft.read,
        mixed_by: helper.value ? form.by : "",
      }))
      .then((body) => take(client.POST("/api/trials/{trial_id}/remedies/{remedy_id}/batches", { params: { path: { ...path.value, remedy_id: id }, header: once(wish, body) }, body }))),
  );
  faulty.value = fault.value ? id : null;
  if (fault.value) return;
  Object.assign(draft, { read: [], form: formName() });
  await Promise.all([bottles.load(), labels.load()]);
}

async function pourAway(id: number): Promise<void> {
  fault.value = await change(() => take(client.DELETE("/api/trials/{trial_id}/batches/{batch_id}", { params: { path: { ...path.value, batch_id: id } } })));
  await Promise.all([bottles.load(), labels.load()]);
}
</script>

<template>
  <div v-if="trial" class="stack">
    <FaultNote :fault="bottles.fault.value ?? (faulty === null && !['ml_per_plant', 'margin'].includes(fault?.field ?? '') ? fault : null)" />
    <section v-if="!shown" class="sheet stack">
      <h2>The bottles are sealed</h2>
      <p>Mixing shows what is in which bottle. Best is a helper who mixes and labels them; then whoever counts stays blind.</p>
      <div class="row">
        <el-button type="primary" size="large" @click="helper = true">A helper mixes: show it to them</el-button>
        <el-button size="large" @click="openKey">I mix myself: open the key (recorded)</el-button>
        <a v-for="(page, k) in labels.data.value ?? []" :key="page" :href="page" target="_blank" rel="noopener">Print the labels{{ (labels.data.value ?? []).length > 1 ? `, page ${k + 1}` : "" }}</a>
      </div>
    </section>
    <template v-else>
      <form class="sheet amounts" novalidate @submit.prevent="saveAmounts">
        <FieldRow v-slot="{ id, described }" label="ml for each plant" help="The same for all, the control too." :fault="fault?.field === 'ml_per_plant' ? fault : null"><el-input :id="id" v-model="form.each" inputmode="decimal" :aria-describedby="described" /></FieldRow>
        <FieldRow v-slot="{ id, described }" label="More, to be safe (%)" :fault="fault?.field === 'margin' ? fault : null"><el-input :id="id" v-model="form.margin" inputmode="decimal" :aria-describedby="described" /></FieldRow>
        <el-button native-type="submit">Work it out again</el-button>
        <FieldRow v-if="helper" v-slot="{ id }" label="Who mixes (a helper)"><el-input :id="id" v-model="form.by" maxlength="40" /></FieldRow>
        <a v-for="(page, k) in labels.data.value ?? []" :key="page" :href="page" target="_blank" rel="noopener" class="print">Print the labels{{ (labels.data.value ?? []).length > 1 ? `, page ${k + 1}` : "" }}</a>
      </form>
      <section v-for="bottle in sorted" :key="bottle.remedy_id" class="sheet stack bottle" :aria-label="remedy(bottle.remedy_id)?.name">
        <header>
          <PlantTag v-if="bottle.letter" :letter="bottle.letter" :notches="bottle.notches" :height="60" />
          <div>
            <h2>{{ remedy(bottle.remedy_id)?.name }}</h2>
            <p>{{ remedy(bottle.remedy_id)?.recipe }}</p>
            <p class="small soft">{{ bottle.plants }} plants: {{ volume(bottle.volume) }}. Use within {{ life(bottle.card.life_hours) }}. {{ bottle.card.agitation }}</p>
          </div>
        </header>
        <div v-if="bottle.mix" class="two">
          <BottlePicture :mix="bottle.mix" />
          <PourList :mix="bottle.mix" />
        </div>
        <p v-else>{{ bottle.unread }}</p>
        <CautionList :texts="remedy(bottle.remedy_id)?.cautions ?? []" title="Before you mix" />
        <form v-if="drafts[bottle.remedy_id]" class="stack" novalidate @submit.prevent="keep(bottle.remedy_id)">
          <div class="amounts">
            <FieldRow v-slot="{ id }" label="Mixed (ml)" :fault="faulty === bottle.remedy_id && fault?.field === 'volume' ? fault : null"><el-input :id="id" v-model="drafts[bottle.remedy_id]!.volume" inputmode="decimal" /></FieldRow>
            <FieldRow v-slot="{ id }" label="Life (hours)" :fault="faulty === bottle.remedy_id && fault?.field === 'life_hours' ? fault : null"><el-input :id="id" v-model="drafts[bottle.remedy_id]!.life" inputmode="decimal" /></FieldRow>
            <FieldRow v-slot="{ id, described }" :label="bottle.card.kind === 'product' ? 'Dose, by its label' : 'Mixed otherwise than written'" help="Such as 2 ml product in 1 litre; empty: as written." :fault="faulty === bottle.remedy_id && ['text', 'parts'].includes(fault?.field ?? '') ? fault : null"><el-input :id="id" v-model="drafts[bottle.remedy_id]!.recipe" maxlength="500" :aria-describedby="described" /></FieldRow>
            <FieldRow v-slot="{ id }" label="Note"><el-input :id="id" v-model="drafts[bottle.remedy_id]!.note" maxlength="500" /></FieldRow>
          </div>
          <el-checkbox-group v-if="bottle.strong.length" v-model="drafts[bottle.remedy_id]!.read" class="stack">
            <el-checkbox v-for="caution in bottle.strong" :key="caution.key" :value="caution.key">I have read: {{ caution.texts[0] }}</el-checkbox>
          </el-checkbox-group>
          <FaultNote :fault="faulty === bottle.remedy_id && !['volume', 'life_hours', 'text', 'parts'].includes(fault?.field ?? '') ? fault : null" />
          <div><el-button type="primary" size="large" native-type="submit">It is mixed: keep the batch</el-button></div>
        </form>
        <ul v-if="batches(bottle).length" class="batches">
          <li v-for="batch in batches(bottle)" :key="batch.id" :class="{ old: !batch.usable }">
            <span><strong>Batch {{ batch.id }}</strong>, {{ volume(batch.volume) }}, {{ when.format(Date.parse(batch.mixed_at)) }}<template v-if="batch.mixed_by"> by {{ batch.mixed_by }}</template></span>
            <span>{{ batch.usable ? (batch.use_by ? `use by ${when.format(Date.parse(batch.use_by))}` : "keeps") : "past its life" }}<template v-if="batch.rounds.length">, used in round {{ batch.rounds.join(", ") }}</template><template v-if="batch.note"> · {{ batch.note }}</template></span>
            <el-button size="small" @click="pourAway(batch.id)">Poured away</el-button>
          </li>
        </ul>
      </section>
      <section v-if="water" class="sheet stack" aria-label="The control's bottle">
        <header>
          <PlantTag v-if="waterTag" :letter="waterTag.letter" :notches="waterTag.notches" :height="60" />
          <div><h2>{{ water.name }}</h2><p>{{ waterPlants }} plants: {{ volume(waterVolume) }} of the water the others are mixed with, in a bottle like theirs, labelled like theirs.</p></div>
        </header>
      </section>
      <p v-if="bottles.data.value && !bottles.data.value.length" class="sheet">No remedy of this trial comes out of a bottle.</p>
      <CautionList :texts="trial.general_cautions" title="For every bottle" />
      <NextStep from="mix" />
    </template>
  </div>
</template>

<style scoped>
.amounts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: var(--space-3);
  align-items: start;
}

.amounts > .el-button,
.print {
  margin-top: 1.7em;
}

.print {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}

header {
  display: flex;
  gap: var(--space-4);
  align-items: center;
}

.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--space-5);
}

.batches {
  display: grid;
  gap: 0;
  margin: 0;
  padding: 0;
  list-style: none;
}

.batches li {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: var(--space-3);
  align-items: center;
  padding-block: var(--space-2);
  border-top: 1px solid var(--hair);
}

.old {
  color: var(--ink-soft);
}

@media (width < 820px) {
  .two,
  .batches li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
