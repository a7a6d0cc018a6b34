<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { client, Fault, take } from "../../api/client";
import { ifStill } from "../../api/once";
import { useTrial } from "../../composables/useTrial";
import { questionIn, type Setup } from "../../question";
import { readNumber } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";
import { kept, shown, unitOf } from "../../units";

const { trial, change, load } = useTrial();
const fault = ref<Fault | null>(null);
const setup = computed<Partial<Setup>>(() => trial.value?.setup ?? {});
const texts = ref({ place_cm: "", row_cm: "", block_size: "" });
watch(
  setup,
  (now) => {
    texts.value = {
      place_cm: shown(now.place_cm, "length"),
      row_cm: shown(now.row_cm, "length"),
      block_size: String(now.block_size ?? ""),
    };
  },
  { immediate: true },
);

const designs = {
  complete: ["Complete blocks", "Each block holds every remedy once, on plants most alike."],
  randomised: ["No blocks", "When matching is useless: all plants in one lot."],
  incomplete: ["Incomplete blocks", "When a block (a tray, a window) cannot hold all remedies."],
  latin: ["Latin square", "When light or warmth changes along and across the bench."],
} as const;
const gradients = { none: "Alike everywhere", one: "Changes in one direction", two: "Changes in two directions" } as const;

async function save(part: Partial<Setup>): Promise<void> {
  const now = trial.value;
  if (!now) return;
  fault.value = await change(() =>
    take(
      client.PUT("/api/trials/{trial_id}/question", {
        params: { path: { trial_id: now.id }, header: ifStill((trial.value ?? now).question_revision) },
        body: questionIn(trial.value ?? now, part),
      }),
    ),
  );
  if (fault.value?.code === "changed_elsewhere") await load();
}

function saveNumber(field: "place_cm" | "row_cm" | "block_size"): void {
  const value = readNumber(texts.value[field]);
  if (value === undefined) {
    fault.value = new Fault("bad_input", `“${texts.value[field]}” is not a number`, `setup.${field}`, "Give a number such as 40.", 422);
    return;
  }
  void save({ [field]: field === "block_size" ? value : kept(value, "length", setup.value[field]) });
}

function chooseDesign(design: keyof typeof designs): void {
  const size = (trial.value?.remedies.length ?? 3) - 1;
  void save(design === "incomplete" ? { design, block_size: setup.value.block_size ?? size } : { design });
}

function faultOf(field: string): Fault | null {
  return fault.value?.field === `setup.${field}` ? fault.value : null;
}
</script>

<template>
  <section v-if="trial" class="sheet stack" aria-labelledby="design">
    <h2 id="design">Design and bench</h2>
    <div class="choices" role="group" aria-label="Design">
      <button v-for="([name, words], key) in designs" :key="key" type="button" :aria-pressed="setup.design === key" @click="chooseDesign(key)">
        <strong>{{ name }}</strong><span class="small">{{ words }}</span>
      </button>
    </div>
    <div class="fields">
      <FieldRow v-if="setup.design === 'incomplete'" v-slot="{ id, described }" label="Plants in a block" :fault="faultOf('block_size')">
        <el-input :id="id" v-model="texts.block_size" inputmode="numeric" :aria-describedby="described" @change="saveNumber('block_size')" />
      </FieldRow>
      <FieldRow v-slot="{ id }" label="Light, warmth, draught" :fault="faultOf('gradient')">
        <el-select :id="id" :model-value="setup.gradient" aria-label="Light, warmth, draught" @update:model-value="save({ gradient: $event })">
          <el-option v-for="(words, key) in gradients" :key="key" :value="key" :label="words" />
        </el-select>
      </FieldRow>
      <FieldRow v-slot="{ id, described }" :label="`Between plants in a row (${unitOf('length')})`" help="From stem to stem." :fault="faultOf('place_cm')">
        <el-input :id="id" v-model="texts.place_cm" inputmode="decimal" :aria-describedby="described" @change="saveNumber('place_cm')" />
      </FieldRow>
      <FieldRow v-slot="{ id, described }" :label="`Between rows (${unitOf('length')})`" :fault="faultOf('row_cm')">
        <el-input :id="id" v-model="texts.row_cm" inputmode="decimal" :aria-describedby="described" @change="saveNumber('row_cm')" />
      </FieldRow>
    </div>
    <div class="row">
      <el-checkbox :model-value="setup.match_place" @update:model-value="save({ match_place: Boolean($event) })"
        >Match by place too, not by count alone</el-checkbox
      >
      <el-checkbox :model-value="setup.shields" @update:model-value="save({ shields: Boolean($event) })"
        >A shield is held between pots while spraying</el-checkbox
      >
      <el-checkbox :model-value="setup.two_waves" @update:model-value="save({ two_waves: Boolean($event) })"
        >In two waves: half of the plants first, then what is out of question gives the rest its plants</el-checkbox
      >
    </div>
    <FaultNote :fault="fault && !['block_size', 'gradient', 'place_cm', 'row_cm'].some((f) => faultOf(f)) ? fault : null" />
  </section>
</template>
