<script setup lang="ts">
import { ref, useId, watch } from "vue";
import type { Fault } from "../api/client";
import { useInSight } from "../composables/useInSight";

/** A labelled field with its help below and, when it is at fault, the message beside it. */
const props = defineProps<{ label: string; help?: string; fault?: Fault | null | undefined }>();
const id = useId();
const box = ref<HTMLElement | null>(null);
useInSight(box, () => props.fault);
// What is at fault is marked, and the first of it gets the focus.
watch(
  () => props.fault,
  (fault) => {
    const field = box.value?.querySelector<HTMLElement>("input, textarea, select");
    if (fault) field?.setAttribute("aria-invalid", "true");
    else field?.removeAttribute("aria-invalid");
    if (fault && document.querySelector("[aria-invalid]") === field) field?.focus({ preventScroll: true });
  },
  { flush: "post" },
);
</script>

<template>
  <div ref="box" class="field" :class="{ wrong: fault }">
    <label :for="id">{{ label }}</label>
    <slot :id="id" :described="`${id}-help`" />
    <p :id="`${id}-help`" class="small help" :role="fault ? 'alert' : undefined">
      <template v-if="fault"> {{ fault.message.charAt(0).toUpperCase() + fault.message.slice(1) }}. {{ fault.fix }} </template>
      <template v-else>{{ help }}</template>
    </p>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: var(--space-1);
  align-content: start;
}

label {
  font-weight: 650;
}

.help {
  color: var(--ink-soft);
}

.wrong .help {
  color: var(--bad);
  font-weight: 650;
}
</style>
