<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { amount } from "../../mixing";

/** An amount in every other unit. */
defineProps<{ amounts: readonly Schemas["ConvertedOut"][] }>();
</script>

<template>
  <section class="sheet stack" aria-labelledby="units">
    <h2 id="units">That is</h2>
    <dl class="units">
      <template v-for="other in amounts" :key="other.key"
        ><dt>{{ amount(other.amount) }}</dt>
        <dd>{{ other.name }}</dd></template
      >
    </dl>
    <p class="small soft">Exact conversions, rounded to three figures. A US gallon is not an imperial one.</p>
  </section>
</template>

<style scoped>
.units {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--space-1) var(--space-4);
  margin: 0;
}

.units dt {
  text-align: right;
  font-weight: 700;
}

.units dd {
  margin: 0;
}
</style>
