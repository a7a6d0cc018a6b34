<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from "vue";
import type { Fault, Knowledge, Schemas } from "../../api/client";
import { PARTS, asks, beginningOf, beginnings, type Beginning } from "../../beginnings";
import { useCatalogue } from "../../composables/useCatalogue";
import { useCrop } from "../../composables/useCrop";
import { useGuess } from "../../composables/useGuess";
import { useRemarks } from "../../composables/useRemarks";
import { MOST_DRAWN, WHOLE, partsOf, questionOf, takeOver, type QuestionDraft, type RemedyIn, type Rows, type Setup } from "../../question";
import { dayName, readNumber } from "../../words";
import PlanBench from "./PlanBench.vue";
import PlanGlance from "./PlanGlance.vue";
import PlanRemarks from "./PlanRemarks.vue";
import PestPicker from "../finding/PestPicker.vue";

/** A new question as one sentence with gaps, filled in from left to right. */
const form = defineModel<QuestionDraft>({ required: true });
const bench = defineModel<Rows>("bench", { required: true });
const props = defineProps<{ knowledge: Knowledge; fault: Fault | null; paper: boolean }>();
const emit = defineEmits<{
  guess: [remedies: RemedyIn[]];
  control: [remedy: RemedyIn];
  more: [];
  unfold: [part: "counted" | "remedies" | "days"];
  kind: [kind: Setup["kind"]];
  paper: [paper: boolean];
}>();

const IN_SENTENCE = ["bench.count", "bench.rows", "bench.each", "bench.counts", "setup.crop", "pest", "threshold", "start_on"];
const PLAIN = "water_only"; // the control that is usual
const TOLD_BESIDE = ["too_few_blocks", "too_many_remedies", "too_few_layouts"];
const { list, listedFor, make } = useCatalogue(() => ({ pest: form.value.pest, setup: { ...form.value.setup, in_bloom: false } })); // a bloom is over some day: the critic says to wait

const { crops, crop, strange } = useCrop(form);
const otherwise = ref(false);

const remedies = computed(() => form.value.remedies.filter((r) => r.role === "remedy" && r.name.trim()));
const control = computed(() => form.value.remedies.find((r) => r.role === "control"));
const controls = computed(() => list.value.filter((r) => r.role === "control"));
/** What may be done anyway: then nothing is left untreated, and the others are held against it. */
const usuals = computed(() => list.value.filter((r) => r.role === "remedy" && r.acts_on_it && !remedies.value.some((one) => one.traits?.catalogue === r.key)));
const usual = computed(() => list.value.find((r) => r.role === "remedy" && r.key === control.value?.traits?.catalogue));

const beginning = computed(() => beginningOf(form.value, props.paper, Boolean(usual.value)));
const said = computed(() => asks(form.value.setup.kind));
const ofParts = computed(() => PARTS.includes(form.value.setup.unit));
/** Plants and rows as typed, where the plants themselves get one remedy each. */
const stand = computed(() => {
  const count = readNumber(bench.value.count) ?? 0;
  const rows = readNumber(bench.value.rows) ?? 0;
  const sound = Number.isInteger(count) && Number.isInteger(rows) && rows >= 1 && count >= rows && count <= MOST_DRAWN;
  return !props.paper && WHOLE.includes(form.value.setup.unit) && sound ? { count, rows } : null;
});
const each = computed(() => (form.value.setup.unit === "half" ? 2 : (readNumber(bench.value.each) ?? 0)));

/** Another beginning of the sentence; what it does not ask for stays as it was. */
async function begin(key: Beginning): Promise<void> {
  emit("paper", key === "paper");
  emit("kind", key === "few" || key === "usual" || key === "paper" ? "compare" : key);
  if (key === "few") {
    form.value.setup.unit = "leaf";
    if (bench.value.count === "12") bench.value.count = "1";
  } else if (ofParts.value) form.value.setup.unit = "plant";
  if (key !== "few" && bench.value.count === "1") bench.value.count = "12";
  wantsUsual.value = key === "usual";
  if (key !== "usual" && usual.value) await setControl(PLAIN);
}

