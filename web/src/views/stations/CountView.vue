<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { client, take, type Tally, type Trial } from "../../api/client";
import BenchMap from "../../components/BenchMap.vue";
import FaultNote from "../../components/FaultNote.vue";
import PlantTag from "../../components/PlantTag.vue";
import { useCounting } from "../../composables/useCounting";
import { useKeys } from "../../composables/useKeys";
import { useOutbox } from "../../composables/useOutbox";
import { useTrial } from "../../composables/useTrial";

const props = defineProps<{ number: number }>();
const { trial, load } = useTrial();
const outbox = useOutbox();
const now = trial.value as Trial;
const counting = useCounting(now, props.number, outbox, window.localStorage, () => crypto.randomUUID());
const { plants, index, plant, count, done, canUndo } = counting;
const asked = plants.value.findIndex((p) => String(p.id) === useRoute().query["plant"]);
if (asked >= 0) counting.go(asked);
onBeforeUnmount(load);

const look = computed(() => now.looks.find((l) => l.number === props.number));
const remedy = computed(() => now.remedies.find((r) => r.id === plant.value?.remedy_id));
const scale = now.measure.scale;
const steps = scale === "percent" ? [0, 1, 2, 5, 10, 20, 30, 40, 50, 60, 80, 100] : [0, 1, 2, 3, 4, 5];
const damageWords = ["none", "trace", "slight", "moderate", "heavy", "severe"];
const damageShare = ["0%", "under 5%", "5–15%", "15–30%", "30–60%", "over 60%"];
const showMap = ref(false);
const history = ref<Tally[] | null>(null);
const typed = ref(false);

watch(plant, () => {
  history.value = null;
  typed.value = false;
});

const nextName = computed(() => plants.value.find((p, k) => k > index.value && !done.value.has(p.id))?.name);
const allDone = computed(() => done.value.size === plants.value.length);
const keepWords = computed(() => {
  const number = count.value.value ?? 0;
  if (count.value.finished) return "Next";
  return number === 0 && count.value.value === null ? "None found" : `Keep ${number}`;
});

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

function digit(d: number): void {
  const before = typed.value ? (count.value.value ?? 0) : 0;
  const next = before * 10 + d;
  typed.value = true;
  if (next <= now.measure.upper) counting.set({ value: next });
}

function time(iso: string): string {
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }).format(new Date(iso));
}

useKeys([
  ...Array.from({ length: 10 }, (_, d) => ({
    key: String(d),
    label: `Type the number: ${d}`,
    run: () => digit(d),
  })),
  { key: "Backspace", label: "Take back the last digit", run: () => counting.set({ value: Math.floor((count.value.value ?? 0) / 10) }) },
  { key: "+", label: "One more", run: () => counting.add(1) },
  { key: " ", label: "One more", run: () => counting.add(1) },
  { key: "-", label: "One less", run: () => counting.add(-1) },
  { key: "u", label: "Undo", run: counting.undo },
  { key: "Enter", label: "Keep, next plant", run: counting.finish },
  { key: "ArrowLeft", label: "Plant before", run: () => counting.go(index.value - 1) },
  { key: "ArrowRight", label: "Plant after", run: () => counting.go(index.value + 1) },
]);
</script>

<template>
  <div v-if="!plants.length" class="stack"><p>There is nothing to count until the layout is drawn.</p><RouterLink :to="`/trial/${now.id}/layout`">Go to the layout</RouterLink></div>
  <div v-else class="field">
    <header>
      <RouterLink :to="`/trial/${now.id}/rounds`" class="field-back" aria-label="Back to rounds and looks">←</RouterLink>
      <div class="field-which">
        <strong>{{ number === 0 ? "Count before" : `Look ${number}, day ${look?.day}` }}</strong>
        <span class="small soft">{{ now.name }}</span>
      </div>
      <span class="kept small" role="status">
        <template v-if="outbox.waiting.value">{{ outbox.waiting.value }} kept here, waiting</template>
        <template v-else>✓ all kept</template>
      </span>
    </header>

    <div class="progress" role="img" :aria-label="`${done.size} of ${plants.length} plants counted`">
      <span v-for="(p, k) in plants" :key="p.id" :class="{ done: done.has(p.id), here: k === index }" />
    </div>

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
      <output aria-live="polite" :aria-label="now.measure.label">{{ count.value ?? "–" }}<small v-if="scale === 'percent'">%</small><small v-if="scale === 'share'"> of {{ (count.value ?? 0) + count.rest }}</small></output>
      <p class="small soft">
        <template v-if="count.finished">Kept. A change keeps the old number on the record. <button type="button" class="plain" @click="showHistory">History</button></template>
        <template v-else>{{ now.pest_card?.count_what ?? now.measure.label }}</template>
      </p>
      <ul v-if="history" class="history small">
        <li v-for="h in history" :key="h.id">{{ h.value ?? "withdrawn" }} <span class="soft">{{ time(h.counted_at) }}</span></li>
      </ul>
    </section>
    <FaultNote :fault="outbox.refused.value?.fault ?? null" />

    <fieldset class="damage">
      <legend>Leaf damage: <strong>{{ counting.score("damage") === null ? "not scored" : `${damageWords[counting.score("damage") ?? 0]}, ${damageShare[counting.score("damage") ?? 0]} of the leaves` }}</strong></legend>
      <button v-for="(word, grade) in damageWords" :key="grade" type="button" :aria-pressed="counting.score('damage') === grade" :aria-label="`Damage ${grade}, ${word}`" @click="counting.giveScore('damage', grade)">{{ grade }}</button>
    </fieldset>

    <section class="thumb">
      <div v-if="scale === 'percent' || scale === 'grade'" class="steps">
        <button v-for="step in steps" :key="step" type="button" :aria-pressed="count.value === step" @click="counting.set({ value: step })">{{ step }}</button>
      </div>
      <div class="taps">
        <button type="button" :disabled="!canUndo" @click="counting.undo">Undo</button>
        <button type="button" aria-label="One less" :disabled="!count.value" @click="counting.add(-1)">−1</button>
        <button v-if="scale === 'count'" type="button" aria-label="Five more" @click="counting.add(5)">+5</button>
        <button v-if="scale === 'share'" type="button" @click="counting.addRest(1)">+1 {{ now.measure.key === "dead" ? "alive" : "not hatched" }}</button>
        <button type="button" class="one" aria-label="One more" @click="counting.add(1)">+1<small v-if="scale === 'share'"> {{ now.measure.key }}</small></button>
      </div>
      <button type="button" class="keep" @click="counting.finish">
        {{ keepWords }}<span v-if="nextName"> · next {{ nextName }}</span><span class="key" aria-hidden="true">Enter</span>
      </button>
      <RouterLink v-if="allDone" :to="`/trial/${now.id}/rounds`" class="all">All {{ plants.length }} plants are counted. Go back to the rounds →</RouterLink>
    </section>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: var(--space-3);
  max-width: 560px;
  min-height: calc(100dvh - 2 * var(--space-4));
  margin: 0 auto;
  grid-template-rows: auto auto auto 1fr auto auto;
  align-content: stretch;
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

button {
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

button:active:not(:disabled) {
  background: var(--trap);
  color: var(--on-trap);
}

button:disabled {
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
  display: grid;
  place-content: center;
  justify-items: center;
  text-align: center;
  gap: var(--space-1);
  min-height: 130px;
}

output {
  font-size: clamp(var(--text-huge), 34vw, 9rem);
  font-weight: 750;
  line-height: 0.95;
  letter-spacing: -0.02em;
}

output small {
  font-size: 0.35em;
}

.number.kept output {
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
