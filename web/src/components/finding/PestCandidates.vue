<script setup lang="ts">
import type { Knowledge, Schemas } from "../../api/client";
import { percent } from "../../charts/efficacy";

/** Pests that fit the signs seen, the likeliest first. */
const props = defineProps<{ knowledge: Knowledge; candidates: readonly Schemas["CandidateOut"][] }>();
const pest = defineModel<string>({ required: true });

/** Its name, and how to be sure; of what is no pest too. */
function known(key: string): { name: string; tell: string; pest: boolean } {
  const pest = props.knowledge.pests.find((p) => p.key === key);
  const none = props.knowledge.disorders.find((d) => d.key === key);
  return { name: pest?.name ?? none?.name ?? key, tell: pest?.tell_tale ?? none?.tell ?? "", pest: !none };
}

function unexplained(keys: readonly string[]): string {
  return keys.map((k) => props.knowledge.signs.find((s) => s.key === k)?.text.toLowerCase()).join("; ");
}
</script>

<template>
  <p v-if="!candidates.length" class="soft">Tick a sign, or choose one you know already.</p>
  <ol class="maybe">
    <li v-for="c in candidates.slice(0, 6)" :key="c.key">
      <button type="button" class="tile" :aria-pressed="pest === c.key" @click="pest = c.key">
        <strong>{{ known(c.key).name }}<span v-if="!known(c.key).pest" class="none">no spray helps</span></strong>
        <span class="bar" aria-hidden="true"><span :style="{ width: percent(c.fit) }" /></span>
        <span class="small">To be sure: {{ known(c.key).tell }}</span>
        <span v-if="c.unexplained.length" class="small soft">Does not explain: {{ unexplained(c.unexplained) }}.</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.maybe button {
  display: grid;
  width: 100%;
}

.none {
  margin-left: 0.6em;
  padding: 0 0.4em;
  border: 1px solid currentcolor;
  border-radius: var(--radius-s);
  font-size: var(--text-s);
  font-weight: 400;
}

.maybe {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}

.bar {
  height: 8px;
  background: var(--well);
}

.bar span {
  display: block;
  height: 100%;
  background: var(--accent);
}
</style>
