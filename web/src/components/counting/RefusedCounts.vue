<script setup lang="ts">
import type { Plant } from "../../api/client";
import type { Parcel, Refusal } from "../../composables/useOutbox";

/** Numbers that the program refused: they stay here, with the reason, until they are settled. */
defineProps<{ refused: readonly Refusal[]; plants: readonly Plant[] }>();
const emit = defineEmits<{ again: [parcel: Parcel]; giveUp: [parcel: Parcel] }>();

function name(plants: readonly Plant[], id: number): string {
  return plants.find((p) => p.id === id)?.name ?? `plant ${String(id)}`;
}
</script>

<template>
  <section v-if="refused.length" class="refused stack" role="alert">
    <strong>{{ refused.length === 1 ? "One number is" : `${refused.length} numbers are` }} not kept by the program</strong>
    <ul>
      <li v-for="{ parcel, fault } in refused" :key="`${parcel.trial}/${parcel.look}/${parcel.body.plant_id}/${parcel.body.measure}`">
        <span><strong>{{ name(plants, parcel.body.plant_id) }}: {{ parcel.body.value ?? "withdrawn" }}<template v-if="parcel.body.of"> of {{ parcel.body.of }}</template></strong> ({{ parcel.body.measure }}): {{ fault.message }}. {{ fault.fix }}</span>
        <span class="row">
          <el-button @click="emit('again', parcel)">Send it again</el-button>
          <el-button @click="emit('giveUp', parcel)">Give it up</el-button>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.refused {
  padding: var(--space-3);
  border-left: 5px solid var(--bad);
  background: var(--bad-wash);
}

ul {
  display: grid;
  gap: var(--space-3);
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  gap: var(--space-2);
}
</style>
