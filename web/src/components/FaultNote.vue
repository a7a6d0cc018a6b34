<script setup lang="ts">
import type { Fault } from "../api/client";

defineProps<{ fault: Fault | null }>();
</script>

<template>
  <div v-if="fault" class="fault" role="alert">
    <strong>{{ fault.message.charAt(0).toUpperCase() + fault.message.slice(1) }}.</strong>
    {{ fault.fix }}
    <slot />
  </div>
</template>

<style scoped>
.fault {
  padding: var(--space-3);
  border-left: 5px solid var(--bad);
  background: var(--bad-wash);
  color: var(--ink);
  max-width: var(--measure);
}
</style>
