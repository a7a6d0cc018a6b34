<script setup lang="ts">
import type { Plant } from "../../api/client";
import { tallyWords } from "../../counting";
import type { Refusal } from "../../composables/useOutbox";

/** Numbers that the program refused: they stay here, with the reason, until they are settled. */
defineProps<{ refused: readonly Refusal[]; plants: readonly Plant[]; unit: string }>();
const emit = defineEmits<{ again: [refusal: Refusal]; giveUp: [refusal: Refusal] }>();

function name(plants: readonly Plant[], id: number): string {
  return plants.find((p) => p.id === id)?.name ?? `plant ${String(id)}`;
}
</script>

<template>
  <section v-if="refused.length" class="notice bad stack" role="alert">
    <strong>{{ refused.length === 1 ? "One number is" : `${refused.length} numbers are` }} not kept by the program</strong>
    <ul class="bare">
      <li v-for="refusal in refused" :key="refusal.key">
        <span
          ><strong
            >{{ name(plants, refusal.tap.tally.plant_id) }}<template v-if="refusal.tap.tally.sample">, {{ unit }} {{ refusal.tap.tally.sample }}</template
            >: {{ refusal.tap.tally.value ?? "withdrawn" }}<template v-if="refusal.tap.tally.of"> of {{ refusal.tap.tally.of }}</template></strong
          >
          ({{ tallyWords[refusal.tap.tally.measure] }}): {{ refusal.fault.message }}. {{ refusal.fault.fix }}</span
        >
        <span class="row">
          <el-button @click="emit('again', refusal)">Send it again</el-button>
          <el-button @click="emit('giveUp', refusal)">Give it up</el-button>
        </span>
      </li>
    </ul>
  </section>
</template>
