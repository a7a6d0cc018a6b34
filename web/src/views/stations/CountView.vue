<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { client, take, type Tally, type Trial } from "../../api/client";
import BenchMap from "../../components/BenchMap.vue";
import CountDay from "../../components/CountDay.vue";
import CountFigure from "../../components/CountFigure.vue";
import PlantTag from "../../components/PlantTag.vue";
import RefusedCounts from "../../components/RefusedCounts.vue";
import { useCounting } from "../../composables/useCounting";
import { useKeys } from "../../composables/useKeys";
import { useOutbox } from "../../composables/useOutbox";
import { useTrial } from "../../composables/useTrial";
import { useTyping } from "../../composables/useTyping";
import { daysApart, dayName } from "../../words";

const props = defineProps<{ number: number }>();
const { trial, load } = useTrial();
const outbox = useOutbox();
const now = trial.value as Trial;
const day = ref<string | null>(null);
const counting = useCounting(now, props.number, outbox, window.localStorage, () => crypto.randomUUID(), () => day.value);
const { plants, index, plant, count, done, canUndo, missing, incomplete: unfinished } = counting;
const asked = plants.value.findIndex((p) => String(p.id) === useRoute().query["plant"]);
if (asked >= 0) counting.go(asked);
// The trial is read anew only when the last tap is with the program, or the tap would look lost.
onBeforeUnmount(() => void outbox.settled().then(load));

const look = computed(() => now.looks.find((l) => l.number === props.number));
const remedy = computed(() => now.remedies.find((r) => r.id === plant.value?.remedy_id));
const scale = now.measure.scale;
const share = scale === "share";
const rest = now.measure.key === "dead" ? "alive" : "not hatched";
const steps = scale === "percent" ? [0, 1, 2, 5, 10, 20, 30, 40, 50, 60, 80, 100] : [0, 1, 2, 3, 4, 5];
const damageWords = ["none", "trace", "slight", "moderate", "heavy", "severe"];
const damageShare = ["0%", "under 5%", "5–15%", "15–30%", "30–60%", "over 60%"];
const title = computed(() => (props.number === 0 ? "Count before" : `Look ${props.number}, day ${look.value?.day}`));
/** A look whose day is not today (give or take one), or a count before that is entered afterwards. */
const due = computed(() => (props.number === 0 ? (now.sprayed_on ?? now.today) : (look.value?.on ?? now.today)));
const offDay = computed(() => (props.number === 0 ? now.sprayed_on !== null : Math.abs(daysApart(due.value, now.today)) > 1));
const ready = computed(() => !offDay.value || day.value !== null);
const showMap = ref(false);
const history = ref<Tally[] | null>(null);
const scoring = ref(false);
const figure = ref<InstanceType<typeof CountFigure> | null>(null);
const typing = useTyping((field) => count.value[field], (field, value) => counting.set({ [field]: value }), now.measure.upper);

watch(plant, () => {
  history.value = null;
  scoring.value = false;
  typing.reset();
});

const nextName = computed(() => plants.value.find((p, k) => k > index.value && !done.value.has(p.id))?.name);
const allDone = computed(() => done.value.size === plants.value.length);
const keepWords = computed(() => {
  const { value, total, finished } = count.value;
  if (missing.value === "total") return "Out of how many?";
  if (missing.value === "too_many") return `${value} of ${total} cannot be: correct it`;
  if (finished) return "Next";
  const of = share ? ` of ${total}` : "";
  return value ? `Keep ${value}${of}` : `None found${of}`;
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

async function showHistory(): Promise<void> {
  history.value = await take(
    client.GET("/api/trials/{trial_id}/looks/{number}/tallies/{plant_id}", {
      params: {
        path: { trial_id: now.id, number: props.number, plant_id: plant.value?.id ?? 0 },
        query: { measure: now.measure.key },
      },
    }),
  );
}

function time(iso: string): string {
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }).format(new Date(iso));
}

