<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { afterPaint } from "../../afterPaint";
import type { CountSheet, Trial } from "../../api/client";
import { tagsByLetter } from "../../charts/tag";
import { useAfterPaint } from "../../composables/useAfterPaint";
import { useCountKeys } from "../../composables/useCountKeys";
import { useCounting, type Count, type Key } from "../../composables/useCounting";
import { useKeys } from "../../composables/useKeys";
import { useKnowledge } from "../../composables/useKnowledge";
import { useFelt } from "../../composables/useFelt";
import { useOutbox, type Refusal } from "../../composables/useOutbox";
import { useSwipe } from "../../composables/useSwipe";
import { useTyping } from "../../composables/useTyping";
import { isSize, keepWords, keptWords, manyOf, partsOf, partWords, wordOf } from "../../counting";
import { helpOpen } from "../../help/help";
import { pluralOf } from "../../question";
import { daysApart, plural } from "../../words";
import BenchMap from "../BenchMap.vue";
import PlantTag from "../PlantTag.vue";
import ContestList from "./ContestList.vue";
import CountDay from "./CountDay.vue";
import CountFigure from "./CountFigure.vue";
import CountHeader from "./CountHeader.vue";
import CountHistory from "./CountHistory.vue";
import CountPad from "./CountPad.vue";
import DamageScale from "./DamageScale.vue";
import DeadPlant from "./DeadPlant.vue";
import LeafNotes from "./LeafNotes.vue";
import LeafRow from "./LeafRow.vue";
import RefusedCounts from "./RefusedCounts.vue";
import SecondPerson from "./SecondPerson.vue";
import SecondLook from "./SecondLook.vue";
import SizeFields from "./SizeFields.vue";
import TallyFields from "./TallyFields.vue";

/** One look counted plant by plant (and leaf by leaf) in walking order. */
const props = defineProps<{
  trial: Trial;
  number: number;
  sheet: CountSheet;
  title: string;
  /** The plant to begin with. */ at: number | null;
  /** Who counts a second time, "" for the count that holds. */ person: string;
}>();
const emit = defineEmits<{
  at: [plant: number];
  settle: [contest: CountSheet["contests"][number], session: string];
  /** The plant here died; the one after it. */ died: [next: number | null];
}>();
const outbox = useOutbox();
const { felt, next: nextFelt, tap } = useFelt();
/** The day it was counted on, once told; it stays when the board is drawn anew. */
const day = defineModel<string | null>("day", { default: null });
const counting = useCounting(
  props.trial,
  props.number,
  props.sheet,
  outbox,
  window.localStorage,
  () => crypto.randomUUID(),
  () => day.value,
  props.person,
  afterPaint,
);
const { plants, index, plant, sample, leaves, field, count, part, matched, takeMatched, done, canUndo, missing, incomplete } = counting;
const wanted = props.at ?? Number(useRoute().query["plant"]);
const asked = plants.value.findIndex((p) => p.id === wanted);
if (asked >= 0) counting.go(asked);

