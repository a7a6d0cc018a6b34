<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Round } from "../../api/client";
import { isPractised } from "../../charts/creature";
import BenchMap from "../../components/BenchMap.vue";
import FaultNote from "../../components/FaultNote.vue";
import CarePanel from "../../components/field/CarePanel.vue";
import EggWatch from "../../components/counting/EggWatch.vue";
import DayRibbon from "../../components/weather/DayRibbon.vue";
import JobRow from "../../components/trial/JobRow.vue";
import TimeTable from "../../components/field/TimeTable.vue";
import SchedulePanel from "../../components/field/SchedulePanel.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { givenIn, verbOf } from "../../rounds";
import { dayName, daysAfter } from "../../words";

const { trial, change, busy } = useTrial();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const ribbon = useAnswer(() => take(client.GET("/api/trials/{trial_id}/ribbon", { params: { path: path.value } })));
const schedule = useAnswer(() => take(client.GET("/api/trials/{trial_id}/schedule", { params: { path: path.value } })));
const course = useAnswer(() => take(client.GET("/api/trials/{trial_id}/course", { params: { path: path.value } })));
const hung = computed(() =>
  (trial.value?.jobs ?? []).flatMap((job) => (job.at?.startsWith(trial.value?.today ?? "") ? [{ title: job.title, at: job.at }] : [])),
);
/** What is due by today, or else the next jobs. */
const due = computed(() => {
  const jobs = trial.value?.jobs ?? [];
  const now = jobs.filter((job) => job.due_on <= (trial.value?.today ?? ""));
  return now.length ? now : jobs.slice(0, 3);
});
/** A finished trial has no more hours to wait for. */
const over = computed(() => Boolean(trial.value?.stations.some((s) => s.key === "verdict" && s.state === "done")));
onMounted(() => Promise.all([ribbon.load(), schedule.load(), course.load()]));
watch(trial, () => void Promise.all([ribbon.load(), course.load()]));
/** Plants still in the trial; a lost one is set aside and no longer waited for. */
const plants = computed(() => (trial.value?.plants ?? []).filter((p) => p.letter && !p.set_aside).length);

interface Back {
  number: number;
  /** The day it was planned for before; null where it was not planned at all. */
  on: string | null;
}

/** How the newest move of a round that was not begun can be taken back. */
function moved(round: Round): Back | null {
  const last = round.events.filter((event) => event.kind === "moved").at(-1);
  if (!last || round.sprayed.length || round.skipped.length || round.left_out) return null;
  const added = last.amount === round.day && round.number > 1;
  return { number: round.number, on: added ? null : daysAfter(round.on, -last.amount) };
}

const fault = ref<Fault | null>(null);
async function takeBack({ number, on }: Back): Promise<void> {
  const params = { path: { ...path.value, number } };
  const reason = "the move before it is taken back";
  fault.value = await change(() =>
    on
      ? take(client.POST("/api/trials/{trial_id}/rounds/{number}/move", { params, body: { on, reason } }))
      : take(client.POST("/api/trials/{trial_id}/rounds/{number}/leave-out", { params, body: { reason } })),
  );
}

/** Looks and rounds in the order they happen: on one day the look comes first. */
const events = computed(() => {
  const now = trial.value;
  if (!now) return [];
  const looks = now.looks.map((look) => ({
    key: `look-${look.number}`,
    day: look.day + look.hours / 24,
    when: look.when,
    on: look.on,
    order: 0,
    who: "",
    title: look.number ? `Look ${look.number}` : "Count before",
    done: Math.min(look.counted, plants.value),
    of: plants.value,
    to: `look/${look.number}`,
    verb: "counted",
    notes: [] as string[],
    back: null as Back | null,
  }));
  const rounds = now.rounds.map((round) => ({
    key: `round-${round.number}`,
    day: round.day,
    when: `day ${round.day}`,
    on: round.on,
    order: 1,
    who:
      round.remedies && round.remedies.length < now.remedies.length
        ? givenIn(now, round)
            .map((r) => r.name)
            .join(", ")
        : "",
    title: `${verbOf(now, round)}, round ${round.number}`,
    done: Math.min(round.sprayed.length, round.due.length),
    of: round.due.length,
    to: `round/${round.number}`,
    verb: `${verbOf(now, round) === "Spray" ? "sprayed" : "done"}${round.left_out ? ", left out" : ""}`,
    notes: round.notes,
    back: moved(round),
  }));
  return [...looks, ...rounds].sort((a, b) => a.day - b.day || a.order - b.order);
});
</script>

