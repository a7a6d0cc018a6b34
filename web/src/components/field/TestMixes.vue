<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { client, take, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import { amount, volume } from "../../mixing";
import CautionList from "../CautionList.vue";
import FaultNote from "../FaultNote.vue";
import PourList from "../pantry/PourList.vue";

/** The little bottles that are tried on leaves, mixed before the trial's own. */
type TestMix = Schemas["TestMixOut"];
const { trial, make } = useTrial();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const mixes = useAnswer(() => take(client.GET("/api/trials/{trial_id}/patches/mixes", { params: { path: path.value } })));
const fault = ref<typeof mixes.fault.value>(null);
const kept = ref<string[]>([]);
const read = ref<string[]>([]);
const names = new Map<string, string>();
onMounted(mixes.load);

function nameOf(one: TestMix): string {
  return `${one.remedy_id}/${one.step}`;
}

/** "2 ml soap, water to 200 ml". */
function short(mix: Schemas["MixOut"]): string {
  const parts = mix.pours.filter((pour) => pour.measured).map((pour) => `${amount(pour.measured?.amount ?? 0)} ${pour.unit} ${pour.name}`);
  return `${parts.join(", ")}, water to ${volume(mix.volume)}`;
}

async function keep(one: TestMix): Promise<void> {
  const name = nameOf(one);
  const wish = names.get(name) ?? formName();
  names.set(name, wish);
  const body = {
    volume: one.mix?.volume ?? null,
    life_hours: null,
    recipe: null,
    note: "test mix",
    mixed_by: "",
    step: one.step,
    acknowledged: one.strong.map((caution) => caution.key).filter((key) => read.value.includes(`${name} ${key}`)),
  };
  fault.value = await make(() =>
    take(
      client.POST("/api/trials/{trial_id}/remedies/{remedy_id}/batches", {
        params: { path: { ...path.value, remedy_id: one.remedy_id }, header: once(wish, body) },
        body,
      }),
    ),
  );
  if (!fault.value) kept.value.push(name);
}
</script>

<template>
  <section v-if="mixes.data.value?.length" class="sheet stack">
    <h2>Mix a little first</h2>
    <p class="soft">A patch test is of the mix that will be sprayed. These are small bottles of it; label them, and pour away what is left.</p>
    <FaultNote :fault="mixes.fault.value ?? fault" />
    <details v-for="one in mixes.data.value" :key="nameOf(one)">
      <summary>
        <strong>{{ one.name }}:</strong>{{ " "
        }}<span class="small">{{ one.mix && !one.mix.open.length ? short(one.mix) : one.unread || "its recipe is not understood yet" }}</span>
      </summary>
      <div v-if="one.mix && !one.mix.open.length" class="stack">
        <PourList :mix="one.mix" brief />
        <CautionList :texts="one.mix.cautions" title="Before you mix" />
        <el-checkbox-group v-if="one.strong.length" v-model="read" class="stack">
          <el-checkbox v-for="caution in one.strong" :key="caution.key" :value="`${nameOf(one)} ${caution.key}`"
            >I have read: {{ caution.texts[0] }}</el-checkbox
          >
        </el-checkbox-group>
        <p v-if="kept.includes(nameOf(one))" role="status" class="kept">It is kept, and has a label.</p>
        <div v-else class="row"><el-button @click="keep(one)">It is mixed: keep it</el-button></div>
      </div>
    </details>
  </section>
</template>

<style scoped>
.kept {
  color: var(--good);
  font-weight: 650;
}

summary .small {
  margin-left: var(--space-2);
  font-weight: 400;
}
</style>
