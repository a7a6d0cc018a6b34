<script setup lang="ts">
import { ref } from "vue";
import { RouterLink } from "vue-router";
import type { Fault } from "../api/client";
import { useInSight } from "../composables/useInSight";
import { inUnits } from "../units";

const props = defineProps<{ fault: Fault | null }>();
const box = ref<HTMLElement | null>(null);
// Who saves by a key at the top of a long page must not miss what is said at its end.
useInSight(box, () => props.fault);
</script>

<template>
  <div v-if="fault" ref="box" class="fault" role="alert">
    <template v-if="fault.ofData"
      ><strong>The data of this garden cannot be used.</strong> A copy can be put back: <RouterLink to="/yard">go to the copies</RouterLink>.
    </template>
    <template v-else
      ><strong>{{ inUnits(fault.message.charAt(0).toUpperCase() + fault.message.slice(1)) }}.</strong> {{ inUnits(fault.fix) }}
    </template>
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
