<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { keyName, shortcuts } from "../composables/useKeys";
import { answers, helpOpen, leadsTo, pageOf, search, terms } from "../help/help";
import { inUnits } from "../units";

/** Questions answered, those of this page first; words; keys. All of it is here without a network. */
const route = useRoute();
const typed = ref("");
watch(helpOpen, (open) => {
  if (open) typed.value = "";
});
const here = computed(() => pageOf(route.path));
const found = computed(() => search(answers, typed.value));
const parts = computed(() => {
  const onPage = found.value.filter((a) => a.pages.includes(here.value.page));
  const others = found.value.filter((a) => !onPage.includes(a));
  return [
    { title: "On this page", list: onPage },
    { title: onPage.length ? "Elsewhere" : "Questions", list: others },
  ].filter((part) => part.list.length);
});
const words = computed(() => search(terms, typed.value));
const keys = computed(() => (helpOpen.value && !typed.value ? [...shortcuts].filter((s) => s.when?.() ?? true) : []));
</script>

<template>
  <el-dialog v-model="helpOpen" title="Help" width="min(760px, 94vw)" append-to-body>
    <label class="search">Search <input v-model="typed" type="search" autocomplete="off" placeholder="rain, died, how many …" /></label>
    <p class="visually-hidden" role="status">{{ typed ? `${found.length + words.length} found` : "" }}</p>
    <section v-for="part in parts" :key="part.title">
      <h3>{{ part.title }}</h3>
      <details v-for="answer in part.list" :key="answer.asks" :open="found.length < 4">
        <summary>{{ answer.asks }}</summary>
        <p>
          {{ inUnits(answer.says) }}
          <RouterLink v-if="leadsTo(answer, here.trial)" :to="leadsTo(answer, here.trial) ?? ''" @click="helpOpen = false">{{ answer.act?.says }} →</RouterLink>
        </p>
      </details>
    </section>
    <section v-if="words.length">
      <h3>Words</h3>
      <details v-for="term in words" :key="term.word" :open="words.length < 3">
        <summary>{{ term.word }}</summary>
        <p>{{ term.says }}</p>
      </details>
    </section>
    <p v-if="!found.length && !words.length">Nothing is said of that here. Try one word of it, such as “rain” or “dead”.</p>
    <section v-if="keys.length">
      <h3>Keys on this page</h3>
      <dl>
        <template v-for="shortcut in keys" :key="shortcut.key">
          <dt>
            <span class="key">{{ keyName(shortcut.key) }}</span>
          </dt>
          <dd>{{ shortcut.label }}</dd>
        </template>
      </dl>
    </section>
  </el-dialog>
</template>

<style scoped>
.search {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--space-3);
  align-items: center;
  font-weight: 650;
}

.search input {
  min-height: var(--touch);
  padding: 0 var(--space-3);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-m);
}

section {
  margin-top: var(--space-4);
}

summary {
  min-height: var(--touch);
  align-content: center;
  cursor: pointer;
}

details p {
  padding: 0 0 var(--space-3) 1.2em;
}

dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--space-2) var(--space-4);
  margin: var(--space-2) 0 0;
}

dd {
  margin: 0;
}

.key {
  display: inline-block !important;
}
</style>
