<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Schemas, type Tag, type Trial } from "../../api/client";
import { timeOf } from "../../charts/ribbon";
import { tagsByLetter } from "../../charts/tag";
import { useAnswer } from "../../composables/useAnswer";
import { givenIn } from "../../rounds";
import CautionList from "../CautionList.vue";
import FaultNote from "../FaultNote.vue";
import PlantTag from "../PlantTag.vue";
import { clockFormat, inUnits } from "../../units";
import { plural } from "../../words";

/** Everything that must be in order before a round: bottles, hour, patch tests, bees and fruit. */
const props = defineProps<{ trial: Trial; number: number }>();
const emit = defineEmits<{ start: [checks: Schemas["ChecksIn"]] }>();

const form = reactive({
  shaken: false,
  cautions_read: false,
  bees_looked: false,
  fruit_looked: false,
  weather_looked: false,
  done_on: null as string | null,
  batches: {} as Record<string, number>,
  reasons: {} as Record<string, string>,
});
const path = computed(() => ({ trial_id: props.trial.id, number: props.number }));
const body = computed<Schemas["ChecksIn"]>(() => ({
  ...form,
  done_on: form.done_on || null, // an emptied field is no day
  batches: { ...form.batches },
  reasons: Object.fromEntries(Object.entries(form.reasons).filter(([, why]) => why.trim())),
}));
const blockers = useAnswer(() =>
  take(client.POST("/api/trials/{trial_id}/rounds/{number}/queries/check", { params: { path: path.value }, body: { ...body.value, reasons: {} } })),
);
const ribbon = useAnswer(() => take(client.GET("/api/trials/{trial_id}/ribbon", { params: { path: { trial_id: props.trial.id } } })));
const round = computed(() => props.trial.rounds.find((r) => r.number === props.number));
const due = computed(() => new Set(round.value?.due));
const bottled = computed(() =>
  [...tagsByLetter(props.trial, round.value).values()].filter(
    (tag) => tag.bottled && props.trial.plants.some((p) => p.letter === tag.letter && due.value.has(p.id)),
  ),
);
/** Where no weather is known for this hour, somebody looks instead. */
const asksWeather = computed(() => !form.done_on && (form.weather_looked || (blockers.data.value ?? []).some((b) => b.code === "weather")));
const late = ref(false);
/** A tick is shown where this round asks for it, or once it is given. */
function asks(code: string, given: boolean): boolean {
  return given || (blockers.data.value ?? []).some((b) => b.code === code);
}
const ticks = computed(() => [
  ...(bottled.value.length ? [{ key: "shaken" as const, text: "Every bottle is shaken" }] : []),
  ...(asksWeather.value
    ? [{ key: "weather_looked" as const, text: "No weather is known here. I looked: leaves dry, hardly any wind, no sun on the bench, not too warm" }]
    : []),
  ...(asks("cautions", form.cautions_read) ? [{ key: "cautions_read" as const, text: "I have read the cautions; gloves are on" }] : []),
  ...(asks("bees", form.bees_looked) ? [{ key: "bees_looked" as const, text: "I looked: no bees, no open flowers they visit" }] : []),
  ...(asks("fruit", form.fruit_looked) ? [{ key: "fruit_looked" as const, text: "I looked: ripe fruit is picked" }] : []),
]);
const own = new Set(["shaken", "cautions", "bees", "fruit", "no_batch", "weather"]);
const open = computed(() => (blockers.data.value ?? []).filter((b) => !own.has(b.code)));
const unmet = computed(() => (blockers.data.value ?? []).filter((b) => !(b.overrulable && form.reasons[b.code]?.trim())));
const against = computed(() => unmet.value.filter((b) => !own.has(b.code)).length);
/** A sentence as the part of another. */
function said(text = ""): string {
  const plain = inUnits(text).replace(/\.$/, "");
  return plain.charAt(0).toLowerCase() + plain.slice(1);
}

/** What the start waits for; a round entered late needs its day, or it would be one of today. */
const waits = computed(() => [
  ...(late.value && !form.done_on ? ["The day on which it was done is not given."] : []),
  ...unmet.value.filter((b) => own.has(b.code)).map((b) => b.text),
  ...(against.value ? [`${plural(against.value, "thing")} above ${against.value === 1 ? "speaks" : "speak"} against it`] : []),
]);
const shut = computed(() => open.value.find((b) => b.code === "window_closed"));
const today = computed(() => ribbon.data.value?.days[0]);
const sealed = computed(() => props.trial.sealed);
const cautions = computed(() => [...new Set((round.value ? givenIn(props.trial, round.value) : []).flatMap((r) => r.cautions))]);

function choices(tag: Tag) {
  const own = [...props.trial.batches].reverse().filter((b) => b.letter === tag.letter && b.step === tag.step && !b.discarded_at);
  return [...own.filter((b) => b.usable), ...own.filter((b) => !b.usable)];
}

onMounted(async () => {
  await ribbon.load();
  for (const tag of bottled.value) {
    const [newest] = choices(tag);
    if (newest) form.batches[tag.letter] = newest.id;
  }
  await blockers.load();
});
watch(late, (on) => {
  if (!on) form.done_on = null;
});
watch(
  () => [form.shaken, form.cautions_read, form.bees_looked, form.fruit_looked, form.weather_looked, form.done_on, JSON.stringify(form.batches)],
  () => void blockers.load(),
);
const when = clockFormat({ weekday: "short", hour: "2-digit", minute: "2-digit" });
</script>

