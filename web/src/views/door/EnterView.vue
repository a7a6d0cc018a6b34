<script setup lang="ts">
import { onMounted, ref } from "vue";
import { useRoute } from "vue-router";
import { asFault, client, Fault, take } from "../../api/client";
import FaultNote from "../../components/FaultNote.vue";

/** Another device of the home network gives the passcode. */
const route = useRoute();
const code = ref("");
const fault = ref<Fault | null>(null);
const busy = ref(false);
const box = ref<HTMLInputElement | null>(null);
onMounted(() => box.value?.focus());

async function enter(): Promise<void> {
  if (!code.value.trim()) {
    fault.value = new Fault("no_passcode", "no passcode was given", "passcode", "Type it as it was told: eight digits, or the words that were chosen.", 422);
    box.value?.focus();
    return;
  }
  busy.value = true;
  try {
    await take(client.POST("/api/door/enter", { body: { passcode: code.value } }));
    const then = route.query["then"];
    // Only a page of this program: an address with a host of its own leads elsewhere.
    window.location.assign(typeof then === "string" && /^\/(?![/\\])/.test(then) ? then : "/");
  } catch (thrown) {
    fault.value = asFault(thrown);
    code.value = "";
    box.value?.focus();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="enter stack" novalidate @submit.prevent="enter">
    <h1>This device is new here</h1>
    <p>Give the passcode of this garden. Who keeps this garden knows it, and can make a new one in the Yard of the machine that Orthocris runs on.</p>
    <label for="passcode">Passcode</label>
    <input id="passcode" ref="box" v-model="code" autocomplete="current-password" autocapitalize="off" spellcheck="false" enterkeyhint="go" />
    <FaultNote :fault="fault" />
    <el-button type="primary" size="large" native-type="submit" :disabled="busy">Come in</el-button>
  </form>
</template>

<style scoped>
.enter {
  max-width: 420px;
  margin: 12vh auto 0;
}

label {
  font-weight: 650;
}

input {
  min-height: 64px;
  padding: 0 var(--space-4);
  border: 2px solid var(--accent);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-xl);
  letter-spacing: 0.08em;
}
</style>
