<script setup lang="ts">
import { computed, ref } from "vue";
import type { Pest } from "../../api/client";
import { ownPest, pestsFor } from "../../pests";

/** Chooses a pest or disease by any word for it; what matches none can be taken as one's own. */
const props = defineProps<{ pests: readonly Pest[]; modelValue: string; disabled?: boolean; placeholder?: string; id?: string; label?: string }>();
const emit = defineEmits<{ "update:modelValue": [pest: string] }>();

const query = ref("");
const found = computed(() => pestsFor(query.value, props.pests));
const own = computed(() => ownPest(query.value, props.pests));
/** A pest of the gardener's own has no entry in the list, so it brings its own. */
const chosenOwn = computed(() => Boolean(props.modelValue) && !props.pests.some((p) => p.key === props.modelValue));
</script>

<template>
  <el-select
    :id="id"
    :model-value="modelValue"
    filterable
    default-first-option
    :filter-method="(text: string) => (query = text)"
    :disabled="disabled"
    :placeholder="placeholder ?? 'Choose'"
    :aria-label="label ?? 'Pest or disease'"
    @update:model-value="emit('update:modelValue', $event)"
    @visible-change="
      (open: boolean) => {
        if (!open) query = '';
      }
    ">
    <el-option v-for="{ pest, by } in found" :key="pest.key" :value="pest.key" :label="pest.name">
      {{ pest.name }}<span v-if="by" class="by small">{{ ` ${by}` }}</span>
    </el-option>
    <el-option v-if="own" :value="own" :label="own">“{{ own }}”, one of my own</el-option>
    <el-option v-if="chosenOwn && modelValue !== own" v-show="!query" :value="modelValue" :label="modelValue" />
  </el-select>
</template>

<style scoped>
.by {
  margin-left: 0.6em;
  color: var(--ink-soft);
}
</style>
