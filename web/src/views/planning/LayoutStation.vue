<script setup lang="ts">
import { computed, nextTick, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Plant } from "../../api/client";
import { formName, once } from "../../api/once";
import BenchMap from "../../components/BenchMap.vue";
import TimeTable from "../../components/field/TimeTable.vue";
import FaultNote from "../../components/FaultNote.vue";
import CriticPanel from "../../components/planning/CriticPanel.vue";
import DesignPanel from "../../components/planning/DesignPanel.vue";
import NextStep from "../../components/trial/NextStep.vue";
import KeyAndBlocks from "../../components/planning/KeyAndBlocks.vue";
import PrintLinks from "../../components/planning/PrintLinks.vue";
import FieldRow from "../../components/FieldRow.vue";
import PowerPanel from "../../components/planning/PowerPanel.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { momentName, plural } from "../../words";
import TermText from "../../components/TermText.vue";
import { inUnits } from "../../units";

const { trial, change, busy } = useTrial();
const fault = ref<Fault | null>(null);
const remarks = ref(0);
const asking = ref(false);
const heading = ref<HTMLElement | null>(null);
const reason = ref("");
let wish = formName();
const drawn = computed(() => Boolean(trial.value?.plants.some((p) => p.letter)));
const fixed = computed(() => trial.value?.sprayed_on !== null);

const spare = computed(() => (drawn.value ? (trial.value?.plants ?? []).filter((p) => !p.set_aside && p.block === null) : []));
const doubled = computed(() => {
  const sizes = new Map<number, number>();
  for (const { block } of trial.value?.plants ?? []) if (block !== null) sizes.set(block, (sizes.get(block) ?? 0) + 1);
  return [...sizes.values()].filter((size) => size > (trial.value?.remedies.length ?? 0)).length;
});

const course = useAnswer(() => take(client.GET("/api/trials/{trial_id}/course", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
watch(
  fixed,
  (now) => {
    if (now) void course.load();
  },
  { immediate: true },
);

async function draw(): Promise<void> {
  const id = trial.value?.id ?? 0;
  const body = { reason: reason.value };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/layout", { params: { path: { trial_id: id }, header: once(wish, body) }, body })));
  if (fault.value) return;
  asking.value = false;
  wish = formName();
  reason.value = "";
  // The button that was pressed is gone; who works by keyboard goes on from the heading.
  await nextTick();
  heading.value?.focus();
}

async function move(plant: Plant, row: number, place: number): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0, plant_id: plant.id };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/plants/{plant_id}/move", { params: { path }, body: { row, place } })));
  if (!fault.value) await nextTick(() => document.querySelector<HTMLElement>(`[data-plant="${plant.id}"]`)?.focus());
}

const onPlant = computed(() => ["leaf", "shoot", "half", "cluster"].includes(trial.value?.setup.unit ?? ""));

async function openKey(): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0 };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/key", { params: { path } })));
}
</script>