const look = computed(() => props.trial.looks.find((l) => l.number === props.number));
const tags = computed(() => tagsByLetter(props.trial));
const measure = computed(() => props.trial.measure);
const word = (key: Key): string => wordOf(key, props.trial.setup.also);
const own = computed(() => (props.trial.setup.also ? (props.trial.pest_card?.name ?? props.trial.pest).toLowerCase() : ""));
const unit = computed(() => props.trial.pest_card?.sample_unit ?? "leaf");
/** What steps and digits go to: the trial's own number, or what is counted beside it and was tapped last. */
const aimed = computed((): Count =>
  field.value === measure.value.key ? count.value : { value: counting.tally(field.value), total: null, finished: finished.value },
);
// What a tap changes is asked for where it is shown, and what stays the same is told apart from it,
// so that a tap draws a few words anew and not this whole page.
const finished = computed(() => count.value.finished);
const leafCount = computed(() => leaves.value.length);
const whatIsKept = (): string => keptWords(outbox.refused.value.length, incomplete.value, outbox.waiting.value, outbox.unwritten.value, outbox.shut.value);
const whatKeepingDoes = (): string => keepWords(count.value, missing.value, share.value, own.value);
const share = computed(() => measure.value.scale === "share");
// Beside the number that a finger waits for, these follow one picture behind.
const keepShown = useAfterPaint(whatKeepingDoes, [plant, sample]);
const leavesShown = useAfterPaint(() => leaves.value, [plant, sample]);
const wholeShown = useAfterPaint(() => counting.whole.value, [plant, sample]);
/** A look whose day is not today (give or take one), or a count before that is entered afterwards. */
const due = computed(() => (props.number === 0 ? (props.trial.sprayed_on ?? props.trial.today) : (look.value?.on ?? props.trial.today)));
const offDay = computed(() => (props.number === 0 ? props.trial.sprayed_on !== null : Math.abs(daysApart(due.value, props.trial.today)) > 1));
const ready = computed(() => !offDay.value || day.value !== null);
const scores = computed(() => props.trial.setup.beside.includes("damage"));
const sizes = computed(() => props.trial.setup.beside.filter(isSize));
/** Which leaves, and what counts as one. */
const hint = computed(() =>
  [props.trial.setup.which.trim() && `${props.trial.setup.which.trim().replace(/\.$/, "")}.`, props.trial.pest_card?.count_what ?? measure.value.label]
    .filter(Boolean)
    .map((said) => said.charAt(0).toUpperCase() + said.slice(1))
    .join(" "),
);
const showMap = ref(false);
const scoring = ref(false);
const noting = ref(false);
const byClass = ref(false);
const parts = computed(() => partsOf(props.trial.setup.leaf_cm2));
const { knowledge } = useKnowledge();
/** What this marked leaf had at the look before; told once it is counted, for it would lead the eye. */
const earlier = computed(() =>
  finished.value ? props.sheet.earlier.find((e) => e.plant_id === plant.value?.id && e.sample === sample.value)?.value : undefined,
);
const figure = ref<InstanceType<typeof CountFigure> | null>(null);
const typing = useTyping(
  (which) => aimed.value[which],
  (which, value) => counting.set({ [which]: value }),
  measure.value.upper,
);
const nextName = computed(() => {
  const leaf = leaves.value.find((l) => l.number > sample.value && !l.finished);
  return leaf ? `${unit.value} ${leaf.number}` : plants.value.find((p, k) => k > index.value && !done.has(p.id))?.name;
});
const swipe = useSwipe(
  () => stroke(1),
  () => stroke(-1),
);
const allDone = computed(() => done.size === plants.value.length);

watch([plant, sample], () => {
  if (plant.value) emit("at", plant.value.id);
  scoring.value = false;
  typing.reset();
});

function keep(noMoreLeaves = false): void {
  if (!ready.value) return;
  tap();
  if (counting.finish(noMoreLeaves)) typing.reset();
  else if (missing.value) void figure.value?.open("total");
}

function takeOver(numbers: Partial<Record<Key, number>>): void {
  counting.takeOver(numbers);
  noting.value = false;
}

function score(grade: number): void {
  counting.giveScore("damage", grade);
  scoring.value = false;
}

/** A finger or mouse takes no button into focus, and one that Tab came to lets go, so that Enter keeps. */
function leaveFocus(event: MouseEvent): void {
  const there = document.activeElement;
  if (there?.matches("input, textarea, select")) return; // what is typed is kept when it is left
  if (!(event.target as HTMLElement).closest("button")) return;
  event.preventDefault();
  if (there instanceof HTMLButtonElement) there.blur();
}

function again({ tap: refused }: Refusal): void {
  const { tally } = refused;
  outbox.put(refused.trial, refused.look, { ...tally, step: tally.step + 1, counted_on: day.value ?? tally.counted_on ?? null });
}

/** A number typed into the large field, which is the trial's own. */
function type(which: "value" | "total", value: number): void {
  field.value = measure.value.key;
  counting.set({ [which]: value });
}

function add(by: number, key = field.value): void {
  tap();
  counting.add(by, key);
  typing.reset();
}

/** To the next leaf or the one before; beyond the first and the last, to the plant beside. */
function stroke(by: 1 | -1): void {
  const to = sample.value + by;
  if (sample.value && to >= 1 && to <= leaves.value.length) counting.goLeaf(to);
  else counting.go(index.value + by);
}

function lookAgain(id: number, leaf: number | null): void {
  pick(id);
  if (leaf) counting.goLeaf(leaf);
}

