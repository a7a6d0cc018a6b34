<script setup lang="ts">
import { computed, onMounted, reactive, ref } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { asFault, client, take, type Fault, type Schemas } from "../api/client";
import BottlePicture from "../components/BottlePicture.vue";
import CautionList from "../components/CautionList.vue";
import FaultNote from "../components/FaultNote.vue";
import FieldRow from "../components/FieldRow.vue";
import PourList from "../components/PourList.vue";
import StrengthPicture from "../components/StrengthPicture.vue";
import { useAnswer } from "../composables/useAnswer";
import { amount, measured, roundingNote, volume } from "../mixing";
import { need } from "../entered";
import { readNumber } from "../words";

type Mode = "recipe" | "strength" | "parts" | "convert";
const modes = { recipe: "A recipe", strength: "A stock to a strength", parts: "One part in N", convert: "Other units" } as const;
const regions = { metric: "metric", us: "US", imperial: "imperial", australian: "Australian" } as const;

const route = useRoute();
const form = reactive({
  mode: "recipe" as Mode,
  text: typeof route.query["recipe"] === "string" ? route.query["recipe"] : "10 ml oil and 2 ml soap in 1 litre",
  other: "",
  flame: false,
  region: "metric" as Schemas["Region"],
  by: (typeof route.query["plants"] === "string" ? "plants" : "volume") as "volume" | "bottle" | "plants",
  volume: "750",
  bottle: 1000,
  plants: typeof route.query["plants"] === "string" ? route.query["plants"] : "18",
  each: "40",
  margin: "10",
  tools: [] as string[],
  stock: "3",
  strength: "0.5",
  parts: "10",
  second: "20",
  altogether: true,
  amount: "1",
  unit: "tbsp_us",
  density: "",
});
const bottles = ref<number[]>([1000]);
const units = useAnswer(() => take(client.GET("/api/units")));
const recipes = useAnswer(() => take(client.GET("/api/recipes")));
const shipped = ref<string>();
const converted = useAnswer(() =>
  take(client.POST("/api/convert", { body: { amount: readNumber(form.amount) ?? 0, unit: form.unit, grams_per_ml: form.density.trim() ? (readNumber(form.density) ?? 0) : null } })),
);
const tools = useAnswer(() => take(client.GET("/api/tools")));
const currency = ref("€");
const asked = ref<Fault | null>(null);
const mix = useAnswer(() => take(client.POST("/api/mix", { body: { text: form.text, compare_with: form.other, near_flame: form.flame, ...wanted() } })));
const weaker = useAnswer(() => {
  const byStrength = form.mode === "strength";
  const parts = [form.parts, form.second].map(readNumber).filter((n): n is number => n !== undefined);
  return take(
    client.POST("/api/dilute", {
      body: {
        stock: byStrength ? (readNumber(form.stock) ?? 0) : null,
        strength: byStrength ? (readNumber(form.strength) ?? 0) : null,
        parts: byStrength ? [] : parts,
        altogether: form.altogether,
        ...wanted(),
      },
    }),
  );
});
const working = computed(() => (form.mode === "recipe" ? mix : form.mode === "convert" ? converted : weaker));
const fault = computed(() => asked.value ?? working.value.fault.value);
const found = computed(() => (form.mode === "recipe" && !fault.value ? mix.data.value : null));
const diluted = computed(() => ((form.mode === "strength" || form.mode === "parts") && !fault.value ? weaker.data.value : null));
const others = computed(() => (form.mode === "convert" && !fault.value ? converted.data.value : null));
const beside = ["text", "parts", "volume", "plants", "each", "ml_per_plant", "margin", "stock", "wanted", "strength", "amount", "density", "grams_per_ml"];

