<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { client, take, type Schemas, type Trial } from "../../api/client";
import { formName, once } from "../../api/once";
import { useAnswer } from "../../composables/useAnswer";
import { useSoon } from "../../composables/useSoon";
import { volume } from "../../mixing";
import { ACTS, WHICH } from "../../rest";
import { inUnits, kept, shown, unitOf } from "../../units";
import { dayName, plural, readNumber } from "../../words";
import CautionList from "../CautionList.vue";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import PourList from "../pantry/PourList.vue";

/** What to do now with the plants that were not in the trial: planned at once, kept at a click. */
const { trial } = defineProps<{ trial: Trial }>();
const router = useRouter();
const path = { trial_id: trial.id };
const wish = formName();
const found = useAnswer(() => take(client.GET("/api/trials/{trial_id}/rest", { params: { path } })));
const yard = useAnswer(() => take(client.GET("/api/yard")));
const open = ref(false);
const form = reactive({ remedy: 0, which: "sick" as keyof typeof WHICH, place: "", plants: "10", ml: "", kinds: "", eaten: false, start: "" });
const choice = computed(() => found.data.value?.choices.find((c) => c.remedy_id === form.remedy) ?? null);
const body = computed<Schemas["RestIn"]>(() => ({
  remedy_id: form.remedy,
  which: form.which,
  place: form.place.trim() || "the rest",
  plants: Math.round(readNumber(form.plants) ?? 0),
  start_on: form.start,
  ml_each: typeof choice.value?.ml_each !== "number" ? null : kept(readNumber(form.ml) ?? 0, "volume", choice.value.ml_each),
  kinds: form.kinds
    .split(",")
    .map((kind) => kind.trim())
    .filter(Boolean),
  eaten: form.eaten,
  rhythm: trial.care.round_rhythm === "plan" ? "egg_cycle" : trial.care.round_rhythm,
}));
const plan = useAnswer(() => take(client.POST("/api/trials/{trial_id}/queries/rest", { params: { path }, body: body.value })));
const begun = useAnswer(() => take(client.POST("/api/trials/{trial_id}/rest", { params: { path, header: once(wish, body.value) }, body: body.value })));
const soon = useSoon(() => void plan.load(), 300);
const fault = computed(() => begun.fault.value ?? plan.fault.value);
const at = (field: string) => (fault.value?.field === field ? fault.value : null);
const took = computed(() => plan.data.value);

onMounted(found.load);
watch(form, () => form.remedy && soon(), { deep: true });
watch(
  () => form.remedy,
  () => (form.ml = shown(choice.value?.ml_each, "volume")),
);

function begin(): void {
  const [first] = found.data.value?.choices ?? [];
  if (!first || !found.data.value) return;
  open.value = true;
  Object.assign(form, {
    remedy: first.remedy_id,
    eaten: found.data.value.eaten,
    start: found.data.value.start_on,
    which: trial.care.spot?.outdoors === false ? "place" : "sick",
  });
  void yard.load();
}

async function keep(): Promise<void> {
  await begun.load();
  if (begun.data.value) await router.push(`/trial/${trial.id}/rest/${begun.data.value.id}`);
}

function percent(share: number): string {
  return share < 0.01 ? "under 1%" : `${Math.round(share * 100)}%`;
}
</script>

