<script setup lang="ts">
import { ref } from "vue";
import type { Schemas } from "../../api/client";
import { useRoving } from "../../composables/useRoving";
import SignPicture from "./SignPicture.vue";

/** Everything that can be seen, to be ticked. */
defineProps<{ signs: readonly Schemas["SignOut"][]; seen: ReadonlySet<string> }>();
const emit = defineEmits<{ toggle: [key: string] }>();

const box = ref<HTMLElement | null>(null);
useRoving(box, ".signs button");
const parts = [
  ["leaf", "On the leaves"],
  ["plant", "On stems and the whole plant"],
  ["soil", "On the soil"],
] as const;
</script>

<template>
  <div ref="box" class="stack" role="toolbar" aria-label="Signs: arrow keys go from one to the next">
    <div v-for="[part, words] in parts" :key="part" class="stack part">
      <h3>{{ words }}</h3>
      <div class="signs">
        <button
          v-for="sign in signs.filter((s) => s.part === part)"
          :key="sign.key"
          type="button"
          class="tile"
          :aria-pressed="seen.has(sign.key)"
          @click="emit('toggle', sign.key)">
          <SignPicture v-if="sign.drawing" :drawing="sign.drawing" />
          <span>{{ sign.text }}</span>
        </button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.part {
  gap: var(--space-2);
}

.signs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: var(--space-2);
}

@media (width < 820px) {
  .signs {
    grid-template-columns: 1fr 1fr;
  }

  .tile {
    flex-direction: column;
    align-items: start;
  }
}
</style>
