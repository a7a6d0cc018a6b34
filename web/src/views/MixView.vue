<script setup lang="ts">
import { computed, onMounted, reactive, ref } from "vue";
import { useRoute } from "vue-router";
import { asFault, client, Fault, take, type Schemas } from "../api/client";
import { fillLines } from "../charts/bottle";
import CautionList from "../components/CautionList.vue";
import FaultNote from "../components/FaultNote.vue";
import FieldRow from "../components/FieldRow.vue";
import { readNumber } from "../words";

const route = useRoute();
const form = reactive({
  text: typeof route.query["recipe"] === "string" ? route.query["recipe"] : "10 ml oil and 2 ml soap in 1 litre",
  region: "metric" as Schemas["Region"],
  by: "volume" as "volume" | "plants",
  volume: "750",
  plants: typeof route.query["plants"] === "string" ? route.query["plants"] : "18",
  each: "40",
  margin: "10",
  tools: ["syringe_1", "syringe_10", "tsp", "tbsp", "jug", "scale"],
});
if (typeof route.query["plants"] === "string") form.by = "plants";
const tools = ref<Schemas["ToolOut"][]>([]);
const mix = ref<Schemas["MixOut"] | null>(null);
const fault = ref<Fault | null>(null);
const regions = { metric: "metric", us: "US", imperial: "imperial", australian: "Australian" } as const;

