<script setup lang="ts">
import { computed } from "vue";
import type { Remark } from "../../composables/useRemarks";
import { inUnits } from "../../units";

/** What the critic says of the plan, each beginning with the word that it hangs on. */
const props = defineProps<{ remarks: readonly Remark[] }>();
const emit = defineEmits<{ mend: [remark: Remark] }>();

const WORDS: Record<Remark["about"], string> = { plants: "The plants", bench: "The bench", pest: "The pest", measure: "What is counted", remedies: "The remedies", control: "The comparison", start: "The start", days: "The days" };
const FIRST = 3; // what is read at once; the rest folds
const parts = computed(() => ({ first: props.remarks.slice(0, FIRST), rest: props.remarks.slice(FIRST) }));
const word = (one: Remark): string => one.remedy ?? WORDS[one.about];
</script>

<template>
  <template v-for="(list, part) in parts" :key="part">
    <component :is="part === 'rest' ? 'details' : 'div'" v-if="list.length">
      <summary v-if="part === 'rest'">{{ list.length === 1 ? "One more remark" : `${list.length} more remarks` }}</summary>
      <ul>
        <li v-for="one in list" :key="one.code">
          <span><strong>{{ word(one) }}:</strong> {{ inUnits(one.harm) }}</span>
          <el-button v-if="one.mend" size="small" @click="emit('mend', one)">{{ inUnits(one.mend) }}</el-button>
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
