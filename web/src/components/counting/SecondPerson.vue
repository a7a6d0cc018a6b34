<script setup lang="ts">
import { nextTick, ref } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { client, take } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";

/** A second person counts the same plants: their numbers are kept apart, and compared. */
const props = defineProps<{ trialId: number; number: number; /** Who counts a second time now, "" for nobody. */ person: string }>();
const router = useRouter();
const name = ref("");
const asking = ref(false);
const field = ref<HTMLInputElement | null>(null);
const compared = useAnswer(() =>
  take(client.GET("/api/trials/{trial_id}/looks/{number}/agreement", { params: { path: { trial_id: props.trialId, number: props.number } } })),
);

async function ask(): Promise<void> {
  asking.value = true;
  await nextTick();
  field.value?.focus();
}

async function begin(): Promise<void> {
  if (name.value.trim()) await router.push({ query: { second: name.value.trim() } });
  asking.value = false;
}
</script>

<template>
  <template v-if="person">
    <button type="button" @click="compared.load">Compare</button>
    <RouterLink :to="`/trial/${trialId}/look/${number}`" class="first">To the first count</RouterLink>
    <p v-for="one in compared.data.value ?? []" :key="one.person" role="status" class="notice">
      {{ one.says || `${one.person}: ${one.pairs} counted twice so far; from three on it is compared.` }}
    </p>
  </template>
  <form v-else-if="asking" class="row" novalidate @submit.prevent="begin">
    <label>Who counts a second time? <input ref="field" v-model="name" maxlength="40" /></label><button type="submit">Begin</button>
  </form>
  <button v-else type="button" @click="ask">A second person</button>
</template>

<style scoped>
.notice,
form {
  flex-basis: 100%;
}

.first {
  align-content: center;
  min-height: var(--touch);
  font-size: var(--text-s);
}

input {
  min-height: var(--touch);
  padding: 0 var(--space-3);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-m);
}
</style>
