<script setup lang="ts">
import { ref } from "vue";

/** Taking back every record of a round, with the reason. */
defineProps<{ records: number }>();
const emit = defineEmits<{ undo: [why: string] }>();
const why = ref("");
</script>

<template>
  <details>
    <summary>Take back the whole round</summary>
    <div class="stack">
      <p>Every record of this round is taken back; its trace and your reason are kept and shown with the verdict.</p>
      <el-input v-model="why" maxlength="500" aria-label="Why the round is taken back" placeholder="Why" />
      <el-button :disabled="!why.trim()" @click="emit('undo', why)">Take back {{ records }} records</el-button>
    </div>
  </details>
</template>
