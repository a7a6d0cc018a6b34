<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { asFault, client, take, type Fault } from "../../api/client";
import { formName } from "../../api/once";
import FaultNote from "../../components/FaultNote.vue";
import PracticeReport from "../../components/counting/PracticeReport.vue";
import { isPractised } from "../../charts/creature";
import { useAnswer } from "../../composables/useAnswer";
import { useKnowledge } from "../../composables/useKnowledge";

/** Practice in counting: drawn leaves whose truth is known, and how one has counted so far. */
const router = useRouter();
const route = useRoute();
const { knowledge } = useKnowledge();
const progress = useAnswer(() => take(client.GET("/api/practice")));
const pests = computed(() => (knowledge.value?.pests ?? []).filter((p) => isPractised(p.key)));
const asked = String(route.query["pest"] ?? "");
const pest = ref(isPractised(asked) ? asked : "aphids");
const fill = ref<"few" | "some" | "many">("some");
const leaves = ref(6);
const person = ref("");
const fault = ref<Fault | null>(null);
const form = formName();
const fills = [
  { key: "few", words: "Few on a leaf" },
  { key: "some", words: "A dozen or so" },
  { key: "many", words: "Many" },
] as const;

onMounted(progress.load);

async function begin(): Promise<void> {
  const body = { key: `${form}-${pest.value}`.slice(0, 64), pest: pest.value, fill: fill.value, leaves: leaves.value, person: person.value.trim() };
  try {
    const { id } = await take(client.POST("/api/practice", { body }));
    await router.push(`/practice/${id}`);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

function nameOf(key: string): string {
  return pests.value.find((p) => p.key === key)?.name ?? key;
}
</script>

<template>
  <div class="stack page">
    <h1>Practice in counting</h1>
    <p>
      Count drawn leaves on the screen you count with in the garden. What is really on each is told after your count; from six leaves on the program tells what
      share you find, what you miss, and whether dead ones slip in. A verdict names it, where your practice is sure of it.
    </p>
    <section class="sheet stack">
      <h2>A new spell</h2>
      <div class="stack">
        <fieldset class="choices" aria-label="Which pest">
          <button v-for="p in pests" :key="p.key" type="button" :aria-pressed="pest === p.key" @click="pest = p.key">{{ p.name }}</button>
        </fieldset>
        <fieldset class="choices" aria-label="How many on a leaf">
          <button v-for="f in fills" :key="f.key" type="button" :aria-pressed="fill === f.key" @click="fill = f.key">{{ f.words }}</button>
        </fieldset>
        <div class="row">
          <label class="row"
            >Leaves
            <el-select v-model="leaves" aria-label="Leaves" class="few"
              ><el-option v-for="n in [3, 6, 10, 20]" :key="n" :value="n" :label="String(n)" /></el-select
          ></label>
          <label class="row">Who counts <el-input v-model="person" maxlength="40" placeholder="if more than one does" aria-label="Who counts" /></label>
        </div>
        <FaultNote :fault="fault" />
        <button type="button" class="go-on begin" @click="begin">Begin with the first leaf →</button>
      </div>
    </section>
    <FaultNote :fault="progress.fault.value" />
    <PracticeReport
      v-for="one in progress.data.value ?? []"
      :key="`${one.pest}/${one.person}`"
      :title="`${nameOf(one.pest)}${one.person ? `, ${one.person}` : ''}`"
      :error="one.error"
      :sessions="one.sessions" />
  </div>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}

.choices {
  grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
}

.choices button {
  min-height: var(--touch);
  align-content: center;
}

.few {
  width: 88px;
}

.begin {
  border: 0;
  font-size: var(--text-m);
  cursor: pointer;
}
</style>
