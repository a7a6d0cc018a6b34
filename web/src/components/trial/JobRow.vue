<script setup lang="ts">
import { computed } from "vue";
import type { Job } from "../../api/client";
import { timeOf } from "../../charts/ribbon";
import { plural } from "../../words";
import { inUnits } from "../../units";
import DueRow from "./DueRow.vue";

const props = defineProps<{ job: Job; trialId: number; trialName?: string; today: string }>();

const to = computed(() => {
  const { station, number } = props.job;
  const numbered = number !== null && (station === "look" || station === "round" || station === "rest");
  return `/trial/${props.trialId}/${numbered ? `${station}/${number}` : station}`;
});
const noun = { patch: "test", mix: "bottle", plan: "plant", count: "plant", spray: "plant", read: "plant" } as const;
const verb = { plan: "Go on", patch: "Test", mix: "Mix", count: "Count", spray: "Spray", read: "Read" } as const;
</script>

<template>
  <DueRow :to="to" :title="job.title" :due-on="job.due_on" :today="today" :verb="verb[job.kind]" :calm="job.kind === 'read'">
    <template v-if="trialName">{{ trialName }}</template>
    <template v-if="job.of"
      >{{ trialName ? " · " : ""
      }}{{ job.left === job.of ? plural(job.of, noun[job.kind]) : `${job.left} of ${plural(job.of, noun[job.kind])} left` }}</template
    >
    <template v-if="job.at">
      · {{ timeOf(job.at) }}<template v-if="job.note">, {{ inUnits(job.note) }}</template></template
    >
    <template v-else-if="job.note"> · {{ inUnits(job.note) }}</template>
  </DueRow>
</template>
