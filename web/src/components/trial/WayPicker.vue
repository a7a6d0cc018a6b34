<script setup lang="ts">
import type { Schemas } from "../../api/client";

/** Chooses how something is given. */
defineProps<{ ways: readonly Schemas["WayOut"][]; label: string; disabled: boolean }>();
const way = defineModel<string>({ required: true });
</script>

<template>
  <el-select v-model="way" :disabled="disabled" :aria-label="label">
    <el-option v-for="one in ways.filter((w) => w.key !== 'none')" :key="one.key" :value="one.key" :label="one.name" />
  </el-select>
</template>
