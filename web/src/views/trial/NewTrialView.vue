<script setup lang="ts">
import { ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { asFault, client, take, type Fault, type QuestionIn } from "../../api/client";
import { formName, once } from "../../api/once";
import FaultNote from "../../components/FaultNote.vue";
import QuestionForm, { type QuestionDraft } from "../../components/trial/QuestionForm.vue";
import { useDraft } from "../../composables/useDraft";
import { useKnowledge } from "../../composables/useKnowledge";
import { usualFor, type Setup } from "../../question";

const router = useRouter();
const route = useRoute();
const { knowledge, fault: lost } = useKnowledge();
const fault = ref<Fault | null>(null);
const busy = ref(false);
/** It was done already: after the question comes the table, not the bench. */
const onPaper = ref(route.query["paper"] === "1");

function dayFromNow(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  const two = (n: number): string => String(n).padStart(2, "0");
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

function fresh(): { question: QuestionDraft } {
  return {
    question: {
      name: "",
      pest: "",
      measure: "live",
      threshold: "60",
      start_on: dayFromNow(3),
      look_days: "3, 7, 14",
      round_days: "0, 7",
      remedies: [
        {
          id: null,
          name: "Water only",
          role: "control",
          recipe: "Plain rain or filtered water, the same amount, undersides too.",
          traits: { catalogue: "water_only", way: "spray", ingredients: [], drift_cm: 20, first_look_days: 1, wets: true, dose_unit: "", caution: "" },
        },
        { id: null, name: "", role: "remedy", recipe: "" },
      ],
      setup: {} as Required<Setup>, // the usual one, once it is known
    },
  };
}

const [draft, forget] = useDraft<{ question: QuestionDraft }>("question", fresh());
let form = formName();

/** What was found out before: the pest, with the measure and the days that are usual for it. */
watch(knowledge, (now, before) => {
  if (!now || before) return; // a pest kept meanwhile changes no answer
  completeSetup();
  const named = route.query["pest"];
  if (typeof named !== "string" || !named) return;
  draft.question.pest = named;
  const pest = now.pests.find((p) => p.key === named);
  if (pest) Object.assign(draft.question, usualFor(pest));
});

/** What the draft does not say is as usual; drafts of an older version lack what came later. */
function completeSetup(): void {
  draft.question.setup = { ...knowledge.value?.numbers.setup, ...draft.question.setup } as Required<Setup>;
}

function startAfresh(): void {
  draft.question = fresh().question;
  completeSetup();
  form = formName();
  fault.value = null;
}

async function create(question: QuestionIn): Promise<void> {
  if (busy.value) return; // a second click on its way is the same wish
  busy.value = true;
  try {
    const made = await take(client.POST("/api/trials", { body: question, params: { header: once(form, question) } }));
    forget();
    // Back leads to the question that was asked, not to an empty form.
    await router.replace(`/trial/${made.id}/question`);
    await router.push(`/trial/${made.id}/${onPaper.value ? "paper" : "plants"}`);
  } catch (thrown) {
    fault.value = asFault(thrown);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="stack">
    <h1>A new trial</h1>
    <el-checkbox v-model="onPaper">It was done already, on paper: the table of plants, days and counts comes next</el-checkbox>
    <FaultNote :fault="lost" />
    <QuestionForm v-if="knowledge" v-model="draft.question" :knowledge="knowledge" :fault="fault" fresh @submit="create" @wrong="(found) => (fault = found)">
      <FaultNote :fault="fault?.field ? null : fault" />
      <div class="row">
        <el-button type="primary" native-type="submit" :loading="busy" size="large">Next: {{ onPaper ? "the table" : "the plants" }} <span class="key" aria-hidden="true">Ctrl Enter</span></el-button>
        <el-button size="large" @click="startAfresh">Start afresh</el-button>
        <span class="small soft">What you enter is kept on this device until then.</span>
      </div>
    </QuestionForm>
  </div>
</template>