/** What is done anyway, once it is known what may be: the first that acts on the pest. */
const wantsUsual = ref(false);
watch([wantsUsual, usuals], async ([wanted, known]) => {
  if (!wanted || usual.value || !known.length) return;
  wantsUsual.value = false;
  await setControl((known.find((r) => r.reasons.length <= 1) ?? known[0])?.key ?? "");
});

const asked = computed(() => {
  const question = questionOf(form.value, props.knowledge.numbers.setup);
  const named = form.value.remedies.filter((r) => r.name.trim());
  if (!question || !remedies.value.length) return null;
  const places = stand.value ? partsOf(stand.value.count, stand.value.rows).flatMap(({ rows, per_row }) => Array<number>(rows).fill(per_row)) : [];
  const plants = places.flatMap((length, row) => Array.from({ length }, (_, k) => ({ row: row + 1, place: k + 1 })));
  const counts = plants.map((plant, k) => ({ ...plant, match_count: readNumber(bench.value.counts[k] ?? "") ?? null }));
  return { question: { ...question, name: question.name.trim() || "a plan", remedies: named }, plants: counts };
});
const remarks = useRemarks(() => asked.value);
/** Water is given as the remedies are, as long as nobody wrote how. */
const unwritten = new Set<string>();
watch([remarks, controls], ([said, known]) => {
  const recipe = known.find((c) => c.key === PLAIN)?.recipe;
  if (recipe) unwritten.add(recipe);
  const given = said.find((one) => one.code === "control_way")?.mended?.remedies.find((r) => r.role === "control");
  if (!given || !unwritten.has(control.value?.recipe ?? "")) return;
  unwritten.add(given.recipe);
  emit("control", given);
});
/** Too few plants are told beside how sure it will be. */
const heard = computed(() => remarks.value.filter((one) => !TOLD_BESIDE.includes(one.code)));
const onBench = computed(() => heard.value.filter((one) => one.about === "bench"));
const onWords = computed(() => heard.value.filter((one) => one.about !== "bench"));
function flagged(about: string, remedy?: string): boolean {
  return onWords.value.some((one) => one.about === about && (remedy === undefined || one.remedy === remedy));
}

const own = useGuess(
  {
    list,
    listedFor,
    make,
    pest: () => form.value.pest,
    kind: () => form.value.setup.kind,
    chosen: () => remedies.value.map((r) => r.name).join("; "),
    asked: () => !props.paper && !bench.value.unfolded,
  },
  (made) => emit("guess", made),
);

const A_LEAF = 3; // ml that wet one leaf, as a dab does
const SHARE: Record<string, number> = { half: 1 / 2, shoot: 1 / 4 }; // of what its plant takes
const whole = computed(() => crop.value?.ml ?? props.knowledge.numbers.care.ml_per_plant ?? 40);
/** The gap that is at fault is marked and gets the cursor. */
const GAPS: Record<string, string> = {
  "bench.count": "How many plants",
  "bench.rows": "In how many rows",
  "bench.each": " on each",
  "setup.crop": "What they are",
  "threshold": "Percent",
  "start_on": "First spray",
};
const inSentence = computed(() => (props.fault ? [props.fault, ...props.fault.more] : []).filter((one) => IN_SENTENCE.includes(one.field ?? "")));
const sentence = useTemplateRef<HTMLElement>("sentence");
watch(
  () => props.fault,
  (fault) => {
    for (const gap of sentence.value?.querySelectorAll("[aria-invalid]") ?? []) gap.removeAttribute("aria-invalid");
    for (const one of [...(fault ? [fault, ...fault.more] : [])].reverse()) {
      const label = GAPS[one.field ?? ""];
      const gap = label && sentence.value?.querySelector<HTMLElement>(`[aria-label$="${label}"]`);
      if (!gap) continue;
      gap.setAttribute("aria-invalid", "true");
      gap.focus(); // the first is the last to get it
    }
  },
  { flush: "post" },
);

const weekday = computed(() => (form.value.start_on ? `(${dayName(form.value.start_on)})` : ""));
const measured = computed(() => props.knowledge.measures.find((one) => one.key === form.value.measure)?.label.toLowerCase());

