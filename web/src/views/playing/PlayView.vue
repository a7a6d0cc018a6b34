<script setup lang="ts">
import { computed, nextTick, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import BenchMap from "../../components/BenchMap.vue";
import FaultNote from "../../components/FaultNote.vue";
import LessonStrip from "../../components/playing/LessonStrip.vue";
import TruthPicture from "../../components/playing/TruthPicture.vue";
import { draftOf, useDraft } from "../../composables/useDraft";
import { useKeys } from "../../composables/useKeys";
import { USUAL, benchOf, courseOf, playableDraft, playableTrial, type Playable } from "../../playing";
import type { QuestionDraft, Rows } from "../../question";
import { plural } from "../../words";

/** A plan played through on simulated plants: days pass at a tap, and the truth is opened last. */
const route = useRoute();
const played = ref<Playable | null>(null);
/** What was played so far is kept on this device, to go on after a reload. */
const [kept] = useDraft("play", { seed: 0, moves: [] as Schemas["Move"][], plan: "" });
const board = ref<Schemas["PlayOut"] | null>(null);
const fault = ref<Fault | null>(null);
const busy = ref(false);
const now = ref<HTMLElement | null>(null);

const names: Record<Schemas["Move"], string> = {
  count: "Count",
  spray: "Spray them all",
  wait: "Wait a day",
  miss: "Leave this round out",
  read: "Read the verdict",
  open: "Open the truth",
};

async function planOf(): Promise<Playable> {
  const trial = Number(route.query["trial"]);
  if (trial > 0) {
    const kept = await take(client.GET("/api/trials/{trial_id}", { params: { path: { trial_id: trial } } }));
    return playableTrial(kept) ?? USUAL;
  }
  const draft = draftOf<{ question: QuestionDraft; bench: Rows }>("question");
  return (route.query["usual"] ? null : playableDraft(draft.question ?? {}, draft.bench ?? {})) ?? USUAL;
}

async function show(made: Schemas["Move"][]): Promise<void> {
  if (busy.value || !played.value) return;
  busy.value = true;
  try {
    board.value = await take(client.POST("/api/queries/play", { body: { plan: played.value.plan, seed: kept.seed, moves: made } }));
    kept.moves = made;
    fault.value = null;
    await nextTick();
    if (made.length) now.value?.querySelector<HTMLElement>("button")?.focus();
  } catch (thrown) {
    fault.value = asFault(thrown);
  } finally {
    busy.value = false;
  }
}

async function begin(): Promise<void> {
  lesson.value = null;
  Object.assign(kept, { seed: Math.floor(Math.random() * 2 ** 31), plan: JSON.stringify(played.value?.plan) });
  await show([]);
}

watch(
  () => route.fullPath,
  async () => {
    if (route.name !== "play") return;
    try {
      played.value = await planOf();
    } catch (thrown) {
      fault.value = asFault(thrown);
      return;
    }
    if (kept.plan === JSON.stringify(played.value.plan)) await show(kept.moves);
    if (!board.value) await begin();
  },
  { immediate: true },
);

const first = computed(() => board.value?.choices[0]);
useKeys([{ key: "Enter", label: "Play on", when: () => Boolean(first.value), run: () => void (first.value && show([...kept.moves, first.value])) }]);

const bench = computed(() => (board.value && played.value ? benchOf(board.value, played.value, kept.moves.at(-1) === "spray") : null));
const course = computed(() => (board.value ? courseOf(board.value) : null));

const asked = computed(() => {
  const plan = played.value?.plan;
  if (!plan) return "";
  const [control, ...others] = plan.remedies.map((r) => r.name);
  return `${played.value?.on}: does ${others.join(" or ")} take away at least ${Math.round((plan.threshold ?? 0.6) * 100)}%, held against ${control}?`;
});

const lesson = ref<Schemas["LessonOut"] | null>(null);
const lessons = { control: "Why leave some untreated?", lot: "Why let the lot decide?", wait: "Why wait?" } as const;
const learning = ref(false);
async function learn(about: keyof typeof lessons): Promise<void> {
  if (!played.value || learning.value) return;
  learning.value = true;
  try {
    lesson.value = await take(client.POST("/api/queries/lesson", { body: { plan: played.value.plan, about, seed: kept.seed } }));
  } catch (thrown) {
    fault.value = asFault(thrown);
  } finally {
    learning.value = false;
  }
}
</script>

<template>
  <div class="stack page">
    <header class="stack top">
      <h1>A trial played through</h1>
      <p>{{ asked }} The plants are invented, and what each remedy does was drawn by lot and sealed. Nothing of it is kept.</p>
    </header>
    <FaultNote :fault="fault"><RouterLink to="/play?usual=1">Play the usual plan</RouterLink></FaultNote>
    <div v-if="board" class="table">
      <section class="sheet stack stage" aria-label="The played bench">
        <BenchMap v-if="bench" :trial="bench" figure="course" :course="course" still />
        <p class="small soft">
          Drawn as they are counted: a dot fewer for each halving, with the number below.
          {{ board.tags.length ? "" : "Which letter is which remedy stays sealed until all is counted." }}
        </p>
      </section>
      <section ref="now" class="sheet stack now" :class="{ thumb: !board.sentence }" aria-label="What is due" :aria-busy="busy">
        <template v-if="board.due !== 'over'">
          <p class="due" role="status">{{ board.says }}</p>
          <div class="row">
            <el-button
              v-for="(move, k) in board.choices"
              :key="move"
              size="large"
              :type="k ? 'default' : 'primary'"
              :disabled="busy"
              @click="show([...kept.moves, move])">
              {{ names[move] }} <span v-if="!k" class="key" aria-hidden="true">Enter</span>
            </el-button>
          </div>
        </template>
        <template v-if="board.sentence">
          <h2>The verdict</h2>
          <p class="said">{{ board.sentence }}</p>
          <p>{{ board.advice }}</p>
          <p class="small">{{ board.tags.map((t) => `${t.letter} is ${t.name}`).join(", ") }}.</p>
        </template>
        <details v-if="board.told.length">
          <summary>What happened</summary>
          <ol class="told">
            <li v-for="(line, k) in board.told" :key="k">{{ line }}</li>
          </ol>
        </details>
      </section>
    </div>
    <section v-if="board?.hindsight" class="sheet stack" aria-label="The truth">
      <h2>{{ board.hindsight.says }}</h2>
      <div class="beside">
        <TruthPicture :told="board.hindsight.remedies" :tags="board.tags" :threshold="played?.plan.threshold ?? 0.6" />
        <dl>
          <template v-for="other in board.hindsight.what_if" :key="other.code">
            <dt>{{ other.title }}</dt>
            <dd>{{ other.says }}</dd>
          </template>
        </dl>
      </div>
      <div class="row">
        <el-button type="primary" size="large" @click="begin">Play again, with another truth</el-button>
        <RouterLink to="/new" class="go-on">Plan your own trial →</RouterLink>
      </div>
    </section>
    <section v-if="board" class="sheet stack" aria-label="Lessons">
      <h2>A minute on why</h2>
      <div class="row">
        <el-button v-for="(title, about) in lessons" :key="about" size="large" :aria-pressed="lesson?.about === about" @click="learn(about)">{{
          title
        }}</el-button>
      </div>
      <LessonStrip v-if="lesson" :lesson="lesson" :aria-busy="learning" />
      <p v-else class="small soft" role="status">
        {{ learning ? "Being played …" : "" }} Each is this plan in 200 gardens, done without the thing and with it.
      </p>
    </section>
    <p v-if="board" class="small soft">
      {{ plural(played?.plan.plants ?? 0, "plant") }}, sprays on {{ plural(played?.plan.rounds.length ?? 0, "day") }},
      {{ plural((played?.plan.looks.length ?? 0) + 1, "count") }}. Rounds and groups are simpler here than they may be in the trial itself: all remedies are
      sprayed on the same days.
    </p>
  </div>
</template>

<style scoped>
.page {
  gap: var(--space-4);
}

.top {
  gap: var(--space-2);
}

.table {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(300px, 1fr);
  gap: var(--space-4);
  align-items: start;
}

.stage,
.now {
  min-width: 0;
}

.due,
.said {
  font-size: var(--text-l);
  font-weight: 650;
}

.told {
  margin: 0;
  padding-left: 1.4em;
}

.beside {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--space-5);
}

dl {
  margin: 0;
}

dt {
  font-weight: 700;
}

dd {
  margin: 0 0 var(--space-3);
}

summary {
  min-height: var(--touch);
  align-content: center;
  cursor: pointer;
}

@media (width < 640px) {
  .thumb {
    position: sticky;
    bottom: 0;
    z-index: 1;
  }
}

@media (width < 900px) {
  .table,
  .beside {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
