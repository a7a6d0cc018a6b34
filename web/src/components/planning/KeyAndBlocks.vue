<script setup lang="ts">
import { computed } from "vue";
import { tagsByLetter } from "../../charts/tag";
import { type Plant, type Trial } from "../../api/client";
import { listing, momentName } from "../../words";
import PlantTag from "../PlantTag.vue";

const { trial } = defineProps<{ trial: Trial }>();
defineEmits<{ open: [] }>();
const tags = computed(() => tagsByLetter(trial));
const trays = computed(() => {
  const byBlock = new Map<number, Plant[]>();
  for (const plant of trial.plants) {
    if (plant.block === null) continue;
    byBlock.set(plant.block, [...(byBlock.get(plant.block) ?? []), plant]);
  }
  return [...byBlock].sort((a, b) => a[0] - b[0]);
});
</script>

<template>
  <section class="sheet two">
    <div class="stack">
      <h2>The tags</h2>
      <template v-if="trial.sealed">
        <p>The key is sealed: whoever counts should not know what a letter stands for. The bottles need it; let somebody else open it, or count first.</p>
        <p v-if="trial.told_apart.length">
          {{ listing(trial.told_apart) }} can be told all the same, by {{ trial.told_apart.length === 1 ? "its" : "their" }} days, the way or the amount: let
          one person treat and another count.
        </p>
        <div><el-button @click="$emit('open')">Open the key (recorded)</el-button></div>
      </template>
      <template v-else>
        <ul class="key-list">
          <li v-for="remedy in trial.remedies" :key="remedy.id">
            <PlantTag :letter="remedy.letter" :notches="remedy.notches" :height="52" />
            <span
              ><strong>{{ remedy.name }}</strong
              ><span class="small soft">{{ remedy.recipe }}</span></span
            >
          </li>
        </ul>
        <p class="small soft">
          {{
            trial.key_opened_at
              ? `Opened ${momentName(trial.key_opened_at)}.`
              : "Every plant is counted at the last look, so there is nothing to hide any more."
          }}
        </p>
      </template>
      <p class="small soft">The letters were drawn by lot too, so A says nothing.</p>
    </div>
    <div class="stack">
      <h2>Blocks</h2>
      <ul class="trays">
        <li v-for="[block, plants] in trays" :key="block">
          <span class="number">{{ block }}</span>
          <span v-for="plant in plants" :key="plant.id" class="member">
            <PlantTag :letter="plant.letter" :notches="tags.get(plant.letter ?? '')?.notches" :height="30" plain />
            <span
              >{{ plant.name }}<span class="small soft">{{ plant.match_count ?? "" }}</span></span
            >
          </span>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: var(--space-6);
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

.key-list {
  display: grid;
  gap: var(--space-3);
}

.key-list li {
  display: flex;
  gap: var(--space-3);
  align-items: center;
}

.key-list li > span {
  display: grid;
}

.trays {
  display: grid;
  gap: var(--space-2);
}

.trays li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  padding: var(--space-2);
  background: var(--well);
  border-radius: var(--radius-m);
}

.number {
  width: 1.4em;
  text-align: center;
  font-weight: 700;
}

.member {
  display: inline-flex;
  gap: var(--space-1);
  align-items: center;
}

.member .small {
  margin-left: var(--space-1);
}
</style>
