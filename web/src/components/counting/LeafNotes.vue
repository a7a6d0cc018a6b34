<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { asFault, client, take, type Fault, type Plant, type Trial } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { useNoteBox, type Note } from "../../composables/useNoteBox";
import type { Key } from "../../composables/useCounting";
import { seenWords, type Seen } from "../../counting";
import { shrunk } from "../../photo";
import { momentName } from "../../words";
import FaultNote from "../FaultNote.vue";
import PictureCount from "./PictureCount.vue";

/** What else is seen at a plant: signs, a note, photos; and a picture of a leaf to count by. */
const props = defineProps<{ trial: Trial; number: number; plant: Plant; /** The leaf from 1, 0 for the plant as a whole. */ sample: number; unit: string }>();
const emit = defineEmits<{ close: []; count: [numbers: Partial<Record<Key, number>>] }>();
const box = useNoteBox();
const said = ref("");
const seen = ref<Seen[]>([]);
const told = ref(false);
const busy = ref("");
const fault = ref<Fault | null>(null);
const gone = ref<Note | null>(null);
const counting = ref<number | null>(null);
const answer = useAnswer(() =>
  take(client.GET("/api/trials/{trial_id}/notes", { params: { path: { trial_id: props.trial.id }, query: { look: props.number } } })),
);
const notes = computed(() => (answer.data.value ?? []).filter((note) => note.plant_id === props.plant.id));
/** Each tap on a sign is a note of its own; of these the newest is enough to show. */
const listed = computed(() => {
  const signs = notes.value.filter((note) => note.seen && !note.said && !note.picture);
  return notes.value.filter((note) => !signs.includes(note) || note === signs.at(-1)).reverse();
});
const unsent = computed(() => box.of(props.trial.id, props.number).filter((note) => note.body.plant_id === props.plant.id));
const counted = computed(() => notes.value.find((note) => note.id === counting.value));
const where = computed(() => (props.sample ? `${props.plant.name}, ${props.unit} ${props.sample}` : props.plant.name));
/** The fates of eggs are asked where eggs are watched. */
const words = computed(() =>
  (Object.entries(seenWords) as [Seen, string][]).filter(([key]) => props.trial.measure.key === "hatched" || !key.startsWith("eggs_")),
);

onMounted(read);
watch(() => props.plant.id, showSeen);

async function read(): Promise<void> {
  await box.flush();
  await answer.load();
  showSeen();
}

/** What was seen last at this plant stands there, so that one tap changes it. */
function showSeen(): void {
  const last = [...notes.value.map((note) => note.seen), ...unsent.value.map((note) => note.body.seen)].filter(Boolean).at(-1);
  seen.value = [...(last ?? [])] as Seen[];
  told.value = Boolean(last);
}

function toggle(key: Seen): void {
  seen.value = seen.value.includes(key) ? seen.value.filter((k) => k !== key) : [...seen.value, key];
  keep({ seen: [...seen.value] });
}

function keep(part: { said?: string; seen?: Seen[] | null; photo?: string }): void {
  if (part.seen) told.value = true;
  box.put({
    trial: props.trial.id,
    look: props.number,
    photo: part.photo ?? "",
    body: {
      key: crypto.randomUUID(),
      plant_id: props.plant.id,
      sample: part.seen ? 0 : props.sample,
      said: part.said ?? "",
      noted_at: new Date().toISOString(),
      seen: part.seen ?? null,
    },
  });
  void read();
}

function write(): void {
  if (!said.value.trim()) return;
  keep({ said: said.value.trim() });
  said.value = "";
}

async function addPhoto(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement;
  const [file] = field.files ?? [];
  if (!file) return;
  busy.value = "The photo is made smaller …";
  keep({ said: said.value.trim(), photo: await shrunk(file) });
  said.value = "";
  field.value = "";
  busy.value = "";
}

