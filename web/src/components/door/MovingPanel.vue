<script setup lang="ts">
import { ref } from "vue";
import { client, take, type Schemas } from "../../api/client";
import { useInSight } from "../../composables/useInSight";
import { useKeeping } from "../../composables/useKeeping";
import { dayName, plural } from "../../words";
import FaultNote from "../FaultNote.vue";

/** The whole garden as one open file, taken along; such a file, or a trial's, looked at and brought in. */
const props = defineProps<{ restored: () => Promise<void> }>();
const file = ref<File | null>(null);
const coming = ref<Schemas["ComingOut"] | null>(null);
const busy = ref(false);
const said = ref("");
const { fault, keep } = useKeeping((words) => (said.value = words));
const box = ref<HTMLElement | null>(null);
useInSight(box, () => said.value || coming.value?.title);
const zip = { bodySerializer: (body: unknown) => body as Blob };
let key = "";

async function act(work: () => Promise<string>): Promise<void> {
  busy.value = true;
  said.value = "";
  await keep("", work);
  busy.value = false;
}

function gone(photos: number): string {
  return photos ? ` ${plural(photos, "photo")} named in it ${photos === 1 ? "is" : "are"} not in the file.` : "";
}

function lookAt(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  file.value = input.files?.[0] ?? null;
  input.value = "";
  coming.value = null;
  key = crypto.randomUUID();
  return act(async () => {
    if (file.value)
      coming.value = await take(
        client.POST("/api/moving/look", { body: file.value as unknown as string, headers: { "Content-Type": "application/zip" }, ...zip }),
      );
    return "";
  });
}

function bringIn(): Promise<void> {
  return act(async () => {
    await take(
      client.POST("/api/moving", {
        params: { header: { "Idempotency-Key": key } },
        body: file.value as unknown as string,
        headers: { "Content-Type": "application/zip" },
        ...zip,
      }),
    );
    const count = coming.value?.trials.length ?? 0;
    coming.value = null;
    await props.restored();
    return `${count ? `${plural(count, "trial")} came in.` : "All of it came in."}`;
  });
}
</script>

<template>
  <div class="stack">
    <h3>Take along, bring in</h3>
    <p class="soft">
      All there is as one open file: tables for any program, photos, and what the columns mean. Whoever opens the tables of a trial that is counted blind sees
      which plant got what. A neighbour’s trial that is only to be compared is taken in under <RouterLink to="/known">What you know</RouterLink>.
    </p>
    <p><a href="/api/moving/garden.zip" download>Save the whole garden as one file</a></p>
    <label class="file">Look at a file of a garden or a trial<input type="file" accept=".zip,application/zip" :disabled="busy" @change="lookAt" /></label>
    <FaultNote :fault="fault" />
    <div ref="box" role="status" class="stack">
      <p v-if="said" class="said">{{ said }} <RouterLink to="/">Go to Today</RouterLink></p>
      <div v-if="coming" class="looked stack">
        <p>
          <strong>{{ coming.title }}.</strong> This would come in beside what is here; nothing of yours is changed.
        </p>
        <ul v-if="coming.trials.length">
          <li v-for="trial in coming.trials" :key="trial.called">
            {{ trial.name }}, {{ dayName(trial.start_on) }} {{ trial.start_on.slice(0, 4) }}: {{ plural(trial.plants, "plant") }},
            {{ trial.numbers ? plural(trial.numbers, "number") : "nothing counted yet"
            }}<template v-if="trial.called !== trial.name">; called “{{ trial.called }}”, for one of its name is here</template>
          </li>
        </ul>
        <p v-if="coming.beside.length || coming.pictures || coming.pictures_missing">
          With it: {{ [...coming.beside, ...(coming.pictures ? [plural(coming.pictures, "photo")] : [])].join(", ") || "nothing else" }}.{{
            gone(coming.pictures_missing)
          }}
        </p>
        <p class="small soft">Your yard, prices, the weather of days you have, and your own remedies and pests of the same name stay as they are here.</p>
        <div class="row">
          <el-button type="primary" :loading="busy" @click="bringIn">Bring it in</el-button>
          <el-button :disabled="busy" @click="coming = null">Leave it</el-button>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.looked {
  border-left: 5px solid var(--accent);
  padding-left: var(--space-4);
}

ul {
  margin: 0;
}

.said {
  color: var(--good);
  font-weight: 650;
}

.file {
  display: grid;
  gap: var(--space-1);
  justify-items: start;
  font-weight: 650;
}

p,
li {
  overflow-wrap: anywhere;
}
</style>
