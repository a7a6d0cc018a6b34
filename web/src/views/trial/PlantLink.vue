<script setup lang="ts">
// Where a tag's QR code leads: to the count of this plant at the look that is due.
import { onMounted, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { asFault, client, take, type Fault } from "../../api/client";
import FaultNote from "../../components/FaultNote.vue";

const route = useRoute();
const router = useRouter();
const fault = ref<Fault | null>(null);

onMounted(async () => {
  const id = Number(route.params["id"]);
  try {
    const trial = await take(client.GET("/api/trials/{trial_id}", { params: { path: { trial_id: id } } }));
    const due = trial.jobs.find((job) => job.station === "look")?.number;
    const open = trial.looks.filter((l) => (l.number === 0) === (trial.sprayed_on === null));
    const number = due ?? open.at(-1)?.number ?? 0;
    await router.replace({ path: `/trial/${id}/look/${number}`, query: { plant: route.params["plant"] } });
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
});
</script>

<template>
  <div class="stack"><FaultNote :fault="fault" /></div>
</template>
