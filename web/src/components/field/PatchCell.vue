<script setup lang="ts">
import { computed, reactive, ref } from "vue";
import type { Schemas } from "../../api/client";
import { amount } from "../../mixing";
import { harms, outcomes } from "../../patch";
import FieldRow from "../FieldRow.vue";
import PlantTag from "../PlantTag.vue";
import ScoreField from "../counting/ScoreField.vue";
import { clockFormat } from "../../units";

/** One remedy on one kind of leaf: put it on, look at it, and what the looks say. */
const props = defineProps<{
  cell: Schemas["PatchCellOut"];
  remedy: { id: number; name: string; letter: string | null; notches: number | null; traits?: { steps?: readonly { name: string }[] } };
  now: number;
}>();
const emit = defineEmits<{
  putOn: [draft: Schemas["PatchIn"]];
  look: [patch: number, look: Schemas["PatchReadingIn"]];
  withdraw: [patch: number];
}>();

const EARLY = 4 * 3_600_000; // a look may be this early
const test = computed(() => props.cell.tests.at(-1));
const open = ref(false);
const before = reactive({ treated: 0, beside: 0, leaves: 3, half: false, at: "" });
/** The hour of a look that is corrected, or of damage that shows after the last; null for the next look. */
const chosen = ref<number | null>(null);
const seen = reactive({ treated: 0, beside: 0, harm: "none" as Schemas["Harm"] });
/** What follows the first part of it: tried on leaves of its own, for each may burn by itself. */
const later = computed(() => (props.remedy.traits?.steps ?? []).map((step) => step.name));
const due = computed(() => (test.value?.next_look ? Date.parse(test.value.next_look) : null));
const ready = computed(() => due.value !== null && props.now >= due.value - EARLY);
const nextHours = computed(() => {
  const done = new Set(test.value?.readings.map((l) => l.hours));
  return test.value?.hours.find((h) => !done.has(h));
});
const hours = computed(() => chosen.value ?? (ready.value ? nextHours.value : undefined));
/** Hours since it was put on: damage may show after the last planned look. */
const since = computed(() => (test.value ? Math.floor((props.now - Date.parse(test.value.applied_at)) / 3_600_000) : 0));
const over = computed(() => !!test.value && test.value.outcome !== "failed" && nextHours.value === undefined && since.value > Math.max(...test.value.hours));
const when = clockFormat({ weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

function putOn(): void {
  emit("putOn", {
    remedy_id: props.remedy.id,
    leaf_kind: props.cell.leaf_kind,
    leaves: before.leaves,
    strength: before.half ? 0.5 : 1,
    treated_before: before.treated,
    beside_before: before.beside,
    applied_at: before.at ? new Date(before.at).toISOString() : null,
  });
  open.value = false;
}

function again(look: Schemas["PatchReadingOut"]): void {
  chosen.value = look.hours;
  Object.assign(seen, { treated: look.treated, beside: look.beside, harm: look.harm });
}

function leave(): void {
  chosen.value = null;
  Object.assign(seen, { treated: 0, beside: 0, harm: "none" });
}

function keep(): void {
  if (!test.value || hours.value === undefined) return;
  emit("look", test.value.id, { hours: hours.value, treated: seen.treated, beside: seen.beside, harm: seen.harm });
  leave();
}

/** What the planned looks and those after them are called. */
function named(after: number): string {
  return after === 168 ? "a week" : after < 96 ? `${after} h` : `${Math.round(after / 24)} days`;
}
</script>

<template>
  <article class="cell" :class="test?.outcome">
    <header>
      <PlantTag v-if="remedy.letter" :letter="remedy.letter" :notches="remedy.notches" :height="44" />
      <div>
        <h3>{{ remedy.name }}</h3>
        <span v-if="test && test.strength < 1" class="small">at {{ amount(test.strength * 100) }}% of the strength</span>
      </div>
      <strong class="outcome">{{ test ? outcomes[test.outcome] : "not put on yet" }}</strong>
    </header>
    <p v-if="later.length" class="small">Put each part on leaves of its own, side by side: the first, and {{ later.join(", ") }}. Score the worst of them.</p>
    <ol class="course">
      <li :class="{ done: test }">
        <span>put on</span><span v-if="test" class="small">{{ when.format(Date.parse(test.applied_at)) }}</span>
      </li>
      <li
        v-for="after in [...new Set([...(test?.hours ?? cell.hours), ...(test?.readings.map((l) => l.hours) ?? [])])]"
        :key="after"
        :class="{ done: test?.readings.some((l) => l.hours === after) }">
        <span>{{ named(after) }}</span>
        <template v-for="look in test?.readings.filter((l) => l.hours === after)" :key="look.seen_at">
          <span class="pair" role="img" :aria-label="`treated ${look.treated}, unsprayed ${look.beside}, ${harms[look.harm]}`">
            <span class="bar treated" :style="{ height: `${4 + look.treated * 7}px` }" /><span
              class="bar beside"
              :style="{ height: `${4 + look.beside * 7}px` }" />
            <span class="small">{{ look.treated }} | {{ look.beside }}</span>
          </span>
          <button type="button" class="back" :aria-label="`Correct the look after ${named(after)}`" @click="again(look)">Correct</button>
        </template>
      </li>
    </ol>
    <p v-if="test" class="small">
      {{ test.reason }}<template v-if="due && !ready">: {{ when.format(due) }}</template
      >.
    </p>

    <form v-if="test && hours !== undefined" class="stack" @submit.prevent="keep">
      <ScoreField v-model="seen.treated" label="Worst treated leaf" />
      <ScoreField v-model="seen.beside" label="Unsprayed leaf beside it" />
      <el-select v-model="seen.harm" aria-label="Kind of damage">
        <el-option v-for="(word, key) in harms" :key="key" :value="key" :label="word" />
      </el-select>
      <div class="row">
        <el-button type="primary" native-type="submit">Keep the look after {{ named(hours) }}</el-button>
        <el-button v-if="chosen !== null" @click="leave">Leave it</el-button>
      </div>
    </form>
    <button v-else-if="over" type="button" class="back" @click="chosen = since">Damage shows on them only now</button>

    <template v-if="!cell.left_out && (!test || test.outcome === 'weaker' || test.outcome === 'failed')">
      <el-button
        v-if="!open"
        @click="
          open = true;
          before.half = test?.outcome === 'weaker';
        "
        >{{ test ? "Test it again" : "Put it on" }}</el-button
      >
      <form v-else class="stack" @submit.prevent="putOn">
        <p>Wet {{ before.leaves }} leaves on both sides, mark them, and mark one unsprayed leaf beside them.</p>
        <ScoreField v-model="before.treated" label="Damage on those leaves now" />
        <ScoreField v-model="before.beside" label="Damage on the unsprayed leaf now" />
        <el-checkbox v-model="before.half">At half the strength: equal parts of the test mix and of water</el-checkbox>
        <FieldRow v-slot="{ id }" label="On since" help="Empty: from now."><el-input :id="id" v-model="before.at" type="datetime-local" /></FieldRow>
        <el-button type="primary" native-type="submit">{{ before.at ? "It is on since then" : "It is on, from now" }}</el-button>
      </form>
    </template>
    <button v-if="test && !test.readings.length" type="button" class="back" @click="emit('withdraw', test.id)">Put on by mistake: take it back</button>
  </article>
</template>

<style scoped>
.cell {
  display: grid;
  gap: var(--space-3);
  align-content: start;
  padding: var(--space-4);
  background: var(--sheet);
  border-top: 6px solid var(--line);
  border-radius: var(--radius-s);
}

.passed {
  border-top-color: var(--good);
}

.running {
  border-top-color: var(--trap);
}

.weaker {
  border-top-color: var(--warn);
}

.failed {
  border-top-color: var(--bad);
}

header {
  display: flex;
  gap: var(--space-3);
  align-items: center;
}

.outcome {
  margin-left: auto;
  text-align: right;
}

.course {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  margin: 0;
  padding: 0;
  list-style: none;
}

.course li {
  display: grid;
  align-content: start;
  gap: 2px;
  padding-top: var(--space-2);
  border-top: 3px dashed var(--line);
  min-height: 72px;
}

.course .done {
  border-top: 3px solid var(--accent);
  font-weight: 650;
}

.course .small {
  font-weight: 400;
}

.pair {
  display: flex;
  gap: 3px;
  align-items: end;
  height: 44px;
  font-weight: 400;
}

.bar {
  width: 12px;
}

.treated {
  background: var(--accent);
}

.beside {
  border: 2px solid var(--line);
}

.back {
  justify-self: start;
  min-height: var(--touch);
  padding: 0;
  border: 0;
  background: none;
  color: var(--accent);
  font-size: var(--text-s);
  text-decoration: underline;
  cursor: pointer;
}
</style>
