<script setup lang="ts">
import { thingWords, thingsOf } from "../../charts/creature";
import CreaturePicture from "./CreaturePicture.vue";

/** What tells a live one from a dead one, in a picture and in words. */
defineProps<{ pest: string; tell: string }>();
</script>

<template>
  <div class="tell small">
    <ul v-if="thingsOf(pest).length" class="bare">
      <li v-for="thing in thingsOf(pest)" :key="thing">
        <CreaturePicture :pest="pest" :thing="thing" /><span>{{ thingWords(pest, thing) }}</span>
      </li>
    </ul>
    <p>{{ tell }}</p>
  </div>
</template>

<style scoped>
.tell {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-2) var(--space-3);
  background: var(--trap-wash);
  text-align: left;
}

.bare {
  grid-template-columns: repeat(auto-fit, minmax(64px, 1fr));
  gap: var(--space-2);
}

.bare > li {
  align-content: start;
  gap: 2px;
  line-height: 1.15;
}
</style>
