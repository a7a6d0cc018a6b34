<script setup lang="ts">
import { computed, reactive, ref, watch } from "vue";
import { client, Fault, take, asFault, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import { useKnowledge } from "../../composables/useKnowledge";
import { readNumber } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import PestPicker from "../finding/PestPicker.vue";

type Kind = Schemas["EntryKind"];
/** Writes a line of the journal; what Today or a lane asked for comes filled in. */
const props = defineProps<{ today: string; places: readonly string[]; asked: { kind: Kind; pest: string; place: string } }>();
const emit = defineEmits<{ written: [year: Schemas["YearOut"]] }>();
const { knowledge } = useKnowledge();
const KINDS: Record<Kind, string> = { look: "I looked", treated: "I treated", newcomer: "A plant came", task: "To do", air: "Room air" };
const WHAT = {
  treated: ["With what", "Garlic water, soap, a jet of water …"],
  newcomer: ["Which plant", "Let it stand apart for three weeks."],
  task: ["What", "It comes on Today on its day."],
} as const;
const TASKS = [
  "Wipe the pots and the bench",
  "Rinse the pots that had soda",
  "Bin the cuttings and what was picked off",
  "Refill the traps and lures",
  "Wash hands, knife and scissors",
];
const LEVELS = ["None", "Few", "Some", "Many"] as const;

const form = reactive({
  kind: "look" as Kind,
  on: "",
  place: "",
  pest: "",
  level: null as Schemas["Level"] | null,
  helpers: false,
  what: "",
  note: "",
  humidity: "",
  every: "",
});
const what = computed(() => (form.kind === "look" || form.kind === "air" ? null : WHAT[form.kind]));
const ofPest = computed(() => form.kind === "look" || form.kind === "treated");
const fault = ref<Fault | null>(null);
const said = ref("");
let wish = formName();
watch(
  () => props.asked,
  (asked) => Object.assign(form, { kind: asked.kind, pest: asked.pest || form.pest, place: asked.place || form.place }),
  { immediate: true },
);
watch(
  () => props.today,
  (today) => (form.on = today),
  { immediate: true },
);
const faultOf = (field: string): Fault | null => (fault.value?.field === field ? fault.value : null);
const elsewhere = computed(() =>
  fault.value && !["on", "place", "pest", "level", "what", "note", "humidity", "every"].includes(fault.value.field ?? "") ? fault.value : null,
);

async function write(): Promise<void> {
  const look = form.kind === "look";
  const body: Schemas["EntryIn"] = {
    kind: form.kind,
    on: form.on,
    place: form.place,
    pest: ofPest.value ? form.pest : "",
    level: look ? form.level : null,
    helpers: look && form.helpers,
    what: what.value ? form.what : "",
    note: form.note,
    humidity: form.kind === "air" ? (readNumber(form.humidity) ?? null) : null,
    every: form.kind === "task" && form.every.trim() ? (readNumber(form.every) ?? 0) : null,
  };
  fault.value = null;
  if (!form.on) {
    fault.value = new Fault("empty", "no day is given", "on", "Choose the day.", 422);
    return;
  }
  try {
    const year = await take(client.POST("/api/journal", { params: { header: once(wish, body) }, body }));
    wish = formName();
    said.value = "Written down.";
    Object.assign(form, { level: null, helpers: false, what: "", note: "", humidity: "", every: "" });
    emit("written", year);
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
}
</script>

<template>
  <form class="stack" aria-labelledby="write" @submit.prevent="write">
    <h2 id="write">Write down</h2>
    <div class="row fingers words" role="group" aria-label="What it is">
      <button v-for="(words, kind) in KINDS" :key="kind" type="button" class="pick" :aria-pressed="form.kind === kind" @click="form.kind = kind">
        {{ words }}
      </button>
    </div>
    <div class="fields">
      <FieldRow v-slot="{ id }" label="Where" help="The same name each time." :fault="faultOf('place')">
        <el-input :id="id" v-model="form.place" maxlength="120" :list="`${id}-known`" />
        <datalist :id="`${id}-known`"><option v-for="one in places" :key="one" :value="one" /></datalist>
      </FieldRow>
      <FieldRow v-if="ofPest" v-slot="{ id }" label="Pest or disease" help="Or type your own." :fault="faultOf('pest')">
        <PestPicker :id="id" v-model="form.pest" :pests="knowledge?.pests ?? []" />
      </FieldRow>
      <FieldRow v-if="what" v-slot="{ id }" :label="what[0]" :help="what[1]" :fault="faultOf('what')">
        <el-input :id="id" v-model="form.what" maxlength="300" :list="form.kind === 'task' ? `${id}-usual` : undefined" />
        <datalist v-if="form.kind === 'task'" :id="`${id}-usual`"><option v-for="one in TASKS" :key="one" :value="one" /></datalist>
      </FieldRow>
      <FieldRow v-if="form.kind === 'air'" v-slot="{ id }" label="Humidity, %" help="As the hygrometer shows it." :fault="faultOf('humidity')"
        ><el-input :id="id" v-model="form.humidity" inputmode="decimal"
      /></FieldRow>
      <FieldRow v-if="form.kind === 'task'" v-slot="{ id }" label="Again every … days" help="Nothing: only once." :fault="faultOf('every')"
        ><el-input :id="id" v-model="form.every" inputmode="numeric"
      /></FieldRow>
      <FieldRow v-slot="{ id }" label="Day" :fault="faultOf('on')"
        ><input :id="id" v-model="form.on" type="date" class="date" :max="form.kind === 'task' ? undefined : today"
      /></FieldRow>
    </div>
    <div v-if="form.kind === 'look'" class="stack tight">
      <div class="row fingers words" role="group" aria-label="How many">
        <button
          v-for="(words, level) in LEVELS"
          :key="level"
          type="button"
          class="pick"
          :aria-pressed="form.level === level"
          @click="form.level = level as Schemas['Level']">
          {{ words }}
        </button>
      </div>
      <p v-if="faultOf('level')" class="small wrong" role="alert">{{ faultOf("level")?.fix }}</p>
      <p v-else class="small soft">That there were none is worth as much: it says when they came.</p>
      <el-checkbox v-model="form.helpers">Helpers were about: ladybirds, lacewings, hoverflies, small wasps</el-checkbox>
    </div>
    <p v-if="form.kind === 'treated'" class="small soft">
      Gloves on, none on open flowers, and of what is eaten only as its label says; a few leaves first. Write down how many there were before and look again in
      a few days, or nobody can say what it did.
    </p>
    <el-input v-model="form.note" type="textarea" :rows="2" maxlength="4000" aria-label="A note" placeholder="A note, if you like" />
    <FaultNote :fault="elsewhere" />
    <div class="row">
      <el-button type="primary" native-type="submit">Write it down</el-button><span role="status" class="small">{{ said }}</span>
    </div>
  </form>
</template>

<style scoped>
.pick {
  padding: 0 var(--space-4);
}

.wrong {
  color: var(--bad);
  font-weight: 650;
}
</style>
