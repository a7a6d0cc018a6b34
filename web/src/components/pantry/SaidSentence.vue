<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Schemas } from "../../api/client";
import { piecesOf, withChoice } from "../../recipe";
import { inUnits } from "../../units";

/** The gardener's own sentence with what each piece was taken for; a click corrects it. */
const { text, reading } = defineProps<{ text: string; reading: Schemas["ReadingOut"] }>();
const emit = defineEmits<{ say: [text: string] }>();
const chosen = ref<number | null>(null);
const pieces = computed(() => piecesOf(text, reading.tokens));
const token = computed(() => pieces.value.find((piece) => piece.token?.start === chosen.value)?.token ?? null);
const open = computed(() => reading.tokens.filter((one) => one.kind === "open"));

watch(
  () => text,
  () => (chosen.value = null),
);

function pick(start: number): void {
  chosen.value = chosen.value === start ? null : start;
}

function take(choice: Schemas["ChoiceOut"]): void {
  emit("say", withChoice(text, choice));
}
</script>

<template>
  <section class="said" aria-label="How it was read">
    <p class="sentence">
      <template v-for="(piece, k) in pieces" :key="k">
        <button
          v-if="piece.token && piece.token.kind !== 'note'"
          type="button"
          :class="['token', piece.token.kind]"
          :aria-expanded="chosen === piece.token.start"
          @click="pick(piece.token.start)">
          <span class="words">{{ piece.words }}</span>
          <span class="taken">{{ inUnits(piece.token.taken_for) }}</span>
        </button>
        <span v-else :class="{ note: piece.token }">{{ piece.words }}</span>
      </template>
    </p>
    <div v-if="token" class="meanings" role="group" :aria-label="`“${token.words}” means`">
      <p>
        <strong>“{{ token.words }}”</strong> {{ token.kind === "open" ? "" : "is taken as" }} {{ inUnits(token.taken_for) }}
      </p>
      <div v-if="token.choices.length" class="buttons">
        <el-button v-for="choice in token.choices" :key="choice.label" @click="take(choice)">{{ choice.label }}</el-button>
      </div>
      <p v-else class="small soft">To change it, change the words above. What stands in [brackets] is a note; a "quoted" name is an ingredient of yours.</p>
    </div>
    <p v-if="open.length" class="settle" role="status">
      Settle {{ open.map((one) => `“${one.words}”`).join(", ") }} first: the bottle is drawn when every word is understood.
    </p>
  </section>
</template>

<style scoped>
.said {
  display: grid;
  gap: var(--space-3);
}

.sentence {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-2);
  align-items: flex-start;
}

.sentence > span {
  padding-top: var(--space-1);
  color: var(--ink-soft);
  white-space: pre-wrap;
}

.sentence > span.note {
  font-style: italic;
}

.token {
  display: grid;
  min-height: var(--touch);
  max-width: 17em;
  padding: var(--space-1) var(--space-2);
  border: 1px solid var(--line);
  border-bottom-width: 4px;
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-m);
  text-align: left;
  cursor: pointer;
}

.words {
  font-weight: 650;
}

.taken {
  color: var(--ink-soft);
  font-size: var(--text-s);
}

.guess {
  border-bottom-color: var(--warn);
  border-bottom-style: dashed;
}

.open {
  border-color: var(--bad);
  background: var(--bad-wash);
}

.open .taken {
  color: var(--bad);
}

.volume {
  background: var(--well);
}

.meanings {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-3);
  background: var(--accent-wash);
}

.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}

.buttons .el-button {
  align-items: center;
  min-height: var(--touch);
  margin: 0;
}

.settle {
  color: var(--bad);
  font-weight: 650;
}
</style>
