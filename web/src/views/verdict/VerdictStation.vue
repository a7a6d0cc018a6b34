<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { asFault, client, take, type Fault, type Verdict } from "../../api/client";
import EfficacyPicture from "../../components/verdict/EfficacyPicture.vue";
import FaultNote from "../../components/FaultNote.vue";
import PlantTag from "../../components/PlantTag.vue";
import SlopesPicture from "../../components/verdict/SlopesPicture.vue";
import { percent } from "../../charts/efficacy";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";

const { trial } = useTrial();
const verdict = ref<Verdict | null>(null);
const fault = ref<Fault | null>(null);
const look = ref<number | null>(null);
let newest = 0;

async function load(): Promise<void> {
  const mine = ++newest;
  try {
    const found = await take(
      client.GET("/api/trials/{trial_id}/verdict", {
        params: { path: { trial_id: trial.value?.id ?? 0 }, query: { look: look.value } },
      }),
    );
    if (mine !== newest) return;
    verdict.value = found;
    fault.value = null;
  } catch (thrown) {
    if (mine === newest) fault.value = asFault(thrown);
  }
}
const course = useAnswer(() => take(client.GET("/api/trials/{trial_id}/course", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
onMounted(() => Promise.all([load(), course.load()]));
watch(look, load);

const judged = computed(() => verdict.value?.verdict ?? null);
const looks = computed(() => (trial.value?.looks ?? []).filter((l) => l.number && l.counted));
const order = computed(() => judged.value?.remedies.map((r) => r.name) ?? []);
const price = computed(() => judged.value?.remedies.filter((r) => r.role === "remedy") ?? []);
const outcomes = {
  winner: "Settled",
  tie: "More than one works",
  none_beats_control: "None works well enough",
  undecided: "Not settled",
  ranked_without_control: "Ranked only",
} as const;
const formulas = {
  abbott: "Abbott",
  henderson_tilton: "Henderson–Tilton",
  schneider_orelli: "Schneider-Orelli",
  sun_shepard: "Sun–Shepard",
} as const;

function remedyNamed(name: string): { letter: string | null; notches: number | null } {
  return trial.value?.remedies.find((r) => r.name === name) ?? { letter: null, notches: null };
}

function number(value: number | null | undefined, digits = 1): string {
  return value === null || value === undefined ? "–" : value.toFixed(digits).replace("-", "−");
}

function chance(value: number | null | undefined): string {
  if (value === null || value === undefined) return "–";
  if (value > 0.99) return "over 99%";
  return value < 0.01 ? "under 1%" : percent(value);
}

function pValue(value: number | null): string {
  if (value === null) return "–";
  return value < 0.001 ? "under 0.001" : value.toFixed(3);
}

function damage(value: number | null): string {
  if (value === null) return "not scored";
  if (value < 0.05) return "none beyond the control";
  return `+${value.toFixed(1)} steps`;
}
</script>

<template>
  <div v-if="trial" class="stack">
    <section v-if="fault?.code === 'nothing_counted'" class="sheet stack">
      <h2>No verdict yet</h2>
      <p>{{ fault.fix }}</p>
      <RouterLink :to="`/trial/${trial.id}/rounds`">Go to rounds and looks</RouterLink>
    </section>
    <FaultNote v-else :fault="fault" />

    <template v-if="verdict && judged">
      <section class="sheet says" :class="judged.outcome">
        <div class="row between">
          <span class="outcome">{{ verdict.final ? outcomes[judged.outcome] : verdict.early ? "Not settled: counted before its day" : `Not settled yet, so far: ${outcomes[judged.outcome].toLowerCase()}` }}</span>
          <label v-if="looks.length > 1" class="row small no-print">
            Judged at
            <el-select v-model="look" :placeholder="`day ${looks.find((l) => l.number === verdict?.look_number)?.day}`" style="width: 9rem" aria-label="Judged at">
              <el-option v-for="l in looks" :key="l.number" :value="l.number" :label="`day ${l.day}`" />
            </el-select>
          </label>
        </div>
        <p class="sentence">{{ judged.sentence }}</p>
        <p v-for="line in verdict.answers" :key="line" class="answer">{{ line }}</p>
        <p class="advice">
          <template v-if="verdict.final">{{ judged.advice }}</template>
          <template v-else-if="verdict.early">These numbers were counted before the day of this look. Count again on its day; until then nothing is settled.</template>
          <template v-else>Looks are still to come: knock-down is not control, and burnt leaves show late. Do not stop now.</template>
        </p>
      </section>

      <section class="sheet split">
        <div class="stack">
          <h2>How much each removed</h2>
          <EfficacyPicture :verdict="verdict" :remedies="trial.remedies" />
        </div>
        <div class="stack">
          <h2>What it cost the leaves</h2>
          <ul class="price">
            <li v-for="r in price" :key="r.name">
              <PlantTag :letter="remedyNamed(r.name).letter" :notches="remedyNamed(r.name).notches" :height="34" />
              <span>
                <strong>{{ r.name }}</strong>
                <span :class="{ harm: r.vetoed }">{{ damage(r.damage_beyond_control) }}<template v-if="r.vetoed">: cannot win</template></span>
              </span>
            </li>
          </ul>
          <p class="small soft">Rise of the leaf damage score (0 to 5) beyond the control's. One step or more strikes a remedy out.</p>
        </div>
      </section>

      <section v-if="judged.warnings.length || verdict.notes.length" class="sheet stack">
        <h2>Read it with these in mind</h2>
        <ul class="warnings">
          <li v-for="note in verdict.notes" :key="note">{{ note }}</li>
          <li v-for="warning in judged.warnings" :key="warning.code + warning.text">{{ warning.text }}</li>
        </ul>
      </section>

      <section class="sheet stack">
        <h2>Every plant, before and after</h2>
        <p v-if="trial.sealed" class="soft">The key of the tags is sealed, so that whoever counts does not know which plant got what. Plant by plant it is shown once the key is open, or after the last look.</p>
        <SlopesPicture v-else-if="course.data.value" :trial="trial" :course="course.data.value" :look-number="verdict.look_number" :order="order" />
      </section>

      <section class="sheet stack">
        <h2>The arithmetic</h2>
        <div class="scroll" tabindex="0" role="region" aria-label="The arithmetic">
          <table>
            <thead>
              <tr>
                <th scope="col">Remedy</th><th scope="col">Plants</th><th scope="col">Before</th><th scope="col">After</th>
                <th scope="col">Removed (95% interval)</th><th scope="col">p, all remedies together</th>
                <th scope="col">Chance it is best</th><th scope="col">Chance it is worth it</th>
                <th v-for="(label, key) in formulas" :key="key" scope="col">{{ label }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="r in judged.remedies" :key="r.name">
                <th scope="row">{{ r.name }}</th>
                <td>{{ r.plants }}</td><td>{{ number(r.mean_before) }}</td><td>{{ number(r.mean_after) }}</td>
                <td>
                  <template v-if="r.efficacy !== null">{{ percent(r.efficacy) }}<template v-if="r.efficacy_low !== null && r.efficacy_high !== null"> ({{ percent(r.efficacy_low) }} to {{ percent(r.efficacy_high) }})</template></template>
                  <template v-else>–</template>
                </td>
                <td>{{ pValue(r.p_adjusted) }}</td>
                <td>{{ chance(r.prob_best) }}</td><td>{{ chance(r.prob_worth_it) }}</td>
                <td v-for="(_, key) in formulas" :key="key" :title="r.classic_notes[key]">
                  {{ r.classic[key] === null || r.classic[key] === undefined ? "–" : percent(r.classic[key] ?? 0) }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <p class="small soft">
          Analysis of covariance on log(count + ½), adjusted for the count before and for blocks;
          each remedy against the control by Dunnett's method ({{ judged.method["df"] }} degrees of freedom,
          seed {{ judged.method["seed"] }}). The last four columns are the classical formulas on plain
          means, as a cross-check; a dash has its reason behind it:
          {{ [...new Set(judged.remedies.filter((r) => r.role === "remedy").flatMap((r) => Object.values(r.classic_notes)))].join("; ") || "none here" }}.
        </p>
        <div class="no-print"><a :href="`/api/trials/${trial.id}/table.csv`" download>All counts as a table (CSV)</a></div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.between {
  justify-content: space-between;
}

.says {
  border-top: 8px solid var(--line);
  display: grid;
  gap: var(--space-3);
}

.says.winner,
.says.tie {
  border-top-color: var(--trap);
}

.outcome {
  font-weight: 700;
}

.sentence {
  font-size: clamp(1.25rem, 2.4vw, 1.75rem);
  font-weight: 700;
  line-height: 1.25;
  max-width: 44ch;
  text-wrap: pretty;
}

.answer {
  font-weight: 650;
}

.split {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(220px, 1fr);
  gap: var(--space-6);
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

.price {
  display: grid;
  gap: var(--space-3);
}

.price li {
  display: flex;
  gap: var(--space-3);
  align-items: center;
}

.price li > span {
  display: grid;
}

.harm {
  color: var(--bad);
  font-weight: 700;
}

.warnings {
  list-style: disc;
  padding-left: 1.2em;
  display: grid;
  gap: var(--space-1);
  max-width: var(--measure);
}

.scroll {
  overflow-x: auto;
}

table {
  border-collapse: collapse;
  min-width: 100%;
  font-size: var(--text-s);
}

th,
td {
  padding: var(--space-2);
  text-align: right;
  border-top: 1px solid var(--hair);
  white-space: nowrap;
}

thead th {
  white-space: normal;
  vertical-align: bottom;
  border-top: 0;
  font-weight: 600;
}

th:first-child {
  text-align: left;
}

@media (width < 760px) {
  .answer {
  font-weight: 650;
}

.split {
    grid-template-columns: 1fr;
  }
}
</style>
