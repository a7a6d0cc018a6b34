<script setup lang="ts">
import { computed } from "vue";
import { keyName, shortcuts } from "../composables/useKeys";

const open = defineModel<boolean>({ required: true });
const listed = computed(() => (open.value ? [...shortcuts].filter((s) => s.when?.() ?? true) : []));
</script>

<template>
  <el-dialog v-model="open" title="Keys on this page" width="min(440px, 92vw)" append-to-body>
    <dl>
      <template v-for="shortcut in listed" :key="shortcut.key">
        <dt><span class="key">{{ keyName(shortcut.key) }}</span></dt>
        <dd>{{ shortcut.label }}</dd>
      </template>
    </dl>
  </el-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--space-2) var(--space-4);
  margin: 0;
}

dd {
  margin: 0;
}

.key {
  display: inline-block !important;
}
</style>
