<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import type { CountSheet, Trial } from "../../api/client";
import { tagsByLetter } from "../../charts/tag";
import { useCountKeys } from "../../composables/useCountKeys";
import { useCounting } from "../../composables/useCounting";
import { useOutbox } from "../../composables/useOutbox";
import { useTyping } from "../../composables/useTyping";
import { keepWords, keptWords } from "../../counting";
import { daysApart } from "../../words";
import BenchMap from "../BenchMap.vue";
import PlantTag from "../PlantTag.vue";
import CountDay from "./CountDay.vue";
import CountFigure from "./CountFigure.vue";
import CountHeader from "./CountHeader.vue";
import CountHistory from "./CountHistory.vue";
import CountPad from "./CountPad.vue";
import DamageScale from "./DamageScale.vue";
import RefusedCounts from "./RefusedCounts.vue";

/** One look counted plant by plant, in walking order. */
const props = defineProps<{ trial: Trial; number: number; sheet: CountSheet; title: string }>();
const outbox = useOutbox();
const day = ref<string | null>(null);
const counting = useCounting(props.trial, props.number, props.sheet, outbox, window.localStorage, () => crypto.randomUUID(), () => day.value);
const { plants, index, plant, count, done, canUndo, missing, incomplete } = counting;
const asked = plants.value.findIndex((p) => String(p.id) === useRoute().query["plant"]);
if (asked >= 0) counting.go(asked);

const look = computed(() => props.trial.looks.find((l) => l.number === props.number));
const tags = computed(() => tagsByLetter(props.trial));
const measure = computed(() => props.trial.measure);
const share = computed(() => measure.value.scale === "share");
/** A look whose day is not today (give or take one), or a count before that is entered afterwards. */
const due = computed(() => (props.number === 0 ? (props.trial.sprayed_on ?? props.trial.today) : (look.value?.on ?? props.trial.today)));
const offDay = computed(() => (props.number === 0 ? props.trial.sprayed_on !== null : Math.abs(daysApart(due.value, props.trial.today)) > 1));
const ready = computed(() => !offDay.value || day.value !== null);
const showMap = ref(false);
const scoring = ref(false);
const figure = ref<InstanceType<typeof CountFigure> | null>(null);
const typing = useTyping((field) => count.value[field], (field, value) => counting.set({ [field]: value }), measure.value.upper);
const nextName = computed(() => plants.value.find((p, k) => k > index.value && !done.value.has(p.id))?.name);
const allDone = computed(() => done.value.size === plants.value.length);

watch(plant, () => {
  scoring.value = false;
  typing.reset();
});

function keep(): void {
  if (!ready.value) return;
  if (counting.finish()) typing.reset();
  else if (missing.value) void figure.value?.open("total");
}

function score(grade: number): void {
  counting.giveScore("damage", grade);
  scoring.value = false;
}

/** A finger or mouse lets go of a button, so that Enter keeps; who came by Tab stays on it. */
function letGo(event: MouseEvent): void {
  const button = (event.target as HTMLElement).closest("button");
  if (event.detail > 0 && button && document.activeElement === button) button.blur();
}

function again(parcel: Parameters<typeof outbox.put>[0]): void {
  const { body } = parcel;
  outbox.put({ ...parcel, body: { ...body, step: body.step + 1, counted_on: day.value ?? body.counted_on ?? null } });
}

function pick(id: number): void {
  counting.go(plants.value.findIndex((p) => p.id === id));
  showMap.value = false;
}

useCountKeys({ counting, typing, scoring, ready, share, keep, score });
</script>

<template>
  <div class="field" @click="letGo">
    <CountHeader :trial="trial" :title="title" :plants="plants" :done="done" :index="index" :kept="keptWords(outbox.refused.value.length, incomplete, outbox.waiting.value)" />
    <CountDay v-if="offDay" v-model="day" :due="due" :today="trial.today" :before="number === 0" />
    <RefusedCounts :refused="outbox.refused.value" :plants="trial.plants" @again="again" @give-up="outbox.giveUp" />

    <template v-if="ready">
      <section class="plant fingers">
        <button type="button" aria-label="Plant before" :disabled="index === 0" @click="counting.go(index - 1)">‹</button>
        <button type="button" class="name" :aria-expanded="showMap" aria-label="Choose a plant on the bench" @click="showMap = !showMap">
          <PlantTag :letter="plant?.letter" :notches="tags.get(plant?.letter ?? '')?.notches" :height="52" />
          <span>{{ plant?.name }}</span>
          <span class="small soft">row {{ plant?.row }}, place {{ plant?.place }}</span>
        </button>
        <button type="button" aria-label="Plant after" :disabled="index === plants.length - 1" @click="counting.go(index + 1)">›</button>
      </section>
      <BenchMap v-if="showMap" :trial="trial" figure="done" :done="done" :current="plant?.id ?? null" @pick="pick($event.id)" />

      <section class="number" :class="{ kept: count.finished }">
        <CountFigure ref="figure" :count="count" :unit="measure.scale === 'percent' ? '%' : ''" :share="share" :label="measure.label" :upper="measure.upper" :field="typing.field.value" @type="(field, value) => counting.set({ [field]: value })" />
        <CountHistory :trial-id="trial.id" :number="number" :plant-id="plant?.id ?? 0" :measure="measure" :finished="count.finished" :hint="trial.pest_card?.count_what ?? measure.label" />
      </section>

      <DamageScale :score="counting.score('damage')" :scoring="scoring" @score="score" />
      <CountPad :measure="measure" :count="count" :can-undo="canUndo" :keep-words="keepWords(count, missing, share)" :next-name="missing ? undefined : nextName" @set="counting.set({ value: $event })" @add="counting.add" @add-rest="counting.addRest(1)" @undo="counting.undo" @keep="keep">
        <RouterLink v-if="allDone" :to="`/trial/${trial.id}/rounds`" class="all">All {{ plants.length }} plants are counted. Go back to the rounds →</RouterLink>
      </CountPad>
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
  min-height: 130px;
}

.number.kept :deep(output) {
  color: var(--good);
}

.all {
  display: grid;
  place-items: center;
  min-height: var(--touch);
}
</style>