const counts = (): boolean => ready.value;
useKeys([
  ...Array.from({ length: 10 }, (_, d) => ({
    key: String(d),
    label: `Type the number: ${d}`,
    when: counts,
    run: () => (scoring.value && d < damageWords.length ? score(d) : typing.digit(d)),
  })),
  { key: "Backspace", label: "Take back the last digit", when: counts, run: typing.back },
  { key: "+", label: "One more", when: counts, run: () => counting.add(1) },
  { key: " ", label: "One more", when: counts, run: () => counting.add(1) },
  { key: "-", label: "One less", when: counts, run: () => counting.add(-1) },
  { key: "d", label: "Leaf damage: then 0 to 5", when: counts, run: () => (scoring.value = !scoring.value) },
  { key: "o", label: "Out of how many: then the digits", when: () => share && ready.value, run: () => { typing.reset(); typing.field.value = "total"; } },
  { key: "u", label: "Undo", run: counting.undo },
  { key: "Enter", label: "Keep, next plant", run: keep },
  { key: "ArrowLeft", label: "Plant before", run: () => counting.go(index.value - 1) },
  { key: "ArrowRight", label: "Plant after", run: () => counting.go(index.value + 1) },
]);
</script>

<template>
  <div v-if="!plants.length" class="stack"><h1>{{ title }}</h1><p>There is nothing to count until the layout is drawn.</p><RouterLink :to="`/trial/${now.id}/layout`">Go to the layout</RouterLink></div>
  <div v-else class="field" @click="letGo">
    <header>
      <RouterLink :to="`/trial/${now.id}/rounds`" class="field-back" aria-label="Back to rounds and looks">←</RouterLink>
      <div class="field-which">
        <h1>{{ title }}</h1>
        <span class="small soft">{{ now.name }}</span>
      </div>
      <span class="kept small" role="status">
        <template v-if="outbox.refused.value.length">{{ outbox.refused.value.length }} refused</template>
        <template v-else-if="unfinished.length">{{ unfinished.length === 1 ? unfinished[0]?.name : unfinished.length }} not complete</template>
        <template v-else-if="outbox.waiting.value">{{ outbox.waiting.value }} kept here, waiting</template>
        <template v-else>✓ all kept</template>
      </span>
    </header>

    <div class="progress" role="img" :aria-label="`${done.size} of ${plants.length} plants counted`">
      <span v-for="(p, k) in plants" :key="p.id" :class="{ done: done.has(p.id), here: k === index }" />
    </div>

    <CountDay v-if="offDay" v-model="day" :due="due" :today="now.today" :before="number === 0" />
    <RefusedCounts :refused="outbox.refused.value" :plants="now.plants" @again="(p) => outbox.put({ ...p, body: { ...p.body, step: p.body.step + 1, counted_on: day ?? p.body.counted_on ?? null } })" @give-up="outbox.giveUp" />

    <template v-if="ready">
      <section class="plant">
        <button type="button" aria-label="Plant before" :disabled="index === 0" @click="counting.go(index - 1)">‹</button>
        <button type="button" class="name" :aria-expanded="showMap" aria-label="Choose a plant on the bench" @click="showMap = !showMap">
          <PlantTag :letter="remedy?.letter" :notches="remedy?.notches" :height="52" />
          <span>{{ plant?.name }}</span>
          <span class="small soft">row {{ plant?.row }}, place {{ plant?.place }}</span>
        </button>
        <button type="button" aria-label="Plant after" :disabled="index === plants.length - 1" @click="counting.go(index + 1)">›</button>
      </section>
      <BenchMap v-if="showMap" :trial="now" figure="done" :done="done" :current="plant?.id ?? null" @pick="(p) => { counting.go(plants.findIndex((x) => x.id === p.id)); showMap = false; }" />

      <section class="number" :class="{ kept: count.finished }">
        <CountFigure ref="figure" :count="count" :unit="scale === 'percent' ? '%' : ''" :share="share" :label="now.measure.label" :upper="now.measure.upper" :field="typing.field.value" @type="(field, value) => counting.set({ [field]: value })" />
        <p class="small soft">
          <template v-if="count.finished">Kept. A change keeps the old number on the record. <button type="button" class="plain" @click="showHistory">History</button></template>
          <template v-else>{{ now.pest_card?.count_what ?? now.measure.label }}</template>
        </p>
        <ul v-if="history" class="history small">
          <li v-for="h in history" :key="h.id">{{ h.value ?? "withdrawn" }} <span class="soft">{{ time(h.counted_at) }}<template v-if="!h.counted_at.startsWith(h.counted_on)">, of {{ dayName(h.counted_on) }}</template></span></li>
        </ul>
      </section>

      <fieldset class="damage" :class="{ scoring }">
        <legend>Leaf damage: <strong>{{ counting.score("damage") === null ? "not scored" : `${damageWords[counting.score("damage") ?? 0]}, ${damageShare[counting.score("damage") ?? 0]} of the leaves` }}</strong> <span class="key" aria-hidden="true">d</span></legend>
        <button v-for="(word, grade) in damageWords" :key="grade" type="button" :aria-pressed="counting.score('damage') === grade" :aria-label="`Damage ${grade}, ${word}`" @click="score(grade)">{{ grade }}</button>
      </fieldset>

      <section class="thumb">
        <div v-if="scale === 'percent' || scale === 'grade'" class="steps">
          <button v-for="step in steps" :key="step" type="button" :aria-pressed="count.value === step" @click="counting.set({ value: step })">{{ step }}</button>
        </div>
        <div class="taps">
          <button type="button" :disabled="!canUndo" @click="counting.undo">Undo</button>
          <button type="button" aria-label="One less" :disabled="!count.value" @click="counting.add(-1)">−1</button>
          <button v-if="scale === 'count'" type="button" aria-label="Five more" @click="counting.add(5)">+5</button>
          <button v-if="share" type="button" @click="counting.addRest(1)">+1 {{ rest }}</button>
          <button type="button" class="one" aria-label="One more" @click="counting.add(1)">+1<small v-if="share"> {{ now.measure.key }}</small></button>
        </div>
        <button type="button" class="keep" @click="keep">
          {{ keepWords }}<span v-if="nextName && !missing"> · next {{ nextName }}</span><span class="key" aria-hidden="true">Enter</span>
        </button>
        <RouterLink v-if="allDone" :to="`/trial/${now.id}/rounds`" class="all">All {{ plants.length }} plants are counted. Go back to the rounds →</RouterLink>
      </section>
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

