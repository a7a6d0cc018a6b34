<script setup lang="ts">
import { computed } from "vue";
import type { Trial } from "../../api/client";

/** Which remedy is given on which day, where they have days of their own. */
const { trial } = defineProps<{ trial: Trial }>();
const rows = computed(() =>
  trial.remedies.map((remedy) => ({
    remedy,
    minutes: trial.work.find((work) => work.remedy_id === remedy.id)?.minutes ?? 0,
    given: trial.rounds.map((round) =>
      (round.remedies ?? [remedy.id]).includes(remedy.id) ? { what: remedy.traits.steps?.[(round.steps[remedy.id] ?? 0) - 1]?.name ?? "" } : null,
    ),
  })),
);
const rules = computed(() => trial.remedies.filter((remedy) => remedy.rule));
const looks = computed(() => new Set(trial.looks.map((look) => look.day)));
</script>

<template>
  <section v-if="rules.length || trial.rounds.some((round) => round.remedies)" class="sheet stack" aria-labelledby="timetable">
    <h2 id="timetable">Who gets what on which day</h2>
    <div class="wide" tabindex="0" role="region" aria-label="Timetable of remedies by days">
      <table>
        <thead>
          <tr>
            <th scope="col">Day</th>
            <th v-for="round in trial.rounds" :key="round.number" scope="col" :class="{ look: looks.has(round.day) }">{{ round.day }}</th>
            <th scope="col" class="work">work, typical</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.remedy.id">
            <th scope="row">{{ row.remedy.name }}</th>
            <td v-for="(is, k) in row.given" :key="k">
              <span v-if="is?.what" class="small">{{ is.what }}</span><span v-else-if="is" class="dot" role="img" aria-label="given" />
            </td>
            <td class="work">{{ row.minutes ? `about ${Math.round(row.minutes)} min` : "–" }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-for="remedy in rules" :key="remedy.id">{{ remedy.name }}: {{ remedy.rule }}. The look before a round decides, once all its plants are counted.</p>
    <p class="small soft">Underlined days are looks: everything is counted on the same days, before it is treated.</p>
  </section>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}

table {
  border-collapse: collapse;
}

th,
td {
  min-width: 2.2em;
  padding: var(--space-1) var(--space-2);
  border-bottom: 1px solid var(--hair);
  text-align: center;
}

th[scope="row"],
thead th:first-child {
  position: sticky;
  left: 0;
  background: var(--sheet);
  text-align: left;
  white-space: nowrap;
}

.work {
  padding-left: var(--space-4);
  text-align: right;
  white-space: nowrap;
}

.look {
  text-decoration: underline 3px var(--trap);
  text-underline-offset: 4px;
}

.dot {
  display: inline-block;
  width: 0.8em;
  height: 0.8em;
  border-radius: 50%;
  background: var(--accent);
}
</style>
