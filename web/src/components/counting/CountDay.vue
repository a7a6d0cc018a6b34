<script setup lang="ts">
import { computed, ref } from "vue";
import { dayName, fromToday } from "../../words";

/** Asks on which day numbers were counted, where today is not the day of their look. */
const props = defineProps<{ due: string; today: string; before: boolean; modelValue: string | null }>();
const emit = defineEmits<{ "update:modelValue": [day: string | null] }>();

const other = ref("");
const early = computed(() => props.due > props.today);
const wrong = computed(() => Boolean(other.value) && other.value > props.today);
</script>

<template>
  <section v-if="modelValue === null" class="sheet stack asking" aria-labelledby="which-day">
    <h2 id="which-day">Which day was it?</h2>
    <p v-if="before">
      The first spray was on {{ dayName(due) }}. A count before it that stands on paper can be entered now; what is counted now is no count before.
    </p>
    <p v-else-if="early">This look is planned for {{ dayName(due) }}, {{ fromToday(due, today) }}. A look before its day settles nothing: come again then.</p>
    <p v-else>This look was planned for {{ dayName(due) }}. Numbers are judged by the day they were counted on.</p>
    <div class="choices">
      <button v-if="!early" type="button" @click="emit('update:modelValue', due)">On its day, {{ dayName(due) }}</button>
      <button v-if="!before" type="button" @click="emit('update:modelValue', today)">
        Today, {{ dayName(today) }}<template v-if="early">: early</template>
      </button>
    </div>
    <form class="row" novalidate @submit.prevent="other && !wrong && emit('update:modelValue', other)">
      <label class="row">Another day <input v-model="other" type="date" class="date" :max="today" /></label>
      <el-button native-type="submit" :disabled="!other || wrong">That day</el-button>
    </form>
    <p v-if="wrong" role="alert" class="wrong">That day is still to come.</p>
  </section>
  <p v-else class="small said">
    Counted on {{ dayName(modelValue) }}. <button type="button" class="as-text" @click="emit('update:modelValue', null)">Another day</button>
  </p>
</template>

<style scoped>
.asking {
  border-left: 8px solid var(--warn);
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}

.said {
  text-align: center;
}

.choices button {
  align-content: center;
}
</style>
