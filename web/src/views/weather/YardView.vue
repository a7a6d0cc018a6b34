<script setup lang="ts">
import { computed, onMounted, reactive, ref } from "vue";
import { client, Fault, take, takeNoted, type Schemas } from "../../api/client";
import DoorPanel from "../../components/door/DoorPanel.vue";
import CopiesPanel from "../../components/door/CopiesPanel.vue";
import DayRibbon from "../../components/weather/DayRibbon.vue";
import DayByHand from "../../components/weather/DayByHand.vue";
import FaultNote from "../../components/FaultNote.vue";
import FieldRow from "../../components/FieldRow.vue";
import PriceList from "../../components/pantry/PriceList.vue";
import WeatherTable from "../../components/weather/WeatherTable.vue";
import YardChanges from "../../components/weather/YardChanges.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useKeeping } from "../../composables/useKeeping";
import { useKnowledge } from "../../composables/useKnowledge";
import { ifStill } from "../../api/once";
import { maybe, need, needWhole, readAll } from "../../entered";
import { readList } from "../../words";
import { kept as keptIn, region, shown, toolWords, unitOf } from "../../units";

const stations: Record<Schemas["WeatherSource"], string> = {
  none: "None",
  entered: "Days I enter by hand",
  record: "An hourly table (CSV)",
  simulated: "A simulated station, to try things out",
};
const regions = { metric: "metric", us: "US", imperial: "imperial", australian: "Australian" } as const;

const ribbon = useAnswer(() => take(client.GET("/api/ribbon")));
const tools = useAnswer(() => take(client.GET("/api/tools")));
const keyWords = computed(() => ({
  ...stations,
  ...regions,
  ...knowledge.value?.numbers.household,
  ...Object.fromEntries((tools.data.value ?? []).map((tool) => [tool.key, toolWords(tool.name)])),
}));
const kept = ref("");
const { knowledge } = useKnowledge();
const yard = ref<Schemas["YardIO"] | null>(null);
const form = reactive({
  name: "",
  latitude: "",
  longitude: "",
  weather_source: "none" as Schemas["WeatherSource"],
  seed: "1",
  mild: "12",
  swing: "7.5",
  hardness: "",
  region: "metric" as Schemas["Region"],
  tools: [] as string[],
  bottles: "",
  drop: "0.05",
  currency: "€",
  away: [] as { first: string; last: string }[],
  in_house: null as string[] | null,
});
const changes = ref<Schemas["ChangeOut"][]>([]);

/** In which state the yard was read, so that a change made elsewhere is not overwritten. */
let revision = "";
const note = (read: string): void => void (revision = read);
const { fault, keep, at } = useKeeping((words) => (kept.value = words));

async function again(): Promise<void> {
  fill(await takeNoted(client.GET("/api/yard"), note));
  changes.value = await take(client.GET("/api/yard/changes"));
  await ribbon.load();
}

function load(): Promise<void> {
  return keep("", async () => {
    await Promise.all([again(), tools.load()]);
  });
}
onMounted(load);

/** One of the other forms kept something, which can change weather and station. */
async function followed(words: string): Promise<void> {
  kept.value = words;
  if (words) await keep(words, again);
}

function fill(found: Schemas["YardIO"]): void {
  yard.value = found;
  region.value = found.region ?? "metric";
  Object.assign(form, {
    ...found,
    latitude: String(found.latitude),
    longitude: String(found.longitude),
    seed: String(found.seed),
    mild: shown(found.mild, "temperature"),
    swing: shown(found.swing, "warmer"),
    hardness: found.hardness === null || found.hardness === undefined ? "" : String(found.hardness),
    bottles: found.bottles.map((ml) => shown(ml, "volume")).join(", "),
    drop: String(found.drop),
    away: (found.away ?? []).map((days) => ({ ...days })),
  });
}

