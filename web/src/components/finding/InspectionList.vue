<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { RouterLink } from "vue-router";
import { adviceWords } from "../../finding";
import { plural } from "../../words";

const SHOWN = 12;

/** Inspections kept so far, the newest first. */
defineProps<{ kept: readonly Schemas["InspectionOut"][]; pestName: (key: string) => string }>();
</script>

<template>
  <section class="sheet stack" aria-labelledby="kept">
    <h2 id="kept">Looks so far</h2>
    <ul class="kept">
      <li v-for="look in kept.slice(0, SHOWN)" :key="look.id">
        <span class="small soft">{{ new Date(look.seen_at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" }) }}</span>
        <strong>{{ pestName(look.pest) }}</strong>
        <span>{{ look.place || "no place given" }}</span>
        <span>{{ look.affected }} of {{ look.looked }}</span>
        <span>{{ adviceWords[look.action] }}</span>
      </li>
    </ul>
    <p v-if="kept.length > SHOWN" class="small">{{ plural(kept.length - SHOWN, "earlier look") }} in <RouterLink to="/year">the year</RouterLink>.</p>
  </section>
</template>

<style scoped>
.kept {
  margin: 0;
  padding: 0;
  list-style: none;
}

.kept li {
  display: grid;
  grid-template-columns: 7rem 1.2fr 1fr 6rem 1.2fr;
  gap: var(--space-3);
  padding: var(--space-2) 0;
  border-top: 1px solid var(--hair);
}

@media (width < 820px) {
  .kept li {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
