<script setup lang="ts">
import { computed, onMounted, reactive, ref } from "vue";
import { client, Fault, take } from "../../api/client";
import { formName, once } from "../../api/once";
import { useAnswer } from "../../composables/useAnswer";
import { PARTS } from "../../beginnings";
import { useTrial } from "../../composables/useTrial";
import { plural, readNumber } from "../../words";
import FaultNote from "../FaultNote.vue";
import FieldRow from "../FieldRow.vue";

/** Adding a part of the bench: rows of plants. */
const { trial, make } = useTrial();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const more = reactive({ prefix: "", rows: "2", per_row: "8", onOne: false });
const small = computed(() => [...PARTS, "cluster", "trap"].includes(trial.value?.setup.unit ?? ""));
const addFault = ref<Fault | null>(null);
let form = formName();

const IN_A_ROW = 12; // of a bench that is proposed
const earlier = useAnswer(() => take(client.GET("/api/trials/{trial_id}/next-part", { params: { path: { trial_id: trial.value?.goes_on ?? 0 } } })));
const wanted = computed(() => (trial.value?.plants.length ? 0 : (earlier.data.value?.wanted ?? 0)));
onMounted(async () => {
  if (!trial.value?.goes_on || trial.value.plants.length) return;
  await earlier.load();
  if (!wanted.value) return;
  const rows = Math.ceil(wanted.value / IN_A_ROW);
  Object.assign(more, { rows: String(rows), per_row: String(Math.ceil(wanted.value / rows)) });
});

async function add(): Promise<void> {
  const rows = readNumber(more.rows);
  const perRow = readNumber(more.per_row);
  for (const [field, value] of [
    ["rows", rows],
    ["per_row", perRow],
  ] as const) {
    if (value === undefined || !Number.isInteger(value)) {
      addFault.value = new Fault("bad_input", "this is not a whole number", field, "Give a number such as 8.", 422);
      return;
    }
  }
  const header = once(form, more); // of this click: a second one is the same wish
  addFault.value = await make(() =>
    take(
      client.POST("/api/trials/{trial_id}/plants", {
        params: { path: path.value, header },
        body: { prefix: more.prefix, rows: rows ?? 0, per_row: perRow ?? 0, row_is_plant: small.value && more.onOne },
      }),
    ),
  );
  if (!addFault.value) form = formName();
}
</script>

<template>
  <form v-if="trial" class="sheet stack" novalidate @submit.prevent="add">
    <h2>{{ trial.plants.length ? "Add more" : "Lay out the bench" }}</h2>
    <p v-if="wanted" class="soft">
      By the part before, about {{ plural(wanted, "more plant") }} in all would settle it, or come nearest to that; with fewer it stays open more often.
    </p>
    <div class="adding">
      <FieldRow
        v-slot="{ id }"
        label="Names begin with"
        help="S gives S1, S2, …"
        :fault="addFault?.field === 'prefix' || addFault?.field === 'name' ? addFault : null">
        <el-input :id="id" v-model="more.prefix" autocomplete="off" />
      </FieldRow>
      <FieldRow v-slot="{ id }" label="Rows" help="As one walks along." :fault="addFault?.field === 'rows' ? addFault : null">
        <el-input :id="id" v-model="more.rows" inputmode="numeric" />
      </FieldRow>
      <FieldRow v-slot="{ id }" label="Plants in a row" :fault="addFault?.field === 'per_row' ? addFault : null">
        <el-input :id="id" v-model="more.per_row" inputmode="numeric" />
      </FieldRow>
      <el-button :type="trial.plants.length ? 'default' : 'primary'" native-type="submit" class="go">Add the plants</el-button>
    </div>
    <el-checkbox v-if="small" v-model="more.onOne">Each row is on one plant: those on one plant form a block</el-checkbox>
    <FaultNote :fault="addFault && !['prefix', 'name', 'rows', 'per_row'].includes(addFault.field ?? '') ? addFault : null" />
  </form>
</template>

<style scoped>
.adding {
  display: grid;
  grid-template-columns: repeat(3, minmax(120px, 1fr)) auto;
  gap: var(--space-4);
  align-items: start;
}

.go {
  margin-top: 1.75rem;
}

@media (width < 640px) {
  .adding {
    grid-template-columns: 1fr 1fr;
  }

  .go {
    margin-top: 0;
    grid-column: 1 / -1;
  }
}
</style>
