<script setup lang="ts">
import type { Pest } from "../../api/client";
import { percent } from "../../charts/efficacy";
import { RouterLink } from "vue-router";
import { useKnown } from "../../composables/useKnown";
import LiveOrDead from "../counting/LiveOrDead.vue";

/** What is known of a pest or disease. */
const props = defineProps<{ pest: Pest }>();
const known = useKnown(() => props.pest.key);
</script>

<template>
  <dl class="card">
    <dt>Tell-tale</dt>
    <dd>{{ pest.tell_tale }}</dd>
    <dt>Not to be confused</dt>
    <dd>{{ pest.look_alikes.join(". ") }}.</dd>
    <dt>Where to look</dt>
    <dd>{{ pest.where }}</dd>
    <dt>What counts as one</dt>
    <dd>{{ pest.count_what }} Stages: {{ pest.stages.join(", ") }}.</dd>
    <dt>Dead or alive</dt>
    <dd><LiveOrDead :pest="pest.key" :tell="pest.dead_or_alive" /></dd>
    <dt v-if="pest.helpers.length">Helpers, to be spared</dt>
    <dd v-if="pest.helpers.length">{{ pest.helpers.join(", ") }}</dd>
    <template v-if="Object.keys(pest.cannot_work).length">
      <dt>Cannot work on it</dt>
      <dd>
        <span v-for="(why, key) in pest.cannot_work" :key="key" class="why"
          ><strong>{{ String(key).replace(/_/g, " ") }}:</strong> {{ why }}
        </span>
      </dd>
    </template>
    <dt>How much is borne</dt>
    <dd>{{ pest.tolerance }} (typical: up to {{ percent(pest.tolerance_share) }})</dd>
    <template v-if="known.length">
      <dt>In your trials</dt>
      <dd>
        <span v-for="one in known.slice(0, 3)" :key="`${one.name} ${one.strength}`" class="why"
          ><strong>{{ one.name }}:</strong> {{ one.words }} </span
        ><RouterLink :to="`/known/${encodeURIComponent(pest.key)}`">All that you know of them</RouterLink>
      </dd>
    </template>
    <dt>First aid</dt>
    <dd>{{ pest.first_aid }}</dd>
  </dl>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: 8rem 1fr;
  gap: var(--space-2) var(--space-3);
  margin: 0;
  font-size: var(--text-s);
}

dt {
  font-weight: 700;
}

dd {
  margin: 0;
}

@media (width < 820px) {
  .card {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
