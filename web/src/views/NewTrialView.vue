<script setup lang="ts">
import { nextTick, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { asFault, client, take, type Fault, type QuestionIn } from "../api/client";
import FaultNote from "../components/FaultNote.vue";
import QuestionForm, { type QuestionDraft } from "../components/QuestionForm.vue";
import { useDraft } from "../composables/useDraft";
import { useKnowledge } from "../composables/useKnowledge";
import { usualSetup } from "../question";

const router = useRouter();
const route = useRoute();
const { knowledge, fault: lost } = useKnowledge();
const fault = ref<Fault | null>(null);
const busy = ref(false);

function dayFromNow(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  const two = (n: number): string => String(n).padStart(2, "0");
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

const [draft, forget] = useDraft<{ question: QuestionDraft }>("question", {
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
        traits: { catalogue: "water_only", way: "spray", ingredients: [], drift_cm: 20, first_look_days: 1, wets: true },
      },
      { id: null, name: "", role: "remedy", recipe: "" },
    ],
    setup: { ...usualSetup },
    harvest: "",
  },
});

// Drafts of an older version lack what came later.
draft.question.setup = { ...usualSetup, ...draft.question.setup };
draft.question.harvest ??= "";
const named = route.query["pest"];
if (typeof named === "string" && named) draft.question.pest = named;

async function show(found: Fault): Promise<void> {
  fault.value = found;
  await nextTick();
  document.querySelector("[role=alert]")?.scrollIntoView({ block: "center" });
}

async function create(question: QuestionIn): Promise<void> {
  busy.value = true;
  try {
    const made = await take(client.POST("/api/trials", { body: question }));
    forget();
    await router.push(`/trial/${made.id}/plants`);
  } catch (thrown) {
    await show(asFault(thrown));
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="stack">
    <h1>A new trial</h1>
    <FaultNote :fault="lost" />
    <QuestionForm v-if="knowledge" v-model="draft.question" :knowledge="knowledge" :fault="fault" fresh @submit="create" @wrong="show">
      <FaultNote :fault="fault?.field ? null : fault" />
      <div class="row">
        <el-button type="primary" native-type="submit" :loading="busy" size="large">Next: the plants</el-button>
        <span class="small soft">What you enter is kept on this device until then.</span>
      </div>
    </QuestionForm>
  </div>
</template>
