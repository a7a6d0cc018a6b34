<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { RouterLink } from "vue-router";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import { takeKept } from "../../api/kept";
import DayRibbon from "../../components/weather/DayRibbon.vue";
import FaultNote from "../../components/FaultNote.vue";
import OutOfReach from "../../components/OutOfReach.vue";
import DueRow from "../../components/trial/DueRow.vue";
import JobRow from "../../components/trial/JobRow.vue";
import TrialThread from "../../components/trial/TrialThread.vue";
import { useAnswer } from "../../composables/useAnswer";
import { localDay, plural } from "../../words";

const ribbon = useAnswer(() => take(client.GET("/api/ribbon")));
const data = ref<Schemas["TodayOut"] | null>(null);
const fault = ref<Fault | null>(null);
const keptAt = ref<number | null>(null);

async function load(): Promise<void> {
  try {
    const found = await takeKept("today", () => take(client.GET("/api/today")));
    [data.value, keptAt.value] = [found.data, found.keptAt];
    fault.value = null;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
const said = (): Promise<unknown> => Promise.all([load(), ribbon.load()]);
onMounted(said);

async function bringBack(id: number): Promise<void> {
  try {
    await take(client.POST("/api/trials/{trial_id}/restore", { params: { path: { trial_id: id } } }));
    await load();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

/** The demo is a program beside this one, so it is offered on its machine alone. */
const demo = ref<"" | "offered" | "starting">(["127.0.0.1", "localhost", "[::1]"].includes(location.hostname) ? "offered" : "");
async function lookRound(): Promise<void> {
  demo.value = "starting";
  const window_ = window.open("about:blank"); // opened at the press: later it would be blocked
  try {
    const { address } = await take(client.POST("/api/demo"));
    (window_ ?? window).location.assign(address);
  } catch (thrown) {
    window_?.close();
    fault.value = asFault(thrown);
  } finally {
    demo.value = "offered";
  }
}

/** From so many on a trial is looked for by words, those put away too. */
const MANY = 5;
const words = ref("");
const seeks = computed(() => (data.value ? data.value.trials.length + data.value.put_away.length >= MANY : false));
function isFound(...told: string[]): boolean {
  const text = told.join(" ").toLowerCase();
  return words.value
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
const trials = computed(() => (data.value?.trials ?? []).filter((t) => isFound(t.name, t.pest, t.crop)));
const away = computed(() => (data.value?.put_away ?? []).filter((t) => isFound(t.name)));

const allJobs = computed(() =>
  (data.value?.trials ?? []).flatMap((trial) => trial.jobs.map((job) => ({ trial, job }))).sort((a, b) => a.job.due_on.localeCompare(b.job.due_on)),
);
const due = computed(() => allJobs.value.filter((j) => j.job.due_on <= (data.value?.today ?? "")));
const garden = computed(() => data.value?.garden ?? []);
const gardenDue = computed(() => garden.value.filter((job) => job.due_on <= (data.value?.today ?? "")));
const gardenSoon = computed(() => garden.value.filter((job) => job.due_on > (data.value?.today ?? "")));
const gardenVerbs = { look: "Look", treated: "Write", newcomer: "See", task: "Do", air: "Look" } as const;
const hung = computed(() =>
  due.value.flatMap(({ trial, job }) =>
    job.at?.startsWith(data.value?.today ?? "") && job.kind !== "mix"
      ? [{ title: `${job.title}: ${trial.name}`, at: job.at, to: `/trial/${trial.id}/${job.station === "rest" ? `rest/${job.number}` : "rounds"}` }]
      : [],
  ),
);
/** The page that writes it down, filled in. */
function toJournal(job: Schemas["GardenJobOut"]): { path: string; query: Record<string, string> } {
  return { path: "/year", query: job.kind === "task" ? {} : { write: job.kind === "newcomer" ? "look" : job.kind, pest: job.pest, at: job.place } };
}
const soon = computed(() => allJobs.value.filter((j) => j.job.due_on > (data.value?.today ?? "")));
const heading = computed(() =>
  data.value ? new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long" }).format(localDay(data.value.today)) : "Today",
);
</script>

<template>
  <div class="stack broad">
    <h1>{{ heading }}</h1>
    <FaultNote :fault="fault"><el-button @click="load">Try again</el-button></FaultNote>
    <OutOfReach :kept-at="keptAt" @again="load" />

    <template v-if="data">
      <section v-if="!data.trials.length && !garden.length" class="sheet stack empty across">
        <h2>Find out which remedy works on your plants</h2>
        <p class="lead">
          You try soap, oil or another remedy on some plants and leave some alone. You count before and after. Orthocris says what works, how sure that is, and
          what it costs the leaves.
        </p>
        <ul class="ways">
          <li><RouterLink to="/new" class="go-on">Plan a trial →</RouterLink><span>You know what sits on your plants.</span></li>
          <li>
            <RouterLink to="/look" class="go-on other">Find out what it is →</RouterLink
            ><span>Leaves are sticky, spotted or chewed, and you don’t know by what.</span>
          </li>
          <li>
            <RouterLink to="/play?usual=1" class="go-on other">Play one first →</RouterLink
            ><span>Five minutes on invented plants, to see what a trial is and why.</span>
          </li>
          <li v-if="demo">
            <button type="button" class="go-on other" :disabled="demo === 'starting'" @click="lookRound">
              {{ demo === "starting" ? "It is laid out …" : "Look round a demo garden →" }}</button><span
              >Three invented summers, in a window of their own. Try anything there; it is gone at the end.</span
            >
          </li>
        </ul>
        <p class="small">
          Did you do one already, on paper or in a spreadsheet? <RouterLink to="/new?paper=1">Enter it here</RouterLink>. To write down what you see from week
          to week, open <RouterLink to="/year">the year</RouterLink>.
        </p>
      </section>
      <template v-else>
        <section v-if="ribbon.data.value" class="sheet across">
          <DayRibbon :ribbon="ribbon.data.value" :jobs="hung" @said="said" />
          <p v-if="!ribbon.data.value.known" class="small soft set-up">
            A station or a table of hours can be set up in <RouterLink to="/yard">the Yard</RouterLink>.
          </p>
        </section>
        <section class="stack jobs" aria-labelledby="due">
          <h2 id="due">Due now</h2>
          <p v-if="!due.length && !gardenDue.length" class="soft">Nothing is due today.</p>
          <JobRow
            v-for="{ trial, job } in due"
            :key="`${trial.id}-${job.station}-${job.kind}-${job.number}`"
            :job="job"
            :trial-id="trial.id"
            :trial-name="trial.name"
            :today="data.today" />
          <DueRow
            v-for="job in gardenDue"
            :key="job.key"
            :to="toJournal(job)"
            :title="job.title"
            :due-on="job.due_on"
            :today="data.today"
            :verb="gardenVerbs[job.kind]"
            >{{ job.place }}{{ job.note ? ` · ${job.note}` : "" }}</DueRow
          >
        </section>
        <p class="small">
          <RouterLink to="/known">What you know by now</RouterLink> ·
          <a href="/api/calendar.ics" download="orthocris.ics">Take all jobs into your calendar</a> ·
          <RouterLink to="/new?paper=1">Enter a trial done on paper</RouterLink>
        </p>
        <section v-if="soon.length || gardenSoon.length" class="stack jobs" aria-labelledby="soon">
          <h2 id="soon">This week</h2>
          <JobRow
            v-for="{ trial, job } in soon"
            :key="`${trial.id}-${job.station}-${job.kind}-${job.number}`"
            :job="job"
            :trial-id="trial.id"
            :trial-name="trial.name"
            :today="data.today" />
          <DueRow
            v-for="job in gardenSoon"
            :key="job.key"
            :to="toJournal(job)"
            :title="job.title"
            :due-on="job.due_on"
            :today="data.today"
            :verb="gardenVerbs[job.kind]"
            >{{ job.place }}{{ job.note ? ` · ${job.note}` : "" }}</DueRow
          >
        </section>
        <section v-if="data.trials.length" class="stack across" aria-labelledby="all">
          <h2 id="all">All trials</h2>
          <el-input
            v-if="seeks"
            v-model="words"
            class="seek no-print"
            clearable
            placeholder="Find a trial: lupins, aphids …"
            aria-label="Find a trial by its name, pest or plants" />
          <p v-if="!trials.length" class="soft" role="status">No trial has these words<template v-if="away.length">; some that were put away do</template>.</p>
          <ul class="trials">
            <li v-for="trial in trials" :key="trial.id">
              <RouterLink :to="`/trial/${trial.id}/${trial.stations.find((s) => s.state === 'next')?.key ?? 'verdict'}`">
                <span class="who">
                  <strong>{{ trial.name }}</strong>
                  <span class="small soft">{{ trial.pest }} · {{ plural(trial.plants, "plant") }}</span>
                  <span v-if="trial.eating" class="small">{{ trial.eating }}</span>
                </span>
                <TrialThread :stations="trial.stations" :trial-id="trial.id" small />
                <span class="state small">
                  {{ trial.stations.find((s) => s.state === "next")?.title ?? "Verdict ready" }}
                </span>
              </RouterLink>
            </li>
          </ul>
        </section>
      </template>
      <details v-if="away.length" class="away across" :open="Boolean(words) || undefined">
        <summary>Put away ({{ away.length }})</summary>
        <ul>
          <li v-for="trial in away" :key="trial.id" class="row">
            <span>{{ trial.name }}</span><el-button @click="bringBack(trial.id)">Bring it back</el-button>
          </li>
        </ul>
      </details>
    </template>
  </div>
</template>

<style scoped>
.stack {
  gap: var(--space-5);
}

.jobs {
  gap: var(--space-2);
}

.set-up {
  margin-top: var(--space-3);
}

.seek {
  max-width: 26rem;
}

.empty {
  gap: var(--space-5);
}

.lead {
  font-size: var(--text-l);
}

.other {
  background: none;
  color: var(--accent);
  box-shadow: inset 0 0 0 2px var(--accent);
}

.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 240px), 1fr));
  gap: var(--space-4);
  margin: 0;
  padding: 0;
  list-style: none;
}

.ways li {
  display: grid;
  gap: var(--space-2);
  align-content: start;
  justify-items: start;
}

.trials {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.trials a {
  display: grid;
  grid-template-columns: minmax(14rem, 1.2fr) 2fr 10rem;
  gap: var(--space-4);
  align-items: center;
  min-height: 64px;
  padding: var(--space-2) var(--space-3);
  color: var(--ink);
  text-decoration: none;
  border-top: 1px solid var(--hair);
}

.trials a:hover {
  background: var(--well);
}

.away ul {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}

.who {
  display: grid;
}

.state {
  text-align: right;
}

@media (width < 640px) {
  .trials a {
    grid-template-columns: 1fr auto;
  }

  .trials a .thread {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
