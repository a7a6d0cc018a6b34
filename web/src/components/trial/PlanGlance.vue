<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { asFault, client, take, type Schemas } from "../../api/client";
import { percent } from "../../charts/efficacy";
import { pluralOf, type QuestionDraft, type Rows } from "../../question";
import { volume } from "../../mixing";
import { listing, readDays, readMoments, readNumber, plural } from "../../words";

/** How sure the plan of the sentence would be, simulated anew at each change, and what it takes. */
const props = defineProps<{
  form: QuestionDraft;
  bench: Rows;
  /** Parts on each plant that get one remedy, 1 for whole plants. */ each: number;
  ml: number;
  ways: readonly Schemas["WayOut"][];
  /** What is done anyway is the control: fewer pests are left to tell by. */ usual?: boolean;
}>();
const emit = defineEmits<{ take: [way: Schemas["WayToTellOut"]] }>();

const found = ref<Schemas["GlanceOut"] | null>(null);
/** What the same plants would tell better; nothing where it is sure enough. */
const surer = ref<readonly Schemas["WayToTellOut"][]>([]);
const busy = ref(false);
const failed = ref("");
const SURE = 0.8;
const WAIT = 500; // ms without a key before it is played
let timer: ReturnType<typeof setTimeout> | undefined;
let newest = 0;
onScopeDispose(() => clearTimeout(timer));

const looks = computed(() => readMoments(props.form.look_days)?.length ?? 0);
/** Whether something is given that no leaf can be given alone, such as a drench. */
const whole = computed(() =>
  props.form.remedies.some((r) =>
    [r.traits?.way, ...(r.traits?.steps ?? []).map((step) => step.way)].some((key) => props.ways.find((way) => way.key === key)?.whole),
  ),
);
const asked = computed<Schemas["GlanceIn"] | null>(() => {
  const plants = readNumber(props.bench.count);
  const threshold = readNumber(props.form.threshold);
  const remedies = props.form.remedies.filter((r) => r.name.trim()).length;
  if (plants === undefined || !Number.isInteger(plants) || threshold === undefined || remedies < 2 || !props.form.pest.trim()) return null;
  const counted = props.bench.counts.map(readNumber).filter((n) => n !== undefined && n >= 0 && n <= 1e6) as number[];
  if (plants < 1 || threshold <= 0 || threshold >= 100 || !Number.isInteger(props.each) || props.each < 1) return null;
  return {
    plants,
    remedies,
    threshold: threshold / 100,
    measure: props.form.measure,
    usual: props.usual,
    unit: props.form.setup.unit,
    each: props.each,
    kind: props.form.setup.kind,
    looks: looks.value,
    two_looks: props.form.setup.two_looks,
    whole: whole.value,
    starts: counted.slice(0, plants),
  };
});

watch(
  () => JSON.stringify(asked.value),
  () => {
    clearTimeout(timer);
    const mine = ++newest;
    const body = asked.value;
    if (!body) {
      found.value = null;
      surer.value = [];
      return;
    }
    busy.value = true;
    timer = setTimeout(async () => {
      let said = "";
      const answer = await take(client.POST("/api/queries/glance", { body })).catch((thrown) => {
        said = asFault(thrown).message;
        return null;
      });
      if (mine !== newest) return;
      found.value = answer;
      failed.value = said;
      busy.value = false;
      surer.value = [];
      if (!answer || (answer.chances[0]?.share ?? 0) >= SURE) return;
      const better = await take(client.POST("/api/queries/surer", { body })).catch(() => []);
      if (mine === newest) surer.value = better;
    }, WAIT);
  },
  { immediate: true },
);

/** How many plants, or parts of plants, each remedy gets. */
const blocks = computed(() => (found.value && found.value.blocks > 1 ? found.value.blocks : 0));

/** What the mixes take, of bottles and money; nothing is told where it cannot be. */
const takes = ref<Schemas["TakingOut"] | null>(null);
const mixes = computed<Schemas["TakingIn"] | null>(() => {
  const remedies = props.form.remedies
    .filter((r) => r.role === "remedy" && r.name.trim())
    .map(({ name, role, recipe, traits }) => ({ name, role, recipe, traits }));
  return blocks.value && remedies.length && props.ml > 0
    ? ({ remedies, plants: blocks.value, ml: props.ml, times: rounds.value } as Schemas["TakingIn"])
    : null;
});
let asking = 0;
watch(
  () => JSON.stringify(mixes.value),
  async () => {
    const mine = ++asking;
    const answer = mixes.value ? await take(client.POST("/api/queries/taking", { body: mixes.value })).catch(() => null) : null;
    if (mine === asking) takes.value = answer;
  },
);