h1 {
  font-size: var(--text-m);
}

header {
  display: flex;
  align-items: center;
  gap: var(--space-3);
}

.kept {
  margin-left: auto;
  text-align: right;
}

.progress {
  display: flex;
  gap: 2px;
}

.progress span {
  flex: 1;
  height: 8px;
  background: var(--hair);
}

.progress .done {
  background: var(--accent);
}

.progress .here {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}

:where(button:not(.el-button)) {
  min-height: var(--touch);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-l);
  font-weight: 650;
  cursor: pointer;
  touch-action: manipulation;
  -webkit-tap-highlight-color: transparent;
}

:where(button:not(.el-button)):active:not(:disabled) {
  background: var(--trap);
  color: var(--on-trap);
}

:where(button:not(.el-button)):disabled {
  color: var(--ink-soft);
  border-color: var(--hair);
  cursor: default;
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

.plain {
  border: 0;
  background: none;
  font-size: inherit;
  text-decoration: underline;
}

.history {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin: 0;
  padding: 0;
  list-style: none;
}

.damage {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: var(--space-1);
  margin: 0;
  padding: 0;
  border: 0;
}

.damage.scoring {
  outline: 3px solid var(--trap);
  outline-offset: 4px;
}

.damage legend {
  padding: 0 0 var(--space-1);
}

[aria-pressed="true"] {
  background: var(--accent);
  color: var(--on-accent);
  border-color: var(--accent);
}

.thumb,
.steps {
  display: grid;
  gap: var(--space-2);
}

.steps {
  grid-template-columns: repeat(6, 1fr);
  gap: var(--space-1);
}

.taps {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr 2fr;
  gap: var(--space-2);
}

.taps button {
  min-height: 76px;
}

.taps .one {
  font-size: var(--text-2xl);
  background: var(--trap);
  border-color: var(--trap);
  color: var(--on-trap);
}

.taps .one:active {
  background: var(--accent);
  color: var(--on-accent);
}

.one small {
  font-size: var(--text-m);
}

.keep {
  min-height: 64px;
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}

.keep .key {
  margin-left: 0.7em;
}

.all {
  display: grid;
  place-items: center;
  min-height: var(--touch);
}
</style>
