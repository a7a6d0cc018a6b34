<script setup lang="ts">
import { onMounted, reactive } from "vue";
import { client, take, type Schemas } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { useKeeping } from "../../composables/useKeeping";
import { need, needWhole, readAll } from "../../entered";
import { dayName } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import { inUnits, kept, unitOf } from "../../units";

const emit = defineEmits<{ kept: [words: string] }>();
const { fault, keep, at } = useKeeping((words) => emit("kept", words));
const skies: Record<Schemas["Sky"], string> = { clear: "clear", mixed: "sun and clouds", cloudy: "cloudy" };
const entered = useAnswer(() => take(client.GET("/api/weather/days")));
const day = reactive({
  day: new Date().toLocaleDateString("sv-SE"),
  low: "",
  high: "",
  wind: "",
  sky: "mixed" as Schemas["Sky"],
  rain: "0",
  rain_from: "0",
  rain_to: "24",
});
onMounted(entered.load);

function enterDay(): Promise<void> {
  return keep("The day is kept.", async () => {
    const body = readAll(() => ({
      day: day.day,
      sky: day.sky,
      low: kept(need(day.low, "low"), "temperature"),
      high: kept(need(day.high, "high"), "temperature"),
      wind: kept(need(day.wind, "wind"), "wind"),
      rain: kept(need(day.rain, "rain"), "rain"),
      rain_from: needWhole(day.rain_from, "rain_from"),
      rain_to: needWhole(day.rain_to, "rain_to"),
    }));
    await take(client.POST("/api/weather/days", { body }));
    await entered.load();
  });
}
</script>

<template>
  <form class="sheet stack" novalidate @submit.prevent="enterDay">
    <h2>A day by hand</h2>
    <p>Today's and tomorrow's numbers from any forecast are enough for the ribbon.</p>
    <div class="fields">
      <FieldRow v-slot="{ id }" label="Day"><input :id="id" v-model="day.day" type="date" class="date" /></FieldRow>
      <FieldRow v-slot="{ id }" :label="`Coolest (${unitOf('temperature')})`" :fault="at('low')"
        ><el-input :id="id" v-model="day.low" inputmode="decimal"
      /></FieldRow>
      <FieldRow v-slot="{ id }" :label="`Warmest (${unitOf('temperature')})`" :fault="at('high')"
        ><el-input :id="id" v-model="day.high" inputmode="decimal"
      /></FieldRow>
      <FieldRow v-slot="{ id }" :label="`Wind (${unitOf('wind')})`" :fault="at('wind')"><el-input :id="id" v-model="day.wind" inputmode="decimal" /></FieldRow>
      <FieldRow v-slot="{ id }" label="Sky"
        ><el-select :id="id" v-model="day.sky" aria-label="Sky"><el-option v-for="(word, key) in skies" :key="key" :value="key" :label="word" /></el-select
      ></FieldRow>
      <FieldRow v-slot="{ id }" :label="`Rain (${unitOf('rain')})`" :fault="at('rain')"><el-input :id="id" v-model="day.rain" inputmode="decimal" /></FieldRow>
      <FieldRow v-slot="{ id }" label="Rain from (hour)" :fault="at('rain_from')"><el-input :id="id" v-model="day.rain_from" inputmode="numeric" /></FieldRow>
      <FieldRow v-slot="{ id }" label="to (hour)" :fault="at('rain_to')"><el-input :id="id" v-model="day.rain_to" inputmode="numeric" /></FieldRow>
    </div>
    <FaultNote :fault="fault?.field ? null : fault" />
    <div><el-button type="primary" native-type="submit">Keep the day</el-button></div>
    <ul v-if="entered.data.value?.length" class="small">
      <li v-for="entry in entered.data.value.slice(0, 7)" :key="entry.day">
        {{ dayName(entry.day) }}: {{ inUnits(`${entry.low} to ${entry.high} °C, wind ${entry.wind} km/h`) }}, {{ skies[entry.sky]
        }}<template v-if="entry.rain">, {{ inUnits(`${entry.rain} mm`) }} rain from {{ entry.rain_from }} to {{ entry.rain_to }} o'clock</template>
      </li>
    </ul>
  </form>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 1.2em;
}
</style>
