<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { client, take, type Schemas } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";

/** Quiet hints of what is worth a second look; they hold nothing back, and out of reach there are none. */
const props = defineProps<{
  trialId: number;
  number: number;
  /** Changes when a number was finished or corrected. */ done: string;
  settled: () => Promise<void>;
}>();
const emit = defineEmits<{ go: [plant: number, sample: number | null] }>();
const answer = useAnswer(() =>
  take(client.GET("/api/trials/{trial_id}/looks/{number}/checks", { params: { path: { trial_id: props.trialId, number: props.number } } })),
);
const dismissed = ref(new Set<string>());
const open = ref(false);
const nameOf = (check: Schemas["CountCheckOut"]): string => [check.code, check.plant_id, check.sample].join("/");
const checks = computed(() => (answer.data.value ?? []).filter((check) => !dismissed.value.has(nameOf(check))));

watch(
  () => props.done,
  async () => {
    await props.settled();
    await answer.load();
  },
  { immediate: true },
);
</script>

<template>
  <details v-if="checks.length" class="second notice small" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>{{ checks.length === 1 ? checks[0]?.text : `${checks.length} things worth a second look` }}</summary>
    <ul class="bare">
      <li v-for="check in checks" :key="nameOf(check)">
        <span v-if="checks.length > 1">{{ check.text }}</span>
        <span class="row">
          <button v-if="check.plant_id" type="button" @click="emit('go', check.plant_id, check.sample)">Look there</button>
          <button type="button" @click="dismissed = new Set([...dismissed, nameOf(check)])">It is right</button>
        </span>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.second {
  padding-block: var(--space-1);
}

summary {
  min-height: 40px;
  align-content: center;
  cursor: pointer;
}

button {
  min-height: var(--touch);
  padding: 0 var(--space-3);
  border: 1px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-s);
  cursor: pointer;
}
</style>