<template>
  <div class="stack">
    <FaultNote :fault="blockers.fault.value" />
    <section v-if="today && !form.done_on" class="sheet hour" :class="{ shut }">
      <strong>{{ shut ? inUnits(shut.text) : asksWeather ? "No weather is known: look yourself" : "Now is a good hour" }}</strong>
      <span v-if="today.best" class="small">best hour today {{ timeOf(today.best) }}</span>
      <span v-else-if="!asksWeather" class="small">no open hour left today: {{ inUnits(today.why) }}</span>
      <RouterLink v-else to="/yard">Enter today's weather →</RouterLink>
    </section>
    <section class="late">
      <el-checkbox v-model="late">It was done already, and is entered late from paper</el-checkbox>
      <label v-if="late" class="row">Done on <input v-model="form.done_on" type="date" class="date" :max="trial.today" /></label>
    </section>
    <section class="sheet stack">
      <h2>Bottles</h2>
      <p v-if="!bottled.length" class="soft">Nothing comes out of a bottle.</p>
      <p v-else-if="sealed" class="soft">
        Take what has the letter of each tag: the newest bottle of each letter is put on the record. Which is fresh tells whoever mixes.
        <RouterLink v-if="(blockers.data.value ?? []).some((b) => b.code === 'no_batch')" :to="`/trial/${trial.id}/mix`">Have them mixed first →</RouterLink>
      </p>
      <div :class="sealed ? 'row' : 'stack'">
        <div v-for="tag in bottled" :key="tag.letter" class="bottle">
          <PlantTag :letter="tag.letter" :notches="tag.notches" :height="48" />
          <div class="batch">
            <strong v-if="!sealed">{{ trial.remedies.find((r) => r.id === tag.remedy_id)?.name }}</strong>
            <el-select v-if="choices(tag).length" v-model="form.batches[tag.letter]" :aria-label="`Batch in bottle ${tag.letter}`">
              <el-option
                v-for="batch in choices(tag)"
                :key="batch.id"
                :value="batch.id"
                :label="`Batch ${batch.id}, ${when.format(Date.parse(batch.mixed_at))}${batch.usable ? '' : ', past its life'}`" />
            </el-select>
            <RouterLink v-else-if="!sealed" :to="`/trial/${trial.id}/mix`">Mix it first →</RouterLink>
          </div>
        </div>
      </div>
    </section>
    <p v-if="trial.eating">
      <strong>{{ trial.eating }}</strong>
    </p>
    <CautionList :texts="cautions" :title="sealed && bottled.length ? 'One or more of the bottles' : 'Cautions'" />
    <details>
      <summary>For every spray</summary>
      <CautionList :texts="trial.general_cautions" />
    </details>
    <section class="choices ticks">
      <button v-for="tick in ticks" :key="tick.key" type="button" :aria-pressed="form[tick.key]" @click="form[tick.key] = !form[tick.key]">
        <span class="box" aria-hidden="true">{{ form[tick.key] ? "✓" : "" }}</span>{{ tick.text }}
      </button>
    </section>
    <section v-if="open.length" class="stack">
      <h2>What speaks against it</h2>
      <div v-for="blocker in open" :key="blocker.code + blocker.text" class="sheet stack held">
        <p>
          <strong>{{ inUnits(blocker.text) }}</strong> {{ inUnits(blocker.fix) }}
        </p>
        <RouterLink v-if="blocker.code === 'patch_tests'" :to="`/trial/${trial.id}/patch`">To the patch tests →</RouterLink>
        <RouterLink v-if="blocker.code === 'before_missing'" :to="`/trial/${trial.id}/look/0`">Count before →</RouterLink>
        <RouterLink v-if="blocker.code === 'expired' || blocker.code === 'not_acknowledged'" :to="`/trial/${trial.id}/mix`">To the mixing bench →</RouterLink>
        <el-input
          v-if="blocker.overrulable"
          v-model="form.reasons[blocker.code]"
          maxlength="500"
          :aria-label="`Why you go on: ${blocker.text}`"
          placeholder="Why you go on (recorded)" />
      </div>
    </section>
    <div class="foot">
      <p v-if="waits.length" :id="`waits-${number}`" class="small" role="status">
        First: {{ said(waits[0]) }}<template v-if="waits.length > 1">, and {{ waits.length - 1 }} more</template>.
      </p>
      <el-button
        type="primary"
        size="large"
        :disabled="waits.length > 0 || !blockers.data.value"
        :aria-describedby="waits.length ? `waits-${number}` : undefined"
        @click="emit('start', body)"
        >Start round {{ number }}</el-button
      >
    </div>
  </div>
</template>

<style scoped>
.hour {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  align-items: baseline;
  border-left: 8px solid var(--trap);
}

.shut {
  border-left-color: var(--line);
}

a {
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
}

.bottle {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr);
  gap: var(--space-3);
  align-items: center;
}

.batch {
  display: grid;
}

.ticks {
  grid-template-columns: minmax(0, 1fr);
  gap: var(--space-2);
}

.ticks button {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-height: 56px;
}

.box {
  flex: none;
  display: grid;
  place-items: center;
  width: 28px;
  height: 28px;
  border: 2px solid currentcolor;
  border-radius: var(--radius-s);
  font-weight: 800;
}

.late {
  display: grid;
  gap: var(--space-2);
}

.held {
  border-left: 5px solid var(--warn);
}

.foot {
  position: sticky;
  bottom: 0;
  padding-block: var(--space-2);
  background: var(--paper);
}

.foot p {
  margin: 0 0 var(--space-1);
}

.foot .el-button {
  width: 100%;
  min-height: 60px;
}
</style>
