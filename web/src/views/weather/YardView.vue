<script setup lang="ts">
import { onMounted, reactive, ref } from "vue";
import { asFault, client, Fault, take, type Schemas } from "../../api/client";
import DayRibbon from "../../components/weather/DayRibbon.vue";
import FaultNote from "../../components/FaultNote.vue";
import FieldRow from "../../components/FieldRow.vue";
import { useAnswer } from "../../composables/useAnswer";
import { ifStill } from "../../api/once";
import { maybe, need, needWhole } from "../../entered";
import { dayName, readList } from "../../words";

const stations: Record<Schemas["WeatherSource"], string> = {
  none: "None",
  entered: "Days I enter by hand",
  record: "An hourly table (CSV)",
  simulated: "A simulated station, to try things out",
};
const regions = { metric: "metric", us: "US", imperial: "imperial", australian: "Australian" } as const;
const skies: Record<Schemas["Sky"], string> = { clear: "clear", mixed: "sun and clouds", cloudy: "cloudy" };

const ribbon = useAnswer(() => take(client.GET("/api/ribbon")));
const tools = useAnswer(() => take(client.GET("/api/tools")));
const fault = ref<Fault | null>(null);
const kept = ref("");
const yard = ref<Schemas["YardIO"] | null>(null);
const form = reactive({
  name: "", latitude: "", longitude: "", weather_source: "none" as Schemas["WeatherSource"], seed: "1", mild: "12", swing: "7.5",
  hardness: "", region: "metric" as Schemas["Region"], tools: [] as string[], bottles: "", drop: "0.05", currency: "€",
});
const changes = ref<Schemas["ChangeOut"][]>([]);
const when = new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" });
const prices = ref<{ name: string; pack: string; price: string }[]>([]);
const days = ref<Schemas["DayIO"][]>([]);
const today = new Date().toLocaleDateString("sv-SE");
const day = reactive({ day: today, low: "", high: "", wind: "", sky: "mixed" as Schemas["Sky"], rain: "0", rain_from: "0", rain_to: "24" });

/** In which state yard and prices were read, so that a change made elsewhere is not overwritten. */
const read = { yard: "", prices: "" };
async function noted<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>, what: keyof typeof read): Promise<T> {
  const answer = await take(call.then((found) => {
    if (found.response.ok) read[what] = (found.response.headers.get("etag") ?? "").replaceAll('"', "");
    return found;
  }));
  return answer;
}

