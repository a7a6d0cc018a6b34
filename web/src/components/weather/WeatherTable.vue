<script setup lang="ts">
import { client, take } from "../../api/client";
import { useKeeping } from "../../composables/useKeeping";
import FaultNote from "../FaultNote.vue";

const emit = defineEmits<{ kept: [words: string] }>();
const { fault, keep, at } = useKeeping((words) => emit("kept", words));

function readIn(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return Promise.resolve();
  return keep("The table is read in.", async () => {
    const text = await file.text();
    const call = client.POST("/api/weather/table", { body: text, bodySerializer: (body) => body as string, headers: { "Content-Type": "text/csv" } });
    return `${String((await take(call)).hours)} hours are read in.`;
  });
}
</script>

<template>
  <section class="sheet stack">
    <h2>Hourly table and calendar</h2>
    <label class="file"
      >Read in an hourly table (CSV: time, temperature, humidity, rain, wind, sun)<input type="file" accept=".csv,text/csv" @change="readIn"
    /></label>
    <FaultNote :fault="fault?.field ? null : fault" />
    <p v-if="at('time', 'temperature', 'humidity', 'rain', 'wind', 'sun', 'file')" class="wrong" role="alert">{{ fault?.message }}. {{ fault?.fix }}</p>
    <p><a href="/api/weather/table.csv?days=30">Save the last 30 days and the forecast as CSV</a></p>
    <p>
      <a href="/api/calendar.ics" download="orthocris.ics">Save all jobs for your calendar (iCalendar)</a>. A calendar on this machine can subscribe to the same
      address: copy it from this link. It never names a remedy.
    </p>
  </section>
</template>

<style scoped>
.file {
  display: grid;
  gap: var(--space-2);
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}
</style>
