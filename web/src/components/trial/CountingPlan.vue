<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Pest } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { isPractised } from "../../charts/creature";
import { manyOf } from "../../counting";
import type { Setup } from "../../question";
import { readNumber } from "../../words";
import FieldRow from "../FieldRow.vue";
import PestPicker from "../finding/PestPicker.vue";

/** Which leaves of each plant are counted, and what is tallied beside the trial's own number. */
const setup = defineModel<Required<Setup>>({ required: true });
const props = defineProps<{
  pest: Pest | undefined;
  pests: readonly Pest[];
  measure: string;
  /** A trial already there, whose counts say how its pest is spread. */ trialId?: number | undefined;
  disabled: boolean | undefined;
  faultOf: (field: string) => Fault | null;
}>();
const numbers = [0, 1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20];
const asides = [
  { key: "young", words: "Young ones apart" },
  { key: "eggs", words: "Eggs" },
  { key: "dead", words: "Dead ones" },
  { key: "helpers", words: "Helpers" },
  { key: "damage", words: "Leaf damage 0 to 5" },
  { key: "vanished", words: "Eggs gone" },
  { key: "height", words: "Height" },
  { key: "leaves", words: "How many leaves" },
  { key: "picked", words: "What is picked, weighed" },
  { key: "moisture", words: "Soil moisture" },
] as const;
const offered = computed(() => asides.filter((a) => a.key !== props.measure && (a.key !== "vanished" || props.measure === "hatched")));

const advice = useAnswer(() => take(client.GET("/api/sampling", { params: { query: props.trialId ? { trial_id: props.trialId } : {} } })));
onMounted(advice.load);
const many = computed(() => manyOf(props.pest?.sample_unit ?? "leaf"));
/** What more of them bring and cost, in a sentence; only where animals are counted one by one. */
const says = computed(() => {
  const found = advice.data.value;
  if (!found || !["live", "dead", "catch"].includes(props.measure)) return "";
  const said = found.options
    .filter((o) => [3, 6, 12].includes(o.samples))
    .map((o, k) => {
      const [error, minutes] = [Math.round(100 * o.error), Math.round(o.minutes)];
      return k
        ? `${o.samples}: ${error}%, ${minutes} minutes`
        : `${o.samples} ${many.value} on each plant tell its number to within about ${error}% and take ${minutes} minutes`;
    });
  return `${said.join("; ")}. ${found.spread.counted ? `From ${found.spread.counted} ${many.value} counted here.` : "Typical values for 24 plants; your first counts will tell."}`;
});

const area = ref(setup.value.leaf_cm2 ? String(setup.value.leaf_cm2) : "");
function setArea(text: string): void {
  area.value = text;
  setup.value.leaf_cm2 = text.trim() ? (readNumber(text) ?? 0) : null;
}

function words(count: number): string {
  const unit = props.pest?.sample_unit ?? "leaf";
  if (!count) return "the plant as a whole";
  return count === 1 ? `1 ${unit}` : `${count} ${manyOf(unit)}`;
}

/** What arrives or hatches is asked of one pest alone. */
const mayHaveTwo = computed(() => !["prevention", "eggs"].includes(setup.value.kind));
function setAlso(pest: string): void {
  setup.value.also = pest;
  setup.value.beside = [...setup.value.beside.filter((key) => key !== "other"), ...(pest ? ["other" as const] : [])];
}

function toggle(key: (typeof asides)[number]["key"], on: boolean): void {
  setup.value.beside = on ? [...setup.value.beside, key] : setup.value.beside.filter((k) => k !== key);
}
</script>

<template>
  <section class="sheet stack">
    <h2>How it is counted</h2>
    <div class="pair">
      <FieldRow
        v-slot="{ id }"
        label="Counted on each plant"
        help="One by one, each leaf with its own number: more leaves, surer numbers."
        :fault="faultOf('setup.samples')">
        <el-select :id="id" v-model="setup.samples" :disabled="disabled ?? false" aria-label="Counted on each plant">
          <el-option v-for="n in numbers" :key="n" :value="n" :label="words(n)" />
        </el-select>
      </FieldRow>
      <FieldRow
        v-slot="{ id, described }"
        label="Which ones"
        :help="pest?.where ?? 'The same places on every plant: low, middle and high.'"
        :fault="faultOf('setup.which')">
        <el-input :id="id" v-model="setup.which" maxlength="300" :aria-describedby="described" :disabled="disabled ?? false" />
      </FieldRow>
    </div>
    <div v-if="setup.samples" class="pair">
      <el-checkbox v-model="setup.marked" :disabled="disabled ?? false">The same {{ many }} each time, marked by a thread or ring</el-checkbox>
      <FieldRow
        v-slot="{ id, described }"
        label="A usual leaf has (cm²)"
        help="Only for very many: then a window of 1 cm² can be counted in its place. Empty: not used."
        :fault="faultOf('setup.leaf_cm2')">
        <el-input :id="id" :model-value="area" inputmode="decimal" :aria-describedby="described" :disabled="disabled ?? false" @update:model-value="setArea" />
      </FieldRow>
    </div>
    <FieldRow
      v-if="mayHaveTwo || setup.also"
      v-slot="{ id }"
      label="A second pest on the same plants"
      help="It is counted beside the first and has a verdict of its own; one sentence says what to take against both. What is scored, such as mildew, is the first."
      :fault="faultOf('setup.also')">
      <div class="row also">
        <PestPicker
          :id="id"
          :model-value="setup.also"
          :pests="pests"
          :disabled="disabled ?? false"
          placeholder="None"
          label="A second pest on the same plants"
          @update:model-value="setAlso" />
        <el-button v-if="setup.also && !disabled" @click="setAlso('')">None</el-button>
      </div>
    </FieldRow>
    <p v-if="says" class="small soft">
      {{ says }} <RouterLink v-if="pest && isPractised(pest.key)" :to="`/practice?pest=${pest.key}`">Practise counting them</RouterLink>
    </p>
    <div class="row checks" role="group" aria-label="Tallied beside it">
      <el-checkbox
        v-for="aside in offered"
        :key="aside.key"
        :model-value="setup.beside.includes(aside.key)"
        :disabled="disabled ?? false"
        @update:model-value="toggle(aside.key, Boolean($event))"
        >{{ aside.words }}</el-checkbox
      >
    </div>
  </section>
</template>

<style scoped>
.also > :first-child {
  flex: 1 1 220px;
  max-width: 420px;
}

.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 280px), 1fr));
  gap: var(--space-4);
}
</style>
