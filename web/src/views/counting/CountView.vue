<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { asFault, client, take, type CountSheet, type Fault } from "../../api/client";
import { takeKept } from "../../api/kept";
import { sheetName } from "../../api/keptCounts";
import CountBoard from "../../components/counting/CountBoard.vue";
import FaultNote from "../../components/FaultNote.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useOutbox } from "../../composables/useOutbox";
import { useTrial } from "../../composables/useTrial";
import { howLong } from "../../words";

/** The counting screen of a look: what was counted so far is read, then the board is shown. */
const props = defineProps<{ number: number }>();
const route = useRoute();
const { trial, load } = useTrial();
const outbox = useOutbox();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0, number: props.number }));
const person = computed(() =>
  String(route.query["second"] ?? "")
    .trim()
    .slice(0, 40),
);
const sheet = useAnswer(async () => {
  const name = sheetName(path.value.trial_id, path.value.number, person.value);
  return (
    await takeKept(name, () =>
      take(client.GET("/api/trials/{trial_id}/looks/{number}/sheet", { params: { path: path.value, query: person.value ? { person: person.value } : {} } })),
    )
  ).data;
});
const when = computed(() => trial.value?.looks.find((l) => l.number === props.number)?.when);
watch(person, anew);
const title = computed(() => (person.value ? `Second count by ${person.value}` : props.number === 0 ? "Count before" : `Look ${props.number}, ${when.value}`));
const none = computed(() => !trial.value?.plants.some((p) => p.letter && !p.set_aside));

const known = ref(false); // what this device kept from before
const board = ref(0);
const unsettled = ref<Fault | null>(null);
const heardOfClock = ref(false); // said once
const at = ref<number | null>(null);
const day = ref<string | null>(null);

onMounted(async () => {
  await Promise.all([outbox.ready, sheet.load()]);
  known.value = true;
});
// Another device has counted a leaf that was counted here too: both are shown, and one counts on.
watch(outbox.contested, () => outbox.settled().then(sheet.load));
// The trial is read anew only when the last tap is with the program, or the tap would look lost.
onBeforeUnmount(() => void outbox.settled().then(load));

async function anew(): Promise<void> {
  await outbox.settled();
  await sheet.load();
  board.value += 1;
}

/** A plant that died is counted no more: on with the next. */
async function goOn(next: number | null): Promise<void> {
  await load();
  at.value = next;
  await anew();
}

async function settle(contest: CountSheet["contests"][number], session: string): Promise<void> {
  await outbox.settled();
  const { plant_id, sample } = contest;
  try {
    await take(client.POST("/api/trials/{trial_id}/looks/{number}/settle", { params: { path: path.value }, body: { plant_id, sample, session } }));
    unsettled.value = null;
  } catch (thrown) {
    unsettled.value = asFault(thrown);
  }
  await anew();
}
</script>

<template>
  <div v-if="none || sheet.fault.value" class="stack">
    <h1>{{ title }}</h1>
    <FaultNote :fault="sheet.fault.value"><el-button @click="sheet.load">Try again</el-button></FaultNote>
    <template v-if="none">
      <p>There is nothing to count until the layout is drawn.</p>
      <RouterLink :to="`/trial/${trial?.id}/layout`">Go to the layout</RouterLink>
    </template>
  </div>
  <template v-else-if="trial && sheet.data.value && known">
    <p v-if="outbox.trouble.value" class="sheet trouble" role="alert">{{ outbox.trouble.value }}</p>
    <p v-if="outbox.slow.value && !heardOfClock" class="sheet trouble" role="status">
      This device's clock is {{ howLong(Math.abs(outbox.slow.value)) }} {{ outbox.slow.value > 0 ? "slow" : "fast" }}. What you count is kept with the program's
      time, and with this one's beside it. Set the clock right, or the day of a count if it is another.
      <el-button @click="heardOfClock = true">Understood</el-button>
    </p>
    <FaultNote :fault="unsettled" />
    <CountBoard
      :key="board"
      v-model:day="day"
      :trial="trial"
      :number="number"
      :sheet="sheet.data.value"
      :title="title"
      :person="person"
      :at="at"
      @at="at = $event"
      @settle="settle"
      @died="goOn" />
  </template>
</template>

<style scoped>
.trouble {
  max-width: 560px;
  margin: 0 auto var(--space-3);
  border-left: 8px solid var(--bad);
}
</style>
