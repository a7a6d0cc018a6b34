<script setup lang="ts">
import { computed, onMounted, ref, toRef, watch } from "vue";
import { useRouter } from "vue-router";
import { asFault, client, Fault, take, type Schemas } from "../api/client";
import { formName, once } from "../api/once";
import FaultNote from "../components/FaultNote.vue";
import FieldRow from "../components/FieldRow.vue";
import PestPicker from "../components/PestPicker.vue";
import SignList from "../components/SignList.vue";
import { useDraft } from "../composables/useDraft";
import { useKnowledge } from "../composables/useKnowledge";
import { percent } from "../charts/efficacy";
import { readNumber } from "../words";

const router = useRouter();
const { knowledge, fault: lost } = useKnowledge();
// What was ticked and typed outlives a reload, until it is kept or cleared.
const [state] = useDraft("find-out", { seen: [] as string[], pest: "", place: "", looked: "10", affected: "", helpers: "0", vigorous: true, wilting: false });
const seen = computed(() => new Set(state.seen));
const candidates = ref<Schemas["CandidateOut"][]>([]);
const pest = toRef(state, "pest");
const form = state;
let form_ = formName();
const decision = ref<Schemas["AdviceOut"] | null>(null);
const kept = ref<Schemas["InspectionOut"][]>([]);
const fault = ref<Fault | null>(null);
const saved = ref(false);

const chosen = computed(() => knowledge.value?.pests.find((p) => p.key === pest.value) ?? null);
const actions = {
  watch: "Leave it and watch",
  clean_first: "Wash off, pick or prune first",
  trial: "Worth a trial",
  too_far: "Too far gone",
} as const;

