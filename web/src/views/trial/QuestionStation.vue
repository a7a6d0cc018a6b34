<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { asFault, client, take, type Fault, type QuestionIn, type Trial } from "../../api/client";
import FaultNote from "../../components/FaultNote.vue";
import QuestionForm from "../../components/trial/QuestionForm.vue";
import { ifStill } from "../../api/once";
import { useKnowledge } from "../../composables/useKnowledge";
import { useTrial } from "../../composables/useTrial";
import type { QuestionDraft, Setup } from "../../question";
import { momentText } from "../../words";

const { trial, change, load } = useTrial();
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
    look_days: from.looks
      .filter((l) => l.number > 0)
      .map(momentText)
      .join(", "),
    round_days: from.round_days.join(", "),
    remedies: from.remedies.map(({ id, name, role, recipe, traits }) => ({ id, name, role, recipe, traits })),
    setup: from.setup as Required<Setup>,
  };
}

const form = ref<QuestionDraft>(draftOf(trial.value as Trial));
/** The state of the question that this form was filled from. */
const read = ref((trial.value as Trial).question_revision);
watch(form, () => (saved.value = false), { deep: true });
const fixed = computed(() => trial.value?.sprayed_on !== null);

async function save(question: QuestionIn): Promise<void> {
  const id = trial.value?.id ?? 0;
  fault.value = await change(() =>
    take(client.PUT("/api/trials/{trial_id}/question", { params: { path: { trial_id: id }, header: ifStill(read.value) }, body: question })),
  );
  if (!fault.value && trial.value) {
    show(trial.value);
    setTimeout(() => (saved.value = true));
  }
}

function show(found: Trial): void {
  form.value = draftOf(found);
  read.value = found.question_revision;
}

/** What somebody else has kept in the meantime: look at it, or keep one's own all the same. */
async function showTheirs(): Promise<void> {
  await load();
  if (trial.value) show(trial.value);
  fault.value = null;
}

async function keepMine(): Promise<void> {
  await load();
  read.value = trial.value?.question_revision ?? read.value;
  fault.value = null;
}

async function remove(): Promise<void> {
  try {
    await take(client.DELETE("/api/trials/{trial_id}", { params: { path: { trial_id: trial.value?.id ?? 0 }, query: { with_records: true } } }));
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
      The first spray is done, so the question stands as it was asked; only names can change: the trial's, and a remedy's that was misspelt, until a verdict is
      on record.
    </p>
    <QuestionForm
      v-if="knowledge"
      v-model="form"
      :knowledge="knowledge"
      :fault="fault"
      :fixed="fixed"
      :trial-id="trial?.id"
      @submit="save"
      @wrong="fault = $event">
      <FaultNote :fault="fault?.field ? null : fault">
        <span v-if="fault?.code === 'changed_elsewhere'" class="row">
          <el-button @click="showTheirs">Show what is there now</el-button>
          <el-button @click="keepMine">Keep mine: let me save it over that</el-button>
        </span>
      </FaultNote>
      <div class="row">
        <el-button type="primary" native-type="submit" size="large">Keep the question <span class="key" aria-hidden="true">Ctrl Enter</span></el-button>
        <span v-if="saved" role="status">Kept.</span>
        <el-button class="remove" @click="asking = true">Put this trial away</el-button>
      </div>
    </QuestionForm>
    <el-dialog v-model="asking" title="Put this trial away?" width="min(460px, 92vw)" append-to-body>
      <p>
        It leaves the list, and nothing of it is due any more. Nothing is deleted<template v-if="trial?.holds.length">
          ({{ trial.holds.join(", ") }} stay with it)</template
        >; it can be brought back from Today.
      </p>
      <template #footer>
        <el-button @click="asking = false">Keep it</el-button>
        <el-button type="primary" @click="remove">Put it away</el-button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.remove {
  margin-left: auto;
}
</style>
