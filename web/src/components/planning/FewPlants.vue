<script setup lang="ts">
import { ref, watch } from "vue";
import { client, take, type Fault, type Schemas } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";
import FaultNote from "../FaultNote.vue";

/** What leaves or halves could show where whole plants are too few. */
const { trial, change, busy } = useTrial();
const fault = ref<Fault | null>(null);
const found = useAnswer(() => take(client.GET("/api/trials/{trial_id}/units", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
const active = (): number => trial.value?.plants.filter((p) => !p.set_aside).length ?? 0;
watch([active, () => trial.value?.setup.unit, () => trial.value?.remedies.length], found.load, { immediate: true });

function named({ unit, each }: Schemas["UnitProposalOut"]): string {
  const one = active() === 1 ? "the plant" : "each plant";
  return unit === "half" ? `Halves of ${one}` : `${each} leaves on ${one}`;
}

async function split({ unit, each }: Schemas["UnitProposalOut"]): Promise<void> {
  if (unit !== "leaf" && unit !== "half") return;
  const path = { trial_id: trial.value?.id ?? 0 };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/units", { params: { path }, body: { unit, each } })));
}
</script>

<template>
  <div v-if="found.data.value?.length" class="stack">
    <h3>With so few plants</h3>
    <ul>
      <li v-for="one in found.data.value" :key="one.unit">
        <span
          ><strong>{{ named(one) }}</strong
          >: {{ one.says }}<template v-if="active() === 1"> The answer is of this plant alone.</template></span
        >
        <el-button :loading="busy" @click="split(one)">Take {{ one.unit === "half" ? "halves" : "leaves" }}</el-button>
      </li>
    </ul>
    <p class="small soft">What one leaf is given may reach the next: shield it, or choose leaves that are apart.</p>
    <FaultNote :fault="fault" />
  </div>
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: var(--space-3);
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  justify-content: space-between;
  max-width: var(--measure);
}
</style>
