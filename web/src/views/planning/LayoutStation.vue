<script setup lang="ts">
import { computed, nextTick, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Plant, type Schemas } from "../../api/client";
import BenchMap from "../../components/BenchMap.vue";
import FaultNote from "../../components/FaultNote.vue";
import CriticPanel from "../../components/planning/CriticPanel.vue";
import DesignPanel from "../../components/planning/DesignPanel.vue";
import NextStep from "../../components/trial/NextStep.vue";
import FieldRow from "../../components/FieldRow.vue";
import PowerPanel from "../../components/planning/PowerPanel.vue";
import PlantTag from "../../components/PlantTag.vue";
import { tagsByLetter } from "../../charts/tag";
import { useAnswer } from "../../composables/useAnswer";
import { useTrial } from "../../composables/useTrial";

const { trial, change, busy } = useTrial();
const fault = ref<Fault | null>(null);
const asking = ref(false);
const heading = ref<HTMLElement | null>(null);
const reason = ref("");
const prints = ref<Schemas["PrintsOut"] | null>(null);
const papers = { a4: "A4", letter: "Letter" } as const;
const drawn = computed(() => Boolean(trial.value?.plants.some((p) => p.letter)));
const fixed = computed(() => trial.value?.sprayed_on !== null);

const trays = computed(() => {
  const byBlock = new Map<number, Plant[]>();
  for (const plant of trial.value?.plants ?? []) {
    if (plant.block === null) continue;
    byBlock.set(plant.block, [...(byBlock.get(plant.block) ?? []), plant]);
  }
  return [...byBlock].sort((a, b) => a[0] - b[0]);
});
const spare = computed(() =>
  drawn.value ? (trial.value?.plants ?? []).filter((p) => !p.set_aside && p.block === null) : [],
);
const tags = computed(() => (trial.value ? tagsByLetter(trial.value) : new Map()));
const doubled = computed(() => trays.value.filter(([, plants]) => plants.length > (trial.value?.remedies.length ?? 0)).length);

const course = useAnswer(() => take(client.GET("/api/trials/{trial_id}/course", { params: { path: { trial_id: trial.value?.id ?? 0 } } })));
watch(fixed, (now) => { if (now) void course.load(); }, { immediate: true });

async function draw(): Promise<void> {
  const id = trial.value?.id ?? 0;
  fault.value = await change(() =>
    take(client.POST("/api/trials/{trial_id}/layout", { params: { path: { trial_id: id } }, body: { reason: reason.value } })),
  );
  if (fault.value) return;
  asking.value = false;
  reason.value = "";
  // The button that was pressed is gone; who works by keyboard goes on from the heading.
  await nextTick();
  heading.value?.focus();
}

async function move(plant: Plant, row: number, place: number): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0, plant_id: plant.id };
  fault.value = await change(() =>
    take(client.POST("/api/trials/{trial_id}/plants/{plant_id}/move", { params: { path }, body: { row, place } })),
  );
  if (!fault.value) await nextTick(() => document.querySelector<HTMLElement>(`[data-plant="${plant.id}"]`)?.focus());
}

async function openKey(): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0 };
  fault.value = await change(() => take(client.POST("/api/trials/{trial_id}/key", { params: { path } })));
}

async function loadPrints(): Promise<void> {
  prints.value = null;
  if (!drawn.value) return;
  try {
    prints.value = await take(client.GET("/api/trials/{trial_id}/prints", { params: { path: { trial_id: trial.value?.id ?? 0 } } }));
  } catch {
    // The layout was cleared in the meantime; there is nothing to print then.
  }
}
watch(drawn, loadPrints, { immediate: true });

function when(iso: string): string {
  return new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" }).format(new Date(iso));
}
</script>