/** Whoever opens the list chooses: a guess that came in then would be put out again by the same tap. */
function chooseOwn(): void {
  own.choose();
  emit("more");
}

/** Another way for the same plants: remedies that were said last go first. */
function takeWay(way: Schemas["WayToTellOut"]): void {
  form.value.setup.two_looks = way.two_looks;
  const kept = remedies.value.slice(0, way.remedies - 1);
  form.value.remedies = form.value.remedies.filter((r) => r.role !== "remedy" || kept.includes(r));
  form.value.setup.unit = way.unit;
  if (way.unit === "leaf") bench.value.each = String(way.each);
}

function drop(remedy: RemedyIn): void {
  form.value.remedies = form.value.remedies.filter((r) => r !== remedy);
}

async function setControl(key: string): Promise<void> {
  const [made] = await make({ keys: [key], square: false });
  if (!made) return;
  emit("control", { ...made, role: "control" });
  // Against what is done anyway a third fewer is much; against nothing it is little.
  const [from, to] = made.role === "remedy" ? ["60", "30"] : ["30", "60"];
  if (form.value.threshold === from) form.value.threshold = to;
}

/** Enter goes on to the next gap; the form is sent from the last. */
function onward(event: KeyboardEvent): void {
  const gaps = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>("input, select, .plus")];
  const next = gaps[gaps.indexOf(event.target as HTMLElement) + 1];
  if (!(event.target instanceof HTMLInputElement) || !next) return;
  event.preventDefault();
  next.focus();
}
</script>

