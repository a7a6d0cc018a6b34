<script setup lang="ts">
import { inUnits } from "../units";

defineProps<{ texts: readonly string[]; title?: string }>();
</script>

<template>
  <div v-if="texts.length" class="cautions" role="note" :aria-label="title ?? 'Cautions'">
    <strong v-if="title">{{ title }}</strong>
    <ul>
      <li v-for="text in texts" :key="text">{{ inUnits(text) }}</li>
    </ul>
  </div>
</template>

<style scoped>
.cautions {
  padding: var(--space-3) var(--space-4);
  border-left: 5px solid var(--warn);
  background: var(--warn-wash);
  max-width: var(--measure);
}

ul {
  margin: 0;
  padding-left: 1.1em;
}

li + li {
  margin-top: var(--space-1);
}
</style>
