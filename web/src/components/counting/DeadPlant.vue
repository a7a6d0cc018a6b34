<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from "vue";
import { asFault, client, take, type Fault, type Plant, type Trial } from "../../api/client";
import { ifStill } from "../../api/once";
import { dayName } from "../../words";
import FaultNote from "../FaultNote.vue";

/** A plant found dead while counting: it is set aside with its day, and nobody has to leave the count for it. */
const props = defineProps<{
  trial: Trial;
  plant: Plant;
  /** The day that is counted for. */ day: string;
  /** When the last tap is with the program. */ settled: () => Promise<void>;
}>();
const emit = defineEmits<{ died: [] }>();
const asking = ref(false);
const busy = ref(false);
const fault = ref<Fault | null>(null);
const no = useTemplateRef<HTMLButtonElement>("no");
/** The answers lie below the thumb on a small phone: the focus brings them up. */
async function ask(): Promise<void> {
  asking.value = true;
  await nextTick();
  no.value?.focus();
}

watch(
  () => props.plant.id,
  () => {
    asking.value = false;
    fault.value = null;
  },
);

async function died(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  const { id, name, row, place, match_count, size, host, revision } = props.plant;
  try {
    await props.settled();
    await take(
      client.PUT("/api/trials/{trial_id}/plants/{plant_id}", {
        params: { path: { trial_id: props.trial.id, plant_id: id }, header: ifStill(revision) },
        body: { name, row, place, match_count, size, host, set_aside: "died", died_on: props.day },
      }),
    );
    asking.value = false;
    emit("died");
  } catch (thrown) {
    fault.value = asFault(thrown);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <button v-if="!asking" type="button" @click="ask">It died</button>
  <div v-else class="ask" role="group" :aria-label="`Did ${plant.name} die?`">
    <p>Did {{ plant.name }} die? It counts against its remedy. One that was broken or stolen does not: set that aside at the plants.</p>
    <button type="button" :disabled="busy" @click="died">Yes, seen {{ day === trial.today ? "today" : `on ${dayName(day)}` }}</button>
    <button ref="no" type="button" @click="asking = false">No</button>
    <FaultNote :fault="fault" />
  </div>
</template>

<style scoped>
.ask {
  flex-basis: 100%;
}
</style>