<template>
  <section class="sheet stack plan" aria-label="The trial in one sentence">
    <p ref="sentence" class="sentence" @keydown.enter.exact="onward">
      I want to know
      <span class="tight"
        ><select class="gap" aria-label="What you want to know" :value="beginning" @change="begin(($event.target as HTMLSelectElement).value as Beginning)">
          <option v-for="one in beginnings" :key="one.key" :value="one.key">{{ one.words }}</option></select
        >.</span
      >
      On
      <template v-if="ofParts && !paper">
        <input
          v-if="form.setup.unit !== 'half'"
          v-model="bench.each"
          class="gap few"
          inputmode="numeric"
          :aria-label="`${form.setup.unit === 'leaf' ? 'Leaves' : 'Shoots'} on each`"
          autocomplete="off" />
        <template v-else>both</template>{{ " " }}
        <select v-model="form.setup.unit" class="gap" aria-label="What gets one remedy">
          <option value="leaf">leaves</option>
          <option value="shoot">shoots or branches</option>
          <option value="half">halves</option>
        </select>
        of {{ readNumber(bench.count) === 1 ? "" : "each of " }}
      </template>
      my
      <input
        v-if="!paper && (ofParts || WHOLE.includes(form.setup.unit))"
        v-model="bench.count"
        class="gap few"
        :class="{ flag: flagged('plants') }"
        inputmode="numeric"
        aria-label="How many plants"
        autocomplete="off" />{{ " " }}
      <input
        v-model="form.setup.crop"
        class="gap crop"
        list="crops"
        maxlength="60"
        placeholder="plants"
        aria-label="What they are"
        autocomplete="off"
        autocapitalize="none" />
      <datalist id="crops"><option v-for="c in crops" :key="c.key" :value="c.name" /></datalist>
      <template v-if="!paper && WHOLE.includes(form.setup.unit)">
        in <input v-model="bench.rows" class="gap few" inputmode="numeric" aria-label="In how many rows" autocomplete="off" />
        {{ readNumber(bench.rows) === 1 ? "row" : "rows" }}
      </template>
      {{ form.setup.kind === "prevention" ? "there are no" : form.setup.kind === "eggs" ? "there are eggs of" : "I see" }}
      <span class="tight"
        ><PestPicker
          v-model="form.pest"
          class="gap pest"
          :class="{ flag: flagged('pest') || flagged('measure') }"
          :pests="knowledge.pests"
          placeholder="which pest?" /></span
      >{{ form.setup.kind === "prevention" ? " yet" : ""
      }}<template v-if="measured"
        >, counted as <button type="button" class="as-text more" @click="emit('unfold', 'counted')">{{ measured }}</button></template
      >. {{ said.before }}
      <template v-for="(remedy, k) in remedies" :key="k">
        <template v-if="k"> or </template>
        <span class="gap chip" :class="{ flag: flagged('remedies', remedy.name) }"
          ><button type="button" class="named" :title="`Recipe and dose of ${remedy.name}`" @click="emit('unfold', 'remedies')">{{ remedy.name }}</button
          ><button type="button" :aria-label="`Leave out ${remedy.name}`" @click="drop(remedy)">×</button></span
        >
      </template>
      {{ " "
      }}<button type="button" class="plus" @click="chooseOwn"><span aria-hidden="true">+</span><span class="visually-hidden">Choose remedies</span></button
      >{{ said.after.startsWith(",") ? "" : " " }}{{ said.after }}
      <input v-model="form.threshold" class="gap few" inputmode="decimal" aria-label="Percent" autocomplete="off" />{{ said.share }}
      <span class="tight"
        ><select
          class="gap"
          :class="{ flag: flagged('control') }"
          aria-label="Compared with"
          :value="control?.traits?.catalogue ?? ''"
          @change="setControl(($event.target as HTMLSelectElement).value)">
          <option v-if="!controls.some((c) => c.key === control?.traits?.catalogue)" :value="control?.traits?.catalogue ?? ''">{{ control?.name }}</option>
          <option v-for="c in controls" :key="c.key" :value="c.key">
            {{
              c.way === "none"
                ? "some left alone"
                : c.key === control?.traits?.catalogue && control.name !== c.name
                  ? `some: ${control.name.toLowerCase()}`
                  : "some that get only water"
            }}
          </option>
          <optgroup v-if="usuals.length" label="what I do now, and none is left untreated">
            <option v-for="c in usuals" :key="c.key" :value="c.key">{{ c.name }}</option>
          </optgroup></select
        >?</span
      >
      I begin on <input v-model="form.start_on" type="date" class="gap" :class="{ flag: flagged('start') }" aria-label="First spray" />{{ " " }}
      <span class="day">{{ weekday }}</span>, treat on days
      <button type="button" class="as-text more" @click="emit('unfold', 'days')">{{ form.round_days || "…" }}</button> and count again on days
      <button type="button" class="as-text more" @click="emit('unfold', 'days')">
        {{ form.look_days || "…" }}{{ form.setup.two_looks ? ", the last two judged together" : "" }}</button
      >.
    </p>
    <p v-for="one in inSentence" :key="one.field ?? ''" class="wrong" role="alert">
      {{ one.message.charAt(0).toUpperCase() + one.message.slice(1) }}. {{ one.fix }}
    </p>
    <p v-if="crop" class="remark">
      {{ crop.said }} <button v-if="!otherwise && !bench.unfolded" type="button" class="as-text link" @click="otherwise = true">Mine are otherwise</button>
    </p>
    <p v-if="usual" class="remark">
      Nobody is left untreated: this tells whether another does better than {{ usual.name }}, not whether either does anything. One untreated plant in each
      block would tell both.
    </p>
    <div v-if="(strange || otherwise) && !bench.unfolded" class="row ticks">
      <span v-if="strange">{{ form.setup.crop?.trim() ? "These are not known here. What holds of them?" : "Name them, or say what holds of them:" }}</span>
      <el-checkbox v-model="form.setup.eaten">Something of them is eaten</el-checkbox>
      <el-checkbox v-model="form.setup.delicate">Their leaves are hairy, thin or waxy</el-checkbox>
      <el-checkbox v-model="form.setup.in_bloom">They bloom then</el-checkbox>
    </div>
    <div v-if="form.setup.eaten && !bench.unfolded" class="row ticks">
      <el-checkbox v-model="form.setup.picked">I pick of them all the time (herbs, salads, pods)</el-checkbox>
    </div>
    <PlanRemarks :remarks="onWords" @mend="(one) => one.mended && takeOver(form, one.mended)" />
    <slot />
    <div v-if="!paper && (ofParts || WHOLE.includes(form.setup.unit))" class="page">
      <div v-if="stand" class="stack">
        <PlanBench
          v-model="bench"
          :count="stand.count"
          :rows="stand.rows"
          :prefix="(form.setup.crop?.trim().charAt(0) || 'P').toUpperCase()"
          :habit="crop?.habit ?? null"
          :what="knowledge.pests.find((p) => p.key === form.pest)?.count_what ?? ''" />
        <PlanRemarks :remarks="onBench" @mend="(one) => one.mended && takeOver(form, one.mended)" />
      </div>
      <PlanGlance
        :form="form"
        :bench="bench"
        :each="ofParts ? each : 1"
        :ml="form.setup.unit === 'leaf' ? A_LEAF : whole * (SHARE[form.setup.unit] ?? 1)"
        :ways="knowledge.ways"
        :usual="Boolean(usual)"
        @take="takeWay" />
    </div>
  </section>
