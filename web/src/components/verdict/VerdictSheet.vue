<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { client, take, type RemedyVerdict, type Trial, type Verdict } from "../../api/client";
import { efficacyMarks, fewer, floorName, floorOf, percent, xOf } from "../../charts/efficacy";
import { tagColour, tagPath } from "../../charts/tag";
import { useAnswer } from "../../composables/useAnswer";
import { useWidth } from "../../composables/useWidth";
import CoverLeaf from "../counting/CoverLeaf.vue";
import PlantTag from "../PlantTag.vue";

/** A row for each remedy: what it removed, as its tag and band on the line from untreated to all gone, and its price. */
const props = defineProps<{ verdict: Verdict; trial: Trial }>();

const yard = useAnswer(() => take(client.GET("/api/yard")));
onMounted(yard.load);

const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 1080);
const NAMES = 200; // what stands left of the line, and each price right of it, in pixels
const PRICE = 100;
const stacked = computed(() => whole.value < 760);
const messy = computed(() => Object.keys(props.verdict.mess).length > 0);
const results = computed(() => props.verdict.verdict.remedies);
const helpersCounted = computed(() => results.value.some((r) => r.helpers !== null));
const prices = computed(() => 3 + Number(helpersCounted.value) + Number(messy.value));
const plot = computed(() => Math.max(stacked.value ? whole.value - 8 : whole.value - NAMES - PRICE * prices.value, 180));
const HEIGHT = 76;
const LINE = 30;
const EDGE = 14; // half a tag

const floor = computed(() => floorOf(results.value));
const x = (share: number): number => EDGE + xOf(share, plot.value - 2 * EDGE, floor.value);
const marks = computed(() => new Map(efficacyMarks(results.value, plot.value - 2 * EDGE, props.verdict.verdict.measure).map((mark) => [mark.name, mark])));
const LETTER = 6.2; // px, about what one of the scale takes
const ends = computed(() => {
  const [low, none] = [floorName(floor.value), props.trial.usual ? `as with ${props.trial.usual}` : "as if untreated"];
  const fits = !stacked.value && x(0) - x(floor.value) > LETTER * (low.length + none.length / 2 + 1);
  return [
    ...(fits ? [{ at: floor.value, text: low, anchor: "start" }] : []),
    { at: 0, text: none, anchor: "middle" },
    ...(stacked.value ? [] : [{ at: 0.5, text: "half gone", anchor: "middle" }]),
    { at: 1, text: "all gone", anchor: "end" },
  ];
});

const rows = computed(() =>
  results.value.map((result) => {
    const remedy = props.trial.remedies.find((r) => r.name === result.name);
    const work = props.trial.work.find((w) => w.remedy_id === remedy?.id);
    const costs = [...props.trial.batches.filter((b) => b.remedy_id === remedy?.id).map((b) => b.cost), work?.cost ?? null].filter((cost) => cost !== null);
    const treated = result.role === "remedy";
    return {
      result,
      remedy,
      treated,
      mark: marks.value.get(result.name),
      note: treated ? effect(result) : went(result),
      out: outOf(result),
      lost: losses(result),
      dots: props.verdict.dots[result.name] ?? [],
      leaf: HARMED[Math.min(Math.max(Math.round(result.damage_beyond_control ?? 0), 0), 5)] ?? 0,
      leaves: treated ? leaves(result) : "",
      money:
        (treated || props.trial.usual) && costs.length
          ? `${yard.data.value?.currency ?? ""} ${costs.reduce((sum, cost) => sum + cost, 0).toFixed(2)}`.trim()
          : "–",
      minutes: (treated || props.trial.usual) && work?.minutes ? `about ${Math.round(work.minutes)} min` : "–",
    };
  }),
);

/** How much of a leaf is drawn as harmed by each step of damage. */
const HARMED = [0, 12, 28, 48, 70, 92];

function effect(r: RemedyVerdict): string {
  if (r.efficacy === null) return r.kills ? "no plant left" : "no number";
  const uneven = r.missed.length ? `, missed ${r.missed.length} of ${r.plants}` : r.failed_on ? `, failed on ${r.failed_on} of ${r.plants}` : "";
  return fewer(r.efficacy, props.verdict.verdict.measure) + uneven;
}

