<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { asFault, client, take, type Schemas } from "../../api/client";
import { useInSight } from "../../composables/useInSight";
import { useKeeping } from "../../composables/useKeeping";
import { momentName } from "../../words";
import FaultNote from "../FaultNote.vue";
import MovingPanel from "./MovingPanel.vue";

/** The copies of the garden: made, taken along, put back, removed. */
type Copy = Schemas["BackupOut"];
/** `restored`: what is to be read anew once a copy is in place. */
const props = defineProps<{ restored: () => Promise<void> }>();
const found = ref<Schemas["BackupsOut"] | null>(null);
const asked = ref<{ name: string; act: "restore" | "remove" } | null>(null);
const all = ref(false);
const busy = ref(false);
const said = ref("");
const { fault, keep } = useKeeping((words) => (said.value = words));
const box = ref<HTMLElement | null>(null);
useInSight(box, () => said.value);
const FIRST = 5;
const shown = computed(() => (all.value ? found.value?.items : found.value?.items.slice(0, FIRST)) ?? []);
const reasons: Record<Schemas["Reason"], string> = {
  daily: "of the day",
  upgrade: "before a newer Orthocris changed the data",
  asked: "made on request",
  restore: "before another copy was put back",
};

async function load(): Promise<void> {
  found.value = await take(client.GET("/api/backups"));
}

onMounted(() =>
  keep("", async () => {
    try {
      await load();
    } catch (thrown) {
      if (asFault(thrown).code !== "only_here") throw thrown; // a phone that was let in has no copies
    }
  }),
);

/** Does something with the copies, and shows then what there is. */
async function act(work: () => Promise<string>): Promise<void> {
  busy.value = true;
  await keep("", async () => {
    const words = await work();
    asked.value = null;
    await load();
    return words;
  });
  busy.value = false;
}

function make(): Promise<void> {
  return act(async () => {
    await take(client.POST("/api/backups"));
    return "The garden is copied.";
  });
}

function goOn(copy: Copy): Promise<void> {
  const params = { params: { path: { name: copy.name } } };
  return act(async () => {
    if (asked.value?.act === "remove") {
      await take(client.DELETE("/api/backups/{name}", params));
      return "The copy is removed.";
    }
    const became = await take(client.POST("/api/backups/{name}/restore", params));
    await props.restored();
    const before = became.set_aside ? `The damaged data is kept as ${became.set_aside}.` : became.kept ? "What was there before is the newest copy here." : "";
    const pictures = became.pictures_missing
      ? ` ${became.pictures_missing} ${became.pictures_missing === 1 ? "picture" : "pictures"} of notes are no longer there.`
      : "";
    return `The garden of ${momentName(copy.made_at)} is back. ${before}${pictures} Other devices need a new passcode.`;
  });
}

function size(bytes: number): string {
  return bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
}
</script>

<template>
  <section v-if="found || fault" class="sheet stack">
    <h2>Copies</h2>
    <p class="soft">
      One is made each day on which something changed: all of a week stay, then one a week, a month, a year. A disk can break, too: download one to a stick now
      and then.
    </p>
    <div v-if="found?.damage" class="notice" role="alert">
      <strong>The data of this garden cannot be used.</strong> Put back the newest copy; the damaged file is kept.
      <details>
        <summary>What is wrong</summary>
        {{ found.damage }}.
      </details>
    </div>
    <FaultNote :fault="fault" />
    <p v-if="said" ref="box" role="status" class="said">{{ said }}</p>
    <div v-if="found && !found.damage" class="row"><el-button :disabled="busy" @click="make">Make a copy now</el-button></div>
    <ul class="bare">
      <li v-for="copy in shown" :key="copy.name">
        <span
          >{{ momentName(copy.made_at) }} <span class="small soft">{{ reasons[copy.reason] }}, {{ size(copy.size) }}</span></span
        >
        <div v-if="asked?.name === copy.name" class="stack">
          <p v-if="asked.act === 'remove'">It is gone for good then.</p>
          <p v-else>All that was kept since then leaves the screens{{ found?.damage ? "" : "; a copy of it is made first" }}.</p>
          <div class="row">
            <el-button type="primary" :disabled="busy" @click="goOn(copy)">{{ asked.act === "remove" ? "Remove it" : "Put it back" }}</el-button>
            <el-button :disabled="busy" @click="asked = null">Leave it</el-button>
          </div>
        </div>
        <span v-else class="row">
          <a :href="`/api/backups/${copy.name}`" download>Download</a>
          <el-button @click="asked = { name: copy.name, act: 'restore' }">Put back …</el-button>
          <el-button @click="asked = { name: copy.name, act: 'remove' }">Remove …</el-button>
        </span>
      </li>
    </ul>
    <p v-if="found && !found.items.length" class="soft">There is none yet.</p>
    <div v-if="(found?.items.length ?? 0) > FIRST && !all" class="row">
      <el-button @click="all = true">Show all {{ found?.items.length }}</el-button>
    </div>
    <details v-if="found" class="small">
      <summary>Where copies lie</summary>
      <p>In {{ found.folder }}; photos lie beside it and are not part of a copy. The command <code>orthocris backup --to FOLDER</code> copies both.</p>
    </details>
    <MovingPanel v-if="found && !found.damage" :restored="restored" />
  </section>
</template>

<style scoped>
.said {
  color: var(--good);
  font-weight: 650;
}

li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-2);
  padding-block: var(--space-1);
}

p {
  overflow-wrap: anywhere;
}
</style>
