<script setup lang="ts">
import { computed } from "vue";
import type { Remark } from "../../composables/useRemarks";
import { inUnits } from "../../units";
import { listing } from "../../words";

/** What the critic says of the plan, each beginning with the word that it hangs on. */
const props = defineProps<{ remarks: readonly Remark[] }>();
const emit = defineEmits<{ mend: [remark: Remark] }>();

const WORDS: Record<Remark["about"], string> = {
  plants: "The plants",
  bench: "The bench",
  pest: "The pest",
  measure: "What is counted",
  remedies: "The remedies",
  control: "The comparison",
  start: "The start",
  days: "The days",
};
const FIRST = 3; // what is read at once; the rest folds
interface Said {
  words: string;
  remark: Remark;
}
/** What is said of several remedies alike is said once; then no mend of one of them helps. */
const said = computed<Said[]>(() =>
  [...new Set(props.remarks.map((one) => one.harm))].map((harm) => {
    const alike = props.remarks.filter((one) => one.harm === harm);
    const [first] = alike as [Remark];
    const words = listing(alike.map((one) => one.remedy ?? WORDS[one.about]));
    return { words, remark: alike.length > 1 ? { ...first, mend: null } : first };
  }),
);
const parts = computed(() => ({ first: said.value.slice(0, FIRST), rest: said.value.slice(FIRST) }));
</script>

<template>
  <template v-for="(list, part) in parts" :key="part">
    <component :is="part === 'rest' ? 'details' : 'div'" v-if="list.length">
      <summary v-if="part === 'rest'">{{ list.length === 1 ? "One more remark" : `${list.length} more remarks` }}</summary>
      <ul>
        <li v-for="{ words, remark } in list" :key="remark.code">
          <span
            ><strong>{{ words }}:</strong> {{ inUnits(remark.harm) }}</span
          >
          <el-button v-if="remark.mend" size="small" @click="emit('mend', remark)">{{ inUnits(remark.mend) }}</el-button>
        </li>
      </ul>
    </component>
  </template>
</template>

<style scoped>
ul {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-4);
  align-items: center;
  justify-content: space-between;
  max-width: none;
  padding: var(--space-2) var(--space-3);
  border-left: 3px solid var(--trap);
  background: var(--trap-wash);
}

li > span {
  flex: 1 1 24rem;
}

li :deep(.el-button) {
  min-height: 40px;
  white-space: normal;
}
</style>
