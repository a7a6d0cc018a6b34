<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Fault, Plant, Trial } from "../../api/client";
import type { Details, Stop } from "../../composables/useSpraying";
import { volume } from "../../mixing";
import FaultNote from "../FaultNote.vue";
import PlantTag from "../PlantTag.vue";

/** The plant where one stands: its tag, its amount, and what happens to it. */
const props = defineProps<{
  trial: Trial;
  stop: Stop;
  batch: number | undefined;
  neighbours: readonly Plant[];
  fault: Fault | null;
  skipping: boolean;
}>();
const details = defineModel<Details>("details", { required: true });
const emit = defineEmits<{ skip: [why: string]; deviate: [why: string]; stay: [] }>();
const why = ref("");
const deviation = ref("");
/** The letters of the other bottles, for whoever took the wrong one. */
const others = computed(() => [...new Set(props.trial.plants.flatMap((p) => (p.letter && p.letter !== props.stop.tag.letter ? [p.letter] : [])))].sort());
const mixedUp = ref(false);
const skips = ["A bee on the flowers", "In full sun", "Too weak today", "Could not reach it"];

watch(
  () => [props.stop.plant.id, props.stop.mark],
  () => {
    why.value = "";
    deviation.value = "";
    mixedUp.value = false;
  },
);

function refused(): boolean {
  return ["already_sprayed", "too_soon", "not_due"].includes(props.fault?.code ?? "");
}
</script>

<template>
  <section class="sheet here" :aria-label="`Plant ${stop.plant.name}`">
    <div class="who">
      <PlantTag :letter="stop.tag.letter" :notches="stop.tag.notches" :height="96" />
      <div>
        <span class="name">{{ stop.plant.name }}</span>
        <span>row {{ stop.plant.row }}, place {{ stop.plant.place }}</span>
        <span class="small">
          bottle {{ stop.tag.letter }}<template v-if="stop.remedy"> · {{ stop.remedy.name }}</template
          ><template v-if="batch"> · batch {{ batch }}</template>
        </span>
        <strong v-if="stop.mark !== 'open'" class="mark">{{ stop.mark === "sprayed" ? "✓ sprayed" : "– skipped" }}</strong>
      </div>
    </div>
    <p v-if="!stop.tag.poured" class="small">
      {{ stop.remedy ? stop.remedy.recipe : "As its tag says; nothing is measured in ml." }} <strong v-if="stop.tag.dose">{{ stop.tag.dose }} a plant.</strong
      ><template v-else> Handle it as long as the others.</template>
    </p>
    <p v-else-if="stop.remedy" class="small">{{ stop.tag.coverage }} {{ stop.tag.agitation }}</p>
    <div v-if="stop.tag.poured" class="amount fingers words" role="group" aria-label="Millilitres">
      <button type="button" aria-label="5 ml less" @click="details.volume = Math.max(details.volume - 5, 5)">−</button>
      <output>{{ volume(details.volume) }}</output>
      <button type="button" aria-label="5 ml more" @click="details.volume += 5">+</button>
    </div>
    <p v-if="stop.tag.poured && details.volume !== stop.tag.ml" class="small warn">
      The others get {{ volume(stop.tag.ml ?? trial.care.ml_per_plant) }}: this will be a deviation.
    </p>
    <div class="toggles fingers words">
      <button v-if="stop.tag.reach !== 'none'" type="button" :aria-pressed="details.undersides" @click="details.undersides = !details.undersides">
        {{ stop.tag.reach === "soil" ? "Soil to the pot's edge" : "Undersides done" }}
      </button>
      <button v-if="stop.tag.reach === 'leaves'" type="button" :aria-pressed="details.drifted" @click="details.drifted = !details.drifted">Drifted</button>
      <button v-if="others.length && stop.mark === 'open'" type="button" :aria-expanded="mixedUp" @click="mixedUp = !mixedUp">Wrong bottle</button>
    </div>
    <div v-if="mixedUp" class="stack">
      <p>
        Which bottle did {{ stop.plant.name }} get? Give it nothing more. It is put on record and told with the verdict; set it aside in the table of plants, so
        that it is compared with none.
      </p>
      <div class="toggles fingers words">
        <button v-for="letter in others" :key="letter" type="button" @click="emit('deviate', `it got bottle ${letter}, not ${stop.tag.letter}`)">
          Bottle {{ letter }}
        </button>
      </div>
    </div>
    <label v-if="neighbours.length && stop.tag.reach === 'leaves'" class="hit">
      <span>Neighbour hit</span>
      <select v-model="details.neighbour">
        <option :value="null">none</option>
        <option v-for="plant in neighbours" :key="plant.id" :value="plant.id">{{ plant.name }}</option>
      </select>
    </label>

    <FaultNote :fault="fault">
      <div v-if="refused()" class="stack">
        <el-input v-model="deviation" maxlength="500" aria-label="Why it was sprayed all the same" placeholder="Why it was sprayed all the same" />
        <el-button :disabled="!deviation.trim()" @click="emit('deviate', deviation)">Record it as a deviation</el-button>
      </div>
    </FaultNote>

    <div v-if="skipping" class="stack">
      <div class="toggles fingers words">
        <button v-for="reason in skips" :key="reason" type="button" @click="emit('skip', reason)">{{ reason }}</button>
      </div>
      <el-input v-model="why" maxlength="500" aria-label="Another reason" placeholder="Another reason" />
      <div class="row">
        <el-button :disabled="!why.trim()" @click="emit('skip', why)">Skip it</el-button><el-button @click="emit('stay')">Do not skip</el-button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.here {
  display: grid;
  gap: var(--space-3);
}

.who {
  display: flex;
  gap: var(--space-5);
  align-items: center;
}

.who > div {
  display: grid;
}

.name {
  font-size: var(--text-2xl);
  font-weight: 750;
  line-height: 1.1;
}

.mark {
  color: var(--good);
}

.amount {
  display: grid;
  grid-template-columns: 64px 1fr 64px;
  align-items: center;
  text-align: center;
}

.amount button {
  min-height: 56px;
  font-size: var(--text-xl);
}

.amount output {
  font-size: var(--text-xl);
  font-weight: 700;
}

.warn {
  color: var(--warn);
}

.toggles {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(90px, 1fr));
  gap: var(--space-2);
}

.hit {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-2);
  align-items: center;
}

.hit select {
  min-height: var(--touch);
  padding: 0 var(--space-3);
  border: 1.5px solid var(--line);
  border-radius: var(--radius-m);
  background: var(--paper);
  color: var(--ink);
  font-size: var(--text-m);
}
</style>