<template>
  <div v-if="trial" class="stack broad">
    <section v-if="!plants" class="sheet stack">
      <h2>First the layout</h2>
      <p>Counting and spraying begin once every plant has its tag.</p>
      <RouterLink :to="`/trial/${trial.id}/layout`">Go to the layout</RouterLink>
    </section>
    <template v-else>
      <section v-if="trial.jobs.length" class="stack due across">
        <JobRow v-for="job in due" :key="job.title" :job="job" :trial-id="trial.id" :today="trial.today" />
      </section>
      <section v-if="ribbon.data.value && !over" class="sheet across">
        <DayRibbon :ribbon="ribbon.data.value" :jobs="hung" per-remedy @said="ribbon.load" />
      </section>
      <TimeTable :trial="trial" />
      <section class="sheet">
        <FaultNote :fault="fault" />
        <ol class="events">
          <li v-for="event in events" :key="event.key" :class="{ over: event.done >= event.of }">
            <RouterLink :to="`/trial/${trial.id}/${event.to}`">
              <span class="day">{{ event.when }}</span>
              <span class="on small soft">{{ dayName(event.on) }}</span>
              <span
                ><strong>{{ event.title }}</strong
                ><span v-if="event.who" class="small soft">{{ ` · ${event.who}` }}</span></span
              >
              <span class="bar" aria-hidden="true"><span :style="{ width: `${event.of ? (100 * event.done) / event.of : 0}%` }" /></span>
              <span class="done">{{ event.done }} of {{ event.of }} {{ event.verb }}</span>
            </RouterLink>
            <ul v-if="event.notes.length" class="notes small">
              <li v-for="note in event.notes" :key="note">{{ note }}</li>
              <li v-if="event.back">
                <el-button size="small" :loading="busy" @click="takeBack(event.back)">{{
                  event.back.on ? `Move it back to ${dayName(event.back.on)}` : "Leave it out again"
                }}</el-button>
              </li>
            </ul>
          </li>
        </ol>
      </section>
      <EggWatch v-if="trial.measure.key === 'hatched'" :trial="trial" />
      <SchedulePanel v-if="!over" />
      <CarePanel :stages="schedule.data.value?.stages ?? []" />
      <section class="sheet stack across">
        <h2>So far, plant by plant</h2>
        <BenchMap :trial="trial" figure="course" :course="course.data.value" still />
        <p class="small soft">
          A dot more is twice as many; the number stands below. Bites and pale tips are leaf damage, drops a spray of today or yesterday; a pale plant was not
          counted. <RouterLink v-if="isPractised(trial.pest)" :to="`/practice?pest=${trial.pest}`">Practise counting</RouterLink>
        </p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.due {
  gap: var(--space-2);
}

.events {
  margin: 0;
  padding: 0;
  list-style: none;
}

.events a {
  display: grid;
  grid-template-columns: 4.5rem 7rem 1fr 130px 10rem;
  gap: var(--space-3);
  align-items: center;
  min-height: 52px;
  color: var(--ink);
  text-decoration: none;
  border-top: 1px solid var(--hair);
}

.events li:first-child a {
  border-top: 0;
}

.events a:hover {
  background: var(--accent-wash);
}

.notes {
  margin: 0 0 var(--space-2);
  padding-left: 5.5rem;
  color: var(--warn);
}

.bar {
  height: 10px;
  border: 1.5px solid var(--line);
  border-radius: 5px;
  overflow: hidden;
}

.bar span {
  display: block;
  height: 100%;
  background: var(--accent);
}

.done {
  text-align: right;
}

@media (width < 640px) {
  .events a {
    grid-template-columns: 3.6rem 1fr auto;
    padding-block: var(--space-2);
  }

  .on,
  .bar {
    display: none;
  }

  .done {
    font-size: var(--text-s);
  }
}
</style>
