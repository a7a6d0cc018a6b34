<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { asFault, client, take, type Fault, type QuestionIn, type Trial } from "../../api/client";
import FaultNote from "../../components/FaultNote.vue";
import QuestionForm, { type QuestionDraft } from "../../components/QuestionForm.vue";
import { useKnowledge } from "../../composables/useKnowledge";
import { useTrial } from "../../composables/useTrial";
import { usualSetup } from "../../question";

const { trial, change } = useTrial();
const { knowledge, fault: lost } = useKnowledge();
const router = useRouter();
const fault = ref<Fault | null>(null);
const saved = ref(false);
const asking = ref(false);

function draftOf(from: Trial): QuestionDraft {
  return {
    name: from.name,
    pest: from.pest,
    measure: from.measure.key,
    threshold: String(Math.round(from.threshold * 1000) / 10),
    start_on: from.start_on,
    look_days: from.looks.filter((l) => l.number > 0).map((l) => l.day).join(", "),
    round_days: from.rounds.map((r) => r.day).join(", "),
    remedies: from.remedies.map(({ id, name, role, recipe, traits }) => ({ id, name, role, recipe, traits })),
    setup: { ...usualSetup, ...from.setup },
    harvest: from.setup.harvest_days === null ? "" : String(from.setup.harvest_days ?? ""),
  };
}

const form = ref<QuestionDraft>(draftOf(trial.value as Trial));
watch(form, () => (saved.value = false), { deep: true });
const fixed = computed(() => trial.value?.sprayed_on !== null);

async function save(question: QuestionIn): Promise<void> {
  const id = trial.value?.id ?? 0;
  fault.value = await change(() =>
    take(client.PUT("/api/trials/{trial_id}/question", { params: { path: { trial_id: id } }, body: question })),
  );
  if (!fault.value && trial.value) {
    form.value = draftOf(trial.value);
    setTimeout(() => (saved.value = true));
  }
}

async function remove(): Promise<void> {
  try {
    await take(client.DELETE("/api/trials/{trial_id}", { params: { path: { trial_id: trial.value?.id ?? 0 } } }));
    await router.push("/");
  } catch (thrown) {
    fault.value = asFault(thrown);
    asking.value = false;
  }
}
</script>

<template>
  <div class="stack">
    <FaultNote :fault="lost" />
    <p v-if="fixed" class="soft">
      The first spray is done, so the question stands as it was asked; only the name can change.
    </p>
    <QuestionForm v-if="knowledge" v-model="form" :knowledge="knowledge" :fault="fault" :fixed="fixed" @submit="save" @wrong="fault = $event">
      <FaultNote :fault="fault?.field ? null : fault" />
      <div class="row">
        <el-button type="primary" native-type="submit" size="large">Keep the question</el-button>
        <span v-if="saved" role="status">Kept.</span>
        <el-button v-if="trial?.removable" class="remove" @click="asking = true">Remove this trial</el-button>
      </div>
    </QuestionForm>
    <el-dialog v-model="asking" title="Remove this trial?" width="min(460px, 92vw)" append-to-body>
      <p>Its question, plants and layout are gone for good; this cannot be undone. Nothing was counted in it yet.</p>
      <template #footer>
        <el-button @click="asking = false">Keep it</el-button>
        <el-button type="primary" @click="remove">Remove it</el-button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.remove {
  margin-left: auto;
}
</style>
