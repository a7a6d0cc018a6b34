<script setup lang="ts">
import { computed } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { useKeys } from "../../composables/useKeys";
import { useTrial } from "../../composables/useTrial";

/** The way on from a station: to the first after it that is not done. */
const props = defineProps<{ from: string }>();
const router = useRouter();
const { trial } = useTrial();
const next = computed(() => {
  const all = trial.value?.stations ?? [];
  const later = all.slice(all.findIndex((s) => s.key === props.from) + 1);
  return later.find((s) => s.state !== "done") ?? later.at(-1);
});
const to = computed(() => `/trial/${trial.value?.id ?? 0}/${next.value?.key ?? ""}`);

useKeys([{ key: "x", label: "Next step of the trial", when: () => Boolean(next.value), run: () => void router.push(to.value) }]);
</script>

<template>
  <RouterLink v-if="next" :to="to" class="go-on"
    >Next: {{ next.title.toLowerCase().replace(/^(layout|question|verdict|plants|rounds)/, "the $1") }} →
    <span class="key" aria-hidden="true">x</span></RouterLink
  >
</template>

<style scoped>
.key {
  margin-left: 0.6em;
}
</style>
