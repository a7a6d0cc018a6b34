<script setup lang="ts">
import { computed, onMounted, reactive, ref } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import CautionList from "../../components/CautionList.vue";
import FaultNote from "../../components/FaultNote.vue";
import PourList from "../../components/pantry/PourList.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { ACTS, meanOf } from "../../rest";
import { inUnits } from "../../units";
import { dayName, fromToday, plural } from "../../words";

/** The treatment of the rest, act by act, until its rule ends it. */
const { number } = defineProps<{ number: number }>();
const { trial, make } = useTrial();
type Treatment = Schemas["TreatmentOut"];
const path = computed(() => ({ trial_id: trial.value?.id ?? 0, treatment_id: number }));
const found = useAnswer<Treatment>(() => take(client.GET("/api/trials/{trial_id}/rest/{treatment_id}", { params: { path: path.value } })));
const mix = useAnswer(() =>
  take(
    client.POST("/api/queries/mix", {
      body: {
        text: found.data.value?.recipe ?? "",
        plants: found.data.value?.plants ?? 1,
        ml_per_plant: found.data.value?.ml_each ?? 40,
        margin: 0.1,
        compare_with: "",
        near_flame: false,
      },
    }),
  ),
);
const fault = ref<typeof found.fault.value>(null);
const form = reactive({ counts: "", harmed: false, on: "", reason: "", ticked: [] as string[] });
let wish = formName();
const one = computed(() => found.data.value);
const due = computed(() => one.value?.due ?? null);
const today = computed(() => trial.value?.today ?? "");
const mean = computed(() => meanOf(form.counts));
const sprayed = computed(() => one.value?.done.some((d) => d.act === "spray") ?? false);
const late = computed(() => form.on !== today.value);
const ticks = computed(() => {
  const words: Record<string, string> = {
    cautions: "I have read the cautions; gloves are on",
    bees: "I looked: no bees, no open flowers they visit",
    fruit: "I looked: ripe fruit is picked",
    weather: "No weather is known here. I looked: leaves dry, hardly any wind, no sun on them, not too warm",
  };
  return (one.value?.asked ?? []).filter((key) => !(late.value && key === "weather")).map((key) => ({ key, text: words[key] ?? key }));
});
const closed = computed(() => (late.value ? [] : (one.value?.closed ?? [])));
const ready = computed(() => ticks.value.every((t) => form.ticked.includes(t.key)) && (!closed.value.length || form.reason.trim() !== ""));

onMounted(load);
async function load(): Promise<void> {
  await found.load();
  form.on = today.value;
  if (typeof one.value?.ml_each === "number" && one.value.recipe) await mix.load();
}

async function act(harmed = form.harmed): Promise<void> {
  if (!due.value) return;
  const has = (key: string) => form.ticked.includes(key);
  const body: Schemas["ActIn"] = {
    act: due.value.act,
    on: form.on,
    pests: mean.value?.pests ?? null,
    looked_at: mean.value?.looked_at ?? null,
    harmed,
    cautions_read: has("cautions"),
    bees_looked: has("bees"),
    fruit_looked: has("fruit"),
    weather_looked: has("weather"),
    reason: form.reason,
  };
  await change(() => take(client.POST("/api/trials/{trial_id}/rest/{treatment_id}/acts", { params: { path: path.value, header: once(wish, body) }, body })));
}
const takeBack = () =>
  change(async () => {
    await take(client.DELETE("/api/trials/{trial_id}/rest/{treatment_id}/acts/last", { params: { path: path.value } }));
    return take(client.GET("/api/trials/{trial_id}/rest/{treatment_id}", { params: { path: path.value } }));
  });
const end = () => change(() => take(client.POST("/api/trials/{trial_id}/rest/{treatment_id}/end", { params: { path: path.value } })));

async function change(call: () => Promise<Treatment>): Promise<void> {
  fault.value = await make(async () => {
    found.data.value = await call();
    wish = formName(); // at once: what is typed from now on is of the next act
    Object.assign(form, { counts: "", harmed: false, on: today.value, reason: "", ticked: [] });
  });
}

function toggle(key: string): void {
  form.ticked = form.ticked.includes(key) ? form.ticked.filter((k) => k !== key) : [...form.ticked, key];
}

function told(done: Schemas["DoneOut"]): string {
  const marks = done.harmed ? "; leaves were marked" : "";
  if (done.act === "count") return `Counted: ${Number((done.pests ?? 0).toPrecision(3))} a plant on ${plural(done.looked_at ?? 0, "plant")}${marks}`;
  const words = {
    patch: "The mix was put on a few leaves",
    patch_look: done.harmed ? "The leaves that had it are marked" : "The leaves that had it are as before",
    spray: "They were treated",
  };
  return `${words[done.act]}${done.reason ? ` (${done.reason})` : ""}`;
}
</script>