<template>
  <div v-if="trial" class="stack">
    <section class="sheet stack">
      <div class="head">
        <div>
          <h2 ref="heading" tabindex="-1">{{ drawn ? "What stands where" : "Draw the layout" }}</h2>
          <p v-if="!drawn" class="soft">
            Plants with about as many pests form a block, like pots on one tray. Within each block chance decides
            which plant gets what, so that nobody gives the worst plants the remedy they believe in.
          </p>
          <p v-else class="soft">
            The number in a pot's corner is its block: plants that had about as many pests. Cut the
            notches into real tags with scissors; they outlast ink.
          </p>
        </div>
        <NextStep v-if="drawn" from="layout" />
        <el-button v-else type="primary" size="large" :loading="busy" @click="draw">Draw at random</el-button>
      </div>
      <FaultNote :fault="asking ? null : fault"><RouterLink :to="`/trial/${trial.id}/plants`">Go to the plants</RouterLink></FaultNote>
      <BenchMap v-if="trial.plants.length" :trial="trial" :figure="drawn && fixed ? 'course' : 'match'" :course="course.data.value" :movable="!fixed" :still="fixed" @move="move" />
      <p v-if="!fixed && trial.plants.length" class="small soft">
        {{ trial.setup.place_cm }} cm between plants, {{ trial.setup.row_cm }} cm between rows. Drag a plant to where it stands, click it and then its place, or focus it and press <span class="key">Alt</span> with an arrow.
        <template v-if="trial.shields.length"> Double lines: hold a shield there, a neighbour within drift gets something else.</template>
      </p>
      <p v-for="(why, id) in trial.odd_plants" :key="id" class="soft">
        {{ trial.plants.find((p) => p.id === Number(id))?.name }} is odd ({{ why }}): set it aside at the plants, unless you know better.
      </p>
      <p v-if="spare.length" class="soft">
        {{ spare.map((p) => p.name).join(", ") }} found no block and {{ spare.length === 1 ? "stays" : "stay" }} out.
      </p>
      <p v-if="doubled" class="soft">
        {{ doubled === 1 ? "One block has" : `${doubled} blocks have` }} the control twice: every
        remedy is compared with it, so a plant left over helps most there.
      </p>
    </section>

    <template v-if="!fixed">
      <CriticPanel />
      <DesignPanel />
      <PowerPanel />
    </template>

    <section v-if="drawn" class="sheet two">
      <div class="stack">
        <h2>The tags</h2>
        <template v-if="trial.sealed">
          <p>The key is sealed: whoever counts should not know what a letter stands for. The bottles need it; let somebody else open it, or count first.</p>
          <div><el-button @click="openKey">Open the key (recorded)</el-button></div>
        </template>
        <template v-else>
          <ul class="key-list">
            <li v-for="remedy in trial.remedies" :key="remedy.id">
              <PlantTag :letter="remedy.letter" :notches="remedy.notches" :height="52" />
              <span><strong>{{ remedy.name }}</strong><span class="small soft">{{ remedy.recipe }}</span></span>
            </li>
          </ul>
          <p class="small soft">{{ trial.key_opened_at ? `Opened ${when(trial.key_opened_at)}.` : "Every plant is counted at the last look, so there is nothing to hide any more." }}</p>
        </template>
        <p class="small soft">The letters were drawn by lot too, so A says nothing.</p>
      </div>
      <div class="stack">
        <h2>Blocks</h2>
        <ul class="trays">
          <li v-for="[block, plants] in trays" :key="block">
            <span class="number">{{ block }}</span>
            <span v-for="plant in plants" :key="plant.id" class="member">
              <PlantTag :letter="plant.letter" :notches="tags.get(plant.letter ?? '')?.notches" :height="30" plain />
              <span>{{ plant.name }}<span class="small soft"> {{ plant.match_count ?? "" }}</span></span>
            </span>
          </li>
        </ul>
      </div>
    </section>

    <section v-if="drawn && prints" class="sheet stack">
      <h2>To print</h2>
      <p class="soft">Print without scaling; tags come out at their real size, and each QR code opens the count of its plant.</p>
      <ul class="prints">
        <li v-for="(name, paper) in papers" :key="paper" class="row">
          <strong>{{ name }}</strong>
          <a :href="prints.sheet[paper]" target="_blank" rel="noopener">Bench sheet</a>
          <a v-for="(page, k) in prints.tags[paper]" :key="page" :href="page" target="_blank" rel="noopener">Tags, page {{ k + 1 }}</a>
        </li>
      </ul>
    </section>

    <section v-if="trial.layout_events.length" class="sheet stack">
      <h2>How it came about</h2>
      <ol class="events">
        <li v-for="(event, k) in trial.layout_events" :key="k">
          {{ when(event.made_at) }}: {{ event.kind === "drawn" ? `drawn with seed ${event.seed}` : "cleared" }}<span class="soft">, {{ event.reason }}</span>
        </li>
      </ol>
      <p v-if="fixed" class="small soft">A plant was sprayed, so the layout stands.</p>
      <div v-else-if="drawn"><el-button @click="asking = true">Draw it anew</el-button></div>
    </section>

    <el-dialog v-model="asking" title="Draw the layout anew?" width="min(480px, 92vw)" append-to-body>
      <div class="stack">
        <p>Tags already set on plants will be wrong. The reason goes on the record.</p>
        <FieldRow v-slot="{ id }" label="Why" :fault="fault">
          <el-input :id="id" v-model="reason" maxlength="500" @keydown.enter="draw" />
        </FieldRow>
      </div>
      <template #footer>
        <el-button @click="asking = false">Keep this one</el-button>
        <el-button type="primary" :loading="busy" @click="draw">Draw anew</el-button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: start;
  gap: var(--space-4);
}

.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: var(--space-6);
}

ul,
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}

.prints {
  display: grid;
  gap: var(--space-2);
}

.key-list {
  display: grid;
  gap: var(--space-3);
}

.key-list li {
  display: flex;
  gap: var(--space-3);
  align-items: center;
}

.key-list li > span {
  display: grid;
}

.trays {
  display: grid;
  gap: var(--space-2);
}

.trays li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  padding: var(--space-2);
  background: var(--well);
  border-radius: var(--radius-m);
}

.number {
  width: 1.4em;
  text-align: center;
  font-weight: 700;
}

.member {
  display: inline-flex;
  gap: var(--space-1);
  align-items: center;
}
</style>
