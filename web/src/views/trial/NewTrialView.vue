<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { asFault, client, Fault, take, type Plant, type QuestionIn, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import FaultNote from "../../components/FaultNote.vue";
import QuestionForm from "../../components/trial/QuestionForm.vue";
import { useDraft } from "../../composables/useDraft";
import { useKnowledge } from "../../composables/useKnowledge";
import { MOST_DRAWN, WHOLE, noRows, partsOf, usualFor, type QuestionDraft, type Rows, type Setup } from "../../question";
import { PARTS } from "../../beginnings";
import { readNumber } from "../../words";

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

function fresh(): { question: QuestionDraft; bench: Rows } {
  return {
    bench: { ...noRows(), count: "12", rows: "2" },
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

const [draft, forget] = useDraft<{ question: QuestionDraft; bench: Rows }>("question", fresh());
let form = formName();

/** What was found out before: the pest, with the measure and the days that are usual for it. */
watch(knowledge, (now, before) => {
  if (!now || before) return; // a pest kept meanwhile changes no answer
  completeSetup();
  const named = route.query["pest"];
  if (typeof named !== "string" || !named) return;
  draft.question.pest = named;
  takeTried();
  const pest = now.pests.find((p) => p.key === named);
  if (pest) Object.assign(draft.question, usualFor(pest));
});

/** Remedies that were tried one after the other, from the journal: now side by side. */
function takeTried(): void {
  const tried = [route.query["tried"] ?? []].flat().filter((one): one is string => Boolean(one));
  if (!tried.length) return;
  const control = draft.question.remedies.find((r) => r.role === "control");
  const remedies = tried.map((recipe) => ({ id: null, name: (recipe.split(/[,;:(]/)[0] ?? recipe).trim().slice(0, 60), role: "remedy" as const, recipe }));
  draft.question.remedies = [...(control ? [control] : []), ...remedies];
}

/** What the draft does not say is as usual; drafts of an older version lack what came later. */
function completeSetup(): void {
  draft.question.setup = { ...knowledge.value?.numbers.setup, ...draft.question.setup } as Required<Setup>;
  draft.bench = { ...noRows(), ...draft.bench };
}

function startAfresh(): void {
  Object.assign(draft, fresh());
  completeSetup();
  form = formName();
  fault.value = null;
}

type Part = Omit<Schemas["PlantsIn"], "prefix">;

/** The bench's parts as typed, none on paper or where it is laid out later; a fault where they are no numbers. */
function bench(): Part[] | Fault {
  const { unit } = draft.question.setup;
  const ofParts = PARTS.includes(unit);
  if (onPaper.value || !draft.bench.count.trim() || !(ofParts || WHOLE.includes(unit))) return [];
  const most = knowledge.value?.numbers.most_plants ?? 0;
  const count = readNumber(draft.bench.count);
  const rows = readNumber(draft.bench.rows);
  const whole = (n: number | undefined, upTo: number): n is number => n !== undefined && Number.isInteger(n) && n >= 1 && n <= upTo;
  if (!whole(count, most))
    return new Fault("bad_input", `“${draft.bench.count}” is no number of plants`, "bench.count", `Give a whole number, 1 to ${most}.`, 422);
  if (ofParts) {
    const each = unit === "half" ? 2 : readNumber(draft.bench.each);
    if (!whole(each, most)) return new Fault("bad_input", `“${draft.bench.each}” is no number of leaves`, "bench.each", "Give a whole number, such as 8.", 422);
    return [{ rows: count, per_row: each, row_is_plant: true }];
  }
  if (!whole(rows, count))
    return new Fault("bad_input", `“${draft.bench.rows}” is no number of rows`, "bench.rows", "Give a whole number, at most one row a plant.", 422);
  return partsOf(count, rows).map((part) => ({ ...part, row_is_plant: false }));
}

/** A name to find it by, where none was given: what the plants are, and what is on them. */
function named(question: QuestionIn): QuestionIn {
  if (question.name.trim()) return question;
  const pest = knowledge.value?.pests.find((p) => p.key === question.pest)?.name ?? question.pest;
  const crop = question.setup?.crop?.trim();
  const name = crop ? `${crop}, ${pest.toLowerCase()}` : pest;
  return { ...question, name: name.charAt(0).toUpperCase() + name.slice(1) };
}

/** The quick counts as typed, by their place in the row of plants, none where no plant is drawn to type them; a fault where one is no number, or missing for the lot. */
function counted(atOnce: boolean): (number | null)[] | Fault {
  const found: (number | null)[] = [];
  const plants = readNumber(draft.bench.count) ?? 0;
  if (onPaper.value || plants > MOST_DRAWN || !WHOLE.includes(draft.question.setup.unit)) return [];
  const missing = Array.from({ length: plants }, (_, k) => k).filter((k) => !draft.bench.counts[k]?.trim());
  if (atOnce && missing.length && missing.length < plants) {
    const which = missing.length === 1 ? `plant ${(missing[0] ?? 0) + 1} has` : `${missing.length} plants have`;
    return new Fault("bad_input", `${which} no count, and others have`, "bench.counts", "Count these too, or none: then neighbours form the blocks.", 422);
  }
  for (const text of draft.bench.counts.slice(0, plants)) {
    const value = text?.trim() ? readNumber(text) : null;
    if (value === undefined || (value !== null && value < 0))
      return new Fault("bad_input", `“${text}” is no count`, "bench.counts", "Give a number such as 12, or leave it empty.", 422);
    found.push(value);
  }
  return found;
}

let drawing = false;
const form_ = useTemplateRef<{ submit: () => Promise<void> }>("form_");
/** Keeps the plan and lets the lot draw at once. */
async function draw(): Promise<void> {
  drawing = true;
  await form_.value?.submit();
  drawing = false;
}
const drawable = computed(() => !onPaper.value && [...WHOLE, ...PARTS].includes(draft.question.setup.unit) && Boolean(draft.bench.count.trim()));

async function create(asked: QuestionIn): Promise<void> {
  const atOnce = drawing;
  if (busy.value) return; // a second click on its way is the same wish
  const parts = bench();
  const counts = counted(atOnce);
  for (const found of [parts, counts]) {
    if (!(found instanceof Fault)) continue;
    fault.value = found;
    return;
  }
  if (parts instanceof Fault || counts instanceof Fault) return;
  const question = named(asked);
  busy.value = true;
  try {
    const made = await take(client.POST("/api/trials", { body: question, params: { header: once(form, question) } }));
    const prefix = (question.setup?.crop?.trim().charAt(0) || "P").toUpperCase();
    const path = { trial_id: made.id };
    const plants: Plant[] = [];
    for (const [k, part] of parts.entries()) {
      const body = { prefix, ...part };
      plants.push(...(await take(client.POST("/api/trials/{trial_id}/plants", { params: { path, header: once(`${form}-${k}`, body) }, body }))));
    }
    for (const [k, plant] of plants.entries()) {
      const match_count = counts[k] ?? null;
      if (match_count === null) continue;
      const { id, name, row, place, set_aside, size, host, died_on } = plant;
      await take(
        client.PUT("/api/trials/{trial_id}/plants/{plant_id}", {
          params: { path: { ...path, plant_id: id } },
          body: { name, row, place, match_count, set_aside, size, host, died_on },
        }),
      );
    }
    forget();
    // A plan that cannot be drawn as it is stands on the page that says why.
    const body = { reason: "" };
    if (atOnce) await take(client.POST("/api/trials/{trial_id}/layout", { params: { path, header: once(`${form}-lot`, body) }, body })).catch(() => null);
    // Back leads to the question that was asked, not to an empty form.
    await router.replace(`/trial/${made.id}/question`);
    await router.push(`/trial/${made.id}/${onPaper.value ? "paper" : atOnce ? "layout" : "plants"}`);
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
    <FaultNote :fault="lost" />
    <QuestionForm
      v-if="knowledge"
      ref="form_"
      v-model="draft.question"
      v-model:bench="draft.bench"
      :paper="onPaper"
      :knowledge="knowledge"
      :fault="fault"
      fresh
      @submit="create"
      @paper="(is) => (onPaper = is)"
      @wrong="(found) => (fault = found)">
      <FaultNote :fault="fault?.field ? null : fault" />
      <div class="row">
        <el-button v-if="drawable" type="primary" :loading="busy" size="large" @click="draw">Let the lot draw</el-button>
        <el-button :type="drawable ? undefined : 'primary'" native-type="submit" :loading="busy" size="large"
          >Next: {{ onPaper ? "the table" : "the plants" }} <span class="key" aria-hidden="true">Ctrl Enter</span></el-button
        >
        <el-button size="large" @click="startAfresh">Start afresh</el-button>
        <span class="small soft">What you enter is kept on this device until then.</span>
      </div>
    </QuestionForm>
  </div>
</template>