/** A picture by the lens is taken by the program, so it needs to be in reach. */
async function throughLens(): Promise<void> {
  busy.value = "The lens takes its picture …";
  fault.value = null;
  try {
    const path = { trial_id: props.trial.id, number: props.number };
    const body = { key: crypto.randomUUID(), plant_id: props.plant.id, sample: props.sample, said: "", noted_at: new Date().toISOString(), seen: null };
    const note = await take(client.POST("/api/trials/{trial_id}/looks/{number}/notes", { params: { path }, body }));
    await take(client.POST("/api/notes/{row_id}/lens", { params: { path: { row_id: note.id } } }));
    await answer.load();
    counting.value = note.id;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
  busy.value = "";
}

async function remove(note: Note): Promise<void> {
  await act(() => take(client.DELETE("/api/notes/{row_id}", { params: { path: { row_id: note.id } } })));
  if (!fault.value) gone.value = note;
}

async function putBack(note: Note): Promise<void> {
  await act(() => take(client.POST("/api/notes/{row_id}/restore", { params: { path: { row_id: note.id } } })));
  gone.value = null;
}

async function act(work: () => Promise<unknown>): Promise<void> {
  fault.value = null;
  try {
    await work();
    await answer.load();
    showSeen();
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}

function spoken(note: Note): string {
  const list = note.seen?.map((key) => seenWords[key].toLowerCase()).join(", ");
  return (
    [note.said, note.seen && (list ? `Seen: ${list}` : "Looked: none of it seen")].filter(Boolean).join(" · ") ||
    (note.picture?.source === "lens" ? "Through the lens" : "Photo")
  );
}
</script>

<template>
  <section class="notes stack" :aria-label="`Notes and photos of ${where}`">
    <div class="head fingers">
      <h2>{{ where }}</h2>
      <button type="button" class="back" @click="emit('close')">Back to counting</button>
    </div>
    <PictureCount
      v-if="counted?.picture"
      :key="counted.id"
      :note="counted"
      :trial="trial"
      @kept="answer.load"
      @count="emit('count', $event)"
      @close="counting = null" />
    <template v-else>
      <fieldset class="chips fingers">
        <legend>What else is seen on this plant <span v-if="!told" class="soft">(nobody said yet)</span></legend>
        <button v-for="[key, word] in words" :key="key" type="button" :aria-pressed="seen.includes(key)" @click="toggle(key)">{{ word }}</button>
        <button
          type="button"
          :aria-pressed="told && !seen.length"
          @click="
            seen = [];
            keep({ seen: [] });
          ">
          None of it
        </button>
      </fieldset>
      <form class="stack" @submit.prevent="write">
        <label class="stack small">Note<textarea v-model="said" rows="2" maxlength="2000" /></label>
        <div class="fingers ways">
          <button type="submit" :disabled="!said.trim()">Keep the note</button>
          <label class="file">Photo<input type="file" accept="image/*" @change="addPhoto" /></label>
          <button type="button" :disabled="Boolean(busy)" @click="throughLens">Leaf camera</button>
        </div>
      </form>
      <p v-if="busy" role="status" class="small">{{ busy }}</p>
      <p v-if="box.trouble.value" class="notice bad small" role="alert">{{ box.trouble.value }}</p>
      <FaultNote :fault="fault ?? (answer.fault.value?.offline ? null : answer.fault.value)" />
      <p v-if="answer.fault.value?.offline" class="small soft">Out of reach: what you note is kept on this device and sent later.</p>
      <p v-if="gone" class="small" role="status">Taken away. <button type="button" class="as-text" @click="putBack(gone)">Put it back</button></p>
      <ul class="bare">
        <li v-for="note in unsent" :key="note.key" class="kept">
          <img v-if="note.photo" :src="note.photo" alt="" /><span
            >{{ note.body.said || (note.photo ? "Photo" : "What was seen") }}
            <span class="soft small">{{ note.fault ? "" : "kept here, not sent yet" }}</span></span
          >
          <span v-if="note.fault" class="notice bad small"
            >{{ note.fault.message }}. {{ note.fault.fix }} <button type="button" class="as-text" @click="box.drop(note)">Let it go</button></span
          >
        </li>
        <li v-for="note in listed" :key="note.id" class="kept">
          <img v-if="note.picture" :src="note.picture.url" :alt="`Photo of ${where}`" loading="lazy" />
          <span
            >{{ spoken(note) }}
            <span class="soft small"
              >{{ momentName(note.noted_at) }}<template v-if="note.sample">, {{ unit }} {{ note.sample }}</template></span
            ></span
          >
          <span class="row">
            <button v-if="note.picture" type="button" class="as-text" @click="counting = note.id">Count on it</button>
            <button type="button" class="as-text" :aria-label="`Take away: ${spoken(note)}`" @click="remove(note)">Take away</button>
          </span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-3);
}

.back {
  padding: 0 var(--space-4);
}

.chips {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  border: 0;
}

.chips legend {
  padding: 0 0 var(--space-2);
}

.chips button {
  padding: 0 var(--space-3);
  font-size: var(--text-m);
}

textarea {
  padding: var(--space-3);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-s);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-m);
}

.ways {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--space-2);
}

.ways button,
.file {
  display: grid;
  place-items: center;
  min-height: 56px;
  font-size: var(--text-m);
}

.file {
  position: relative;
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--sheet);
  font-weight: 650;
  cursor: pointer;
}

.file input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}

.file:focus-within {
  outline: 3px solid var(--accent);
}

.kept {
  grid-template-columns: auto 1fr;
  align-items: center;
  padding-top: var(--space-2);
  border-top: 1px solid var(--hair);
}

.kept > :not(img) {
  grid-column: 2;
}

.kept img {
  grid-row: span 2;
  width: 96px;
  height: 72px;
  object-fit: cover;
}
</style>