/** The volumes of the bottles as typed, or a fault that shows them. */
function volumes(): number[] {
  const found = readList(form.bottles);
  const before = new Map((yard.value?.bottles ?? []).map((ml) => [shown(ml, "volume"), ml]));
  if (found) return found.map((typed) => keptIn(typed, "volume", before.get(String(typed))));
  throw new Fault(
    "bad_input",
    `“${form.bottles}” are not volumes`,
    "bottles",
    `Write ${unitOf("volume")} divided by commas and blanks, such as ${unitOf("volume") === "ml" ? "500, 1000" : "16, 32"}.`,
    422,
  );
}

/** The town that this device's clock is named after: near enough for sun and seasons. */
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const town = (zone.split("/").at(-1) ?? zone).replaceAll("_", " ");
function byClock(): Promise<void> {
  return keep("", async () => {
    const { latitude, longitude } = await take(client.GET("/api/places", { params: { query: { zone } } }));
    Object.assign(form, { latitude: String(latitude), longitude: String(longitude) });
  });
}

function save(): Promise<void> {
  return keep("The yard is kept.", async () => {
    const body = readAll(() => ({
      name: form.name,
      weather_source: form.weather_source,
      region: form.region,
      tools: form.tools,
      currency: form.currency,
      latitude: need(form.latitude, "latitude"),
      longitude: need(form.longitude, "longitude"),
      seed: needWhole(form.seed, "seed"),
      mild: keptIn(need(form.mild, "mild"), "temperature", yard.value?.mild),
      swing: keptIn(need(form.swing, "swing"), "warmer", yard.value?.swing),
      hardness: maybe(form.hardness, "hardness"),
      drop: need(form.drop, "drop"),
      in_house: form.in_house,
      bottles: volumes(),
      away: form.away.filter((days) => days.first || days.last).map((days) => ({ first: days.first || days.last, last: days.last || days.first })),
    }));
    await takeNoted(client.PUT("/api/yard", { body, params: { header: ifStill(revision) } }), note);
    await again();
  });
}
</script>

