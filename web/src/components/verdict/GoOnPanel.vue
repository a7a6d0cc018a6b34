<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { asFault, client, take, type Fault, type Trial } from "../../api/client";
import { formName, once } from "../../api/once";
import { useAnswer } from "../../composables/useAnswer";
import { listing, plural } from "../../words";
import FaultNote from "../FaultNote.vue";

const { trial } = defineProps<{ trial: Trial }>();
const router = useRouter();
const fault = ref<Fault | null>(null);
const busy = ref(false);
const wish = formName();
const path = { trial_id: trial.id };
const next = useAnswer(() => take(client.GET("/api/trials/{trial_id}/next-part", { params: { path } })));
const out = computed(() => Object.entries(next.data.value?.leaves_out ?? {}));
onMounted(next.load);

async function goOn(): Promise<void> {
  busy.value = true;
  try {
    const made = await take(client.POST("/api/trials/{trial_id}/next-part", { params: { path, header: once(wish, trial.id) } }));
    await router.push(`/trial/${made.id}/plants`);
  } catch (thrown) {
    fault.value = asFault(thrown);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <section v-if="next.data.value" class="sheet stack no-print" aria-labelledby="goes-on">
    <h2 id="goes-on">{{ trial.setup.two_waves ? "The second wave" : "Go on with more plants" }}</h2>
    <p v-if="next.data.value.there">
      It <RouterLink :to="`/trial/${next.data.value.there}/plants`">goes on</RouterLink> already; both are judged together there.
    </p>
    <template v-else>
      <p v-if="next.data.value.keeps.length > 1">
        {{ listing(next.data.value.keeps) }} go on<template v-if="next.data.value.waiting"
          >, on the {{ plural(next.data.value.waiting, "plant") }} that waited; count them anew</template
        >. What is counted then is judged together with this trial.
      </p>
      <p v-else>No remedy here is in question any more: try another one.</p>
      <ul v-if="out.length" class="out">
        <li v-for="[name, why] in out" :key="name">
          <strong>{{ name }}</strong> is left out: {{ why }}.
        </li>
      </ul>
      <div v-if="next.data.value.keeps.length > 1"><el-button type="primary" :loading="busy" @click="goOn">Set it up</el-button></div>
      <FaultNote :fault="fault" />
    </template>
  </section>
</template>

<style scoped>
.out {
  margin: 0;
  padding-left: 1.2em;
  display: grid;
  gap: var(--space-1);
  max-width: var(--measure);
}
</style>
