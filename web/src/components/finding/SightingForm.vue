<script setup lang="ts">
import { ref, watch } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import { needWhole, readAll } from "../../entered";
import { adviceWords, type SightingDraft } from "../../finding";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";

/** How bad it is, what that calls for, and keeping it. */
defineProps<{ firstAid: string | undefined }>();
const form = defineModel<SightingDraft>({ required: true });
const emit = defineEmits<{ kept: []; plan: [] }>();
const advice = ref<Schemas["AdviceOut"] | null>(null);
const fault = ref<Fault | null>(null);
const saved = ref(false);
let wish = formName();

watch(
  () => JSON.stringify({ ...form.value, seen: 0 }),
  () => (advice.value = null),
);

function body(): Schemas["SightingIn"] {
  const { pest, place, seen, vigorous, wilting, indoors } = form.value;
  const [looked, affected, helpers] = (["looked", "affected", "helpers"] as const).map((field) => needWhole(form.value[field], field));
  return { pest, place, signs: [...seen], looked: looked ?? 0, affected: affected ?? 0, helpers: helpers ?? 0, vigorous, wilting, indoors: indoors ?? false };
}

async function attempt(work: (asked: Schemas["SightingIn"]) => Promise<void>): Promise<void> {
  try {
    await work(readAll(body));
    fault.value = null;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

function ask(): Promise<void> {
  advice.value = null;
  return attempt(async (asked) => {
    advice.value = await take(client.POST("/api/queries/advice", { body: asked }));
    saved.value = false;
  });
}

function keep(): Promise<void> {
  return attempt(async (asked) => {
    await take(client.POST("/api/inspections", { body: asked, params: { header: once(wish, asked) } }));
    wish = formName();
    saved.value = true;
    emit("kept");
  });
}
</script>

<template>
  <form class="sheet stack" novalidate @submit.prevent="ask">
    <h2>How bad is it?</h2>
    <div class="numbers">
      <FieldRow v-slot="{ id, described }" label="Looked at" help="Leaves or plants, as they come." :fault="fault?.at('looked')"
        ><el-input :id="id" v-model="form.looked" inputmode="numeric" :aria-describedby="described"
      /></FieldRow>
      <FieldRow v-slot="{ id, described }" label="Of these affected" :fault="fault?.at('affected')"
        ><el-input :id="id" v-model="form.affected" inputmode="numeric" :aria-describedby="described"
      /></FieldRow>
      <FieldRow v-slot="{ id, described }" label="Helpers seen" :fault="fault?.at('helpers')"
        ><el-input :id="id" v-model="form.helpers" inputmode="numeric" :aria-describedby="described"
      /></FieldRow>
      <FieldRow v-slot="{ id, described }" label="Where" help="So that the next look there shows the trend."
        ><el-input :id="id" v-model="form.place" maxlength="80" :aria-describedby="described"
      /></FieldRow>
    </div>
    <div class="row">
      <el-checkbox v-model="form.vigorous">The plant grows well</el-checkbox>
      <el-checkbox v-model="form.wilting">Most of it is dying back</el-checkbox>
      <el-checkbox v-model="form.indoors">It stands indoors: no helpers find it</el-checkbox>
    </div>
    <FaultNote :fault="fault && !['looked', 'affected', 'helpers'].includes(fault.field ?? '') ? fault : null" />
    <div><el-button type="primary" size="large" native-type="submit">What to do?</el-button></div>
    <div v-if="advice" class="advice" :class="advice.action" role="status">
      <p class="action">{{ adviceWords[advice.action] }}</p>
      <p>{{ advice.reason }}</p>
      <p v-if="advice.action === 'clean_first'" class="soft">
        {{ firstAid }} Do it to every plant alike, before any count, and bin what you take off so that nothing hatches.
      </p>
      <div class="row">
        <el-button v-if="!saved" @click="keep">Keep this look</el-button>
        <span v-else>Kept.</span>
        <el-button v-if="advice.action !== 'too_far'" :type="advice.action === 'trial' ? 'primary' : 'default'" @click="emit('plan')">Plan a trial →</el-button>
      </div>
    </div>
  </form>
</template>

<style scoped>
.numbers {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: var(--space-4);
}

.advice {
  display: grid;
  gap: var(--space-3);
  padding: var(--space-4);
  border-left: 8px solid var(--line);
  background: var(--paper);
}

.advice.trial {
  border-left-color: var(--trap);
}

.action {
  font-size: var(--text-l);
  font-weight: 750;
}
</style>
