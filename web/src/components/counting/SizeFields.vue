<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { SIZES, type Size } from "../../counting";
import { readNumber } from "../../words";

/** What is measured of this plant itself: kept as it is typed, once for the plant. */
const props = defineProps<{ plant: number; wanted: readonly string[]; value: (size: Size) => number | null }>();
const emit = defineEmits<{ kept: [size: Size, value: number] }>();
const fields = computed(() => SIZES.filter((size) => props.wanted.includes(size.key)));
const typed = ref<Partial<Record<Size, string>>>({});
watch(
  () => props.plant,
  () => (typed.value = {}),
);

function shown(size: Size): string {
  return typed.value[size] ?? String(props.value(size) ?? "");
}

function keep(size: Size, text: string): void {
  const value = readNumber(text);
  typed.value[size] = value === undefined ? text : undefined;
  if (value !== undefined && value >= 0) emit("kept", size, value);
}
</script>

<template>
  <div class="sizes">
    <label v-for="size in fields" :key="size.key">
      <span class="small">{{ size.words }}{{ size.unit ? ` (${size.unit})` : "" }}</span>
      <input
        :value="shown(size.key)"
        inputmode="decimal"
        autocomplete="off"
        :aria-invalid="typed[size.key] !== undefined && typed[size.key] !== '' ? true : undefined"
        @change="keep(size.key, ($event.target as HTMLInputElement).value)" />
    </label>
  </div>
</template>

<style scoped>
.sizes {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(104px, 1fr));
  gap: var(--space-2);
  align-items: end;
}

label {
  display: grid;
}

input {
  width: 100%;
  min-height: var(--touch);
  padding: 0 var(--space-2);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
}

[aria-invalid] {
  border-color: var(--bad);
}
</style>
