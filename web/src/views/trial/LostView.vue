<script setup lang="ts">
import { RouterLink } from "vue-router";
</script>

<template>
  <div class="stack">
    <h1>There is no such page</h1>
    <p>The address may be misspelt, or the trial was removed. <RouterLink to="/">Go to Today.</RouterLink></p>
  </div>
</template>
