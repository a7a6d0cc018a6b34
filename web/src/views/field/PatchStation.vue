<script setup lang="ts">
import { computed, onMounted, reactive, ref } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import FieldRow from "../../components/FieldRow.vue";
import TestMixes from "../../components/field/TestMixes.vue";
import NextStep from "../../components/trial/NextStep.vue";
import PatchCell from "../../components/field/PatchCell.vue";
import { formName, ifStill, once } from "../../api/once";
import { useTrial } from "../../composables/useTrial";
import { patchWaits } from "../../patch";

const { trial, load: loadTrial, change } = useTrial();
const plan = ref<Schemas["PatchPlanOut"] | null>(null);
const fault = ref<Fault | null>(null);
const form = reactive({ kinds: "", wait: "two_days" as Schemas["PatchWait"], slow: false });
const now = ref(Date.now());
let form_ = formName();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const kinds = computed(() => [...new Set(plan.value?.cells.map((c) => c.leaf_kind))]);
const open = computed(() => plan.value?.cells.filter((c) => !c.left_out && c.tests.at(-1)?.outcome !== "passed").length ?? 0);

/** Whether a test is still to be put on, the first time or again. */
const toPutOn = computed(() => plan.value?.cells.some((c) => !c.left_out && ["none", "weaker", "failed"].includes(c.tests.at(-1)?.outcome ?? "none")) ?? false);
/** Whether a test that had passed shows damage since. */
const late = computed(
  () =>
    plan.value?.cells.some((c) => c.tests.at(-1)?.outcome === "failed" && c.tests.at(-1)?.readings.some((l) => l.treated > 0 && !c.hours.includes(l.hours))) ??
    false,
);

function isLeftOut(kind: string): boolean {
  return !plan.value?.care.leaf_kinds.includes(kind);
}

const get = () => take(client.GET("/api/trials/{trial_id}/patches", { params: { path: path.value } }));

/** Does something, if anything, and reads the plan of tests anew. */
async function run(call: () => Promise<unknown> = () => Promise.resolve()): Promise<void> {
  try {
    await call();
    plan.value = await get();
    const { care } = plan.value;
    Object.assign(form, { kinds: care.leaf_kinds.join(", "), wait: care.patch_wait, slow: care.slow_leaves });
    fault.value = null;
    now.value = Date.now();
    await loadTrial();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

onMounted(() => run());

function putOn(body: Schemas["PatchIn"]): Promise<void> {
  return run(async () => {
    await take(client.POST("/api/trials/{trial_id}/patches", { params: { path: path.value, header: once(form_, body) }, body }));
    form_ = formName();
  });
}

function look(patch: number, body: Schemas["PatchReadingIn"]): Promise<void> {
  return run(() => take(client.POST("/api/trials/{trial_id}/patches/{patch_id}/readings", { params: { path: { ...path.value, patch_id: patch } }, body })));
}

function withdraw(patch: number): Promise<void> {
  return run(() => take(client.DELETE("/api/trials/{trial_id}/patches/{patch_id}", { params: { path: { ...path.value, patch_id: patch } } })));
}

async function saveCare(): Promise<void> {
  if (!plan.value) return;
  const body = {
    ...plan.value.care,
    leaf_kinds: form.kinds
      .split(",")
      .map((k) => k.trim())
      .filter(Boolean),
    patch_wait: form.wait,
    slow_leaves: form.slow,
  };
  fault.value = await change(() =>
    take(client.PUT("/api/trials/{trial_id}/care", { params: { path: path.value, header: ifStill(trial.value?.care_revision) }, body })),
  );
  if (!fault.value) await run();
}
</script>

<template>
  <div v-if="trial" class="stack">
    <FaultNote :fault="fault && fault.field !== 'leaf_kinds' ? fault : null" />
    <template v-if="plan">
      <p v-if="trial.sprayed_on && late" class="sheet">
        Damage showed on tested leaves after the looks that were planned: look closely at the plants of the trial, and leave the remedy out if they show it too.
      </p>
      <p v-else-if="trial.sprayed_on && open" class="sheet">The trial was sprayed before every test had passed; the verdict says so.</p>
      <p v-else-if="open" class="lead">
        Two or three leaves of each kind first. The first spray waits until {{ open === 1 ? "one more test has" : `${open} more tests have` }} passed.
      </p>
      <p v-else class="lead">Every remedy has passed on every kind of leaf.</p>
      <TestMixes v-if="!trial.sprayed_on && toPutOn" />
      <section v-for="kind in kinds" :key="kind" class="stack" :aria-label="kind">
        <h2>On {{ kind }}<template v-if="isLeftOut(kind)"> (left out of the trial)</template></h2>
        <div class="cells">
          <template v-for="cell in plan.cells.filter((c) => c.leaf_kind === kind)" :key="cell.remedy_id">
            <PatchCell
              :cell="cell"
              :remedy="
                trial.remedies.find((r) => r.id === cell.remedy_id) ?? {
                  id: cell.remedy_id,
                  name: `${cell.remedy} (left out of the trial)`,
                  letter: null,
                  notches: null,
                }
              "
              :now="now"
              @put-on="putOn"
              @look="look"
              @withdraw="withdraw" />
          </template>
        </div>
      </section>
      <NextStep from="patch" />
      <p class="small soft">
        The two bars of a look are the worst treated leaf (filled) and the unsprayed leaf beside it (outlined), 0 to 5. Two steps beyond it, or drop or wilting,
        is a fail; one step means weaker.
      </p>
      <CautionList
        :texts="[
          'Use the mix you will spray, at its full strength, in the same cool hour.',
          'Wear gloves; keep people, pets and bees away until it has dried.',
        ]"
        title="When you put it on" />
      <details class="sheet">
        <summary>Kinds of leaf, and how long to wait</summary>
        <form class="stack" @submit.prevent="saveCare">
          <FieldRow
            v-slot="{ id, described }"
            label="Kinds of leaf"
            help="Divided by commas: seedlings, hairy, thin, waxy or coloured leaves each count as a kind. A kind that failed can be left out: set its plants aside too."
            :fault="fault?.field === 'leaf_kinds' ? fault : null">
            <el-input :id="id" v-model="form.kinds" maxlength="300" :aria-describedby="described" />
          </FieldRow>
          <FieldRow v-slot="{ id }" label="Look after" :help="plan.reason">
            <el-select :id="id" v-model="form.wait" aria-label="Look after">
              <el-option v-for="(word, key) in patchWaits" :key="key" :value="key" :label="word" />
            </el-select>
          </FieldRow>
          <el-checkbox v-model="form.slow">Thick, slow leaves: oils are looked at for a week</el-checkbox>
          <div><el-button type="primary" native-type="submit">Keep</el-button></div>
        </form>
      </details>
    </template>
  </div>
</template>

<style scoped>
.lead {
  font-size: var(--text-l);
}

.cells {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(290px, 100%), 1fr));
  gap: var(--space-4);
}
</style>