onMounted(async () => {
  try {
    tools.value = await take(client.GET("/api/tools"));
    await make();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
});

async function make(): Promise<void> {
  const numbers = Object.fromEntries(
    (["volume", "plants", "each", "margin"] as const).map((key) => [key, readNumber(form[key])]),
  );
  const used = form.by === "volume" ? ["volume"] : ["plants", "each", "margin"];
  const wrong = used.find((key) => numbers[key] === undefined);
  if (wrong) {
    fault.value = new Fault("bad_input", "this is not a number", wrong, "Give a number such as 40.", 422);
    return;
  }
  try {
    mix.value = await take(
      client.POST("/api/mix", {
        body: {
          text: form.text,
          region: form.region,
          tools: form.tools,
          volume: form.by === "volume" ? (numbers["volume"] ?? 0) : null,
          plants: form.by === "plants" ? Math.round(numbers["plants"] ?? 0) : null,
          ml_per_plant: numbers["each"] ?? 0,
          margin: (numbers["margin"] ?? 0) / 100,
        },
      }),
    );
    fault.value = null;
  } catch (thrown) {
    fault.value = asFault(thrown);
    mix.value = null;
  }
}

const HEIGHT = 330;
const lines = computed(() =>
  mix.value ? fillLines(mix.value.pours.map((p) => p.level), mix.value.bottle, HEIGHT, 40) : [],
);

function amount(value: number): string {
  return value >= 100 ? String(Math.round(value)) : String(Number(value.toPrecision(3)));
}

function how(pour: Schemas["PourOut"]): string {
  if (!pour.tool) return `top up to ${amount(pour.level)} ml`;
  const parts = [];
  if (pour.fills) parts.push(`${pour.fills} × ${pour.tool}`);
  if (pour.rest > 0 || !pour.fills) parts.push(`${amount(pour.rest)} ${pour.unit}${pour.fills ? "" : ` with the ${pour.tool}`}`);
  return parts.join(" and ");
}
</script>

<template>
  <div class="stack">
    <div>
      <h1>Mixing bench</h1>
      <p class="soft">Say the recipe as you know it; see what it means, and how to measure it with what you have.</p>
    </div>
    <div class="two">
      <form class="sheet stack" novalidate @submit.prevent="make">
        <FieldRow v-slot="{ id, described }" label="The recipe" help="Such as: a heaped dessert spoon of baking soda to a 5-litre can and a dash of soap; soap 1:40; 15 ml/L." :fault="fault?.field === 'text' || fault?.field === 'parts' ? fault : null">
          <el-input :id="id" v-model="form.text" type="textarea" autosize maxlength="500" :aria-describedby="described" @keydown.enter.prevent="make" />
        </FieldRow>
        <div class="pair">
          <FieldRow v-slot="{ id }" label="Spoons and gallons">
            <el-select :id="id" v-model="form.region" aria-label="Spoons and gallons">
              <el-option v-for="(name, key) in regions" :key="key" :value="key" :label="name" />
            </el-select>
          </FieldRow>
          <FieldRow v-slot="{ id }" label="How much">
            <el-select :id="id" v-model="form.by" aria-label="How much">
              <el-option value="volume" label="for a volume" /><el-option value="plants" label="for plants" />
            </el-select>
          </FieldRow>
        </div>
        <FieldRow v-if="form.by === 'volume'" v-slot="{ id, described }" label="Ready mix (ml)" :fault="fault?.field === 'volume' ? fault : null">
          <el-input :id="id" v-model="form.volume" inputmode="decimal" :aria-describedby="described" />
        </FieldRow>
        <div v-else class="pair">
          <FieldRow v-slot="{ id, described }" label="Plants" :fault="fault?.field === 'plants' ? fault : null"><el-input :id="id" v-model="form.plants" inputmode="numeric" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id }" label="ml for each" :fault="fault?.field === 'each' ? fault : null"><el-input :id="id" v-model="form.each" inputmode="decimal" /></FieldRow>
          <FieldRow v-slot="{ id }" label="More, to be safe (%)" :fault="fault?.field === 'margin' ? fault : null"><el-input :id="id" v-model="form.margin" inputmode="decimal" /></FieldRow>
        </div>
        <fieldset class="tools">
          <legend>What you measure with</legend>
          <el-checkbox-group v-model="form.tools"><el-checkbox v-for="tool in tools" :key="tool.key" :value="tool.key">{{ tool.name }}</el-checkbox></el-checkbox-group>
        </fieldset>
        <FaultNote :fault="fault && !['text', 'parts', 'volume', 'plants', 'each', 'margin'].includes(fault.field ?? '') ? fault : null" />
        <div><el-button type="primary" size="large" native-type="submit">Show it</el-button></div>
      </form>

      <section v-if="mix" class="sheet stack" aria-labelledby="bottle">
        <h2 id="bottle">{{ amount(mix.volume) }} ml in a {{ mix.bottle >= 1000 ? `${amount(mix.bottle / 1000)} litre` : `${amount(mix.bottle)} ml` }} bottle</h2>
        <svg :viewBox="`0 0 460 ${HEIGHT + 92}`" role="img" :aria-label="`The bottle with its fill lines: ${mix.pours.map((p) => `${p.name} ${amount(p.amount)} ${p.unit}, then at ${amount(p.level)} ml`).join('; ')}`">
          <g transform="translate(10 56)">
            <path class="glass" :d="`M40 -50H90V-24C90 -12 124 -6 124 20V${HEIGHT - 12}Q124 ${HEIGHT} 112 ${HEIGHT}H18Q6 ${HEIGHT} 6 ${HEIGHT - 12}V20C6 -6 40 -12 40 -24Z`" />
            <rect v-if="lines.length" class="liquid" x="8" :y="lines.at(-1)!.y" width="114" :height="HEIGHT - lines.at(-1)!.y - 2" />
            <g v-for="(line, k) in lines" :key="k">
              <path class="fill" :d="`M6 ${line.y}H124L150 ${line.labelY}`" />
              <text x="156" :y="line.labelY - 1"><tspan class="strong">{{ k + 1 }} {{ mix.pours[k]?.name }}</tspan><tspan x="156" dy="1.2em">{{ how(mix.pours[k]!) }}</tspan></text>
            </g>
          </g>
        </svg>
      </section>
    </div>

    <template v-if="mix">
      <section class="sheet stack">
        <h2>In this order</h2>
        <ol class="order">
          <li v-for="pour in mix.pours" :key="pour.name">
            <strong>{{ pour.name }}: {{ how(pour) }}</strong>
            <span class="soft">{{ pour.reason }}</span>
            <span v-if="pour.warns" class="warns">Your tool makes this {{ Math.abs(Math.round(pour.error * 100)) }}% {{ pour.error > 0 ? "too much" : "too little" }} ({{ amount(pour.amount) }} {{ pour.unit }} wanted): use a finer one.</span>
            <span v-else-if="Math.abs(pour.error) > 0.005" class="small soft">{{ Math.abs(Math.round(pour.error * 1000) / 10) }}% {{ pour.error > 0 ? "more" : "less" }} than the exact {{ amount(pour.amount) }} {{ pour.unit }}.</span>
          </li>
        </ol>
        <p>In a litre: {{ mix.parts.map((p) => `${amount(p.per_litre)} ${p.unit} ${p.name}`).join(", ") }}.</p>
        <p v-for="line in mix.strengths" :key="line">{{ line }}</p>
        <p v-for="guess in mix.guesses" :key="guess" class="soft">Guessed: {{ guess }}.</p>
      </section>
      <CautionList :texts="[...mix.cautions, ...mix.general_cautions]" title="Before you mix" />
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

svg {
  width: 100%;
  font-family: var(--font);
}

.glass {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 3;
}

.liquid {
  fill: var(--accent-wash);
}

.fill {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

text {
  font-size: 15px;
  fill: var(--ink);
}

.strong {
  font-weight: 700;
}

.order {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding-left: 1.4em;
}

.order li > * {
  display: block;
}

.warns {
  color: var(--bad);
  font-weight: 650;
}

@media (width < 820px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
