<script setup lang="ts">
import { computed } from "vue";
import type { Trial, Verdict } from "../../api/client";
import PlantTag from "../PlantTag.vue";

/** What each remedy cost the leaves beyond the control. */
const props = defineProps<{ verdict: Verdict; trial: Trial }>();
const price = computed(() => props.verdict.verdict.remedies.filter((r) => r.role === "remedy"));

function remedyNamed(name: string): { letter: string | null; notches: number | null } {
  return props.trial.remedies.find((r) => r.name === name) ?? { letter: null, notches: null };
}

function damage(value: number | null): string {
  if (value === null) return "not scored";
  if (value < 0.05) return "none beyond the control";
  return `+${value.toFixed(1)} steps`;
}
</script>

<template>
  <ul class="price">
    <li v-for="r in price" :key="r.name">
      <PlantTag :letter="remedyNamed(r.name).letter" :notches="remedyNamed(r.name).notches" :height="34" />
      <span>
        <strong>{{ r.name }}</strong>
        <span :class="{ harm: r.vetoed }">{{ damage(r.damage_beyond_control) }}<template v-if="r.vetoed">: cannot win</template></span>
      </span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

.price {
  display: grid;
  gap: var(--space-3);
}

.price li {
  display: flex;
  gap: var(--space-3);
  align-items: center;
}

.price li > span {
  display: grid;
}

.harm {
  color: var(--bad);
  font-weight: 700;
}
</style>
