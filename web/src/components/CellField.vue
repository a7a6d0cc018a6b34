<script setup lang="ts">
import { ref, watch } from "vue";

/**
 * A field in a table that is kept when it is left. While someone types in it, news from the
 * program never overwrites what was typed.
 */
const props = defineProps<{ value: string }>();
const emit = defineEmits<{ keep: [text: string] }>();

const field = ref<HTMLInputElement | null>(null);
const text = ref(props.value);
watch(
  () => props.value,
  (now) => {
    if (document.activeElement !== field.value) text.value = now;
  },
);
</script>

<template>
  <input ref="field" v-model="text" @change="emit('keep', text)" />
</template>