function pick(id: number): void {
  counting.go(plants.value.findIndex((p) => p.id === id));
  showMap.value = false;
}

useKeys([{ key: "w", label: "Write a note, add a photo; and back to counting", when: () => ready.value, run: () => (noting.value = !noting.value) }]);
useCountKeys({ counting, typing, word, scoring, ready: computed(() => ready.value && !noting.value), share, keep, score, stroke });
</script>

<template>
  <div class="field" @mousedown="leaveFocus">
    <CountHeader :trial="trial" :title="title" :plants="plants" :done="done" :index="index" :kept="whatIsKept" />
    <p v-if="outbox.shut.value" class="small">
      <RouterLink :to="`/enter?then=${encodeURIComponent($route.fullPath)}`">Give the passcode</RouterLink>, then what is kept here is sent.
    </p>
    <CountDay v-if="offDay" v-model="day" :due="due" :today="trial.today" :before="number === 0" />
    <RefusedCounts :refused="outbox.refused.value" :plants="trial.plants" :unit="unit" @again="again" @give-up="outbox.giveUp" />
    <ContestList :contests="sheet.contests" :plants="trial.plants" :unit="unit" @choose="(contest, session) => emit('settle', contest, session)" />

    <template v-if="ready">
      <p v-if="matched.length > 1" class="sheet matched">
        {{ pluralOf(matched.length, trial.setup.unit) }} were counted to form the groups. If you spray within a day of that, those are the counts before.
        <button type="button" @click="takeMatched">Take them over</button>
      </p>
      <section class="plant fingers">
        <button type="button" aria-label="Plant before" :disabled="index === 0" @click="counting.go(index - 1)">‹</button>
        <button type="button" class="name" :aria-expanded="showMap" @click="showMap = !showMap">
          <PlantTag :letter="plant?.letter" :notches="tags.get(plant?.letter ?? '')?.notches" :height="52" />
          <span>{{ plant?.name }}</span>
          <span class="small soft">row {{ plant?.row }}, place {{ plant?.place }}</span>
          <span class="visually-hidden">: choose another on the bench</span>
        </button>
        <button type="button" aria-label="Plant after" :disabled="index === plants.length - 1" @click="counting.go(index + 1)">›</button>
      </section>
      <BenchMap v-if="showMap" :trial="trial" figure="done" :done="done" :now="counting.sums.value" :current="plant?.id ?? null" @pick="pick($event.id)" />

      <LeafRow v-if="leafCount" :leaves="() => leavesShown" :current="sample" :unit="unit" :whole="() => wholeShown" @go="counting.goLeaf" />

      <LeafNotes
        v-if="noting && plant"
        :trial="trial"
        :number="number"
        :plant="plant"
        :sample="sample"
        :unit="unit"
        @close="noting = false"
        @count="takeOver" />
      <template v-else>
        <section class="number" :class="{ kept: finished }" @touchstart.passive="swipe.start" @touchend.passive="swipe.end">
          <CountFigure
            ref="figure"
            :count="() => count"
            :unit="measure.scale === 'percent' ? '%' : ''"
            :share="share"
            :small="leafCount > 0"
            :label="measure.label"
            :upper="measure.upper"
            :field="typing.field.value"
            @type="type" />
          <CountHistory
            :trial-id="trial.id"
            :number="number"
            :plant-id="plant?.id ?? 0"
            :measure="measure"
            :finished="finished"
            :earlier="earlier"
            :hint="hint"
            :pest="trial.pest"
            :tell="trial.pest_card?.dead_or_alive ?? ''" />
        </section>

        <div v-if="measure.key === 'catch'" class="fingers days" role="group" aria-label="Days this trap was out">
          <button type="button" aria-label="A day less" :disabled="counting.days.value <= 1" @click="counting.setDays(counting.days.value - 1)">−</button>
          <span role="status">out for {{ plural(counting.days.value, "day") }}</span>
          <button type="button" aria-label="A day more" @click="counting.setDays(counting.days.value + 1)">+</button>
        </div>
        <SecondLook :trial-id="trial.id" :number="number" :done="`${done.size} ${plant?.id} ${sample}`" :settled="outbox.settled" @go="lookAgain" />
        <TallyFields
          v-if="counting.beside.length"
          :fields="counting.beside"
          :active="field"
          :value="counting.tally"
          :word="word"
          @add="add(1, $event)"
          @undo="counting.undo" />
        <SizeFields v-if="sizes.length" :plant="plant?.id ?? 0" :wanted="sizes" :value="counting.score" @kept="counting.giveScore" />
        <DamageScale
          v-if="scores"
          :score="counting.score('damage')"
          :before="number ? sheet.damage_before[plant?.id ?? 0] : undefined"
          :scoring="scoring"
          @score="score" />
        <CountPad
          :measure="measure"
          :aimed="field === measure.key ? '' : word(field)"
          :own="own"
          :count="() => aimed"
          :can-undo="canUndo"
          :keep-words="() => keepShown"
          :next-name="missing ? undefined : nextName"
          :classes="byClass ? knowledge?.numbers.classes : undefined"
          @set="counting.set({ value: $event })"
          @class="counting.setClass"
          @add="add"
          @one="add(1, measure.key)"
          @add-rest="counting.addRest(1)"
          @undo="counting.undo"
          @keep="keep()">
          <div class="more">
            <button v-if="leafCount && sample < leafCount" type="button" @click="keep(true)">No more {{ manyOf(unit) }} here</button>
            <template v-if="measure.scale === 'count'">
              <button v-if="measure.key !== 'catch'" type="button" @click="counting.setPart(parts[(parts.indexOf(part) + 1) % parts.length] ?? 1)">
                Counted {{ partWords(part) }} of it<span class="visually-hidden">: change it</span>
              </button>
              <button type="button" :aria-pressed="byClass" @click="byClass = !byClass">{{ byClass ? "One by one" : "By classes" }}</button>
            </template>
            <button type="button" @click="noting = true">Note, photo <span class="key" aria-hidden="true">w</span></button>
            <SecondPerson :trial-id="trial.id" :number="number" :person="person" />
            <DeadPlant
              v-if="plant && trial.sprayed_on && !person"
              :trial="trial"
              :plant="plant"
              :day="day ?? trial.today"
              :settled="outbox.settled"
              @died="emit('died', plants[index + 1]?.id ?? null)" />
            <button type="button" @click="helpOpen = true">Help <span class="key" aria-hidden="true">?</span></button>
            <button type="button" @click="nextFelt">
              {{ { buzz: "A tap buzzes", click: "A tap clicks", off: "A tap is silent" }[felt] }}<span class="visually-hidden">: change it</span>
            </button>
          </div>
          <RouterLink v-if="allDone" :to="`/trial/${trial.id}/rounds`" class="all"
            >All {{ plants.length }} plants are counted. Go back to the rounds →</RouterLink
          >
        </CountPad>
      </template>
    </template>
  </div>
