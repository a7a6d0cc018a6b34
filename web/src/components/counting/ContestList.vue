<script setup lang="ts">
import type { CountSheet, Plant } from "../../api/client";
import { tallyWords } from "../../counting";
import type { Key } from "../../composables/useCounting";
import { clockFormat } from "../../units";

/** Leaves counted on two devices that did not know of each other: one must be chosen, both stay on record. */
defineProps<{ contests: CountSheet["contests"]; plants: readonly Plant[]; unit: string }>();
const emit = defineEmits<{ choose: [contest: CountSheet["contests"][number], session: string] }>();
const time = clockFormat({ weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

function numbers(values: Readonly<Record<string, number | null>>): string {
  return Object.entries(values)
    .map(([key, value]) => `${value ?? "withdrawn"} ${tallyWords[key as Key]}`)
    .join(", ");
}
</script>

<template>
  <section v-if="contests.length" class="notice stack" role="alert">
    <strong>{{ contests.length === 1 ? "One count was" : `${contests.length} counts were` }} made twice, and nobody knew of the other</strong>
    <p class="small">The one begun first holds until you choose. Both stay on the record.</p>
    <ul class="bare">
      <li v-for="contest in contests" :key="`${contest.plant_id}/${contest.sample}`">
        <span
          ><strong>{{ plants.find((p) => p.id === contest.plant_id)?.name }}</strong
          ><template v-if="contest.sample">, {{ unit }} {{ contest.sample }}</template></span
        >
        <span class="row">
          <el-button v-for="side in contest.sides" :key="side.session" @click="emit('choose', contest, side.session)"
            >{{ numbers(side.values) }}
            <span class="soft">on {{ side.device || "the program's own machine" }}, {{ time.format(Date.parse(side.counted_at)) }}</span></el-button
          >
        </span>
      </li>
    </ul>
  </section>
</template>