<template>
  <div class="stack broad">
    <div class="across">
      <h1>The yard</h1>
      <p class="soft">Where it lies, what the weather does, and what stands in the shed.</p>
    </div>
    <p v-if="kept" role="status" class="kept">{{ kept }}</p>
    <section v-if="ribbon.data.value && !fault?.ofData" class="sheet across"><DayRibbon :ribbon="ribbon.data.value" @said="load" /></section>
    <FaultNote :fault="fault && !fault.field && !fault.ofData ? fault : null"
      ><el-button v-if="fault?.code === 'changed_elsewhere'" @click="load">Show what is there now</el-button></FaultNote
    >
    <form v-if="yard && !fault?.ofData" class="sheet stack across" novalidate @submit.prevent="save">
      <h2>Place and weather</h2>
      <div class="fields">
        <FieldRow v-slot="{ id }" label="Name" :fault="at('name')"><el-input :id="id" v-model="form.name" maxlength="60" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Latitude (°)" help="South of the equator it is negative." :fault="at('latitude')"
          ><el-input :id="id" v-model="form.latitude" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" label="Longitude (°)" help="West of Greenwich it is negative." :fault="at('longitude')"
          ><el-input :id="id" v-model="form.longitude" inputmode="decimal"
        /></FieldRow>
        <div v-if="zone.includes('/')" class="clock">
          <el-button @click="byClock">Take them from this clock ({{ town }})</el-button>
        </div>
        <FieldRow v-slot="{ id }" label="Weather station">
          <el-select :id="id" v-model="form.weather_source" aria-label="Weather station"
            ><el-option v-for="(word, key) in stations" :key="key" :value="key" :label="word"
          /></el-select>
        </FieldRow>
        <template v-if="form.weather_source === 'simulated'">
          <FieldRow v-slot="{ id }" label="Which weather" help="Another number is another weather." :fault="at('seed')"
            ><el-input :id="id" v-model="form.seed" inputmode="numeric"
          /></FieldRow>
          <FieldRow v-slot="{ id }" :label="`Mean of the year (${unitOf('temperature')})`" :fault="at('mild')"
            ><el-input :id="id" v-model="form.mild" inputmode="decimal"
          /></FieldRow>
          <FieldRow v-slot="{ id }" :label="`Summer above mean (${unitOf('temperature')})`" :fault="at('swing')"
            ><el-input :id="id" v-model="form.swing" inputmode="decimal"
          /></FieldRow>
        </template>
      </div>
      <fieldset class="stack away">
        <legend>When you are away</legend>
        <p class="small soft">A plan whose rounds and looks fall into these days is told so, and when it could begin instead.</p>
        <p v-for="(days, k) in form.away" :key="k" class="row">
          <input v-model="days.first" type="date" class="date" :aria-label="`First day away, ${k + 1}`" /> to
          <input v-model="days.last" type="date" class="date" :min="days.first || undefined" :aria-label="`Last day away, ${k + 1}`" />
          <button type="button" class="as-text" :aria-label="`Take out days away, ${k + 1}`" @click="form.away.splice(k, 1)">Take out</button>
        </p>
        <p v-if="at('away')" class="small wrong" role="alert">{{ at("away")?.message }}. {{ at("away")?.fix }}</p>
        <div><el-button size="small" @click="form.away.push({ first: '', last: '' })">Add days away</el-button></div>
      </fieldset>
      <h2>Shed</h2>
      <div class="fields">
        <FieldRow v-slot="{ id }" label="Hardness of the tap water" help="mg/L CaCO3; above about 200 soap is weakened." :fault="at('hardness')"
          ><el-input :id="id" v-model="form.hardness" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" class="list" :label="`Bottles and sprayers (${unitOf('volume')})`" :fault="at('bottles')"
          ><el-input :id="id" v-model="form.bottles"
        /></FieldRow>
        <FieldRow v-slot="{ id }" label="A drop is (ml)" help="Count the drops of 1 ml." :fault="at('drop')"
          ><el-input :id="id" v-model="form.drop" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" label="Units and clock">
          <el-select :id="id" v-model="form.region" aria-label="Units and clock"
            ><el-option v-for="(word, key) in regions" :key="key" :value="key" :label="word"
          /></el-select>
        </FieldRow>
        <FieldRow v-slot="{ id }" label="Money" :fault="at('currency')"><el-input :id="id" v-model="form.currency" maxlength="4" /></FieldRow>
      </div>
      <fieldset>
        <legend>What you measure with</legend>
        <el-checkbox-group v-model="form.tools" class="row"
          ><el-checkbox v-for="tool in tools.data.value ?? []" :key="tool.key" :value="tool.key">{{ toolWords(tool.name) }}</el-checkbox></el-checkbox-group
        >
      </fieldset>
      <fieldset>
        <legend>What is in the house</legend>
        <el-checkbox-group :model-value="form.in_house ?? []" class="row" @update:model-value="form.in_house = $event as string[]"
          ><el-checkbox v-for="(name, key) in knowledge?.numbers.household" :key="key" :value="key">{{ name }}</el-checkbox></el-checkbox-group
        >
      </fieldset>
      <div><el-button type="primary" size="large" native-type="submit">Keep the yard</el-button></div>
    </form>

    <DoorPanel v-if="!fault?.ofData" id="door" />
    <CopiesPanel id="copies" :restored="load" />
    <template v-if="!fault?.ofData">
      <DayByHand v-if="form.weather_source === 'entered' || form.weather_source === 'none'" @kept="followed" />
      <WeatherTable @kept="followed" />
      <PriceList :currency="form.currency" @kept="followed" />
    </template>
    <YardChanges :changes="changes" :words="keyWords" />
  </div>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}

legend {
  font-weight: 650;
}

.clock {
  align-self: end;
}

@media (width >= 640px) {
  .list {
    grid-column: span 2;
  }
}

.kept {
  color: var(--good);
  font-weight: 650;
}
</style>