/** What became of those left untreated. */
function went(r: RemedyVerdict): string {
  if (r.mean_before === null || r.mean_after === null || r.mean_before <= 0) return "held against it";
  const times = r.mean_after / r.mean_before;
  if (times > 1.1) return `grew to ${times.toFixed(1)} times`;
  return times < 0.9 ? `${percent(1 - times)} went${props.trial.usual ? "" : " by itself"}` : "stayed about the same";
}

function outOf(r: RemedyVerdict): string {
  if (r.kills) return "kills plants: out";
  if (r.vetoed) return "harms the plant: out";
  return r.worse_than_control ? `may be worse than ${props.trial.usual || "nothing"}` : "";
}

function leaves(r: RemedyVerdict): string {
  if (r.damage_beyond_control === null) return "not scored";
  return r.damage_beyond_control < 0.05 ? (props.trial.usual ? "no more" : "as untreated") : `+${r.damage_beyond_control.toFixed(1)} steps`;
}

/** How far the damage may go, and on how many plants it was scored. */
function leavesMore(r: RemedyVerdict): string {
  if (r.damage_beyond_control === null) return "";
  return `${r.damage_high === null ? "" : `at most ${Math.min(r.damage_high, 5).toFixed(1)}, `}${r.damage_plants} plants`;
}

/** Only what was recorded as lost is; of others it is said that nobody counted them. */
function losses(r: RemedyVerdict): string {
  const uncounted = r.lost - r.died;
  return [r.died ? `lost ${r.died} of ${r.plants + r.lost} plants` : "", uncounted ? `${uncounted} not counted` : ""].filter(Boolean).join(", ");
}

function helpers(r: RemedyVerdict): string {
  return r.helpers === null ? "–" : r.helpers.toFixed(1);
}
</script>

<template>
  <div ref="frame" class="wide" :class="{ stacked }" :style="{ '--names': `${NAMES}px`, '--price': `${PRICE}px` }">
    <table aria-label="What each removed, and its price">
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">Remedy</span></th>
          <th scope="col" class="line">
            <span class="visually-hidden">Removed</span>
            <svg :width="plot" height="42" aria-hidden="true">
              <text class="scale strong" :x="x(verdict.verdict.threshold)" y="14" text-anchor="middle">
                worth it from {{ percent(verdict.verdict.threshold) }}
              </text>
              <text v-for="end in ends" :key="end.at" class="scale" :x="x(end.at)" y="36" :text-anchor="end.anchor">{{ end.text }}</text>
            </svg>
          </th>
          <th scope="col" class="price">Leaves</th>
          <th v-if="helpersCounted" scope="col" class="price">Helpers</th>
          <th scope="col" class="price">Cost</th>
          <th scope="col" class="price">Work</th>
          <th v-if="messy" scope="col" class="price">In use</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.result.name" :class="{ out: row.out, best: verdict.verdict.recommended === row.result.name }">
          <th scope="row" class="who">
            <div>
              <PlantTag :letter="row.remedy?.letter ?? null" :notches="row.remedy?.notches ?? null" :height="46" />
              <span
                ><strong>{{ row.result.name }}</strong
                ><span>{{ row.note }}</span
                ><span v-if="row.out" class="harm">{{ row.out }}</span
                ><span v-if="row.lost" class="harm">{{ row.lost }}</span></span
              >
            </div>
          </th>
          <td class="line">
            <svg
              :width="plot"
              :height="HEIGHT"
              role="img"
              :aria-label="row.mark?.text ?? (row.treated ? 'no number could be given' : 'what the others are held against')">
              <rect class="worth" :x="x(verdict.verdict.threshold)" y="0" :width="Math.max(x(1) - x(verdict.verdict.threshold), 0)" :height="HEIGHT" />
              <line class="edge" :x1="x(verdict.verdict.threshold)" :x2="x(verdict.verdict.threshold)" y1="0" :y2="HEIGHT" />
              <line class="nothing" :x1="x(0)" :x2="x(0)" y1="0" :y2="HEIGHT" />
              <line class="rail" :x1="x(floor)" :x2="x(1)" :y1="LINE" :y2="LINE" />
              <template v-if="row.mark">
                <rect
                  class="band"
                  :x="EDGE + row.mark.from"
                  :y="LINE - 11"
                  :width="Math.max(row.mark.to - row.mark.from, 2)"
                  height="22"
                  rx="11"
                  :fill="tagColour(row.remedy?.notches)" />
                <path v-if="row.mark.beyondLeft" class="arrow" :d="`M${EDGE + 8} ${LINE - 7}l-8 7l8 7`" />
                <g :transform="`translate(${EDGE + row.mark.at - 10} ${LINE - 19})`">
                  <path class="tag" :d="tagPath(22, 38, row.remedy?.notches ?? 0)" :fill="tagColour(row.remedy?.notches)" />
                  <text class="letter" x="8" y="20" text-anchor="middle">{{ row.remedy?.letter }}</text>
                </g>
              </template>
              <circle v-for="(dot, k) in row.dots" :key="k" class="plant" :cx="x(Math.max(dot, floor))" :cy="HEIGHT - 12 + (k % 2 ? 3 : -3)" r="4.5" />
            </svg>
          </td>
          <td class="price" data-name="Leaves">
            <template v-if="row.treated"
              ><CoverLeaf v-if="row.result.damage_beyond_control !== null" class="leaf" :percent="row.leaf" as="harm" /><span
                :class="{ harm: row.result.vetoed && !row.result.kills }"
                >{{ row.leaves }}</span
              ><span class="small soft">{{ leavesMore(row.result) }}</span></template
            >
            <template v-else>–</template>
          </td>
          <td v-if="helpersCounted" class="price" data-name="Helpers">{{ helpers(row.result) }}</td>
          <td class="price" data-name="Cost">{{ row.money }}</td>
          <td class="price" data-name="Work">{{ row.minutes }}</td>
          <td v-if="messy" class="price" data-name="In use">{{ row.treated ? (verdict.mess[row.result.name] ?? "not said") : "–" }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="!marks.size">No remedy could be put on the line; the warnings below say why.</p>
    <p class="small soft">
      The tag is the best guess, and its band holds the truth in 95 of 100 such trials. A dot is a plant, held against {{ trial.usual || "the untreated" }} of
      its own block. Leaves: steps of damage (0 to 5) beyond {{ trial.usual ? "those there" : "the untreated" }}; a whole one strikes a remedy out.
      <template v-if="helpersCounted">Helpers: seen on a plant. </template>Work is usual for its way of giving.
    </p>
  </div>
</template>

<style scoped>
.wide {
  position: relative;
  min-width: 0;
  overflow: hidden;
}

table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}

