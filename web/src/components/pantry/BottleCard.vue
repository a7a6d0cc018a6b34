<script setup lang="ts">
import { computed, reactive, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { client, take, type Fault, type Schemas } from "../../api/client";
import { formName, once } from "../../api/once";
import { useTrial } from "../../composables/useTrial";
import { maybe, need, readAll } from "../../entered";
import { amount, life, volume } from "../../mixing";
import { clockFormat, kept, region as units, shown, unitOf } from "../../units";
import { pluralOf } from "../../question";
import CautionList from "../CautionList.vue";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import PlantTag from "../PlantTag.vue";
import BottlePicture from "./BottlePicture.vue";
import PourList from "./PourList.vue";

/** One remedy's bottle: what goes in, its cautions, the batch that is kept, and the batches before it. */
const { bottle, by } = defineProps<{ bottle: Schemas["BottleOut"]; by: string }>();
const emit = defineEmits<{ changed: [] }>();
const { trial, make } = useTrial();
const fault = ref<Fault | null>(null);
const draft = reactive({ volume: "", life: "", recipe: "", note: "", at: "", read: [] as string[], form: "" });
const remedy = computed(() => trial.value?.remedies.find((r) => r.id === bottle.remedy_id));
const batches = computed(() => [...bottle.batches].reverse().filter((b) => !b.discarded_at));
const when = clockFormat({ weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

watch(
  [() => bottle.volume, () => bottle.card.life_hours],
  () => {
    const { life_hours: hours } = bottle.card;
    Object.assign(draft, {
      volume: units.value === "us" ? shown(bottle.volume, "volume") : amount(bottle.volume),
      life: hours === null ? "" : String(hours),
      recipe: "",
      note: "",
      at: "",
      read: [],
      form: formName(),
    });
  },
  { immediate: true },
);

function at(...fields: string[]): Fault | null {
  return fault.value?.at(...fields) ?? null;
}

async function keep(): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0, remedy_id: bottle.remedy_id };
  const { form: wish } = draft; // of this click: a second one is the same batch
  fault.value = await make(() =>
    Promise.resolve()
      .then(() =>
        readAll(() => ({
          volume: kept(need(draft.volume, "volume"), "volume", bottle.volume),
          life_hours: maybe(draft.life, "life_hours"),
          recipe: draft.recipe.trim() || null,
          note: draft.note,
          acknowledged: draft.read,
          mixed_by: by,
          step: bottle.step,
          mixed_at: draft.at ? new Date(draft.at).toISOString() : null,
        })),
      )
      .then((body) => take(client.POST("/api/trials/{trial_id}/remedies/{remedy_id}/batches", { params: { path, header: once(wish, body) }, body }))),
  );
  if (fault.value) return;
  Object.assign(draft, { at: "", read: [], form: formName() });
  emit("changed");
}

async function pourAway(id: number): Promise<void> {
  const path = { trial_id: trial.value?.id ?? 0, batch_id: id };
  fault.value = await make(() => take(client.DELETE("/api/trials/{trial_id}/batches/{batch_id}", { params: { path } })));
  emit("changed");
}
</script>

<template>
  <section class="sheet stack bottle" :aria-label="bottle.name">
    <header>
      <PlantTag v-if="bottle.letter" :letter="bottle.letter" :notches="bottle.notches" :height="60" />
      <div>
        <h2>{{ bottle.name }}</h2>
        <p>{{ bottle.recipe }}</p>
        <p v-if="remedy?.traits.steps?.length" class="small">For day {{ bottle.on.join(", ") }}.</p>
        <p class="small soft">
          {{ pluralOf(bottle.plants, trial?.setup.unit ?? "plant") }}: {{ volume(bottle.mix?.needed ?? bottle.volume) }}. Use within
          {{ life(bottle.card.life_hours) }}. {{ bottle.card.agitation }}
        </p>
      </div>
    </header>
    <p v-if="bottle.mix?.open.length">
      Not understood in the recipe: {{ bottle.mix.open.map((one) => `“${one.words}”`).join(", ") }}.
      <RouterLink :to="{ path: '/mix', query: { recipe: bottle.recipe } }">Settle it at the mixing bench</RouterLink>, and write the recipe so.
    </p>
    <div v-else-if="bottle.mix" class="two">
      <BottlePicture :mix="bottle.mix" />
      <PourList :mix="bottle.mix" of-bottle />
    </div>
    <p v-else>{{ bottle.unread }}</p>
    <CautionList v-if="remedy?.unsuited.length" :texts="remedy.unsuited" title="On these plants" />
    <CautionList :texts="remedy?.cautions ?? []" title="Before you mix" />
    <form class="stack" novalidate @submit.prevent="keep">
      <div class="fields narrow">
        <FieldRow v-slot="{ id }" :label="`Mixed (${unitOf('volume')})`" :fault="at('volume')"
          ><el-input :id="id" v-model="draft.volume" inputmode="decimal"
        /></FieldRow>
        <FieldRow v-slot="{ id }" label="Good for (hours)" :fault="at('life_hours')"><el-input :id="id" v-model="draft.life" inputmode="decimal" /></FieldRow>
        <FieldRow
          v-slot="{ id, described }"
          :label="bottle.card.kind === 'product' ? 'Dose, by its label' : 'If you mixed it otherwise'"
          :help="`Such as ${unitOf('volume') === 'ml' ? '2 ml product in 1 litre' : 'half a teaspoon of product in a quart'}; empty: as written.`"
          :fault="at('text', 'parts')"
          ><el-input :id="id" v-model="draft.recipe" maxlength="500" :aria-describedby="described"
        /></FieldRow>
        <FieldRow v-slot="{ id, described }" label="Mixed at" help="Empty: just now." :fault="at('mixed_at')"
          ><input :id="id" v-model="draft.at" type="datetime-local" class="date" :aria-describedby="described"
        /></FieldRow>
        <FieldRow v-slot="{ id }" label="Note"><el-input :id="id" v-model="draft.note" maxlength="500" /></FieldRow>
      </div>
      <el-checkbox-group v-if="bottle.strong.length" v-model="draft.read" class="stack">
        <el-checkbox v-for="caution in bottle.strong" :key="caution.key" :value="caution.key">I have read: {{ caution.texts[0] }}</el-checkbox>
      </el-checkbox-group>
      <FaultNote :fault="at('volume', 'life_hours', 'text', 'parts', 'mixed_at') ? null : fault" />
      <div><el-button type="primary" size="large" native-type="submit">It is mixed: keep the batch</el-button></div>
    </form>
    <ul v-if="batches.length" class="batches">
      <li v-for="batch in batches" :key="batch.id" :class="{ old: !batch.usable }">
        <span
          ><strong>Batch {{ batch.id }}</strong
          >, {{ volume(batch.volume) }}, {{ when.format(Date.parse(batch.mixed_at)) }}<template v-if="batch.mixed_by"> by {{ batch.mixed_by }}</template></span
        >
        <span
          >{{ batch.usable ? (batch.use_by ? `use by ${when.format(Date.parse(batch.use_by))}` : "keeps") : "past its life"
          }}<template v-if="batch.rounds.length">, used in round {{ batch.rounds.join(", ") }}</template
          ><template v-if="batch.note"> · {{ batch.note }}</template></span
        >
        <el-button size="small" @click="pourAway(batch.id)">Poured away</el-button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
header {
  display: flex;
  gap: var(--space-4);
  align-items: center;
}

.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--space-5);
}

.batches {
  display: grid;
  gap: 0;
  margin: 0;
  padding: 0;
  list-style: none;
}

.batches li {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: var(--space-3);
  align-items: center;
  padding-block: var(--space-2);
  border-top: 1px solid var(--hair);
}

.old {
  color: var(--ink-soft);
}

@media (width < 820px) {
  .two,
  .batches li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
