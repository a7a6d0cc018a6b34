<script setup lang="ts">
import { computed, onMounted } from "vue";
import { RouterLink, RouterView, useRoute, useRouter } from "vue-router";
import FaultNote from "../../components/FaultNote.vue";
import OutOfReach from "../../components/OutOfReach.vue";
import TrialThread from "../../components/trial/TrialThread.vue";
import { useKeys } from "../../composables/useKeys";
import { useTitle } from "../../composables/useTitle";
import { provideTrial } from "../../composables/useTrial";
import { wordOf } from "../../counting";

const props = defineProps<{ id: number }>();
const route = useRoute();
const router = useRouter();
const { trial, fault, keptAt, load } = provideTrial(props.id);
onMounted(load);

const current = computed(() => route.path.split("/")[3] ?? "");
useTitle(() => {
  const name = trial.value?.name;
  const station = trial.value?.stations.find((s) => s.key === current.value)?.title;
  const field_ = { look: "Count", round: "Spray" }[current.value];
  return name ? [name, station ?? field_].filter(Boolean).join(": ") : null;
});
const field = computed(() => Boolean(route.meta["field"]));
const stations = ["question", "plants", "layout", "patch", "mix", "rounds", "verdict"];

useKeys(
  stations.map((station, k) => ({
    key: String(k + 1),
    label: `Station ${k + 1}: ${station}`,
    // Where plants are counted, digits are numbers.
    when: () => !field.value,
    run: () => void router.push(`/trial/${props.id}/${station}`),
  })),
);
</script>

<template>
  <div :class="{ stack: !field }">
    <FaultNote :fault="fault"><el-button @click="load">Try again</el-button></FaultNote>
    <OutOfReach :kept-at="keptAt" @again="load" />
    <template v-if="trial">
      <template v-if="!field">
        <header class="head">
          <h1>{{ trial.name }}</h1>
          <span class="soft"
            >{{ trial.pest_card?.name ?? trial.pest }}<template v-if="trial.setup.also"> and {{ wordOf("other", trial.setup.also) }}</template
            ><template v-if="trial.goes_on">, goes on from <RouterLink :to="`/trial/${trial.goes_on}/verdict`">an earlier part</RouterLink></template></span
          >
        </header>
        <p v-if="trial.eating" class="eating">{{ trial.eating }}</p>
        <TrialThread :stations="trial.stations" :trial-id="trial.id" :current="current" class="no-print" />
      </template>
      <RouterView :key="route.path" />
    </template>
  </div>
</template>

<style scoped>
.eating {
  padding-left: var(--space-3);
  border-left: 4px solid var(--warn);
}

.head {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-4);
  align-items: baseline;
}
</style>