</template>

<style scoped>
.field {
  display: flex;
  flex-direction: column;
  gap: var(--space-3);
  max-width: 560px;
  min-height: calc(100dvh - 2 * var(--space-4));
  margin: 0 auto;
}

/* Each drawn by itself, so that what a tap changes is painted and the rest kept. */
.field > *,
.number > :deep(*) {
  isolation: isolate;
}

.matched button {
  min-height: var(--touch);
  padding: 0 var(--space-4);
  border: 2px solid var(--accent);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--accent);
  font: inherit;
  font-weight: 700;
}

.plant {
  display: grid;
  grid-template-columns: 56px 1fr 56px;
  gap: var(--space-2);
}

.plant > button {
  font-size: var(--text-xl);
}

.name {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: var(--space-3);
  min-height: 68px;
  border: 0;
  background: transparent;
  font-weight: 750;
}

.name .small {
  font-weight: 450;
  font-size: var(--text-s);
}

.number {
  flex: 1;
  display: grid;
  align-content: center;
  justify-items: center;
  text-align: center;
  gap: var(--space-1);
  min-height: 96px;
  contain: layout paint;
}

.number.kept :deep(output) {
  color: var(--good);
}

.days {
  display: grid;
  grid-template-columns: 64px 1fr 64px;
  align-items: center;
  text-align: center;
}

.more {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  column-gap: var(--space-4);
}

.more :deep(button) {
  padding: 0;
  border-color: transparent;
  background: none;
  font-size: var(--text-s);
  font-weight: 450;
  text-decoration: underline;
}

.all {
  display: grid;
  place-items: center;
  min-height: var(--touch);
}
</style>
