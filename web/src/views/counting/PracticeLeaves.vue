<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import CountFigure from "../../components/counting/CountFigure.vue";
import CountPad from "../../components/counting/CountPad.vue";
import FaultNote from "../../components/FaultNote.vue";
import LiveOrDead from "../../components/counting/LiveOrDead.vue";
import PictureMarks from "../../components/counting/PictureMarks.vue";
import PracticeReport from "../../components/counting/PracticeReport.vue";
import TallyFields from "../../components/counting/TallyFields.vue";
import { useKeys } from "../../composables/useKeys";
import { useKnowledge } from "../../composables/useKnowledge";
import { tallyWords, type Stage } from "../../counting";
import type { Count, Key } from "../../composables/useTallies";

/** One spell of practice: leaf after leaf is counted, its truth told, and at the end how one counts. */
const props = defineProps<{ session: number }>();
const { knowledge } = useKnowledge();
const found = ref<Schemas["PracticeOut"] | null>(null);
const fault = ref<Fault | null>(null);
const at = ref(1);
const field = ref<Key>("live");
const numbers = reactive<Record<Stage, number | null>>({ live: null, young: null, eggs: null, dead: null });
const past = ref<Record<Stage, number | null>[]>([]);
const telling = ref(false);
const began = ref(Date.now());
const beside: Key[] = ["young", "eggs", "dead"];
const pest = computed(() => knowledge.value?.pests.find((p) => p.key === found.value?.pest));
const measure = computed(() => knowledge.value?.measures.find((m) => m.key === "live"));
const told = computed(() => found.value?.told.find((leaf) => leaf.number === at.value));
const over = computed(() => found.value !== null && at.value > found.value.leaves);
const picture = computed(() => `/api/practice/${props.session}/leaves/${at.value}.jpg`);
const count = (): Count => ({ value: numbers.live, total: null, finished: false });
const aimed = (): Count => ({ value: numbers[field.value as Stage], total: null, finished: false });
const keepWords = (): string => (numbers.live ? `Keep ${numbers.live}` : "None found");
const marks = computed(() => (told.value?.figures ?? []).map((f) => ({ x: f.x, y: f.y, stage: f.thing as Stage })));

onMounted(() => show(() => take(client.GET("/api/practice/{row_id}", { params: { path: { row_id: props.session } } })), true));
watch(at, clear);

