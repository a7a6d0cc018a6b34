<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { client, take, type Fault, type Schemas } from "../../api/client";
import { roundRhythms, stopWords } from "../../care";
import { useAnswer } from "../../composables/useAnswer";
import { ifStill } from "../../api/once";
import { useTrial } from "../../composables/useTrial";
import { dayName } from "../../words";
import FaultNote from "../FaultNote.vue";
import GenerationsPicture from "./GenerationsPicture.vue";
import { inUnits, shown as inTheirs, unitOf } from "../../units";

/** What comes next in the rounds: the stopping rule, the generations, and the proposals by rhythm. */
const { trial, change, load } = useTrial();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const schedule = useAnswer(() => take(client.GET("/api/trials/{trial_id}/schedule", { params: { path: path.value } })));
const fault = ref<Fault | null>(null);
onMounted(schedule.load);
watch(trial, () => void schedule.load());

const chosen = computed(() => schedule.data.value?.proposals[0]);
const rounds = computed(() => (trial.value?.rounds ?? []).map((r) => ({ number: r.number, on: r.on, sprayed: r.sprayed.length > 0 })));
const offered = computed(() => schedule.data.value?.moved ?? chosen.value ?? null);
const differs = computed(() => Boolean(offered.value?.on && offered.value.on !== schedule.data.value?.next_on));
const isNew = computed(() => (schedule.data.value?.next_number ?? 0) > (trial.value?.rounds.length ?? 0));

/** Where the look says stop and a round is still planned, it can be left out; moving it brings it back. */
const canLeaveOut = computed(() => {
  const found = schedule.data.value;
  return Boolean(found?.next_on && found.advice && ["stop", "change_plan"].includes(found.advice.action));
});

async function leaveOut(): Promise<void> {
  const { next_number: number, advice } = schedule.data.value ?? {};
  if (!number || !advice) return;
  fault.value = await change(() =>
    take(client.POST("/api/trials/{trial_id}/rounds/{number}/leave-out", { params: { path: { ...path.value, number } }, body: { reason: advice.reason } })),
  );
}

async function choose(rhythm: Schemas["RoundRhythm"]): Promise<void> {
  if (!trial.value) return;
  const body = { ...trial.value.care, round_rhythm: rhythm };
  fault.value = await change(() =>
    take(client.PUT("/api/trials/{trial_id}/care", { params: { path: path.value, header: ifStill(trial.value?.care_revision) }, body })),
  );
  if (fault.value?.code === "changed_elsewhere") await load();
}

async function move(proposal: Schemas["RoundProposalOut"]): Promise<void> {
  const number = schedule.data.value?.next_number;
  if (!number || !proposal.on) return;
  const body = { on: proposal.on, reason: proposal.reason };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/rounds/{number}/move", { params: { path: { ...path.value, number } }, body })));
}
</script>

<template>
  <section v-if="schedule.data.value && (schedule.data.value.generations || schedule.data.value.advice)" class="sheet stack" aria-labelledby="next-round">
    <h2 id="next-round">What comes next</h2>
    <FaultNote :fault="fault ?? schedule.fault.value" />
    <div v-if="schedule.data.value.advice" class="advice" :class="schedule.data.value.advice.action">
      <strong>After look {{ schedule.data.value.decided_at }}: {{ stopWords[schedule.data.value.advice.action].toLowerCase() }}</strong>
      <p>{{ inUnits(schedule.data.value.advice.reason) }}</p>
      <el-button v-if="canLeaveOut" @click="leaveOut">Leave round {{ schedule.data.value.next_number }} out</el-button>
    </div>
    <template v-if="schedule.data.value.generations">
      <GenerationsPicture :generations="schedule.data.value.generations" :rounds="rounds" :proposed="offered?.on ?? null" />
      <p class="small soft">
        {{ schedule.data.value.degree_days ? "By the warmth that was read here" : inUnits("No temperatures are known: 18 °C is taken") }}, with typical values.
      </p>
      <details class="small">
        <summary>The numbers behind it</summary>
        <p>
          {{
            schedule.data.value.stages
              .map((s) => `${s.name} ${inTheirs(s.k, "warmer")} degree-days above ${inTheirs(s.t0, "temperature")} ${unitOf("temperature")}`)
              .join(", ")
          }}. {{ inUnits("Above 33 °C nothing grows faster.") }} One degree-day is a day that is one {{ unitOf("warmer") }} warmer than that.
        </p>
      </details>
      <div v-if="offered && differs" class="offer">
        <p v-if="schedule.data.value.moved">{{ inUnits(offered.reason.charAt(0).toUpperCase() + offered.reason.slice(1)) }}</p>
        <p v-else>
          <strong>{{ roundRhythms[offered.rhythm] }}: {{ dayName(offered.on!) }}.</strong> {{ inUnits(offered.reason) }}
        </p>
        <el-button type="primary" @click="move(offered)"
          >{{ isNew ? "Add" : "Move" }} round {{ schedule.data.value.next_number }} {{ isNew ? "on" : "to" }} {{ dayName(offered.on!) }}</el-button
        >
      </div>
      <details>
        <summary>What each rhythm would do</summary>
        <div class="table">
          <table>
            <thead>
              <tr>
                <th>Rhythm</th>
                <th>Next round</th>
                <th>Why</th>
                <th><span class="visually-hidden">Take it</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(proposal, k) in schedule.data.value.proposals" :key="proposal.rhythm" :class="{ chosen: k === 0 }">
                <th>{{ roundRhythms[proposal.rhythm] }}</th>
                <td>
                  {{ proposal.on ? dayName(proposal.on) : "when a look says so"
                  }}<span v-if="proposal.first && proposal.last && proposal.first !== proposal.last" class="small soft">
                    ({{ dayName(proposal.first) }} to {{ dayName(proposal.last) }})</span
                  >
                </td>
                <td class="small">{{ inUnits(proposal.reason) }}</td>
                <td><span v-if="k === 0" class="small">chosen</span><el-button v-else size="small" @click="choose(proposal.rhythm)">Choose</el-button></td>
              </tr>
            </tbody>
          </table>
        </div>
      </details>
    </template>
  </section>
</template>

<style scoped>
.advice {
  padding: var(--space-3) var(--space-4);
  border-left: 6px solid var(--trap);
  background: var(--paper);
}

.stop {
  border-left-color: var(--good);
}

.change_plan {
  border-left-color: var(--bad);
}

.offer {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  justify-content: space-between;
}

.table {
  overflow-x: auto;
}

table {
  border-collapse: collapse;
  width: 100%;
}

th,
td {
  padding: var(--space-2);
  text-align: left;
  vertical-align: top;
  border-top: 1px solid var(--hair);
}

.chosen {
  background: var(--accent-wash);
}
</style>
