<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted } from "vue";
import { RouterLink } from "vue-router";
import { client, take } from "../../api/client";
import CountBoard from "../../components/counting/CountBoard.vue";
import FaultNote from "../../components/FaultNote.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useOutbox } from "../../composables/useOutbox";
import { useTrial } from "../../composables/useTrial";

/** The counting screen of a look: what was counted so far is read, then the board is shown. */
const props = defineProps<{ number: number }>();
const { trial, load } = useTrial();
const outbox = useOutbox();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0, number: props.number }));
const sheet = useAnswer(() => take(client.GET("/api/trials/{trial_id}/looks/{number}/sheet", { params: { path: path.value } })));
const day = computed(() => trial.value?.looks.find((l) => l.number === props.number)?.day);
const title = computed(() => (props.number === 0 ? "Count before" : `Look ${props.number}, day ${day.value}`));
const none = computed(() => !trial.value?.plants.some((p) => p.letter && !p.set_aside));

onMounted(sheet.load);
// The trial is read anew only when the last tap is with the program, or the tap would look lost.
onBeforeUnmount(() => void outbox.settled().then(load));
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
  <CountBoard v-else-if="trial && sheet.data.value" :trial="trial" :number="number" :sheet="sheet.data.value" :title="title" />
</template>