<template>
  <div v-if="trial" class="stack">
    <FaultNote :fault="found.fault.value" />
    <template v-if="one">
      <h2>The rest: {{ one.remedy }} on {{ plural(one.plants, "plant") }}, {{ one.place }}</h2>
      <section v-if="due" class="sheet stack next" aria-labelledby="next">
        <h3 id="next">{{ ACTS[due.act] }}</h3>
        <p>
          <strong class="when">{{ fromToday(due.on, today) }}, {{ dayName(due.on) }}.</strong> {{ inUnits(due.why) }}
        </p>

        <template v-if="due.act === 'count'">
          <label class="stack tight"
            >What you count on each, one number after the other
            <el-input v-model="form.counts" inputmode="text" placeholder="7 3 0 12 5" aria-label="Numbers counted, one for each plant" />
          </label>
          <p class="small" role="status">
            {{
              mean
                ? `${Number(mean.pests.toPrecision(3))} a plant on ${plural(mean.looked_at, "plant")}.`
                : form.counts.trim()
                  ? "Numbers with spaces between them, 0 where there are none."
                  : "Five plants are usual. Mark them: they are counted again."
            }}
          </p>
          <el-checkbox v-if="sprayed" v-model="form.harmed">Leaves are marked that were not before</el-checkbox>
        </template>

        <template v-else-if="due.act === 'spray'">
          <p v-if="closed.length" class="closed">
            <strong>Now is no good hour:</strong> {{ inUnits(closed.join("; ")) }}. <RouterLink to="/">The day's open hours</RouterLink>
          </p>
          <p v-if="one.eating">
            <strong>{{ inUnits(one.eating) }}</strong>
          </p>
          <details v-if="mix.data.value && !mix.data.value.open.length" open>
            <summary>How it is mixed</summary>
            <PourList :mix="mix.data.value" brief />
          </details>
          <p v-else>{{ one.recipe }}</p>
          <CautionList :texts="[...one.cautions, ...(mix.data.value?.strong.flatMap((c) => c.texts) ?? [])]" title="Cautions" />
          <details>
            <summary>For every spray</summary>
            <CautionList :texts="trial.general_cautions" />
          </details>
          <section class="choices ticks">
            <button v-for="tick in ticks" :key="tick.key" type="button" :aria-pressed="form.ticked.includes(tick.key)" @click="toggle(tick.key)">
              <span class="box" aria-hidden="true">{{ form.ticked.includes(tick.key) ? "✓" : "" }}</span>{{ tick.text }}
            </button>
          </section>
          <el-input v-if="closed.length" v-model="form.reason" maxlength="500" aria-label="Why you go on" placeholder="Why you go on (recorded)" />
        </template>

        <template v-else-if="due.act === 'patch'">
          <p>{{ one.kinds.join(", ") }}: two or three leaves of each, wetted on both sides; mark them, and remember others beside them. {{ one.recipe }}</p>
          <CautionList :texts="one.cautions" title="Cautions" />
        </template>

        <label class="row small">Done on <input v-model="form.on" type="date" class="date" :max="today" /></label>
        <FaultNote :fault="fault" />
        <div class="row">
          <template v-if="due.act === 'patch_look'"
            ><el-button type="primary" @click="act(false)">They are as the others</el-button><el-button @click="act(true)">They are marked</el-button></template
          >
          <el-button v-else type="primary" :disabled="(due.act === 'count' && !mean) || (due.act === 'spray' && !ready)" @click="act()">{{
            due.act === "count" ? "Keep the count" : due.act === "spray" ? "They are treated" : "It is on"
          }}</el-button>
        </div>
      </section>
      <section v-else class="sheet stack">
        <h3>It is over</h3>
        <p>{{ one.ended }}</p>
        <p v-if="one.eating">{{ inUnits(one.eating) }}</p>
        <FaultNote :fault="fault" />
      </section>
      <p v-if="one.said" class="said">{{ one.said }}</p>
      <section v-if="one.done.length" aria-labelledby="done" class="stack tight">
        <h3 id="done">What was done</h3>
        <ol class="bare">
          <li v-for="(done, k) in one.done" :key="k">
            <strong>{{ dayName(done.on) }}</strong> {{ told(done) }}
          </li>
        </ol>
      </section>
      <div class="row">
        <el-button v-if="one.done.length || one.ended_by_hand" @click="takeBack">{{ one.ended_by_hand ? "It goes on" : "Take the last back" }}</el-button>
        <el-button v-if="due" @click="end">End it</el-button>
        <RouterLink :to="`/trial/${trial.id}/verdict`">To the verdict</RouterLink>
      </div>
    </template>
  </div>
</template>

<style scoped>
.tight {
  gap: var(--space-2);
}

.next {
  border-left: 8px solid var(--trap);
}

.closed {
  border-left: 4px solid var(--bad);
  padding-left: var(--space-3);
}

.said {
  max-width: var(--measure);
}

.when {
  display: inline-block;
}

.when::first-letter {
  text-transform: uppercase;
}

.bare li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
}

.bare strong {
  min-width: 6rem;
}

.ticks button {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  text-align: left;
}

.box {
  flex: none;
  width: 1.4em;
  height: 1.4em;
  border: 2px solid currentcolor;
  display: grid;
  place-items: center;
}
</style>