</template>

<style scoped>
.sentence {
  max-width: none;
  font-size: var(--text-xl);
  line-height: 2.15;
}

.gap {
  display: inline-flex;
  align-items: center;
  width: auto;
  min-height: var(--touch);
  padding: 0 var(--space-3);
  border: 1.5px solid var(--accent);
  border-radius: var(--radius-m);
  background: var(--accent-wash);
  color: var(--accent);
  font: inherit;
  font-weight: 700;
  line-height: 1.2;
  vertical-align: middle;
  margin-left: 0.12em;
}

/* A gap and the sign behind it stay together. */
.tight {
  display: inline-flex;
  align-items: baseline;
  max-width: 100%;
}

.tight > .gap {
  min-width: 0;
}

/* As wide as what is chosen, not as the longest there is. */
select.gap {
  max-width: 100%;
  field-sizing: content;
  text-overflow: ellipsis;
}

.day {
  color: var(--ink-soft);
  font-size: var(--text-l);
}

/* A word beside which more unfolds. */
.more {
  min-height: 0;
  padding: 0 0.1em;
  color: var(--accent);
  font: inherit;
  text-decoration: underline dotted;
  text-underline-offset: 0.2em;
}

.gap::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}

.few {
  width: 4.2ch;
  padding: 0;
  text-align: center;
}

.crop {
  width: 8.5em;
}

.pest {
  width: 9em;
  padding: 0;
}

.pest :deep(.el-select__wrapper) {
  width: 100%;
  min-height: calc(var(--touch) - 3px);
  background: none;
  box-shadow: none;
  color: inherit;
  font: inherit;
}

.pest :deep(.el-select__placeholder),
.pest :deep(input) {
  color: var(--accent);
  font: inherit;
  font-weight: 700;
}

.chip {
  gap: var(--space-1);
  padding-right: 0;
}

.chip .named {
  min-width: 0;
  padding: 0;
  font-weight: inherit;
}

.chip button,
.plus {
  min-width: 40px;
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--accent);
  font: inherit;
  cursor: pointer;
}

.plus {
  width: 44px;
  border: 2px solid var(--accent);
  margin-right: 0.2em;
  border-radius: 50%;
  background: var(--sheet);
  line-height: 1;
  vertical-align: middle;
}

.remark {
  max-width: none;
  padding-left: var(--space-3);
  border-left: 3px solid var(--trap);
}

.gap[aria-invalid] {
  border-color: var(--bad);
  background: var(--bad-wash);
}

/* A remark beneath hangs on it. */
.flag {
  border-bottom: 5px solid var(--trap);
}

.page {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4) var(--space-6);
  padding-top: var(--space-4);
  border-top: 1.5px solid var(--hair);
}

.page > :first-child {
  flex: 0 1 auto;
  min-width: 0;
  max-width: 100%;
}

.page > :last-child {
  flex: 1 1 330px;
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}

.ticks {
  gap: var(--space-2) var(--space-5);
}

.link {
  color: var(--accent);
}

@media (width < 640px) {
  .sentence {
    font-size: var(--text-l);
    line-height: 2.7;
  }
}
</style>
