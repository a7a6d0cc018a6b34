<script setup lang="ts">
import { computed, reactive, ref, watch } from "vue";
import { asFault, client, take, type Fault, type Pest, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import { learnPests } from "../../composables/useKnowledge";
import { needWhole } from "../../entered";
import { readMoments } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";

/** A pest that is not on the list: how it is counted, kept for this trial and later ones. */
const props = defineProps<{
  name: string;
  /** What is kept of it, where it is. */ kept: Pest | undefined;
  measure: Pest["measure"];
  lookDays: string;
  roundDays: string;
}>();
let wish = formName();
const fault = ref<Fault | null>(null);
const said = ref("");
const form = reactive({ kind: "pest", unit: "leaf", what: "", tell: "", where: "", generation: "" });
const id = computed(() => (props.kept && "id" in props.kept ? (props.kept as Schemas["OwnPestOut"]).id : null));

watch(
  () => [props.name, props.kept],
  () => {
    const known = props.kept;
    Object.assign(form, {
      kind: known?.kind ?? "pest",
      unit: known?.sample_unit ?? "leaf",
      what: known?.count_what ?? "",
      tell: known?.dead_or_alive ?? "",
      where: known?.where ?? "",
      generation: known?.generation_days ? String(known.generation_days) : "",
    });
  },
  { immediate: true },
);

async function tried(work: () => Promise<unknown>, words: string): Promise<void> {
  fault.value = null;
  said.value = "";
  try {
    await work();
    await learnPests();
    said.value = words;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

function keep(): Promise<void> {
  return tried(async () => {
    const body = {
      name: props.name,
      kind: form.kind,
      sample_unit: form.unit,
      count_what: form.what,
      dead_or_alive: form.tell,
      where: form.where,
      measure: props.measure,
      look_days: wholeDays(props.lookDays, [3, 7]),
      round_days: wholeDays(props.roundDays, [0]),
      generation_days: form.generation.trim() ? needWhole(form.generation, "generation_days") : 0,
    };
    if (id.value) {
      await take(client.PUT("/api/own-pests/{pest_id}", { params: { path: { pest_id: id.value } }, body }));
      return;
    }
    await take(client.POST("/api/own-pests", { params: { header: once(wish, body) }, body }));
    wish = formName();
  }, `${props.name} is in your list of pests now.`);
}

function drop(pest: number): Promise<void> {
  return tried(
    () => take(client.DELETE("/api/own-pests/{pest_id}", { params: { path: { pest_id: pest } } })),
    `${props.name} is off your list; this trial keeps the name.`,
  );
}

/** The whole days of a row; looks after hours are of one trial, not of the pest. */
function wholeDays(text: string, usual: number[]): number[] {
  const found = (readMoments(text) ?? []).filter((day) => Number.isInteger(day));
  return found.length ? found : usual;
}

function at(field: string): Fault | null {
  return fault.value?.field === field ? fault.value : null;
}
</script>

<template>
  <details class="own">
    <summary>{{ id === null ? `${name} is not on the list. Say how it is counted, and keep it` : `${name} is one of your own: how it is counted` }}</summary>
    <div class="stack">
      <div class="fields narrow">
        <FieldRow v-slot="{ id: field }" label="What it is" :fault="at('kind')"
          ><el-select :id="field" v-model="form.kind" aria-label="Pest or disease of your own"
            ><el-option value="pest" label="a pest" /><el-option value="disease" label="a disease" /></el-select
        ></FieldRow>
        <FieldRow v-slot="{ id: field }" label="Looked at one by one" help="leaf, shoot, fruit, cluster" :fault="at('sample_unit')"
          ><el-input :id="field" v-model="form.unit" maxlength="20"
        /></FieldRow>
        <FieldRow v-slot="{ id: field }" label="From egg to egg (days)" help="Empty where nobody knows." :fault="at('generation_days')"
          ><el-input :id="field" v-model="form.generation" inputmode="numeric"
        /></FieldRow>
      </div>
      <FieldRow v-slot="{ id: field }" label="What counts as one" :fault="at('count_what')"
        ><el-input :id="field" v-model="form.what" maxlength="300" placeholder="Every live caterpillar, young ones too."
      /></FieldRow>
      <FieldRow v-slot="{ id: field }" label="What tells a live one from a dead one" :fault="at('dead_or_alive')"
        ><el-input :id="field" v-model="form.tell" maxlength="300"
      /></FieldRow>
      <FieldRow v-slot="{ id: field }" label="Where one looks" :fault="at('where')"><el-input :id="field" v-model="form.where" maxlength="300" /></FieldRow>
      <p class="small soft">What is counted and the days below are kept with it, as its usual ones.</p>
      <div class="row">
        <el-button @click="keep">{{ id === null ? "Keep it in my list" : "Keep the change" }}</el-button>
        <el-button v-if="id !== null" @click="drop(id)">Off my list</el-button>
      </div>
    </div>
    <FaultNote :fault="fault?.field && at(fault.field) ? null : fault" />
  </details>
  <p v-if="said" class="soft" role="status">{{ said }}</p>
</template>

<style scoped>
summary {
  min-height: var(--touch);
  align-content: center;
  cursor: pointer;
}
</style>
