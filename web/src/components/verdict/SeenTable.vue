<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";

/** On how many of each remedy's plants something else was seen, of those somebody looked at for it. */
const props = defineProps<{ seen: Schemas["SeenOut"][] }>();
const remedies = computed(() => [...new Set(props.seen.map((s) => s.remedy))]);
const things = computed(() => [...new Map(props.seen.map((s) => [s.what, s.words]))]);

function cell(what: string, remedy: string): string {
  const found = props.seen.find((s) => s.what === what && s.remedy === remedy);
  return found?.of ? `${found.plants} of ${found.of}` : "–";
}
</script>

<template>
  <div class="wide-table" tabindex="0" role="region" aria-label="What else was seen, remedy by remedy">
    <table>
      <thead>
        <tr>
          <th scope="col">Plants with</th>
          <th v-for="remedy in remedies" :key="remedy" scope="col">{{ remedy }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="[what, words] in things" :key="what">
          <th scope="row">{{ words }}</th>
          <td v-for="remedy in remedies" :key="remedy">{{ cell(what, remedy) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
