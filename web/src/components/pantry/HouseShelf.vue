<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { RouterLink } from "vue-router";
import { asFault, client, take, takeNoted, type Fault, type Schemas } from "../../api/client";
import { ifStill } from "../../api/once";
import { useKnowledge } from "../../composables/useKnowledge";
import { toolWords } from "../../units";
import { listing } from "../../words";
import { volume } from "../../mixing";
import FaultNote from "../FaultNote.vue";

/** What is in the house, asked in passing and kept with the yard: what can be made of it is listed first. */
const emit = defineEmits<{ kept: [] }>();
const { knowledge } = useKnowledge();
const yard = ref<Schemas["YardIO"] | null>(null);
const tools = ref<Schemas["ToolOut"][]>([]);
const fault = ref<Fault | null>(null);
let revision = "";

async function load(): Promise<void> {
  try {
    yard.value = await takeNoted(client.GET("/api/yard"), (read) => (revision = read));
    tools.value = await take(client.GET("/api/tools"));
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
onMounted(load);

const measures = computed(() => listing(tools.value.filter((one) => yard.value?.tools.includes(one.key)).map((one) => toolWords(one.name))));
const here = computed(() =>
  Object.entries(knowledge.value?.numbers.household ?? {}).flatMap(([key, name]) => (yard.value?.in_house?.includes(key) ? [name] : [])),
);
const bottles = computed(() => listing((yard.value?.bottles ?? []).map(volume)));

async function turn(things: string[]): Promise<void> {
  if (!yard.value) return;
  try {
    const body = { ...yard.value, in_house: things };
    yard.value = await takeNoted(client.PUT("/api/yard", { body, params: { header: ifStill(revision) } }), (read) => (revision = read));
    fault.value = null;
    emit("kept");
  } catch (thrown) {
    fault.value = asFault(thrown);
    if (fault.value.code === "changed_elsewhere") await load();
  }
}
</script>

<template>
  <details v-if="yard && knowledge" class="house">
    <summary>
      What is in the house? {{ yard.in_house ? `By now: ${listing(here) || "nothing of these"}.` : "Say it once, and what can be made of it comes first." }}
    </summary>
    <el-checkbox-group :model-value="yard.in_house ?? []" class="row" @update:model-value="(found) => turn(found as string[])">
      <el-checkbox v-for="(name, key) in knowledge.numbers.household" :key="key" :value="key">{{ name }}</el-checkbox>
    </el-checkbox-group>
    <p v-if="tools.length" class="small soft">
      Measured with {{ measures }}; bottles of {{ bottles }}. <RouterLink to="/yard">Other spoons and bottles</RouterLink>
    </p>
    <FaultNote :fault="fault" />
  </details>
</template>

<style scoped>
.house {
  padding: var(--space-1) var(--space-3);
  border: 1.5px solid var(--hair);
  border-radius: var(--radius-m);
}

summary {
  min-height: var(--touch);
  font-weight: 650;
  cursor: pointer;
}

.row {
  gap: 0 var(--space-5);
}
</style>