async function load(): Promise<void> {
  try {
    fill(await noted(client.GET("/api/yard"), "yard"));
    const known = await noted(client.GET("/api/prices"), "prices");
    prices.value = known.map((p) => ({ name: p.name, pack: String(p.pack), price: String(p.price) }));
    days.value = await take(client.GET("/api/weather/days"));
    changes.value = await take(client.GET("/api/yard/changes"));
    await Promise.all([tools.load(), ribbon.load()]);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
onMounted(load);

function fill(found: Schemas["YardIO"]): void {
  yard.value = found;
  Object.assign(form, {
    ...found,
    latitude: String(found.latitude), longitude: String(found.longitude), seed: String(found.seed), mild: String(found.mild), swing: String(found.swing),
    hardness: found.hardness === null || found.hardness === undefined ? "" : String(found.hardness),
    bottles: found.bottles.join(", "), drop: String(found.drop),
  });
}

/** Does something and says that it is done: in the words it returns, or else in `what`. */
async function act(what: string, work: () => Promise<unknown>): Promise<void> {
  try {
    const said = await work();
    kept.value = typeof said === "string" ? said : what;
    fault.value = null;
    await ribbon.load();
  } catch (thrown) {
    fault.value = asFault(thrown);
    kept.value = "";
  }
}

/** The volumes of the bottles as typed, or a fault that shows them. */
function volumes(): number[] {
  const found = readList(form.bottles);
  if (found) return found;
  throw new Fault("bad_input", `“${form.bottles}” are not volumes`, "bottles", "Write ml divided by commas and blanks, such as 500, 1000.", 422);
}

function save(): Promise<void> {
  return act("The yard is kept.", async () => {
    fill(
      await noted(
        client.PUT("/api/yard", {
          body: {
            name: form.name, weather_source: form.weather_source, region: form.region, tools: form.tools, currency: form.currency,
            latitude: need(form.latitude, "latitude"), longitude: need(form.longitude, "longitude"), seed: needWhole(form.seed, "seed"),
            mild: need(form.mild, "mild"), swing: need(form.swing, "swing"), hardness: maybe(form.hardness, "hardness"),
            bottles: volumes(), drop: need(form.drop, "drop"),
          },
          params: { header: ifStill(read.yard) },
        }),
        "yard",
      ),
    );
    changes.value = await take(client.GET("/api/yard/changes"));
  });
}

function savePrices(): Promise<void> {
  return act("The prices are kept.", async () => {
    const body = prices.value.filter((p) => p.name.trim() || p.price.trim()).map((p) => ({ name: p.name, pack: need(p.pack, "price"), price: need(p.price, "price") }));
    await noted(client.PUT("/api/prices", { body, params: { header: ifStill(read.prices) } }), "prices");
  });
}

function enterDay(): Promise<void> {
  return act("The day is kept.", async () => {
    await take(
      client.POST("/api/weather/days", {
        body: {
          day: day.day, sky: day.sky, low: need(day.low, "low"), high: need(day.high, "high"), wind: need(day.wind, "wind"), rain: need(day.rain, "rain"),
          rain_from: needWhole(day.rain_from, "rain_from"), rain_to: needWhole(day.rain_to, "rain_to"),
        },
      }),
    );
    days.value = await take(client.GET("/api/weather/days"));
    fill(await noted(client.GET("/api/yard"), "yard"));
    changes.value = await take(client.GET("/api/yard/changes"));
  });
}

function readIn(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return Promise.resolve();
  return act("The table is read in.", async () => {
    const text = await file.text();
    const call = client.POST("/api/weather/table", { body: text, bodySerializer: (body) => body as string, headers: { "Content-Type": "text/csv" } });
    const { hours } = await take(call);
    fill(await noted(client.GET("/api/yard"), "yard"));
    return `${String(hours)} hours are read in.`;
  });
}

function at(...fields: string[]): Fault | null {
  return fault.value && fields.includes(fault.value.field ?? "") ? fault.value : null;
}
</script>

<template>
  <div class="stack">
    <div>
      <h1>The yard</h1>
      <p class="soft">Where it lies, what the weather does, and what stands in the shed.</p>
    </div>
    <p v-if="kept" role="status" class="kept">{{ kept }}</p>
    <section v-if="ribbon.data.value" class="sheet"><DayRibbon :ribbon="ribbon.data.value" /></section>
    <FaultNote :fault="fault && !fault.field ? fault : null"><el-button v-if="fault?.code === 'changed_elsewhere'" @click="load">Show what is there now</el-button></FaultNote>
    <form v-if="yard" class="sheet stack" novalidate @submit.prevent="save">
      <h2>Place and weather</h2>
      <div class="fields">
        <FieldRow v-slot="{ id }" label="Name" :fault="at('name')"><el-input :id="id" v-model="form.name" maxlength="60" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Degrees north" help="South is negative." :fault="at('latitude')"><el-input :id="id" v-model="form.latitude" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Degrees east" help="West is negative." :fault="at('longitude')"><el-input :id="id" v-model="form.longitude" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Weather station">
          <el-select :id="id" v-model="form.weather_source" aria-label="Weather station"><el-option v-for="(word, key) in stations" :key="key" :value="key" :label="word" /></el-select>
        </FieldRow>
        <template v-if="form.weather_source === 'simulated'">
          <FieldRow v-slot="{ id }" label="Seed" :fault="at('seed')"><el-input :id="id" v-model="form.seed" inputmode="numeric" /></FieldRow>
          <FieldRow v-slot="{ id }" label="Mean of the year (°C)" :fault="at('mild')"><el-input :id="id" v-model="form.mild" inputmode="decimal" /></FieldRow>
          <FieldRow v-slot="{ id }" label="Summer above mean (°C)" :fault="at('swing')"><el-input :id="id" v-model="form.swing" inputmode="decimal" /></FieldRow>
        </template>
      </div>
      <h2>Shed</h2>
      <div class="fields">
        <FieldRow v-slot="{ id }" label="Hardness of the tap water" help="mg/L CaCO3; above about 200 soap is weakened." :fault="at('hardness')"><el-input :id="id" v-model="form.hardness" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Bottles and sprayers (ml)" :fault="at('bottles')"><el-input :id="id" v-model="form.bottles" /></FieldRow>
        <FieldRow v-slot="{ id }" label="A drop is (ml)" help="Count the drops of 1 ml." :fault="at('drop')"><el-input :id="id" v-model="form.drop" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Spoons and gallons">
          <el-select :id="id" v-model="form.region" aria-label="Spoons and gallons"><el-option v-for="(word, key) in regions" :key="key" :value="key" :label="word" /></el-select>
        </FieldRow>
        <FieldRow v-slot="{ id }" label="Money" :fault="at('currency')"><el-input :id="id" v-model="form.currency" maxlength="4" /></FieldRow>
      </div>
      <fieldset>
        <legend>What you measure with</legend>
        <el-checkbox-group v-model="form.tools" class="row"><el-checkbox v-for="tool in tools.data.value ?? []" :key="tool.key" :value="tool.key">{{ tool.name }}</el-checkbox></el-checkbox-group>
      </fieldset>
      <div><el-button type="primary" size="large" native-type="submit">Keep the yard</el-button></div>
    </form>

    <form v-if="form.weather_source === 'entered' || form.weather_source === 'none'" class="sheet stack" novalidate @submit.prevent="enterDay">
      <h2>A day by hand</h2>
      <p>Today's and tomorrow's numbers from any forecast are enough for the ribbon.</p>
      <div class="fields">
        <FieldRow v-slot="{ id }" label="Day"><input :id="id" v-model="day.day" type="date" class="date" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Coolest (°C)" :fault="at('low')"><el-input :id="id" v-model="day.low" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Warmest (°C)" :fault="at('high')"><el-input :id="id" v-model="day.high" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Wind (km/h)" :fault="at('wind')"><el-input :id="id" v-model="day.wind" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Sky"><el-select :id="id" v-model="day.sky" aria-label="Sky"><el-option v-for="(word, key) in skies" :key="key" :value="key" :label="word" /></el-select></FieldRow>
        <FieldRow v-slot="{ id }" label="Rain (mm)" :fault="at('rain')"><el-input :id="id" v-model="day.rain" inputmode="decimal" /></FieldRow>
        <FieldRow v-slot="{ id }" label="Rain from (hour)" :fault="at('rain_from')"><el-input :id="id" v-model="day.rain_from" inputmode="numeric" /></FieldRow>
        <FieldRow v-slot="{ id }" label="to (hour)" :fault="at('rain_to')"><el-input :id="id" v-model="day.rain_to" inputmode="numeric" /></FieldRow>
      </div>
      <div><el-button type="primary" native-type="submit">Keep the day</el-button></div>
      <ul v-if="days.length" class="small"><li v-for="entry in days.slice(0, 7)" :key="entry.day">{{ dayName(entry.day) }}: {{ entry.low }} to {{ entry.high }} °C, wind {{ entry.wind }} km/h, {{ skies[entry.sky] }}<template v-if="entry.rain">, {{ entry.rain }} mm rain from {{ entry.rain_from }} to {{ entry.rain_to }} o'clock</template></li></ul>
    </form>

    <section class="sheet stack">
      <h2>Hourly table and calendar</h2>
      <label class="file">Read in an hourly table (CSV: time, temperature, humidity, rain, wind, sun)<input type="file" accept=".csv,text/csv" @change="readIn" /></label>
      <p v-if="at('time', 'temperature', 'humidity', 'rain', 'wind', 'sun', 'file')" class="wrong" role="alert">{{ fault?.message }}. {{ fault?.fix }}</p>
      <p><a href="/api/weather/table.csv?days=30">Save the last 30 days and the forecast as CSV</a></p>
      <p><a href="/api/calendar.ics" download="orthocris.ics">Save all jobs for your calendar (iCalendar)</a>. The same address, {{ "/api/calendar.ics" }}, can be subscribed to by a calendar on this machine. It never names a remedy.</p>
    </section>

    <form class="sheet stack" novalidate @submit.prevent="savePrices">
      <h2>Prices</h2>
      <p class="small soft">A price is for every ingredient whose name holds its name: "oil" is for sunflower oil too.</p>
      <div v-for="(price, k) in prices" :key="k" class="price">
        <el-input v-model="price.name" aria-label="Ingredient" placeholder="soap" maxlength="60" />
        <el-input v-model="price.pack" aria-label="Pack, ml or g" placeholder="ml or g" inputmode="decimal" />
        <el-input v-model="price.price" :aria-label="`Price in ${form.currency}`" :placeholder="form.currency" inputmode="decimal" />
        <el-button :aria-label="`Leave out ${price.name}`" @click="prices.splice(k, 1)">Leave out</el-button>
      </div>
      <p v-if="at('price', 'name')" class="wrong" role="alert">{{ fault?.message }}. {{ fault?.fix }}</p>
      <div class="row"><el-button @click="prices.push({ name: '', pack: '', price: '' })">One more</el-button><el-button type="primary" native-type="submit">Keep the prices</el-button></div>
    </form>

    <details v-if="changes.length" class="sheet">
      <summary>What was changed here ({{ changes.length }})</summary>
      <ul class="small"><li v-for="(c, k) in changes.slice(0, 40)" :key="k">{{ when.format(Date.parse(c.made_at)) }}: <template v-for="(p, n) in c.parts" :key="p.name">{{ n ? "; " : "" }}{{ p.name }} from {{ p.before }} to {{ p.after }}</template></li></ul>
    </details>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: var(--space-3);
}

fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}

legend {
  font-weight: 650;
}

.price {
  display: grid;
  grid-template-columns: 2fr 1fr 1fr auto;
  gap: var(--space-2);
}

.file {
  display: grid;
  gap: var(--space-2);
}

.kept {
  color: var(--good);
  font-weight: 650;
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}

ul {
  margin: 0;
  padding-left: 1.2em;
}
</style>
