<script setup lang="ts">
import { computed } from "vue";
import { RouterLink } from "vue-router";
import type { Job } from "../../api/client";
import { timeOf } from "../../charts/ribbon";
import { dayName, fromToday, plural } from "../../words";
import { inUnits } from "../../units";

const props = defineProps<{ job: Job; trialId: number; trialName?: string; today: string }>();

const to = computed(() => {
  const { station, number } = props.job;
  const numbered = number !== null && (station === "look" || station === "round" || station === "rest");
  return `/trial/${props.trialId}/${numbered ? `${station}/${number}` : station}`;
});
const when = computed(() => fromToday(props.job.due_on, props.today));
const urgent = computed(() => props.job.due_on <= props.today && props.job.kind !== "read");
const noun = { patch: "test", mix: "bottle", plan: "plant", count: "plant", spray: "plant", read: "plant" } as const;
const verb = { plan: "Go on", patch: "Test", mix: "Mix", count: "Count", spray: "Spray", read: "Read" } as const;
</script>

<template>
  <RouterLink :to="to" class="job" :class="{ urgent }">
    <span class="day">
      <strong>{{ when }}</strong>
      <span class="small">{{ dayName(job.due_on) }}</span>
    </span>
    <span class="what">
      <strong>{{ job.title }}</strong>
      <span class="small">
        <template v-if="trialName">{{ trialName }}</template>
        <template v-if="job.of">{{ trialName ? " · " : "" }}{{ job.left === job.of ? plural(job.of, noun[job.kind]) : `${job.left} of ${plural(job.of, noun[job.kind])} left` }}</template>
        <template v-if="job.at"> · {{ timeOf(job.at) }}<template v-if="job.note">, {{ inUnits(job.note) }}</template></template>
        <template v-else-if="job.note"> · {{ inUnits(job.note) }}</template>
      </span>
    </span>
    <span class="go">{{ verb[job.kind] }} <span aria-hidden="true">→</span></span>
  </RouterLink>
</template>

<style scoped>
.job {
  display: grid;
  grid-template-columns: 8.5rem 1fr auto;
  gap: var(--space-4);
  align-items: center;
  min-height: 68px;
  padding: var(--space-2) var(--space-4);
  background: var(--sheet);
  color: var(--ink);
  border-left: 8px solid var(--hair);
  border-radius: var(--radius-s);
  text-decoration: none;
}

.job:hover {
  background: var(--accent-wash);
}

.urgent {
  border-left-color: var(--trap);
}

.day,
.what {
  display: grid;
}

.small {
  color: var(--ink-soft);
}

.what strong {
  font-size: 1.1rem;
}

.go {
  font-weight: 700;
  color: var(--accent);
}

@media (width < 640px) {
  .job {
    grid-template-columns: 1fr auto;
    gap: var(--space-1) var(--space-3);
  }

  .day {
    grid-column: 1 / -1;
    display: flex;
    gap: var(--space-2);
    align-items: baseline;
  }
}
</style>