<template>
  <div v-if="trial" class="stack broad">
    <section class="sheet stack across">
      <div class="head">
        <div>
          <h2 ref="heading" tabindex="-1">{{ drawn ? "What stands where" : "Draw the layout" }}</h2>
          <p v-if="!drawn" class="soft">
            <TermText
              text="Plants with about as many pests form a block, like pots on one tray. Within each block chance decides which plant gets what, so that nobody gives the worst plants the remedy they believe in." />
          </p>
          <p v-else class="soft">
            <TermText
              :text="`The number in the corner is its block: ${onPlant ? 'those that share a plant, or stand alike on it' : 'plants that had about as many pests'}. ${trial.mark}`" />
          </p>
        </div>
        <NextStep v-if="drawn" from="layout" />
        <el-button v-else type="primary" size="large" :loading="busy" @click="draw">Draw at random</el-button>
      </div>
      <p v-if="!drawn && remarks" class="no-print">
        <a href="#critic">{{ plural(remarks, "remark") }} on this plan: read {{ remarks === 1 ? "it" : "them" }} first ↓</a>
      </p>
      <FaultNote :fault="asking ? null : fault"><RouterLink :to="`/trial/${trial.id}/plants`">Go to the plants</RouterLink></FaultNote>
      <BenchMap
        v-if="trial.plants.length"
        :trial="trial"
        :figure="drawn && fixed ? 'course' : 'match'"
        :course="course.data.value"
        :movable="!fixed"
        :still="fixed"
        @move="move" />
      <p v-if="!fixed && trial.plants.length" class="small soft">
        <template v-if="!onPlant">{{ inUnits(`${trial.setup.place_cm} cm between plants, ${trial.setup.row_cm} cm between rows.`) }}</template> Drag
        {{ onPlant ? "one" : "a plant" }} to where it {{ onPlant ? "is" : "stands" }}, click it and then its place, or focus it and press
        <span class="key">Alt</span> with an arrow.
        <template v-if="trial.shields.length"> Double lines: hold a shield there, a neighbour within drift gets something else.</template>
      </p>
      <p v-for="(why, id) in trial.odd_plants" :key="id" class="soft">
        {{ trial.plants.find((p) => p.id === Number(id))?.name }} is odd ({{ why }}): set it aside at the plants, unless you know better.
      </p>
      <p v-if="spare.length" class="soft">
        <template v-if="trial.setup.two_waves">Half of the blocks come first. {{ spare.map((p) => p.name).join(", ") }} wait for the second wave.</template>
        <template v-else>{{ spare.map((p) => p.name).join(", ") }} found no block and {{ spare.length === 1 ? "stays" : "stay" }} out.</template>
      </p>
      <p v-if="doubled" class="soft">
        {{ doubled === 1 ? "One block has" : `${doubled} blocks have` }} one of them twice, for a plant was left over: which one, the lot said.
      </p>
    </section>

    <!-- On paper this page is the bench alone. -->
    <template v-if="!fixed">
      <TimeTable :trial="trial" />
      <CriticPanel id="critic" class="no-print" @found="remarks = $event" />
    </template>

    <KeyAndBlocks v-if="drawn" :trial="trial" class="no-print" @open="openKey" />
    <PrintLinks v-if="drawn" :id="trial.id" class="no-print" />

    <!-- What is settled by the draw is folded behind it. -->
    <component :is="drawn ? 'details' : 'div'" v-if="!fixed" class="stack no-print expert">
      <summary v-if="drawn">Design, spacing, how many plants</summary>
      <DesignPanel />
      <PowerPanel />
    </component>

    <details v-if="trial.layout_events.length" class="stack no-print expert">
      <summary>How it came about, and drawing it anew</summary>
      <section class="sheet stack">
        <ol class="events">
          <li v-for="(event, k) in trial.layout_events" :key="k">
            {{ momentName(event.made_at) }}: {{ event.kind === "drawn" ? "drawn at random" : event.kind === "given" ? "taken from paper" : "cleared"
            }}<span class="soft">, {{ event.reason }}</span>
          </li>
        </ol>
        <p v-if="fixed" class="small soft">A plant was sprayed, so the layout stands.</p>
        <div v-else-if="drawn"><el-button @click="asking = true">Draw it anew</el-button></div>
      </section>
    </details>

    <el-dialog v-model="asking" title="Draw the layout anew?" width="min(480px, 92vw)" append-to-body>
      <div class="stack">
        <p>Tags already set on plants will be wrong. The reason goes on the record.</p>
        <FieldRow v-slot="{ id }" label="Why" :fault="fault">
          <el-input :id="id" v-model="reason" maxlength="500" @keydown.enter="draw" />
        </FieldRow>
      </div>
      <template #footer>
        <el-button @click="asking = false">Keep this one</el-button>
        <el-button type="primary" :loading="busy" @click="draw">Draw anew</el-button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: start;
  gap: var(--space-4);
}

.expert > summary {
  min-height: var(--touch);
  font-weight: 650;
  cursor: pointer;
}

.expert[open] > :not(:last-child) {
  margin-bottom: var(--space-4);
}

ul,
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
