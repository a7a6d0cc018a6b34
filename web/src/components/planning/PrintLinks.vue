<script setup lang="ts">
import { onMounted } from "vue";
import { client, take } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import PhonesNote from "../PhonesNote.vue";

const { id } = defineProps<{ id: number }>();
const papers = { a4: "A4", letter: "Letter" } as const;
// A fault here means that the layout was cleared in the meantime; there is nothing to print then.
const { data: prints, load } = useAnswer(() => take(client.GET("/api/trials/{trial_id}/prints", { params: { path: { trial_id: id } } })));
onMounted(load);

function print(): void {
  window.print();
}
</script>

<template>
  <section v-if="prints" class="sheet stack">
    <h2>To print</h2>
    <p class="soft">Print without scaling; tags come out at their real size, and each QR code opens the count of its plant.</p>
    <PhonesNote v-if="!prints.phones_can_open" />
    <ul class="prints">
      <li v-for="(name, paper) in papers" :key="paper" class="row">
        <strong>{{ name }}</strong>
        <a :href="prints.sheet[paper]" target="_blank" rel="noopener">Bench sheet</a>
        <a :href="prints.blank[paper]" target="_blank" rel="noopener">Blank sheets, to count and to spray by</a>
        <a v-for="(page, k) in prints.tags[paper]" :key="page" :href="page" target="_blank" rel="noopener">Tags, page {{ k + 1 }}</a>
      </li>
    </ul>
    <div><el-button @click="print">This bench with its pots</el-button></div>
  </section>
</template>

<style scoped>
.prints {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