onMounted(async () => {
  await Promise.all([tools.load(), units.load(), recipes.load()]);
  try {
    const yard = await take(client.GET("/api/yard"));
    form.tools = yard.tools;
    form.region = yard.region ?? "metric";
    bottles.value = yard.bottles;
    form.bottle = yard.bottles.at(-1) ?? 1000;
    currency.value = yard.currency;
  } catch {
    form.tools = ["syringe_10", "tsp", "jug", "scale"]; // the yard could not be asked; usual tools
  }
  await make();
});

function wanted() {
  const numbers = Object.fromEntries((["volume", "plants", "each", "margin"] as const).map((key) => [key, readNumber(form[key])]));
  return {
    region: form.region,
    tools: form.tools,
    volume: form.by === "volume" ? (numbers["volume"] ?? 0) : null,
    bottle: form.by === "bottle" ? form.bottle : null,
    plants: form.by === "plants" ? Math.round(numbers["plants"] ?? 0) : null,
    ml_per_plant: numbers["each"] ?? 0,
    margin: (numbers["margin"] ?? 0) / 100,
  };
}

async function make(): Promise<void> {
  const used: ("volume" | "plants" | "each" | "margin" | "stock" | "strength" | "parts" | "second" | "amount" | "density")[] = form.by === "volume" ? ["volume"] : form.by === "plants" ? ["plants", "each", "margin"] : [];
  if (form.mode === "strength") used.push("stock", "strength");
  if (form.mode === "parts") used.push("parts", ...(form.second.trim() ? (["second"] as const) : []));
  if (form.mode === "convert") used.splice(0, used.length, "amount", ...(form.density.trim() ? (["density"] as const) : []));
  asked.value = null;
  try {
    for (const key of used) need(form[key], key === "second" ? "parts" : key);
  } catch (thrown) {
    asked.value = asFault(thrown);
    return;
  }
  await working.value.load();
}

function takeShipped(key: string): void {
  form.text = recipes.data.value?.find((r) => r.key === key)?.recipe ?? form.text;
  void make();
}

function choose(mode: Mode): void {
  form.mode = mode;
  void make();
}

function at(...fields: string[]): Fault | null {
  return fault.value && fields.includes(fault.value.field ?? "") ? fault.value : null;
}

function money(value: number): string {
  return `${currency.value} ${value < 0.1 ? value.toFixed(3) : value.toFixed(2)}`;
}
</script>

