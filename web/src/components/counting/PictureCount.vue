<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { asFault, client, take, type Fault, type Schemas, type Trial } from "../../api/client";
import type { Key } from "../../composables/useCounting";
import type { Note } from "../../composables/useNoteBox";
import { markWords, type Stage } from "../../counting";
import { plural } from "../../words";
import FaultNote from "../FaultNote.vue";
import PictureMarks from "./PictureMarks.vue";

/** Counts by a picture: marks tapped or proposed and confirmed; or the share of the leaf that is covered. */
const props = defineProps<{ note: Note; trial: Trial }>();
const emit = defineEmits<{ kept: []; count: [numbers: Partial<Record<Key, number>>]; close: [] }>();
const marks = ref<Schemas["MarkOut"][]>([...(props.note.picture?.marks ?? [])]);
const adds = ref<Stage>("live");
const fault = ref<Fault | null>(null);
const busy = ref("");
const proposed = ref<number | null>(null);
const threshold = ref(0.5);
const cover = ref<Schemas["CoverOut"] | null>(null);
const path = computed(() => ({ row_id: props.note.id }));
const byCover = computed(() => props.trial.measure.scale === "percent");
const over = computed(() =>
  byCover.value && cover.value
    ? `/api/notes/${props.note.id}/cover.png?threshold=${cover.value.threshold}&of=${props.note.picture?.url.split("of=")[1] ?? ""}`
    : "",
);
const stages: Stage[] = ["live", "young", "eggs", "dead"];
const sums = computed(() => new Map(stages.map((stage) => [stage, marks.value.filter((m) => m.stage === stage).length])));
const live = computed(() => (sums.value.get("live") ?? 0) + (sums.value.get("young") ?? 0));

onMounted(() => byCover.value && measure());
let timer: ReturnType<typeof setTimeout> | undefined;
watch(threshold, () => {
  clearTimeout(timer);
  timer = setTimeout(() => void measure(), 250);
});

async function act(what: string, work: () => Promise<void>): Promise<void> {
  busy.value = what;
  fault.value = null;
  try {
    await work();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
  busy.value = "";
}

function measure(): Promise<void> {
  return act("Measuring …", async () => {
    cover.value = await take(client.GET("/api/notes/{row_id}/cover", { params: { path: path.value, query: { threshold: threshold.value } } }));
  });
}

function propose(): Promise<void> {
  return act("Looking the picture over …", async () => {
    const found = await take(client.GET("/api/notes/{row_id}/proposed", { params: { path: path.value } }));
    proposed.value = found.length;
    await set(found);
  });
}

async function set(next: Schemas["MarkOut"][]): Promise<void> {
  marks.value = next;
  await take(client.PUT("/api/notes/{row_id}/marks", { params: { path: path.value }, body: { marks: next } }));
  emit("kept");
}

function use(): void {
  if (byCover.value) emit("count", { cover: Math.round(cover.value?.percent ?? 0) });
  else emit("count", { live: live.value, young: sums.value.get("young") ?? 0, eggs: sums.value.get("eggs") ?? 0, dead: sums.value.get("dead") ?? 0 });
}
</script>

<template>
  <div class="stack">
    <PictureMarks
      v-if="note.picture"
      :src="note.picture.url"
      :width="note.picture.width"
      :height="note.picture.height"
      :marks="byCover ? [] : marks"
      :over="over"
      :adds="byCover ? undefined : adds"
      alt="The leaf"
      @change="act('', () => set($event))" />
    <template v-if="byCover">
      <p role="status">
        <strong v-if="cover">{{ cover.percent.toFixed(1) }}% of the leaf is covered.</strong>{{ " " }}
        <span class="small soft">Coloured is what counts as covered. Move the slider until it fits what you see.</span>
      </p>
      <label class="row level"
        >Takes in less
        <input
          v-model.number="threshold"
          type="range"
          min="0.1"
          max="0.9"
          step="0.05"
          aria-label="From where on a spot counts as covered"
          class="back-to-front" />
        more</label
      >
      <p class="small soft">
        One leaf, flat, on a plain card of another colour (pale under black film), or so near that it fills the picture. A leaf with no clean green left, and
        red or variegated leaves, are better told by eye.
      </p>
    </template>
    <template v-else>
      <div class="fingers stages" role="group" aria-label="What a tap marks">
        <button v-for="stage in stages" :key="stage" type="button" :aria-pressed="adds === stage" @click="adds = stage">
          {{ markWords[stage] }} <strong>{{ sums.get(stage) }}</strong>
        </button>
      </div>
      <p class="small soft">
        Tap one to mark it, tap a mark to take it away. Daylight and a sharp picture help most.
        <template v-if="proposed !== null">{{ plural(proposed, "mark") }} proposed: look at each, add what was missed.</template>
      </p>
      <button type="button" class="as-text small" @click="propose">Propose marks<template v-if="marks.length"> in place of these</template></button>
    </template>
    <p v-if="busy" class="small" role="status">{{ busy }}</p>
    <FaultNote :fault="fault" />
    <div class="fingers two">
      <button type="button" class="use" :disabled="byCover && !cover" @click="use">
        {{ byCover ? `Count ${Math.round(cover?.percent ?? 0)}%` : `Count ${live} live` }}
      </button>
      <button type="button" @click="emit('close')">To the notes</button>
    </div>
  </div>
</template>

<style scoped>
.stages {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: var(--space-1);
}

.stages button {
  font-size: var(--text-m);
}

.level input {
  flex: 1;
  min-height: var(--touch);
  accent-color: var(--accent);
}

/* The lower the threshold, the more it takes in: to the right is more. */
.back-to-front {
  direction: rtl;
}

.two {
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: var(--space-2);
}

.use {
  background: var(--accent);
  color: var(--on-accent);
}
</style>
