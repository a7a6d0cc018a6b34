<script setup lang="ts">
import { reactive, ref } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import FaultNote from "../FaultNote.vue";

/** Today in three words where no station tells of it: one tap on how warm it is will do. */
const emit = defineEmits<{ said: [] }>();
const WARMTH = { cold: "cold", cool: "cool", mild: "mild", warm: "warm", hot: "hot" } as const;
const BREEZE = { still: "still", leaves: "leaves move", branches: "branches move" } as const;
const WET = { none: "stays dry", later: "rain later", all_day: "rain all day" } as const;
const today = reactive<{ warmth: Schemas["Warmth"] | null; breeze: Schemas["Breeze"]; wet: Schemas["Wet"] }>({ warmth: null, breeze: "still", wet: "none" });
const fault = ref<Fault | null>(null);

async function say(): Promise<void> {
  if (!today.warmth) return;
  try {
    await take(client.POST("/api/weather/today", { body: { ...today, warmth: today.warmth } }));
    fault.value = null;
    emit("said");
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
</script>

<template>
  <div class="stack tight no-print">
    <p class="small">What is today like? Wind and rain first, if there is any; one tap on the warmth is enough.</p>
    <div class="row fingers words">
      <span role="group" aria-label="Wind"
        ><button
          v-for="(words, key) in BREEZE"
          :key="key"
          type="button"
          class="pick"
          :aria-pressed="today.breeze === key"
          @click="((today.breeze = key), say())">
          {{ words }}
        </button></span
      >
      <span role="group" aria-label="Rain"
        ><button v-for="(words, key) in WET" :key="key" type="button" class="pick" :aria-pressed="today.wet === key" @click="((today.wet = key), say())">
          {{ words }}
        </button></span
      >
      <span role="group" aria-label="Warmth"
        ><button
          v-for="(words, key) in WARMTH"
          :key="key"
          type="button"
          class="pick"
          :aria-pressed="today.warmth === key"
          @click="((today.warmth = key), say())">
          {{ words }}
        </button></span
      >
    </div>
    <FaultNote :fault="fault" />
  </div>
</template>

<style scoped>
.row,
.row > span {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-5);
}

.row > span {
  gap: 2px;
}

.pick {
  padding: 0 var(--space-3);
}
</style>