<template>
  <div class="stack">
    <div>
      <h1>Mixing bench</h1>
      <p class="soft">Say the recipe as you know it; see what it means, and how to measure it with what you have. Spoons, bottles, prices and water are set in <RouterLink to="/yard">the yard</RouterLink>.</p>
    </div>
    <div class="two">
      <form class="sheet stack" novalidate @submit.prevent="make">
        <div class="choices modes" role="group" aria-label="What is mixed">
          <button v-for="(name, key) in modes" :key="key" type="button" :aria-pressed="form.mode === key" @click="choose(key)">{{ name }}</button>
        </div>
        <template v-if="form.mode === 'recipe'">
          <FieldRow v-slot="{ id, described }" label="The recipe" help="Such as: a heaped dessert spoon of baking soda to a 5-litre can and a dash of soap; soap 1:40; 15 ml/L; 3% peroxide to 0.5%." :fault="at('text', 'parts')">
            <el-input :id="id" v-model="form.text" type="textarea" autosize maxlength="500" :aria-describedby="described" @keydown.enter.prevent="make" />
          </FieldRow>
          <el-select v-model="shipped" aria-label="Start from a shipped recipe" placeholder="Start from a shipped recipe" @change="takeShipped">
            <el-option v-for="recipe in recipes.data.value ?? []" :key="recipe.key" :value="recipe.key" :label="recipe.name" />
          </el-select>
          <FieldRow v-slot="{ id, described }" label="Compare it with" help="Another recipe in any units; leave it empty for none.">
            <el-input :id="id" v-model="form.other" maxlength="500" :aria-describedby="described" />
          </FieldRow>
          <el-checkbox v-model="form.flame">A flame, stove or heater is near</el-checkbox>
        </template>
        <div v-else-if="form.mode === 'strength'" class="pair">
          <FieldRow v-slot="{ id, described }" label="The stock has (%)" :fault="at('stock')"><el-input :id="id" v-model="form.stock" inputmode="decimal" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id, described }" label="Wanted (%)" :fault="at('wanted', 'strength')"><el-input :id="id" v-model="form.strength" inputmode="decimal" :aria-describedby="described" /></FieldRow>
        </div>
        <div v-else-if="form.mode === 'convert'" class="pair">
          <FieldRow v-slot="{ id, described }" label="Amount" :fault="at('amount')"><el-input :id="id" v-model="form.amount" inputmode="decimal" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id }" label="Unit">
            <el-select :id="id" v-model="form.unit" aria-label="Unit"><el-option v-for="unit in units.data.value ?? []" :key="unit.key" :value="unit.key" :label="unit.name" /></el-select>
          </FieldRow>
          <FieldRow v-slot="{ id, described }" label="A powder's g per ml" help="Weigh a level spoon; baking soda about 0.9." :fault="at('grams_per_ml')"><el-input :id="id" v-model="form.density" inputmode="decimal" :aria-describedby="described" /></FieldRow>
        </div>
        <template v-else>
          <div class="pair">
            <FieldRow v-slot="{ id, described }" label="First, one part in" help="A brew from its stuff, or a stock." :fault="at('parts')"><el-input :id="id" v-model="form.parts" inputmode="decimal" :aria-describedby="described" /></FieldRow>
            <FieldRow v-slot="{ id, described }" label="Then, one part in" help="Empty: one step only."><el-input :id="id" v-model="form.second" inputmode="decimal" :aria-describedby="described" /></FieldRow>
          </div>
          <el-checkbox v-model="form.altogether">Parts counted altogether (1 in 40, not 1 and 40 of water)</el-checkbox>
        </template>
        <template v-if="form.mode !== 'convert'">
        <div class="pair">
          <FieldRow v-slot="{ id }" label="Spoons and gallons">
            <el-select :id="id" v-model="form.region" aria-label="Spoons and gallons">
              <el-option v-for="(name, key) in regions" :key="key" :value="key" :label="name" />
            </el-select>
          </FieldRow>
          <FieldRow v-slot="{ id }" label="How much">
            <el-select :id="id" v-model="form.by" aria-label="How much">
              <el-option value="volume" label="for a volume" /><el-option value="bottle" label="for a bottle of mine" /><el-option value="plants" label="for plants" />
            </el-select>
          </FieldRow>
        </div>
        <FieldRow v-if="form.by === 'volume'" v-slot="{ id, described }" label="Ready mix (ml)" :fault="at('volume')">
          <el-input :id="id" v-model="form.volume" inputmode="decimal" :aria-describedby="described" />
        </FieldRow>
        <FieldRow v-else-if="form.by === 'bottle'" v-slot="{ id }" label="Bottle or sprayer" help="A fifth stays empty, to shake.">
          <el-select :id="id" v-model="form.bottle" aria-label="Bottle or sprayer"><el-option v-for="ml in bottles" :key="ml" :value="ml" :label="volume(ml)" /></el-select>
        </FieldRow>
        <div v-else class="pair">
          <FieldRow v-slot="{ id, described }" label="Plants" :fault="at('plants')"><el-input :id="id" v-model="form.plants" inputmode="numeric" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id }" label="ml for each" :fault="at('each', 'ml_per_plant')"><el-input :id="id" v-model="form.each" inputmode="decimal" /></FieldRow>
          <FieldRow v-slot="{ id }" label="More, to be safe (%)" :fault="at('margin')"><el-input :id="id" v-model="form.margin" inputmode="decimal" /></FieldRow>
        </div>
        <fieldset class="tools">
          <legend>What you measure with</legend>
          <el-checkbox-group v-model="form.tools"><el-checkbox v-for="tool in tools.data.value ?? []" :key="tool.key" :value="tool.key">{{ tool.name }}</el-checkbox></el-checkbox-group>
        </fieldset>
        </template>
        <FaultNote :fault="fault && !beside.includes(fault.field ?? '') ? fault : null" />
        <div><el-button type="primary" size="large" native-type="submit">Show it</el-button></div>
      </form>

      <section v-if="found" class="sheet stack" aria-labelledby="bottle">
        <h2 id="bottle">{{ volume(found.volume) }} in a bottle of {{ volume(found.bottle) }}</h2>
        <BottlePicture :mix="found" />
        <p v-if="found.cost.per_litre > 0">
          It costs {{ money(found.cost.per_litre) }} a litre, {{ money(found.cost.per_round) }} a round<template v-if="found.cost.per_plant !== null">, {{ money(found.cost.per_plant) }} a plant</template><template v-if="found.cost.missing.length"> (without {{ found.cost.missing.join(", ") }}: no price)</template>.
        </p>
        <p v-else class="small soft">Enter prices in <RouterLink to="/yard">the yard</RouterLink> to see what it costs.</p>
      </section>
      <section v-else-if="others" class="sheet stack" aria-labelledby="units">
        <h2 id="units">That is</h2>
        <dl class="units"><template v-for="other in others" :key="other.key"><dt>{{ amount(other.amount) }}</dt><dd>{{ other.name }}</dd></template></dl>
        <p class="small soft">Exact conversions, rounded to three figures. A US gallon is not an imperial one.</p>
      </section>
      <section v-else-if="diluted" class="sheet stack" aria-labelledby="steps">
        <h2 id="steps">In {{ diluted.steps.length === 1 ? "one step" : `${diluted.steps.length} steps` }}</h2>
        <ol>
          <li v-for="(step, k) in diluted.steps" :key="k">
            <strong>{{ amount(step.take) }} ml {{ k ? "of the step before" : "of the stock" }}, topped up with {{ amount(step.water) }} ml water to {{ volume(step.makes) }}</strong>
            <p class="soft">Measure {{ measured(step.measured, "ml") }}. {{ roundingNote(step.measured, step.take, "ml") }}</p>
          </li>
        </ol>
        <p>The ready mix holds {{ amount(diluted.share * 100) }}% of the stock, one part in {{ amount(1 / diluted.share) }}. Shake it in a bottle of {{ volume(diluted.bottle) }}.</p>
        <CautionList :texts="['Peroxide, alcohol and acids: gloves and eye protection. Never mix with bleach, nor peroxide with vinegar.', 'Strain a brew well, and use it within a few days.']" title="Before you mix" />
      </section>
    </div>

    <template v-if="found">
      <section class="sheet stack">
        <h2>In this order</h2>
        <PourList :mix="found" />
      </section>
      <section v-if="found.axes.length" class="sheet stack">
        <h2>How strong that is</h2>
        <StrengthPicture v-for="axis in found.axes" :key="axis.name" :axis="axis" />
        <ul v-if="found.schools.length" class="small"><li v-for="line in found.schools" :key="line">{{ line }}</li></ul>
      </section>
      <CautionList :texts="[...found.cautions, ...found.general_cautions]" title="Before you mix" />
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--space-4);
  align-items: start;
}

.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: var(--space-3);
}

.units {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--space-1) var(--space-4);
  margin: 0;
}

.units dt {
  text-align: right;
  font-weight: 700;
}

.units dd {
  margin: 0;
}

.modes {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--space-1);
}

.modes button {
  align-content: center;
  min-height: var(--touch);
  padding: var(--space-2);
}

.tools {
  margin: 0;
  padding: 0;
  border: 0;
}

.tools legend {
  font-weight: 650;
}

.tools .el-checkbox {
  margin-right: var(--space-4);
}

ol,
ul {
  margin: 0;
  padding-left: 1.4em;
}

@media (width < 820px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
