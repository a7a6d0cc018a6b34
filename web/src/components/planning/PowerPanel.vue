<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { asFault, client, Fault, take, type Schemas } from "../../api/client";
import { apart, chancePath, plantX, type Chance } from "../../charts/power";
import { percent } from "../../charts/efficacy";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { listing, plural, readNumber } from "../../words";
import FaultNote from "../FaultNote.vue";

const { trial } = useTrial();
const job = ref<Schemas["PowerOut"] | null>(null);
const fault = ref<Fault | null>(null);
const growth = ref(trial.value?.usual ? "0.4" : "1"); // what is done anyway leaves fewer, typical
const clumping = ref<"little" | "usual" | "strong">("usual");
const efficacies = ref<string[]>([]);
let timer: ReturnType<typeof setTimeout> | undefined;
onScopeDispose(() => clearTimeout(timer));

const before = useAnswer(() => take(client.GET("/api/trials/{trial_id}/power/earlier", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
watch(() => trial.value?.remedies.map((r) => r.id).join(), before.load, { immediate: true });
const foundBefore = computed(() =>
  others.value.flatMap((remedy) => (before.data.value ?? []).filter((one) => one.remedy_id === remedy.id).map((one) => ({ ...one, name: remedy.name }))),
);

const others = computed(() => (trial.value?.remedies ?? []).filter((r) => r.role === "remedy"));
const dispersions = { little: 10, usual: 4, strong: 1.5 } as const;
const W = 460;
const H = 200;
/** What a right and a wrong answer are, by the kind of question. */
const answers = {
  ladder: ["the right strength is named", "one too weak is named"],
  square: ["each ingredient is read as it is", "an interplay that is not there"],
} as const;
const named = computed(() => {
  const kind = trial.value?.setup.kind;
  return kind === "ladder" || kind === "square" ? answers[kind] : (["the best is named", "a false winner"] as const);
});
const curves = computed<{ key: Chance; name: string; dash: string }[]>(() => [
  { key: "second_beats", name: "the second is shown to work", dash: "" },
  { key: "best_named", name: named.value[0], dash: "8 5" },
  { key: "false_winner", name: named.value[1], dash: "2 5" },
]);

function upper(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

async function begin(): Promise<void> {
  const numbers = efficacies.value.map((t) => readNumber(t));
  const rise = readNumber(growth.value);
  if (rise === undefined || numbers.includes(undefined)) {
    fault.value = new Fault("bad_input", "an assumption is not a number", null, "Give percentages such as 60, and a growth such as 1.", 422);
    return;
  }
  try {
    job.value = await take(
      client.POST("/api/trials/{trial_id}/power", {
        params: { path: { trial_id: trial.value?.id ?? 0 } },
        body: {
          efficacies: numbers.length ? numbers.map((n) => (n ?? 0) / 100) : null,
          growth: rise,
          dispersion: dispersions[clumping.value],
        },
      }),
    );
    fault.value = null;
    if (!efficacies.value.length) efficacies.value = job.value.efficacies.map((e) => String(Math.round(e * 100)));
    timer = setTimeout(poll, 150);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

/** Reckon with what earlier trials found; what they never held stays as it is usual. */
async function reckonWithFound(): Promise<void> {
  if (!efficacies.value.length) await begin();
  efficacies.value = others.value.map((remedy, k) => {
    const one = foundBefore.value.find((found) => found.remedy_id === remedy.id);
    return one ? String(Math.round(100 * Math.min(Math.max(one.removed, 0), 0.99))) : (efficacies.value[k] ?? "");
  });
  clearTimeout(timer);
  await begin();
}

async function poll(): Promise<void> {
  const id = job.value?.id;
  if (id === undefined) return;
  try {
    const now = await take(client.GET("/api/power/{job_id}", { params: { path: { job_id: id } } }));
    if (job.value?.id !== id) return;
    job.value = now;
    if (now.state === "running") timer = setTimeout(poll, 150);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

async function cancel(): Promise<void> {
  if (!job.value) return;
  const params = { path: { job_id: job.value.id } };
  await take(client.DELETE("/api/power/{job_id}", { params }));
  job.value = await take(client.GET("/api/power/{job_id}", { params }));
}

// Another number of remedies makes the old assumptions meaningless.
watch(
  () => others.value.length,
  () => {
    efficacies.value = [];
    job.value = null;
  },
);

const here = computed(() => job.value?.points.find((p) => p.blocks === job.value?.at_hand));
const labels = computed(() =>
  apart(
    curves.value.map((c) => (1 - (last.value?.[c.key] ?? 0)) * H + 2),
    17,
  ),
);
const last = computed(() => [...(job.value?.points ?? [])].sort((a, b) => b.plants - a.plants)[0]);
</script>

<template>
  <section class="sheet stack" aria-labelledby="power">
    <h2 id="power">How many plants?</h2>
    <p><RouterLink :to="`/play?trial=${trial?.id ?? 0}`">Play this plan through yourself, in five minutes →</RouterLink></p>
    <p class="soft">
      The program plays this very plan hundreds of times on simulated plants like yours, with the real analysis, and counts how often it would be right.
    </p>
    <p v-if="foundBefore.length">
      Earlier trials found {{ listing(foundBefore.map((one) => `${one.name} ${percent(Math.max(one.removed, 0))} (${plural(one.trials, "trial")})`)) }}.
      <el-button size="small" @click="reckonWithFound">Reckon with that</el-button>
    </p>
    <div class="row assumptions">
      <template v-if="efficacies.length">
        <label v-for="(remedy, k) in others" :key="remedy.id" class="small"
          >{{ remedy.name }} truly removes
          <el-input v-model="efficacies[k]" style="width: 5.5rem" inputmode="decimal" :aria-label="`${remedy.name} truly removes, per cent`"
            ><template #suffix>%</template></el-input
          >
        </label>
      </template>
      <label class="small"
        >Control grows by a factor of <el-input v-model="growth" style="width: 4.5rem" inputmode="decimal" aria-label="Control grows by a factor of"
      /></label>
      <span class="small"
        >Clumping
        <el-select v-model="clumping" style="width: 7rem" aria-label="Clumping">
          <el-option value="little" label="little" /><el-option value="usual" label="usual" /><el-option value="strong" label="strong" />
        </el-select>
      </span>
    </div>
    <div class="row">
      <el-button :type="job ? 'default' : 'primary'" @click="begin">{{ job ? "Simulate again" : "Simulate it" }}</el-button>
      <template v-if="job?.state === 'running'">
        <progress :value="job.progress" max="1" aria-label="Simulated so far" />
        <el-button @click="cancel">Cancel</el-button>
      </template>
      <span v-else-if="job?.state === 'cancelled'" class="soft">Cancelled.</span>
    </div>
    <FaultNote :fault="fault" />
    <p v-if="job?.answer" class="answer" role="status">{{ job.answer }}</p>
    <p v-if="job?.waves && here" class="soft">
      In two waves, with as many plants, the best is named in {{ percent(job.waves.best_named) }} of trials, in one wave in {{ percent(here.best_named) }}.
    </p>
    <figure v-if="job && job.points.length > 1">
      <svg
        :viewBox="`-44 -14 ${W + 290} ${H + 54}`"
        role="img"
        :aria-label="`Chances against the number of plants. ${job.points.map((p) => `${p.plants} plants: best named ${percent(p.best_named)}, false winner ${percent(p.false_winner)}`).join('. ')}`">
        <g v-for="share in [0, 0.5, 0.8, 1]" :key="share">
          <line class="grid" x1="0" :x2="W" :y1="(1 - share) * H" :y2="(1 - share) * H" />
          <text x="-8" :y="(1 - share) * H + 4" text-anchor="end">{{ percent(share) }}</text>
        </g>
        <line v-if="here" class="here" :x1="plantX(here.plants, job.points, W)" :x2="plantX(here.plants, job.points, W)" y1="0" :y2="H" />
        <g v-for="(curve, k) in curves" :key="curve.key">
          <path class="curve" :d="chancePath(job.points, curve.key, W, H)" :stroke-dasharray="curve.dash" :style="{ stroke: `var(--tag-${k + 1})` }" />
          <text v-if="last" class="name" :x="W + 10" :y="labels[k]">{{ curve.name }}</text>
        </g>
        <text v-for="p in job.points" :key="p.plants" :x="plantX(p.plants, job.points, W)" :y="H + 18" text-anchor="middle">{{ p.plants }}</text>
        <text x="0" :y="H + 36">plants (yours: {{ here?.plants ?? "…" }})</text>
      </svg>
    </figure>
    <div v-if="job?.points.length" class="scroll" tabindex="0" role="region" aria-label="Simulated sizes">
      <table>
        <thead>
          <tr>
            <th scope="col">Plants</th>
            <th scope="col">Blocks</th>
            <th scope="col">{{ upper(named[0]) }}</th>
            <th scope="col">{{ upper(named[1]) }}</th>
            <th scope="col">Best beats control</th>
            <th scope="col">Second beats control</th>
            <th scope="col">Width of the best's interval</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in [...job.points].sort((a, b) => a.plants - b.plants)" :key="p.blocks" :class="{ mine: p.blocks === job.at_hand }">
            <th scope="row">{{ p.plants }}</th>
            <td>{{ p.blocks }}</td>
            <td>{{ percent(p.best_named) }}</td>
            <td>{{ percent(p.false_winner) }}</td>
            <td>{{ percent(p.best_beats) }}</td>
            <td>{{ percent(p.second_beats) }}</td>
            <td>{{ p.width === null ? "no interval" : `${Math.round(p.width * 100)} points` }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.assumptions label,
.assumptions span.small {
  display: flex;
  gap: var(--space-2);
  align-items: center;
}

progress {
  width: 220px;
  height: 14px;
  accent-color: var(--accent);
}

.answer {
  font-size: var(--text-l);
  font-weight: 700;
}

figure {
  margin: 0;
}

svg {
  width: 100%;
  max-width: 860px;
  font-family: var(--font);
}

text {
  font-size: 13px;
  fill: var(--ink-soft);
}

.name {
  fill: var(--ink);
  font-weight: 600;
}

.grid {
  stroke: var(--hair);
}

.here {
  stroke: var(--trap);
  stroke-width: 10;
  opacity: 0.6;
}

.curve {
  fill: none;
  stroke-width: 3;
}

.scroll {
  overflow-x: auto;
}

table {
  border-collapse: collapse;
  font-size: var(--text-s);
}

th,
td {
  padding: var(--space-1) var(--space-3);
  text-align: right;
  border-top: 1px solid var(--hair);
}

.mine {
  background: var(--trap-wash);
}
</style>
