<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import type { Count } from "../../composables/useCounting";

/** The number counted, large; a tap on it (or on the total of a share) lets it be typed. */
const props = defineProps<{
  /** Asked for here, so that a tap draws this number anew and not the page around it. */ count: () => Count;
  unit: "" | "%";
  share: boolean;
  /** Leaves stand above it and take some of the room. */ small?: boolean;
  label: string;
  upper: number;
  field: "value" | "total";
}>();
const emit = defineEmits<{ type: [field: "value" | "total", value: number] }>();

const typing = ref<"value" | "total" | null>(null);
const text = ref("");
const box = ref<HTMLInputElement | null>(null);
const shown = computed(() => String(props.count().value ?? "–"));

async function open(field: "value" | "total"): Promise<void> {
  typing.value = field;
  text.value = String(props.count()[field] ?? "");
  await nextTick();
  box.value?.focus();
  box.value?.select();
}

function keep(): void {
  const field = typing.value;
  typing.value = null;
  const plain = text.value.trim().replace(",", ".");
  const number = Number(plain);
  if (field && plain && Number.isFinite(number) && number >= 0 && number <= props.upper) emit("type", field, number);
}

defineExpose({ open });
</script>

<template>
  <div class="figures" :class="{ small }">
    <form v-if="typing" novalidate @submit.prevent="keep">
      <label>
        <span class="small">{{ typing === "total" ? "Out of how many" : label }}</span>
        <input
          ref="box"
          v-model="text"
          :inputmode="unit ? 'decimal' : 'numeric'"
          autocomplete="off"
          enterkeyhint="done"
          :class="{ long: text.length > 4 }"
          @blur="keep"
          @keydown.escape="typing = null" />
      </label>
    </form>
    <template v-else>
      <button
        type="button"
        class="figure"
        :class="{ long: shown.length > 4, aimed: share && field === 'value' }"
        :aria-label="`${label}: ${shown}${unit}. Type the number`"
        @click="open('value')">
        <output class="still" aria-live="polite"
          >{{ shown }}<small v-if="unit">{{ unit }}</small></output
        >
      </button>
      <button
        v-if="share"
        type="button"
        class="figure of"
        :class="{ aimed: field === 'total' }"
        :aria-label="`Out of ${count().total ?? 'how many'}. Type the total`"
        @click="open('total')">
        of <strong>{{ count().total ?? "?" }}</strong>
      </button>
    </template>
  </div>
</template>

<style scoped>
.figures {
  display: grid;
  width: min(100%, 20rem);
  justify-items: center;
  gap: var(--space-1);
}

.figure {
  width: 100%;
  min-height: var(--touch);
  padding: 0 var(--space-4);
  border: 0;
  border-radius: var(--radius-m);
  background: none;
  color: inherit;
  cursor: pointer;
}

output,
input {
  font-size: clamp(var(--text-huge), 34vw, 9rem);
  font-weight: 750;
  line-height: 0.95;
  letter-spacing: -0.02em;
}

.small.figures output {
  font-size: clamp(4rem, 22vw, 6rem);
}

output.still {
  height: 0.95em;
}

.figures .long output,
input.long {
  font-size: clamp(3rem, 15vw, 5.5rem);
}

output small {
  font-size: 0.35em;
}

.of {
  font-size: var(--text-xl);
}

.aimed {
  box-shadow: inset 0 -4px 0 var(--trap);
}

form label {
  display: grid;
  justify-items: center;
  gap: var(--space-2);
}

input {
  width: min(100%, 4.5em);
  padding: var(--space-2);
  font-size: clamp(4rem, 20vw, 6rem);
  line-height: 1.1;
  border: 2px solid var(--accent);
  border-radius: var(--radius-m);
  background: var(--sheet);
  color: var(--ink);
  text-align: center;
}
</style>