async function show(work: () => Promise<Schemas["PracticeOut"]>, onward = false): Promise<void> {
  fault.value = null;
  try {
    found.value = await work();
    if (onward) at.value = found.value.told.length + 1;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

function clear(): void {
  Object.assign(numbers, { live: null, young: null, eggs: null, dead: null });
  field.value = "live";
  past.value = [];
  began.value = Date.now();
}

function add(by: number, key: Key = field.value): void {
  past.value.push({ ...numbers });
  field.value = key;
  const stage = key as Stage;
  const before = numbers[stage] ?? 0;
  numbers[stage] = Math.max(before + by, 0);
  // Young ones are live ones too.
  if (stage === "young") numbers.live = Math.max((numbers.live ?? 0) + (numbers.young ?? 0) - before, 0);
}

function set(value: number): void {
  past.value.push({ ...numbers });
  numbers.live = value;
}

function undo(): void {
  const before = past.value.pop();
  if (before) Object.assign(numbers, before);
}

function keep(): Promise<void> {
  const seconds = (Date.now() - began.value) / 1000;
  const body = { live: numbers.live ?? 0, young: numbers.young ?? 0, eggs: numbers.eggs ?? 0, dead: numbers.dead ?? 0, seconds: Math.min(seconds, 86_400) };
  return show(() => take(client.PUT("/api/practice/{row_id}/leaves/{number}", { params: { path: { row_id: props.session, number: at.value } }, body })));
}

function next(): void {
  at.value += 1;
}

useKeys([
  {
    key: "Enter",
    label: "Keep the count, or go on",
    run: () => {
      if (told.value) next();
      else if (!over.value) void keep();
    },
  },
  {
    key: "+",
    label: "One more",
    run: () => {
      add(1);
    },
  },
  {
    key: "-",
    label: "One less",
    run: () => {
      add(-1);
    },
  },
]);
</script>

<template>
  <div class="field stack">
    <header class="row">
      <RouterLink to="/practice" class="field-back" aria-label="Back to practice">←</RouterLink>
      <div class="field-which">
        <h1>{{ over ? "How you counted" : `Leaf ${at} of ${found?.leaves ?? "…"}` }}</h1>
        <span class="small soft">Practice: {{ pest?.name ?? "" }}</span>
      </div>
    </header>
    <FaultNote :fault="fault" />
    <template v-if="found && over">
      <PracticeReport title="This spell" :error="found.error" />
      <div class="wide-table" tabindex="0" role="region" aria-label="Leaf by leaf">
        <table>
          <thead>
            <tr>
              <th scope="col">Leaf</th>
              <th v-for="key in ['live', ...beside]" :key="key" scope="col">{{ tallyWords[key as Key] }}</th>
              <th scope="col">Seconds</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="leaf in found.told" :key="leaf.number">
              <th scope="row">
                <button type="button" class="as-text" @click="at = leaf.number">{{ leaf.number }}</button>
              </th>
              <td v-for="key in ['live', 'young', 'eggs', 'dead'] as const" :key="key">
                {{ leaf.counted[key] ?? "–" }} <span class="soft">of {{ leaf.truth[key] }}</span>
              </td>
              <td>{{ Math.round(leaf.counted.seconds) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <RouterLink to="/practice" class="go-on">Practise again →</RouterLink>
    </template>
    <template v-else-if="found">
      <PictureMarks
        :key="at"
        :src="picture"
        :width="1200"
        :height="900"
        :marks="marks"
        :alt="told ? `Leaf ${at} with everything on it marked` : `Leaf ${at} to count`"
        @shown="began = told ? began : Date.now()" />
      <template v-if="told">
        <table class="truth">
          <thead>
            <tr>
              <td />
              <th v-for="key in ['live', ...beside]" :key="key" scope="col">{{ tallyWords[key as Key] }}</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">You</th>
              <td v-for="key in ['live', 'young', 'eggs', 'dead'] as const" :key="key">{{ told.counted[key] ?? "–" }}</td>
            </tr>
            <tr>
              <th scope="row">Truth</th>
              <td v-for="key in ['live', 'young', 'eggs', 'dead'] as const" :key="key">{{ told.truth[key] }}</td>
            </tr>
          </tbody>
        </table>
        <p class="small soft">Circles are adults, triangles young, squares eggs, crosses dead. What bears no mark is not counted.</p>
        <div class="fingers">
          <button type="button" class="keep" @click="next">
            {{ at < found.leaves ? `Leaf ${at + 1}` : "How did I count?" }} <span class="key" aria-hidden="true">Enter</span>
          </button>
        </div>
      </template>
      <template v-else-if="measure">
        <section class="number">
          <CountFigure :count="count" unit="" :share="false" small label="Live" :upper="100000" field="value" @type="(_, value) => set(value)" />
          <p class="small soft">
            {{ pest?.count_what }} <button type="button" class="as-text" :aria-expanded="telling" @click="telling = !telling">Live or dead?</button>
          </p>
        </section>
        <LiveOrDead v-if="telling && pest" :pest="pest.key" :tell="pest.dead_or_alive" />
        <TallyFields :fields="beside" :active="field" :value="(key) => numbers[key as Stage]" :word="(key) => tallyWords[key]" @add="add(1, $event)" />
        <CountPad
          :measure="measure"
          :aimed="field === 'live' ? '' : tallyWords[field]"
          :count="aimed"
          :can-undo="past.length > 0"
          :keep-words="keepWords"
          :next-name="undefined"
          @set="set"
          @add="add"
          @one="add(1, 'live')"
          @add-rest="add(1, 'live')"
          @undo="undo"
          @keep="keep" />
      </template>
    </template>
  </div>
</template>

<style scoped>
.field {
  max-width: 720px;
  margin: 0 auto;
}

.number {
  display: grid;
  justify-items: center;
  text-align: center;
}

.keep {
  width: 100%;
  min-height: 64px;
  background: var(--accent);
  color: var(--on-accent);
}

.keep .key {
  margin-left: 0.7em;
}

table {
  border-collapse: collapse;
}

th,
td {
  padding: var(--space-2) var(--space-3);
  border-top: 1px solid var(--hair);
  text-align: left;
}

.wide-table td {
  white-space: nowrap;
}

.truth td {
  font-size: var(--text-l);
  font-weight: 700;
}
</style>
