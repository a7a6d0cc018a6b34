<script setup lang="ts">
import { ref } from "vue";
import type { KeptSpray } from "../../composables/useSprayBox";

/** Sprays that are only on this device: waiting to be sent, or refused with the reason. */
defineProps<{ sprays: readonly KeptSpray[]; trouble: string }>();
const emit = defineEmits<{ drop: [spray: KeptSpray]; deviate: [spray: KeptSpray, why: string]; send: [] }>();
const why = ref("");
</script>

<template>
  <section v-if="sprays.length || trouble" class="notice stack" role="status">
    <p v-if="trouble">
      <strong>{{ trouble }}</strong>
    </p>
    <p v-if="sprays.some((s) => !s.fault)">
      <strong>{{ sprays.filter((s) => !s.fault).length }} kept here, waiting</strong> until the program answers:
      {{
        sprays
          .filter((s) => !s.fault)
          .map((s) => s.plant)
          .join(", ")
      }}.
      <el-button @click="emit('send')">Send now</el-button>
    </p>
    <div v-for="spray in sprays.filter((s) => s.fault)" :key="spray.key" class="stack">
      <p>
        <strong>{{ spray.plant }} is not on record</strong>: {{ spray.fault?.message }}. {{ spray.fault?.fix }}
      </p>
      <el-input v-model="why" maxlength="500" aria-label="Why it was sprayed all the same" placeholder="Why it was sprayed all the same" />
      <div class="row">
        <el-button :disabled="!why.trim()" @click="emit('deviate', spray, why)">Record it as a deviation</el-button>
        <el-button @click="emit('drop', spray)">It did not happen</el-button>
      </div>
    </div>
  </section>
</template>