th,
td {
  padding: 0;
  border: 0;
  text-align: left;
  vertical-align: middle;
}

thead th {
  font-size: var(--text-s);
  font-weight: 500;
  vertical-align: bottom;
}

tbody tr {
  border-top: 1px solid var(--hair);
}

thead th:first-child {
  width: var(--names);
}

thead th.price {
  width: var(--price);
}

.who {
  font-weight: 450;
}

.who > div {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  padding: var(--space-1) 0;
}

.who > div > span {
  display: grid;
  line-height: 1.25;
}

.who strong {
  overflow-wrap: anywhere;
}

.best .who {
  box-shadow: inset 5px 0 0 var(--trap);
  padding-left: var(--space-3);
}

.price {
  padding-left: var(--space-3);
  font-size: var(--text-s);
}

.price > span {
  display: block;
}

.leaf {
  width: 52px;
}

.harm {
  color: var(--bad);
  font-weight: 700;
}

svg {
  display: block;
  font-family: var(--font);
}

.worth {
  fill: var(--trap-wash);
  opacity: 0.6;
}

.edge {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}

.nothing {
  stroke: var(--line);
  stroke-width: 2;
}

.rail {
  stroke: var(--line);
}

.band {
  opacity: 0.32;
}

.arrow {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}

.tag {
  stroke: var(--sheet);
  stroke-width: 1.5;
}

.out .tag {
  opacity: 0.6;
}

.letter {
  fill: var(--sheet);
  font-size: 15px;
  font-weight: 750;
}

.plant {
  fill: var(--leaf);
  stroke: var(--outline);
}

.scale {
  fill: var(--ink-soft);
  font-size: 14px;
}

.strong {
  fill: var(--ink);
  font-weight: 700;
}

.stacked thead th.price,
.stacked thead th:first-child {
  position: absolute;
  left: 0;
  clip-path: inset(50%);
}

.stacked table,
.stacked thead,
.stacked tbody {
  display: block;
}

.stacked tbody tr {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-4);
  padding: var(--space-3) 0;
}

.stacked .who,
.stacked .line {
  flex: 1 0 100%;
}

.stacked .price {
  padding: 0;
}

.stacked td.price::before {
  content: attr(data-name);
  display: block;
  color: var(--ink-soft);
}

.visually-hidden {
  position: absolute;
  clip-path: inset(50%);
}
</style>