const rounds = computed(() => readDays(props.form.round_days)?.length ?? 0);
/** What one round takes with all plants, mixing and labels apart. */
const minutes = computed(() => {
  const named = props.form.remedies.filter((r) => r.name.trim());
  const usual = props.ways.find((way) => way.key === "spray")?.minutes ?? 1;
  const each = named.map((r) => props.ways.find((way) => way.key === (r.traits?.way ?? "spray"))?.minutes ?? usual);
  return Math.ceil(blocks.value * each.reduce((sum, one) => sum + one, 0));
});
const counted = computed(() => pluralOf((asked.value?.plants ?? 0) * props.each, props.form.setup.unit));
/** What all plants of one remedy get each time, with a tenth more for the bottle. */
const litres = computed(() => Math.ceil((blocks.value * props.ml * 1.1) / 10) * 10);
</script>

<template>
  <div v-if="asked" class="glance" aria-live="polite">
    <section class="stack" aria-label="How sure it will be">
      <h2>How sure it will be</h2>
      <p v-if="found">{{ found.says }}</p>
      <p v-if="failed && !busy" role="alert">It could not be played: {{ failed }}</p>
      <div v-for="chance in found?.chances ?? []" :key="chance.says" class="chance" :class="{ busy }">
        <span>{{ chance.says }}</span>
        <span class="bar" aria-hidden="true"><span :style="{ width: percent(chance.share) }" /></span>
        <strong>{{ chance.share > 0.99 ? "over 99%" : percent(chance.share) }}</strong>
      </div>
      <p v-if="found?.chances.length"><RouterLink to="/play">Play it through in five minutes →</RouterLink></p>
      <p class="small soft">{{ busy ? "Being played …" : found?.chances.length ? "200 trials like this one, played just now." : "" }}</p>
      <template v-if="surer.length">
        <h3>The same plants tell more by</h3>
        <ul class="ways">
          <li v-for="way in surer" :key="way.says">
            <span>{{ way.says }}: {{ percent(way.share) }}</span
            ><el-button size="small" @click="emit('take', way)"
              >Take it<span class="visually-hidden">: {{ way.says }}</span></el-button
            >
          </li>
        </ul>
        <p v-if="surer.some((way) => way.unit !== 'plant')" class="small soft">
          What one leaf is given may reach the next: shield it, or choose leaves that are apart.
        </p>
      </template>
      <details v-if="found?.assumed" class="small">
        <summary>For the curious</summary>
        <p>{{ found.assumed }}</p>
      </details>
    </section>
    <section v-if="blocks" class="stack" aria-label="What it takes">
      <h2>What it takes</h2>
      <p>
        {{ plural(rounds, "round") }}<template v-if="takes?.bottle">, about {{ volume(litres) }} of each mix a time</template>: some
        {{ plural(minutes, "minute") }} of work a round, and mixing.<template v-if="takes?.bottle">
          One bottle of {{ volume(takes.bottle) }}<template v-if="takes.fills > 1">, filled {{ takes.fills }} times</template> holds one remedy's.</template
        >
      </p>
      <p v-if="takes && takes.cost !== null">
        {{ takes.currency }} {{ takes.cost.toFixed(2) }} of {{ rounds === 1 ? "mix" : "mixes in all"
        }}<template v-if="takes.unpriced.length">, without {{ listing(takes.unpriced) }} (no price)</template
        ><template v-if="takes.unread.length">, without {{ listing(takes.unread) }} (by its label)</template>.
      </p>
      <p v-else-if="takes?.bottle" class="small soft">
        What it costs is told once the Yard has a price for {{ takes.unpriced.length ? listing(takes.unpriced) : "it" }}.
      </p>
      <p>{{ plural(looks + 1, "count") }} of {{ counted }}, the one before the first spray included.</p>
      <p>A test on two or three leaves first, and two days' wait.</p>
    </section>
  </div>
</template>

<style scoped>
.glance {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 300px), 1fr));
  gap: var(--space-5);
  align-content: start;
}

.stack {
  gap: var(--space-2);
  align-content: start;
}

.ways {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}

.ways li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: var(--space-3);
  align-items: center;
}

.chance {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 var(--space-3);
  align-items: center;
}

.chance > span:first-child {
  grid-column: 1 / -1;
}

.busy {
  opacity: 0.55;
}

.bar {
  height: 12px;
  border-radius: var(--radius-m);
  background: var(--well);
}

.bar span {
  display: block;
  height: 100%;
  border-radius: inherit;
  background: var(--accent);
}
</style>