let newest = 0;
async function rank(): Promise<void> {
  const mine = ++newest;
  if (!seen.value.size) {
    candidates.value = [];
    return;
  }
  try {
    const found = await take(client.GET("/api/signs/candidates", { params: { query: { signs: [...seen.value] } } }));
    if (mine === newest) candidates.value = found;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

function toggle(key: string): void {
  state.seen = seen.value.has(key) ? state.seen.filter((s) => s !== key) : [...state.seen, key];
  void rank();
}

async function loadKept(): Promise<void> {
  try {
    kept.value = await take(client.GET("/api/inspections"));
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
onMounted(() => Promise.all([loadKept(), rank()]));

function startAfresh(): void {
  Object.assign(state, { seen: [], pest: "", place: "", looked: "10", affected: "", helpers: "0", vigorous: true, wilting: false });
  form_ = formName();
  void rank();
}

function body(): Schemas["SightingIn"] | null {
  const numbers: Record<string, number> = {};
  for (const field of ["looked", "affected", "helpers"] as const) {
    const value = readNumber(form[field]);
    if (value === undefined || !Number.isInteger(value)) {
      fault.value = new Fault("bad_input", `“${form[field]}” is not a whole number`, field, "Give a number such as 3.", 422);
      return null;
    }
    numbers[field] = value;
  }
  return {
    pest: pest.value,
    place: form.place,
    signs: [...seen.value],
    looked: numbers["looked"] ?? 0,
    affected: numbers["affected"] ?? 0,
    helpers: numbers["helpers"] ?? 0,
    vigorous: form.vigorous,
    wilting: form.wilting,
  };
}

async function decide(): Promise<void> {
  const asked = body();
  if (!asked) return;
  try {
    decision.value = await take(client.POST("/api/queries/advice", { body: asked }));
    fault.value = null;
    saved.value = false;
  } catch (thrown) {
    fault.value = asFault(thrown);
    decision.value = null;
  }
}

async function keep(): Promise<void> {
  const asked = body();
  if (!asked) return;
  try {
    await take(client.POST("/api/inspections", { body: asked, params: { header: once(form_, asked) } }));
    form_ = formName();
    saved.value = true;
    await loadKept();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

watch([pest, () => ({ ...form, seen: 0 })], () => {
  decision.value = null;
});

function pestName(key: string): string {
  return knowledge.value?.pests.find((p) => p.key === key)?.name ?? key;
}

function startTrial(): void {
  void router.push({ path: "/new", query: { pest: pest.value } });
}
</script>

<template>
  <div class="stack">
    <div>
      <h1>What is it, and must I act?</h1>
      <p class="soft">Tick what you see, check the tell-tale, count ten leaves or plants. Small harm on a healthy plant is left alone.</p>
    </div>
    <FaultNote :fault="lost" />
    <template v-if="knowledge">
      <div class="two">
        <section class="sheet stack" aria-labelledby="seen">
          <div class="row between"><h2 id="seen">What do you see?</h2><el-button v-if="seen.size || pest" @click="startAfresh">Start afresh</el-button></div>
          <SignList :signs="knowledge.signs" :seen="seen" @toggle="toggle" />
        </section>
        <section class="sheet stack" aria-labelledby="maybe">
          <h2 id="maybe">It may be</h2>
          <p v-if="!candidates.length" class="soft">Tick a sign, or choose one you know already.</p>
          <ol class="maybe">
            <li v-for="c in candidates.slice(0, 6)" :key="c.key">
              <button type="button" class="tile" :aria-pressed="pest === c.key" @click="pest = c.key">
                <strong>{{ pestName(c.key) }}</strong>
                <span class="bar" aria-hidden="true"><span :style="{ width: percent(c.fit) }" /></span>
                <span class="small">To be sure: {{ knowledge.pests.find((p) => p.key === c.key)?.tell_tale }}</span>
                <span v-if="c.unexplained.length" class="small soft">Does not explain: {{ c.unexplained.map((k) => knowledge?.signs.find((s) => s.key === k)?.text.toLowerCase()).join("; ") }}.</span>
              </button>
            </li>
          </ol>
          <PestPicker v-model="pest" :pests="knowledge.pests" placeholder="Or choose one you know" />
          <dl v-if="chosen" class="card">
            <dt>Tell-tale</dt><dd>{{ chosen.tell_tale }}</dd>
            <dt>Not to be confused</dt><dd>{{ chosen.look_alikes.join(". ") }}.</dd>
            <dt>Where to look</dt><dd>{{ chosen.where }}</dd>
            <dt>What counts as one</dt><dd>{{ chosen.count_what }} Stages: {{ chosen.stages.join(", ") }}.</dd>
            <dt>Dead or alive</dt><dd>{{ chosen.dead_or_alive }}</dd>
            <dt v-if="chosen.helpers.length">Helpers, to be spared</dt><dd v-if="chosen.helpers.length">{{ chosen.helpers.join(", ") }}</dd>
            <template v-if="Object.keys(chosen.cannot_work).length">
              <dt>Cannot work on it</dt><dd><span v-for="(why, key) in chosen.cannot_work" :key="key" class="why"><strong>{{ String(key).replace(/_/g, " ") }}:</strong> {{ why }} </span></dd>
            </template>
            <dt>How much is borne</dt><dd>{{ chosen.tolerance }} (typical: up to {{ percent(chosen.tolerance_share) }})</dd>
            <dt>First aid</dt><dd>{{ chosen.first_aid }}</dd>
          </dl>
        </section>
      </div>

      <form v-if="pest" class="sheet stack" novalidate @submit.prevent="decide">
        <h2>How bad is it?</h2>
        <div class="numbers">
          <FieldRow v-slot="{ id, described }" label="Looked at" help="Leaves or plants, as they come." :fault="fault?.field === 'looked' ? fault : null"><el-input :id="id" v-model="form.looked" inputmode="numeric" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id, described }" label="Of these affected" :fault="fault?.field === 'affected' ? fault : null"><el-input :id="id" v-model="form.affected" inputmode="numeric" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id, described }" label="Helpers seen" :fault="fault?.field === 'helpers' ? fault : null"><el-input :id="id" v-model="form.helpers" inputmode="numeric" :aria-describedby="described" /></FieldRow>
          <FieldRow v-slot="{ id, described }" label="Where" help="So that the next look there shows the trend."><el-input :id="id" v-model="form.place" maxlength="80" :aria-describedby="described" /></FieldRow>
        </div>
        <div class="row">
          <el-checkbox v-model="form.vigorous">The plant grows well</el-checkbox>
          <el-checkbox v-model="form.wilting">Most of it is dying back</el-checkbox>
        </div>
        <FaultNote :fault="fault && !['looked', 'affected', 'helpers'].includes(fault.field ?? '') ? fault : null" />
        <div><el-button type="primary" size="large" native-type="submit">What to do?</el-button></div>
        <div v-if="decision" class="decision" :class="decision.action" role="status">
          <p class="action">{{ actions[decision.action] }}</p>
          <p>{{ decision.reason }}</p>
          <p v-if="decision.action === 'clean_first'" class="soft">{{ chosen?.first_aid }} Do it to every plant alike, before any count, and bin what you take off so that nothing hatches.</p>
          <div class="row">
            <el-button v-if="!saved" @click="keep">Keep this look</el-button>
            <span v-else>Kept.</span>
            <el-button v-if="decision.action !== 'too_far'" :type="decision.action === 'trial' ? 'primary' : 'default'" @click="startTrial">Plan a trial →</el-button>
          </div>
        </div>
      </form>

      <section v-if="kept.length" class="sheet stack" aria-labelledby="kept">
        <h2 id="kept">Looks so far</h2>
        <ul class="kept">
          <li v-for="look in kept.slice(0, 12)" :key="look.id">
            <span class="small soft">{{ new Date(look.seen_at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" }) }}</span>
            <strong>{{ pestName(look.pest) }}</strong>
            <span>{{ look.place || "no place given" }}</span>
            <span>{{ look.affected }} of {{ look.looked }}</span>
            <span>{{ actions[look.action] }}</span>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(280px, 2fr);
  gap: var(--space-4);
  align-items: start;
}

.between {
  justify-content: space-between;
}

.maybe button {
  display: grid;
  width: 100%;
}

.maybe {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}

.bar {
  height: 8px;
  background: var(--well);
}

.bar span {
  display: block;
  height: 100%;
  background: var(--accent);
}

.card {
  display: grid;
  grid-template-columns: 8rem 1fr;
  gap: var(--space-2) var(--space-3);
  margin: 0;
  font-size: var(--text-s);
}

dt {
  font-weight: 700;
}

dd {
  margin: 0;
}

.numbers {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: var(--space-4);
}

.decision {
  display: grid;
  gap: var(--space-3);
  padding: var(--space-4);
  border-left: 8px solid var(--line);
  background: var(--paper);
}

.decision.trial {
  border-left-color: var(--trap);
}

.action {
  font-size: var(--text-l);
  font-weight: 750;
}

.kept {
  margin: 0;
  padding: 0;
  list-style: none;
}

.kept li {
  display: grid;
  grid-template-columns: 7rem 1.2fr 1fr 6rem 1.2fr;
  gap: var(--space-3);
  padding: var(--space-2) 0;
  border-top: 1px solid var(--hair);
}

@media (width < 820px) {
  .two {
    grid-template-columns: 1fr;
  }

  .card,
  .kept li {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
