<script setup lang="ts">
import { computed, onMounted, toRef } from "vue";
import { useRouter } from "vue-router";
import { client, take } from "../../api/client";
import FaultNote from "../../components/FaultNote.vue";
import InspectionList from "../../components/finding/InspectionList.vue";
import PestCandidates from "../../components/finding/PestCandidates.vue";
import PestCard from "../../components/finding/PestCard.vue";
import PestPicker from "../../components/finding/PestPicker.vue";
import SightingForm from "../../components/finding/SightingForm.vue";
import SignList from "../../components/finding/SignList.vue";
import { useAnswer } from "../../composables/useAnswer";
import { useDraft } from "../../composables/useDraft";
import { useKnowledge } from "../../composables/useKnowledge";
import { freshSighting } from "../../finding";

const router = useRouter();
const { knowledge, fault: lost } = useKnowledge();
// What was ticked and typed outlives a reload, until it is kept or cleared.
const [state] = useDraft("find-out", freshSighting());
const pest = toRef(state, "pest");
const seen = computed(() => new Set(state.seen));
const ranked = useAnswer(() =>
  state.seen.length ? take(client.GET("/api/signs/candidates", { params: { query: { signs: state.seen } } })) : Promise.resolve([]),
);
const kept = useAnswer(() => take(client.GET("/api/inspections")));
const none = computed(() => knowledge.value?.disorders.find((d) => d.key === pest.value) ?? null);
/** On a phone what it may be stays in view while signs are ticked. */
const likeliest = computed(() => (ranked.data.value ?? []).slice(0, 2).map((c) => pestName(c.key).toLowerCase()));
function showAll(): void {
  document.getElementById("may-be")?.scrollIntoView();
}
const chosen = computed(() => knowledge.value?.pests.find((p) => p.key === pest.value) ?? null);

onMounted(() => Promise.all([kept.load(), ranked.load()]));

function toggle(key: string): void {
  state.seen = seen.value.has(key) ? state.seen.filter((s) => s !== key) : [...state.seen, key];
  void ranked.load();
}

function startAfresh(): void {
  Object.assign(state, freshSighting());
  void ranked.load();
}

function pestName(key: string): string {
  return (knowledge.value?.pests.find((p) => p.key === key) ?? knowledge.value?.disorders.find((d) => d.key === key))?.name ?? key;
}

function plan(): void {
  void router.push({ path: "/new", query: { pest: pest.value } });
}
</script>

<template>
  <div class="stack">
    <div>
      <h1>What is it, and must I act?</h1>
      <p class="soft">Tick what you see, check the tell-tale, count ten leaves or plants. Small harm on a healthy plant is left alone.</p>
    </div>
    <FaultNote :fault="lost ?? ranked.fault.value ?? kept.fault.value" />
    <template v-if="knowledge">
      <div class="two">
        <section class="sheet stack" aria-labelledby="seen">
          <div class="row between">
            <h2 id="seen">What do you see?</h2>
            <el-button v-if="seen.size || pest" @click="startAfresh">Start afresh</el-button>
          </div>
          <SignList :signs="knowledge.signs" :seen="seen" @toggle="toggle" />
          <p v-if="likeliest.length" class="in-view">
            <a href="#may-be" @click.prevent="showAll"
              >It may be <strong>{{ likeliest.join(", ") }}</strong> ↓</a
            >
          </p>
        </section>
        <section id="may-be" class="sheet stack" aria-labelledby="maybe">
          <h2 id="maybe">It may be</h2>
          <PestCandidates v-model="pest" :knowledge="knowledge" :candidates="ranked.data.value ?? []" />
          <PestPicker :model-value="none ? '' : pest" :pests="knowledge.pests" placeholder="Or choose one you know" @update:model-value="pest = $event" />
          <PestCard v-if="chosen" :pest="chosen" />
          <div v-if="none" class="none stack" role="status">
            <h3>{{ none.name }}: no spray helps</h3>
            <p><strong>To be sure:</strong> {{ none.tell }}</p>
            <p><strong>What helps:</strong> {{ none.do }}</p>
          </div>
        </section>
      </div>
      <SightingForm
        v-if="pest && !none"
        :model-value="state"
        :first-aid="chosen?.first_aid"
        @update:model-value="Object.assign(state, $event)"
        @kept="kept.load"
        @plan="plan" />
      <InspectionList v-if="kept.data.value?.length" :kept="kept.data.value" :pest-name="pestName" />
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

.none {
  padding-left: var(--space-4);
  border-left: 5px solid var(--good);
}

.in-view {
  display: none;
}

.between {
  justify-content: space-between;
}

@media (width < 820px) {
  .two {
    grid-template-columns: 1fr;
  }

  .in-view {
    display: block;
    position: sticky;
    bottom: 0;
    margin-inline: calc(-1 * var(--space-5));
    padding: var(--space-2) var(--space-5);
    background: var(--trap);
  }

  .in-view a {
    display: flex;
    gap: 0.3em;
    align-items: center;
    min-height: var(--touch);
    color: var(--on-trap);
  }
}
</style>
