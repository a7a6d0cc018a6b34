<script setup lang="ts">
import { computed, ref } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import { useAnswer } from "../../composables/useAnswer";
import { dayName, plural } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";

/** Trials of other gardens: a file is looked at first, then taken in under its garden's name. */
const emit = defineEmits<{ changed: [] }>();
const kept = useAnswer(() => take(client.GET("/api/neighbours")));
void kept.load();
const file = ref<File | null>(null);
const looked = ref<Schemas["LookedOut"] | null>(null);
const garden = ref("");
const fault = ref<Fault | null>(null);
const said = ref("");
const busy = ref(false);
const zip = { bodySerializer: (body: unknown) => body as Blob, headers: { "Content-Type": "application/zip" } };
const faultOf = (field: string): Fault | null => (fault.value?.field === field ? fault.value : null);
const other = computed(() => (fault.value && fault.value.field !== "garden" ? fault.value : null));
const mayCome = computed(() => looked.value !== null && !looked.value.here && !looked.value.own);

async function act(work: () => Promise<void>): Promise<void> {
  busy.value = true;
  fault.value = null;
  said.value = "";
  try {
    await work();
  } catch (thrown) {
    fault.value = asFault(thrown);
  } finally {
    busy.value = false;
  }
}

function lookAt(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  file.value = input.files?.[0] ?? null;
  input.value = "";
  looked.value = null;
  return act(async () => {
    if (file.value) looked.value = await take(client.POST("/api/queries/bundle", { body: file.value as unknown as string, ...zip }));
  });
}

const takeIn = (): Promise<void> =>
  act(async () => {
    kept.data.value = await take(
      client.POST("/api/neighbours", { params: { query: { garden: garden.value } }, body: file.value as unknown as string, ...zip }),
    );
    said.value = `Taken in from ${garden.value}.`;
    looked.value = null;
    file.value = null;
    emit("changed");
  });

const takeOff = (id: number): Promise<void> =>
  act(async () => {
    await take(client.DELETE("/api/neighbours/{row_id}", { params: { path: { row_id: id } } }));
    await kept.load();
    emit("changed");
  });
</script>

<template>
  <section class="sheet stack" aria-labelledby="neighbours">
    <h2 id="neighbours">Trials of other gardens</h2>
    <p>
      A neighbour saves a trial as one file from its verdict’s page. Its numbers are judged anew here, and it stands beside your own under its garden’s name.
      Notes and photos stay in the file.
    </p>
    <label class="file">Look at a file<input type="file" accept=".zip,application/zip" :disabled="busy" @change="lookAt" /></label>
    <FaultNote :fault="other" />
    <div v-if="looked" class="looked stack">
      <h3>{{ looked.name }}</h3>
      <p>
        {{ looked.pest_name }}{{ looked.crop ? `, ${looked.crop}` : "" }}, first spray {{ dayName(looked.on) }} {{ looked.on.slice(0, 4) }}:
        {{ looked.remedies.join(", ") }} on {{ plural(looked.plants, "plant") }}, {{ plural(looked.numbers, "number") }}.
      </p>
      <p>
        <strong>{{ looked.sentence }}</strong>
      </p>
      <ul v-if="looked.warnings.length" class="small">
        <li v-for="text in looked.warnings" :key="text">{{ text }}</li>
      </ul>
      <p v-if="looked.own">This is your own trial “{{ looked.own }}”.</p>
      <p v-else-if="looked.here">It is here already.</p>
      <form v-if="mayCome" class="row whose" @submit.prevent="takeIn">
        <FieldRow v-slot="{ id }" label="Whose garden is it?" :fault="faultOf('garden')"><el-input :id="id" v-model="garden" maxlength="60" /></FieldRow>
        <el-button type="primary" native-type="submit" :loading="busy">Take it in</el-button>
      </form>
    </div>
    <p role="status" class="small">{{ said }}</p>
    <ul v-if="kept.data.value?.length" class="kept">
      <li v-for="one in kept.data.value" :key="one.id">
        <span
          ><strong>{{ one.garden }}</strong
          >: {{ one.name }}, {{ one.on.slice(0, 4) }}. {{ one.sentence }}</span
        ><button type="button" class="as-text" :aria-label="`Take off ${one.name} of ${one.garden}`" @click="takeOff(one.id)">Take off</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.file {
  display: grid;
  gap: var(--space-1);
  justify-items: start;
  font-weight: 650;
}

.looked {
  border-left: 5px solid var(--accent);
  padding-left: var(--space-4);
}

.whose {
  align-items: center;
}

.kept button {
  white-space: nowrap;
}

.kept {
  display: grid;
  gap: var(--space-3);
  margin: 0;
  padding: 0;
  list-style: none;
}

.kept li {
  display: flex;
  gap: var(--space-3);
  justify-content: space-between;
  align-items: baseline;
}
</style>
