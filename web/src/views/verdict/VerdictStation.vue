<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { asFault, client, take, type Fault, type Verdict } from "../../api/client";
import { formName, once } from "../../api/once";
import ArithmeticTable from "../../components/verdict/ArithmeticTable.vue";
import BeforePanel from "../../components/verdict/BeforePanel.vue";
import MindPanel from "../../components/verdict/MindPanel.vue";
import GoOnPanel from "../../components/verdict/GoOnPanel.vue";
import RestPanel from "../../components/verdict/RestPanel.vue";
import FaultNote from "../../components/FaultNote.vue";
import BenchMap from "../../components/BenchMap.vue";
import BesideTable from "../../components/verdict/BesideTable.vue";
import DoubtPanel from "../../components/verdict/DoubtPanel.vue";
import SeenTable from "../../components/verdict/SeenTable.vue";
import VerdictSheet from "../../components/verdict/VerdictSheet.vue";
import SlopesPicture from "../../components/verdict/SlopesPicture.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { dayName, momentName } from "../../words";
import TermText from "../../components/TermText.vue";
import { inUnits } from "../../units";

const { trial } = useTrial();
const router = useRouter();
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
    // A final verdict that is read for the first time goes on record.
    if (!found.final || found.record) return;
    const kept = await take(
      client.POST("/api/trials/{trial_id}/verdict/record", {
        params: { path: { trial_id: trial.value?.id ?? 0 }, query: { look: look.value } },
      }),
    );
    if (mine === newest) verdict.value = kept;
  } catch (thrown) {
    if (mine === newest) fault.value = asFault(thrown);
  }
}
const course = useAnswer(() => take(client.GET("/api/trials/{trial_id}/course", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
onMounted(() => Promise.all([load(), course.load()]));
watch(look, load);

/** One page for a neighbour (sentence, picture, price), or the whole record. */
const paper = ref<"brief" | "whole" | null>(null);
async function print(kind: "brief" | "whole"): Promise<void> {
  paper.value = kind;
  await nextTick();
  window.print();
  paper.value = null;
}

/** The same plan on the same places, from today. */
const wish = formName();
async function again(): Promise<void> {
  try {
    const made = await take(
      client.POST("/api/trials/{trial_id}/copy", { params: { path: { trial_id: trial.value?.id ?? 0 }, header: once(wish, trial.value?.id) } }),
    );
    await router.push(`/trial/${made.id}/question`);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

const judged = computed(() => verdict.value?.verdict ?? null);
const looks = computed(() => (trial.value?.looks ?? []).filter((l) => l.number && l.counted));
const order = computed(() => judged.value?.remedies.map((r) => r.name) ?? []);
const outcomes = {
  winner: "Settled",
  tie: "More than one works",
  none_beats_control: "None works well enough",
  undecided: "Not settled",
  ranked_without_control: "Ranked only",
} as const;
</script>

<template>
  <div v-if="trial" class="stack broad" :class="paper">
    <section v-if="fault?.code === 'nothing_counted'" class="sheet stack">
      <h2>No verdict yet</h2>
      <p>{{ fault.fix }}</p>
      <RouterLink :to="`/trial/${trial.id}/rounds`">Go to rounds and looks</RouterLink>
    </section>
    <FaultNote v-else :fault="fault" />

    <template v-if="verdict && judged">
      <section class="sheet says across" :class="judged.outcome">
        <div class="row between">
          <span class="outcome">{{
            verdict.final ? outcomes[judged.outcome] : verdict.early && !trial.sealed ? "Not settled: counted before its day" : "So far"
          }}</span>
          <span v-if="looks.length > 1" class="row small no-print">
            Judged at
            <el-select v-model="look" :placeholder="looks.find((l) => l.number === verdict?.look_number)?.when" style="width: 9rem" aria-label="Judged at">
              <el-option v-for="l in looks" :key="l.number" :value="l.number" :label="l.when" />
            </el-select>
            <template v-if="verdict.judged_on.endsWith('together')">{{ verdict.judged_on }}</template>
          </span>
        </div>
        <p class="sentence"><TermText :text="judged.sentence" /></p>
        <p v-if="verdict.record && verdict.differs.length" class="differs">
          On {{ dayName(verdict.record.made_at.slice(0, 10)) }} it was put on record as: “{{ verdict.record.sentence }}” It reads otherwise now.
          {{ verdict.differs.join(" ") }}
        </p>
        <p v-else-if="verdict.record" class="small soft">On record since {{ dayName(verdict.record.made_at.slice(0, 10)) }}.</p>
        <VerdictSheet v-if="!trial.sealed && judged.remedies.length" :verdict="verdict" :trial="trial" class="rows" />
        <p v-for="line in verdict.answers" :key="line" class="answer"><TermText :text="inUnits(line)" /></p>
        <p class="advice">
          <template v-if="verdict.early && !trial.sealed"
            >These numbers were counted before the day of this look. Count again on its day; until then nothing is settled.</template
          >
          <TermText v-else :text="inUnits(judged.advice)" />
        </p>
        <p v-if="judged.if_today" class="bet">{{ judged.if_today }} <span class="soft small">It is a bet, and no result of the trial.</span></p>
      </section>

      <section v-if="trial.sealed && verdict.notes.length" class="sheet stack">
        <h2>What happened until now</h2>
        <ul class="warnings">
          <li v-for="note in verdict.notes" :key="note">{{ inUnits(note) }}</li>
        </ul>
      </section>
    </template>

    <template v-if="verdict && judged && !trial.sealed">
      <MindPanel v-if="!judged.so_far && trial.setup.kind !== 'ladder'" :trial-id="trial.id" :look="verdict.look_number" />
      <BeforePanel v-if="!judged.so_far" :trial-id="trial.id" :pest="trial.pest" :look="verdict.look_number" />
      <GoOnPanel :trial="trial" />
      <RestPanel v-if="verdict.record" :trial="trial" />
      <p v-if="verdict.record" class="no-print">
        <RouterLink :to="`/known/${encodeURIComponent(trial.pest)}`">What all your trials of this pest say by now →</RouterLink>
      </p>

      <section v-if="judged.beside.length" class="sheet stack">
        <h2>Counted beside it</h2>
        <BesideTable :beside="judged.beside" :so-far="judged.so_far" />
      </section>

      <section v-if="verdict.seen.length" class="sheet stack">
        <h2>What else was seen</h2>
        <SeenTable :seen="verdict.seen" />
        <p class="small soft">As noted at this look, on the plants somebody looked at for it. It is told, not judged: few plants part few remedies.</p>
      </section>

      <div class="row no-print">
        <el-button @click="print('brief')">Print a page for a neighbour</el-button>
        <el-button @click="print('whole')">Print the whole record</el-button>
        <el-button v-if="verdict.final" @click="again">Plan it again for another season</el-button>
      </div>

      <section v-if="judged.warnings.length || verdict.notes.length" class="sheet stack record">
        <h2>Read it with these in mind</h2>
        <ul class="warnings">
          <li v-for="note in verdict.notes" :key="note"><TermText :text="inUnits(note)" /></li>
          <li v-for="warning in judged.warnings" :key="warning.code + warning.text"><TermText :text="inUnits(warning.text)" /></li>
        </ul>
      </section>

      <details class="sheet stack record across" :open="paper === 'whole' || undefined">
        <summary><h2>Every plant, before and after</h2></summary>
        <template v-if="course.data.value">
          <SlopesPicture
            :trial="trial"
            :course="course.data.value"
            :look-number="verdict.look_number"
            :order="order"
            :missed="judged.remedies.flatMap((r) => r.missed)" />
          <BenchMap :trial="trial" figure="course" :course="course.data.value" still />
        </template>
      </details>

      <details class="sheet stack record" :open="paper === 'whole' || undefined">
        <summary><h2>Step by step</h2></summary>
        <ol class="steps">
          <li v-for="step in judged.reasons" :key="step">{{ step }}</li>
        </ol>
      </details>

      <details class="sheet stack record" :open="paper === 'whole' || undefined">
        <summary><h2>Would the answer change?</h2></summary>
        <DoubtPanel :trial-id="trial.id" :look="look" />
      </details>

      <section class="sheet stack record">
        <details :open="paper === 'whole' || undefined">
          <summary><h2>The arithmetic</h2></summary>
          <ArithmeticTable :verdict="verdict" />
          <p v-if="verdict.record" class="small soft">
            Put on record {{ momentName(verdict.record.made_at) }} by version {{ verdict.record.version }}; seed of the draws {{ verdict.record.seed }}.
          </p>
        </details>
        <div class="no-print row">
          <a :href="`/api/trials/${trial.id}/table.csv`" download>All counts as a table (CSV)</a
          ><a
            v-for="kind in ['brief', 'whole'] as const"
            :key="kind"
            :href="`/api/trials/${trial.id}/verdict.pdf?kind=${kind}&look=${verdict.look_number}`"
            target="_blank"
            rel="noopener"
            >{{ kind === "brief" ? "One page (PDF)" : "The whole record (PDF)" }}</a
          ><a :href="`/api/trials/${trial.id}/bundle.zip`" download>Counts, notes and photos in one file (ZIP)</a
          ><a :href="`/api/trials/${trial.id}/bundle.zip?without_names=true`" download>To share: without names, notes and photos (ZIP)</a>
        </div>
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
  max-width: 60ch;
  text-wrap: pretty;
}

.answer {
  font-weight: 650;
}

.steps {
  padding-left: 1.4em;
  display: grid;
  gap: var(--space-1);
  max-width: var(--measure);
}

summary {
  cursor: pointer;
}

summary h2 {
  display: inline;
}

.differs {
  border-left: 4px solid var(--bad);
  padding-left: var(--space-3);
  max-width: var(--measure);
}

@media print {
  .brief .record {
    display: none;
  }

  .sheet {
    break-inside: avoid;
    box-shadow: none;
  }
}

.warnings {
  list-style: disc;
  padding-left: 1.2em;
  display: grid;
  gap: var(--space-1);
  max-width: var(--measure);
}
</style>
