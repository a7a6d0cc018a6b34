<script setup lang="ts">
import { computed, nextTick, reactive, ref, watch } from "vue";
import type { Fault, Knowledge, QuestionIn, Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import { kinds, noRows, questionOf, units, usualFor, type QuestionDraft, type RemedyIn, type Rows, type Setup } from "../../question";
import PestPicker from "../finding/PestPicker.vue";
import RemedyPicker from "../pantry/RemedyPicker.vue";
import { together } from "../../entered";
import { readDays, readMoments, readNumber } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import CountingPlan from "./CountingPlan.vue";
import PlanSentence from "./PlanSentence.vue";
import OwnPestFields from "./OwnPestFields.vue";
import RemedyRhythm from "./RemedyRhythm.vue";
import RemedySteps from "./RemedySteps.vue";

const form = defineModel<QuestionDraft>({ required: true });
/** A new question says where its plants stand, too. */
const bench = defineModel<Rows>("bench", { default: noRows });
const props = defineProps<{
  knowledge: Knowledge;
  fault: Fault | null;
  /** After the first spray only names may change. */
  fixed?: boolean;
  fresh?: boolean;
  /** It was done already: its plants come with their counts. */
  paper?: boolean;
  trialId?: number;
}>();
const emit = defineEmits<{ submit: [question: QuestionIn]; wrong: [fault: Fault]; paper: [paper: boolean] }>();

const measures = computed(() => props.knowledge.measures.filter((m) => m.judged && m.key !== "other"));
/** The pest as it is known: shipped by its key, or one's own by its name. */
const pest = computed(
  () =>
    props.knowledge.pests.find((p) => p.key === form.value.pest) ??
    props.knowledge.pests.find((p) => p.key.toLowerCase() === form.value.pest.trim().toLowerCase()),
);
const ownPest = computed(() => (form.value.pest.trim() && (!pest.value || "id" in pest.value) ? form.value.pest.trim() : ""));

// The usual measure and days of a pest are proposed when it is chosen, in a new question only.
watch(
  () => form.value.pest,
  () => {
    if (!props.fresh || !pest.value) return;
    Object.assign(form.value, usualFor(pest.value));
  },
);

function faultOf(field: string): Fault | null {
  return props.fault?.at(field) ?? null;
}

/** What is wrong with when or how a remedy is given: it has no single field. */
function rhythmFault(index: number): Fault | null {
  const all = props.fault ? [props.fault, ...props.fault.more] : [];
  return all.find((one) => new RegExp(`^remedies\\.${index}\\..*(programme|steps)`).test(one.field ?? "")) ?? null;
}

function addRemedy(): void {
  form.value.remedies.push({ id: null, name: "", role: "remedy", recipe: "" });
}

/** The remedies to choose from unfold beneath the sentence, where they are not unfolded with all of it. */
function more(): void {
  choosing.value = !choosing.value;
  if (open.value) box.value?.querySelector(".picker")?.scrollIntoView();
}

/** One's own is written where recipes are: the fields unfold, and the cursor waits in the name. */
async function writeOwn(): Promise<void> {
  bench.value.unfolded = true;
  if (form.value.remedies.every((r) => r.role === "control" || r.name.trim())) addRemedy();
  await nextTick();
  const names = box.value?.querySelectorAll<HTMLInputElement>(".remedy:last-of-type input");
  names?.[0]?.focus();
}

/** A click on what is chosen already leaves it out again. */
function addPicked(remedies: RemedyIn[]): void {
  const there = form.value.remedies.filter((r) => remedies.some((one) => one.name === r.name && one.traits?.catalogue === r.traits?.catalogue));
  if (there.length) {
    form.value.remedies = form.value.remedies.filter((r) => !there.includes(r));
    return;
  }
  const empty = form.value.remedies.filter((r) => r.role === "remedy" && !r.name.trim());
  form.value.remedies = [...form.value.remedies.filter((r) => !empty.includes(r)), ...remedies];
}

function replaceAll(remedies: RemedyIn[]): void {
  form.value.remedies = [...form.value.remedies.filter((r) => r.role === "control"), ...remedies];
}

/** A new question is the sentence; the rest unfolds on a wish, part by part, and where something in it is wrong. */
const open = computed(() => !props.fresh || bench.value.unfolded);
/** What has no word of its own in the sentence. */
const OTHERS = { asked: "Name, and what is given up for a gentler one", plants: "More of the plants" } as const;
type Part = keyof typeof OTHERS | "counted" | "remedies" | "days";
const unfolded = reactive(new Set<Part>());
const shows = (part: Part): boolean => open.value || unfolded.has(part);
async function turn(part: Part): Promise<void> {
  if (unfolded.has(part)) {
    unfolded.delete(part);
    return;
  }
  unfolded.add(part);
  await nextTick();
  box.value?.querySelector(`[data-part="${part}"]`)?.scrollIntoView({ block: "nearest" });
}
const choosing = ref(false);
const box = ref<HTMLElement | null>(null);
watch(
  () => props.fault,
  (fault) => {
    if ([fault, ...(fault?.more ?? [])].some((one) => one?.field && !/^(bench\.|pest$|threshold$|start_on$|setup\.crop$)/.test(one.field)))
      bench.value.unfolded = true;
  },
);

const shelf = ref(0);
const kept = ref("");
const shelfFault = ref<Fault | null>(null);

/** Keeps a remedy beside the shipped ones, for the next question. */
async function keepOwn(remedy: RemedyIn): Promise<void> {
  const { asFault, client, take } = await import("../../api/client");
  const body = { name: remedy.name, recipe: remedy.recipe ?? "", traits: { ...remedy.traits } as Schemas["TraitsIO"] };
  try {
    await take(client.POST("/api/own-remedies", { params: { header: once(formName(), body) }, body }));
    kept.value = remedy.name;
    shelf.value += 1;
    shelfFault.value = null;
  } catch (thrown) {
    shelfFault.value = asFault(thrown);
  }
}

function warn(remedy: RemedyIn, caution: string): void {
  remedy.traits = { ...remedy.traits, caution } as Schemas["TraitsIO"];
}

function setControl(control: RemedyIn): void {
  const rest = form.value.remedies.filter((r) => r.role !== "control");
  const old = form.value.remedies.find((r) => r.role === "control");
  form.value.remedies = [{ ...control, id: old?.id ?? null }, ...rest];
}

function chooseKind(kind: Setup["kind"]): void {
  if (props.fixed || !kind) return;
  form.value.setup.kind = kind;
  if (kind === "eggs") {
    form.value.setup.unit = props.knowledge.numbers.egg_unit;
    form.value.measure = props.knowledge.numbers.egg_measure;
  } else if ([props.knowledge.numbers.egg_unit, "jar"].includes(form.value.setup.unit)) {
    form.value.setup.unit = "plant";
    form.value.measure = pest.value?.measure ?? "live";
  }
}

// In a jar there are no leaves to be marked.
watch(
  () => form.value.setup.unit,
  (unit, before) => {
    const others = form.value.setup.beside.filter((key) => key !== "damage");
    if (unit === "jar") form.value.setup.beside = others;
    else if (before === "jar") form.value.setup.beside = [...others, "damage"];
  },
);

/** What nobody eats is not picked. */
function eat(eaten: boolean): void {
  form.value.setup.eaten = eaten;
  if (!eaten) Object.assign(form.value.setup, { harvest_on: null, picked: false });
}

defineExpose({ submit });
async function submit(): Promise<void> {
  const { Fault: FaultClass } = await import("../../api/client");
  const threshold = readNumber(form.value.threshold);
  const found: Fault[] = [];
  const wrong = (field: string, message: string, fix: string): void => void found.push(new FaultClass("bad_input", message, field, fix, 422));
  if (!form.value.pest.trim()) wrong("pest", "no pest or disease is named", "Choose one, or type your own.");
  if (!form.value.start_on) wrong("start_on", "no day is given", "Choose the day of the first spray.");
  if (threshold === undefined) wrong("threshold", `“${form.value.threshold}” is not a number`, "Give a percentage such as 60.");
  if (!readMoments(form.value.look_days))
    wrong("look_days", `“${form.value.look_days}” are not days or whole hours`, "Write them with commas between, like 3, 7, 12; hours as 3 h.");
  if (!readDays(form.value.round_days))
    wrong("round_days", `“${form.value.round_days}” are not whole days`, "Write whole days with a comma and a blank between them, like 0, 5.");
  const all = together(found);
  if (all) return emit("wrong", all);
  const asked = questionOf(form.value, props.knowledge.numbers.setup);
  if (asked) emit("submit", asked);
}
</script>

<template>
  <form class="form" novalidate @submit.prevent="submit" @keydown.ctrl.enter.capture.prevent.stop="submit" @keydown.meta.enter.capture.prevent.stop="submit">
    <PlanSentence
      v-if="fresh"
      v-model="form"
      v-model:bench="bench"
      :knowledge="knowledge"
      :fault="fault"
      :paper="Boolean(paper)"
      @guess="replaceAll"
      @kind="chooseKind"
      @unfold="turn"
      @paper="emit('paper', $event)"
      @control="setControl"
      @more="more">
      <RemedyPicker
        v-if="choosing && !open"
        :pest="form.pest"
        :setup="form.setup"
        :taken="form.remedies.map((r) => r.name)"
        :shelf="shelf"
        @add="addPicked"
        @replace="replaceAll"
        @control="setControl" />
      <div v-if="choosing && !open"><el-button @click="writeOwn">Write my own remedy</el-button></div>
    </PlanSentence>
    <div v-if="fresh" class="row unfold">
      <template v-if="!open"
        ><button v-for="(words, part) in OTHERS" :key="part" type="button" class="as-text fold" :aria-expanded="unfolded.has(part)" @click="turn(part)">
          {{ words }}
        </button></template
      >
      <button type="button" class="as-text fold" :aria-expanded="open" @click="bench.unfolded = !bench.unfolded">
        {{ open ? "Fold it again" : "All of it" }}
      </button>
    </div>
    <div v-show="open || unfolded.size" ref="box" class="form">
      <section v-show="shows('asked')" class="sheet stack" data-part="asked">
        <h2>What do you want to know?</h2>
        <div class="choices" role="group" aria-label="Kind of question">
          <button
            v-for="kind in kinds"
            :key="kind.key"
            type="button"
            :aria-pressed="form.setup.kind === kind.key"
            :disabled="fixed"
            @click="chooseKind(kind.key)">
            <strong>{{ kind.name }}</strong><span class="small">{{ kind.words }}</span>
          </button>
        </div>
        <FieldRow v-slot="{ id, described }" label="Name of the trial" help="So that you find it again." :fault="faultOf('name')">
          <el-input :id="id" v-model="form.name" :aria-describedby="described" autocomplete="off" />
        </FieldRow>
        <div class="pair">
          <FieldRow v-if="!fresh" v-slot="{ id }" label="Pest or disease" help="Choose one, or type your own." :fault="faultOf('pest')">
            <PestPicker :id="id" v-model="form.pest" :pests="knowledge.pests" :disabled="fixed" />
          </FieldRow>
          <FieldRow v-slot="{ id }" label="What you count" :help="pest?.count_what ?? 'The same thing on every plant, each time.'" :fault="faultOf('measure')">
            <el-select :id="id" v-model="form.measure" :disabled="fixed" aria-label="What you count">
              <el-option v-for="m in measures" :key="m.key" :value="m.key" :label="m.label" />
            </el-select>
          </FieldRow>
        </div>
        <OwnPestFields v-if="ownPest" :name="ownPest" :kept="pest" :measure="form.measure" :look-days="form.look_days" :round-days="form.round_days" />
        <FieldRow
          v-if="!fresh"
          v-slot="{ id, described }"
          label="Worth it from (% fewer than untreated)"
          help="The least a remedy must remove, compared with untreated plants, to be worth your trouble. Decide it now, before you see any count."
          :fault="faultOf('threshold')">
          <el-input :id="id" v-model="form.threshold" class="narrow" inputmode="decimal" :aria-describedby="described" :disabled="fixed"
            ><template #suffix>%</template></el-input
          >
        </FieldRow>
        <FieldRow
          v-slot="{ id, described }"
          label="Given up for a gentler remedy"
          help="A remedy that is easier on the leaves may leave this many more of 100 pests, if the trial shows that it leaves no more."
          :fault="faultOf('setup.margin')">
          <el-select
            :id="id"
            v-model="form.setup.margin"
            class="narrow"
            :aria-describedby="described"
            :disabled="fixed"
            aria-label="Given up for a gentler remedy">
            <el-option v-for="points in [0, 5, 10, 15, 20, 30]" :key="points" :value="points / 100" :label="points ? `${points} of 100` : 'nothing'" />
          </el-select>
        </FieldRow>
      </section>

      <CountingPlan
        v-show="shows('counted')"
        v-model="form.setup"
        data-part="counted"
        :pest="pest"
        :pests="knowledge.pests"
        :measure="form.measure"
        :disabled="fixed"
        :trial-id="trialId"
        :fault-of="faultOf" />

      <section v-show="shows('plants')" class="sheet stack" data-part="plants">
        <h2>The plants</h2>
        <div class="triple">
          <FieldRow
            v-slot="{ id }"
            label="What gets one remedy"
            :help="
              ['leaf', 'shoot', 'half', 'cluster'].includes(form.setup.unit)
                ? 'They share a plant: sap, drift and walking insects can carry a remedy over.'
                : 'Each is treated and counted as one.'
            ">
            <el-select :id="id" v-model="form.setup.unit" :disabled="fixed" aria-label="What gets one remedy">
              <el-option v-for="(words, key) in units" :key="key" :value="key" :label="words" />
            </el-select>
          </FieldRow>
          <FieldRow v-if="!fresh" v-slot="{ id }" label="What they are" :fault="faultOf('setup.crop')">
            <el-input :id="id" v-model="form.setup.crop" maxlength="60" :disabled="fixed" autocomplete="off" />
          </FieldRow>
          <FieldRow v-if="form.setup.eaten" v-slot="{ id }" label="Picked next on" help="Empty when you do not know." :fault="faultOf('setup.harvest_on')">
            <input
              :id="id"
              :value="form.setup.harvest_on ?? ''"
              type="date"
              class="date"
              :disabled="fixed"
              @input="form.setup.harvest_on = ($event.target as HTMLInputElement).value || null" />
          </FieldRow>
        </div>
        <div class="row checks">
          <el-checkbox :model-value="form.setup.eaten" :disabled="fixed" @update:model-value="eat(Boolean($event))">Something of them is eaten</el-checkbox>
          <el-checkbox v-if="form.setup.eaten" v-model="form.setup.picked" :disabled="fixed"
            >It is picked all the time (herbs, salads, pods, soft fruit)</el-checkbox
          >
          <el-checkbox v-model="form.setup.delicate" :disabled="fixed">Delicate leaves (seedlings, hairy, thin, waxy bloom)</el-checkbox>
          <el-checkbox v-model="form.setup.stressed" :disabled="fixed">Thirsty or heat-stressed</el-checkbox>
          <el-checkbox v-model="form.setup.in_bloom" :disabled="fixed">In bloom</el-checkbox>
          <el-checkbox v-model="form.setup.hot" :disabled="fixed">Hot season</el-checkbox>
        </div>
      </section>

      <section v-show="shows('remedies')" class="sheet stack" data-part="remedies">
        <h2>Remedies to compare</h2>
        <p class="soft">
          The control stays untreated, or gets plain water where wetting alone could help. Without it nobody can say whether the pest would have gone by itself.
        </p>
        <RemedyPicker
          v-if="!fixed && open"
          whole
          :pest="form.pest"
          :setup="form.setup"
          :taken="form.remedies.map((r) => r.name)"
          :shelf="shelf"
          @add="addPicked"
          @replace="replaceAll"
          @control="setControl" />
        <fieldset v-for="(remedy, index) in form.remedies" :key="index" class="remedy">
          <legend>{{ remedy.role === "control" ? "Control" : `Remedy ${index}` }}</legend>
          <FieldRow v-slot="{ id, described }" label="Name" :fault="faultOf(`remedies.${index}.name`)">
            <el-input :id="id" v-model="remedy.name" :aria-describedby="described" autocomplete="off" />
          </FieldRow>
          <FieldRow v-slot="{ id, described }" label="Recipe, and how it is applied" :fault="faultOf(`remedies.${index}.recipe`)">
            <el-input :id="id" v-model="remedy.recipe" type="textarea" autosize :aria-describedby="described" :disabled="fixed" />
          </FieldRow>
          <el-button
            v-if="remedy.role === 'remedy' && form.remedies.length > 2 && !fixed"
            :aria-label="`Take out remedy ${index}`"
            @click="form.remedies.splice(index, 1)"
            >Take out</el-button
          >
          <FieldRow
            v-if="remedy.role === 'remedy' && !remedy.traits?.catalogue"
            v-slot="{ id }"
            class="caution"
            label="What it warns of"
            help="What its label says, or you have learnt: it is shown at each step and stands on its bottle."
            :fault="faultOf(`remedies.${index}.traits.caution`)">
            <el-input :id="id" :model-value="remedy.traits?.caution ?? ''" maxlength="300" :disabled="fixed" @update:model-value="warn(remedy, $event)" />
          </FieldRow>
          <RemedyRhythm v-if="remedy.role === 'remedy'" v-model="remedy.traits" :index="index" :ways="knowledge.ways" :disabled="fixed" />
          <RemedySteps
            v-if="remedy.role === 'remedy' && form.setup.kind === 'compare'"
            v-model="remedy.traits"
            :index="index"
            :ways="knowledge.ways"
            :per="form.setup.samples ? 'leaf' : 'plant'"
            :disabled="fixed" />
          <div v-if="remedy.role === 'remedy' && remedy.name.trim() && !remedy.traits?.catalogue && !fixed" class="ends">
            <el-button @click="keepOwn(remedy)">Keep it in my list</el-button>
          </div>
          <p v-if="rhythmFault(index)" class="small wrong" role="alert">{{ rhythmFault(index)?.message }}. {{ rhythmFault(index)?.fix }}</p>
        </fieldset>
        <FaultNote :fault="shelfFault ?? (faultOf('remedies') ? fault : null)" />
        <p v-if="kept" class="soft" role="status">{{ kept }} is in your list of remedies now.</p>
        <div><el-button :disabled="fixed || form.remedies.length >= 12" @click="addRemedy">Add my own remedy</el-button></div>
      </section>

      <section v-show="shows('days')" class="sheet stack" data-part="days">
        <h2>When</h2>
        <div class="triple">
          <FieldRow v-if="!fresh" v-slot="{ id }" label="First spray" help="The count before is done just before it." :fault="faultOf('start_on')">
            <input :id="id" v-model="form.start_on" type="date" class="date" :disabled="fixed" />
          </FieldRow>
          <FieldRow
            v-slot="{ id, described }"
            label="Spray on days"
            help="Day 0 is the first; for the remedies that share the trial's rounds."
            :fault="faultOf('round_days')">
            <el-input :id="id" v-model="form.round_days" :aria-describedby="described" :disabled="fixed" autocomplete="off" />
          </FieldRow>
          <FieldRow
            v-slot="{ id, described }"
            label="Count again on days"
            help="Fixed now, so that nobody stops when it looks good. Hours as 3 h: they show knock-down, the last look decides."
            :fault="faultOf('look_days')">
            <el-input :id="id" v-model="form.look_days" :aria-describedby="described" :disabled="fixed" autocomplete="off" />
          </FieldRow>
        </div>
        <el-checkbox v-if="form.setup.two_looks || !['dead', 'hatched'].includes(form.measure)" v-model="form.setup.two_looks" :disabled="fixed"
          >Judge the last two looks together: surer than the last alone, and what it says is then of both days</el-checkbox
        >
        <p v-if="faultOf('setup.two_looks')" class="wrong" role="alert">{{ faultOf("setup.two_looks")?.message }}. {{ faultOf("setup.two_looks")?.fix }}</p>
      </section>
    </div>
    <slot />
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: var(--space-4);
}

.unfold {
  gap: 0 var(--space-4);
}

.fold {
  padding: 0;
  color: var(--accent);
}

.fold[aria-expanded="true"] {
  font-weight: 650;
}

.pair,
.triple {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  gap: var(--space-4);
}

.checks {
  gap: var(--space-2) var(--space-5);
}

.narrow {
  max-width: 10rem;
}

.remedy {
  display: grid;
  grid-template-columns: minmax(180px, 1fr) 2fr auto;
  gap: var(--space-3);
  align-items: start;
  margin: 0;
  padding: var(--space-3) 0 0;
  border: 0;
  border-top: 1.5px solid var(--hair);
}

.caution,
.wrong,
.remedy .ends {
  grid-column: 1 / -1;
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}

.remedy legend {
  float: left;
  grid-column: 1 / -1;
  padding: 0;
  font-weight: 700;
}

.remedy .el-button {
  margin-top: 1.75rem;
}

.remedy .ends .el-button {
  margin: 0;
}

@media (width < 640px) {
  .remedy {
    grid-template-columns: 1fr;
  }

  .remedy .el-button {
    margin-top: 0;
    justify-self: start;
  }
}
</style>
