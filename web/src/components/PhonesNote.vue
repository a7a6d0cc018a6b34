<script setup lang="ts">
import { RouterLink } from "vue-router";
</script>

<template>
  <p class="notice" role="note">
    A phone cannot open these codes yet: they lead to this machine alone. Let other devices in first, in the <RouterLink to="/yard#door">Yard</RouterLink>, then
    print.
  </p>
</template>