<template>
  <section
    v-if="found.data.value && (found.data.value.choices.length || found.data.value.treatments.length)"
    class="sheet stack no-print"
    aria-labelledby="rest">
    <h2 id="rest">What now: the rest of the garden</h2>
    <ul v-if="found.data.value.treatments.length" class="bare">
      <li v-for="one in found.data.value.treatments" :key="one.id">
        <RouterLink :to="`/trial/${trial.id}/rest/${one.id}`">{{ one.remedy }} on {{ plural(one.plants, "plant") }}, {{ one.place }}</RouterLink
        >: {{ one.due ? `${ACTS[one.due.act].toLowerCase()}, ${dayName(one.due.on)}` : one.ended }}
      </li>
    </ul>
    <p v-if="found.data.value.choices.length && !open">
      The trial shows what {{ found.data.value.choices[0]?.name }} does on its plants. Others may stand in another light, or be of another kind: this plans how
      to treat them, and how to see whether it holds there.
    </p>
    <div v-if="found.data.value.choices.length && !open"><el-button type="primary" @click="begin">Plan it for the rest</el-button></div>

    <form v-if="open" class="stack" novalidate @submit.prevent="keep">
      <div v-if="found.data.value.choices.length > 1" class="choices" role="group" aria-label="Which remedy">
        <button
          v-for="(one, k) in found.data.value.choices"
          :key="one.remedy_id"
          type="button"
          :aria-pressed="form.remedy === one.remedy_id"
          @click="form.remedy = one.remedy_id">
          <strong>{{ one.name }}</strong><span class="small">{{ k ? "works, and may be the best" : "what the verdict recommends" }}</span>
        </button>
      </div>
      <div class="choices" role="group" aria-label="Which plants">
        <button v-for="(words, key) in WHICH" :key="key" type="button" :aria-pressed="form.which === key" @click="form.which = key">
          <strong>{{ words }}</strong><span class="small">{{ found.data.value.reasons[key] }}</span>
        </button>
      </div>
      <div class="fields">
        <FieldRow v-slot="{ id, described }" label="How many plants" :fault="at('plants')"
          ><el-input :id="id" v-model="form.plants" inputmode="numeric" :aria-describedby="described"
        /></FieldRow>
        <FieldRow v-slot="{ id, described }" label="Where they stand" :fault="at('place')"
          ><el-input :id="id" v-model="form.place" maxlength="80" placeholder="the bed by the wall" :aria-describedby="described"
        /></FieldRow>
        <FieldRow v-if="typeof choice?.ml_each === 'number'" v-slot="{ id, described }" :label="`${unitOf('volume')} on each`" :fault="at('ml_each')"
          ><el-input :id="id" v-model="form.ml" inputmode="decimal" :aria-describedby="described"
        /></FieldRow>
        <FieldRow v-slot="{ id, described }" label="From" :fault="at('start_on')"
          ><input :id="id" v-model="form.start" type="date" class="date" :aria-describedby="described"
        /></FieldRow>
        <FieldRow
          v-slot="{ id, described }"
          label="Other kinds of plant among them"
          help="Which this was never tried on; commas between them."
          :fault="at('kinds')"
          ><el-input :id="id" v-model="form.kinds" maxlength="300" :aria-describedby="described"
        /></FieldRow>
      </div>
      <el-checkbox v-model="form.eaten">Something of them is eaten</el-checkbox>
      <FaultNote :fault="fault && !['plants', 'place', 'ml_each', 'start_on', 'kinds'].includes(fault.field ?? '') ? fault : null" />
      <template v-if="took && !fault">
        <dl class="takes">
          <dt>Times</dt>
          <dd>
            {{ took.days.map((day, k) => `${dayName(day)} (about ${percent(took?.left[k] ?? 0)} left after it)`).join(", ") }}, if each removes what it did in
            the trial; looks decide. {{ inUnits(took.why) }}
          </dd>
          <template v-if="took.patch_days"
            ><dt>First</dt>
            <dd>A few leaves of each other kind, {{ plural(took.patch_days, "day") }} before.</dd></template
          >
          <template v-if="took.volume"
            ><dt>Each time</dt>
            <dd>
              {{ volume(took.volume)
              }}<template v-if="took.bottle"
                >: {{ took.fills > 1 ? `${took.fills} fillings of a bottle of ${volume(took.bottle)}` : `one bottle of ${volume(took.bottle)}` }}</template
              >; about {{ Math.max(5, Math.round(took.minutes / 5) * 5) }} minutes of work.
            </dd></template
          >
          <template v-else
            ><dt>Each time</dt>
            <dd>About {{ Math.max(5, Math.round(took.minutes / 5) * 5) }} minutes of work.</dd></template
          >
          <template v-if="took.cost !== null"
            ><dt>Cost</dt>
            <dd>
              {{ yard.data.value?.currency }} {{ took.cost.toFixed(2) }} in all<template v-if="took.unpriced.length"
                >, without {{ took.unpriced.join(", ") }} (no price)</template
              >.
            </dd></template
          >
          <template v-if="took.eating"
            ><dt>Eating</dt>
            <dd>{{ took.eating }}</dd></template
          >
          <dt>Is it so here?</dt>
          <dd>{{ took.checks }} {{ took.ends }}</dd>
          <template v-if="took.helpers"
            ><dt>Helpers</dt>
            <dd>{{ took.helpers }}</dd></template
          >
        </dl>
        <p v-for="line in took.against" :key="line" class="against">{{ inUnits(line) }}</p>
        <details v-if="took.mix">
          <summary>How it is mixed</summary>
          <PourList :mix="took.mix" brief />
        </details>
        <CautionList :texts="[...took.cautions, ...(took.mix?.strong.flatMap((c) => c.texts) ?? [])]" title="Cautions" />
      </template>
      <div class="row">
        <el-button type="primary" native-type="submit" :disabled="!took || !form.place.trim()">Begin</el-button
        ><el-button @click="open = false">Not now</el-button>
      </div>
      <p v-if="!form.place.trim()" class="small soft">Say where they stand, to find them again on Today.</p>
    </form>
  </section>
</template>

<style scoped>
.choices {
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
}

.takes {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--space-2) var(--space-4);
  margin: 0;
  max-width: var(--measure);
}

.takes dt {
  font-weight: 650;
}

.takes dd {
  margin: 0;
}

.against {
  border-left: 4px solid var(--warn);
  padding-left: var(--space-3);
  max-width: var(--measure);
}

@media (max-width: 640px) {
  .takes {
    grid-template-columns: 1fr;
    gap: var(--space-1);
  }
}
</style>
