<script setup lang="ts">
import { computed } from "vue";
import { RouterLink, type RouteLocationRaw } from "vue-router";
import { dayName, fromToday } from "../../words";

/** Something due, with its day and where it is done; what it is about stands in the slot. */
const props = defineProps<{ to: RouteLocationRaw; title: string; dueOn: string; today: string; verb: string; calm?: boolean }>();
const when = computed(() => fromToday(props.dueOn, props.today));
const urgent = computed(() => props.dueOn <= props.today && !props.calm);
</script>

<template>
  <RouterLink :to="to" class="job" :class="{ urgent }">
    <span class="day">
      <strong>{{ when }}</strong>
      <span class="small">{{ dayName(dueOn) }}</span>
    </span>
    <span class="what">
      <strong>{{ title }}</strong>
      <span class="small"><slot /></span>
    </span>
    <span class="go">{{ verb }} <span aria-hidden="true">→</span></span>
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
