<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import BenchMap from "../../components/BenchMap.vue";
import JobRow from "../../components/JobRow.vue";
import { useTrial } from "../../composables/useTrial";
import { dayName } from "../../words";

const { trial } = useTrial();
/** Plants still in the trial; a lost one is set aside and no longer waited for. */
const plants = computed(() => (trial.value?.plants ?? []).filter((p) => p.remedy_id && !p.set_aside).length);

/** Looks and rounds in the order they happen: on one day the look comes first. */
const events = computed(() => {
  if (!trial.value) return [];
  const looks = trial.value.looks.map((look) => ({
    key: `look-${look.number}`,
    day: look.day,
    on: look.on,
    order: 0,
    title: look.number ? `Look ${look.number}` : "Count before",
    done: Math.min(look.counted, plants.value),
    to: `look/${look.number}`,
    verb: "counted",
  }));
  const rounds = trial.value.rounds.map((round) => ({
    key: `round-${round.number}`,
    day: round.day,
    on: round.on,
    order: 1,
    title: `Spray, round ${round.number}`,
    done: Math.min(round.sprayed.length, plants.value),
    to: `round/${round.number}`,
    verb: "sprayed",
  }));
  return [...looks, ...rounds].sort((a, b) => a.day - b.day || a.order - b.order);
});
</script>

<template>
  <div v-if="trial" class="stack">
    <section v-if="!plants" class="sheet stack">
      <h2>First the layout</h2>
      <p>Counting and spraying begin once every plant has its tag.</p>
      <RouterLink :to="`/trial/${trial.id}/layout`">Go to the layout</RouterLink>
    </section>
    <template v-else>
      <section v-if="trial.jobs.length" class="stack due">
        <JobRow v-for="job in trial.jobs.slice(0, 1)" :key="job.title" :job="job" :trial-id="trial.id" :today="trial.today" />
      </section>
      <section class="sheet">
        <ol class="events">
          <li v-for="event in events" :key="event.key" :class="{ over: event.done >= plants }">
            <RouterLink :to="`/trial/${trial.id}/${event.to}`">
              <span class="day">day {{ event.day }}</span>
              <span class="on small soft">{{ dayName(event.on) }}</span>
              <strong>{{ event.title }}</strong>
              <span class="bar" aria-hidden="true"><span :style="{ width: `${(100 * event.done) / plants}%` }" /></span>
              <span class="done">{{ event.done }} of {{ plants }} {{ event.verb }}</span>
            </RouterLink>
          </li>
        </ol>
      </section>
      <section class="sheet stack">
        <h2>So far, plant by plant</h2>
        <BenchMap :trial="trial" figure="course" />
        <p class="small soft">The line in each pot runs through its counts, from before to the newest.</p>
      </section>
    </template>
  </div>
</template>

<style scoped>
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
