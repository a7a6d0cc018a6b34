<script setup lang="ts">
import { computed, nextTick, reactive, ref } from "vue";
import { RouterLink } from "vue-router";
import { client, Fault, take, type Plant } from "../../api/client";
import BenchMap from "../../components/BenchMap.vue";
import CellField from "../../components/CellField.vue";
import FaultNote from "../../components/FaultNote.vue";
import NextStep from "../../components/trial/NextStep.vue";
import FieldRow from "../../components/FieldRow.vue";
import { formName, ifStill, once } from "../../api/once";
import { useKnowledge } from "../../composables/useKnowledge";
import { useTrial } from "../../composables/useTrial";
import { plural, readNumber } from "../../words";

const { trial, change, make, load } = useTrial();
const { knowledge } = useKnowledge();
const least = computed(() => (knowledge.value?.numbers.least_blocks ?? 0) * (trial.value?.remedies.length ?? 0));
const usual = computed(() => (knowledge.value?.numbers.usual_blocks ?? 0) * (trial.value?.remedies.length ?? 0));
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const more = reactive({ prefix: "", rows: "2", per_row: "8" });
const addFault = ref<Fault | null>(null);
const pasted = ref("");
const saving = new Set<Promise<void>>();
let form = formName();
const faults = reactive(new Map<number, Fault>());
const fixed = computed(() => trial.value?.sprayed_on !== null);
const active = computed(() => (trial.value?.plants ?? []).filter((p) => !p.set_aside));
const uncounted = computed(() => active.value.filter((p) => p.match_count === null));
const enough = computed(() => active.value.length >= least.value);

async function add(): Promise<void> {
  const rows = readNumber(more.rows);
  const perRow = readNumber(more.per_row);
  for (const [field, value] of [["rows", rows], ["per_row", perRow]] as const) {
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
        body: { prefix: more.prefix, rows: rows ?? 0, per_row: perRow ?? 0 },
      }),
    ),
  );
  if (!addFault.value) form = formName();
}

function save(plant: Plant, part: Partial<Plant>): Promise<void> {
  const work = keep(plant, part).finally(() => saving.delete(work));
  saving.add(work);
  return work;
}

async function keep(plant: Plant, part: Partial<Plant>): Promise<void> {
  const fault = await change(() => {
    // Changes wait for each other, so the plant is read when this one's turn has come.
    const now = trial.value?.plants.find((p) => p.id === plant.id) ?? plant;
    const { name, row, place, match_count, set_aside, size } = { ...now, ...part };
    return take(
      client.PUT("/api/trials/{trial_id}/plants/{plant_id}", {
        params: { path: { ...path.value, plant_id: plant.id }, header: ifStill(now.revision) },
        body: { name, row, place, match_count, set_aside, size },
      }),
    );
  });
  if (fault) faults.set(plant.id, fault);
  else faults.delete(plant.id);
  if (fault?.code === "changed_elsewhere") await load();
}

function saveNumber(plant: Plant, field: "match_count" | "size", text: string): void {
  const value = text.trim() ? readNumber(text) : null;
  if (value === undefined) {
    faults.set(plant.id, new Fault("bad_input", `“${text}” is not a number`, field, "Give a number such as 12.", 422));
    return;
  }
  void save(plant, { [field]: value });
}

function setAside(id: number, why: string): void {
  const plant = trial.value?.plants.find((p) => p.id === id);
  if (plant) void save(plant, { set_aside: `${why.charAt(0).toUpperCase()}${why.slice(1)}.` });
}

function saveName(plant: Plant, text: string): void {
  void save(plant, { name: text });
}

function saveReason(plant: Plant, text: string): void {
  void save(plant, { set_aside: text.trim() || null });
}

/** Enter goes down the column, as one does with a list on paper. */
function down(event: KeyboardEvent): void {
  const column = (event.target as HTMLElement).dataset["column"];
  const fields = [...document.querySelectorAll<HTMLInputElement>(`input[data-column="${column}"]`)];
  const next = fields[fields.indexOf(event.target as HTMLInputElement) + 1];
  (event.target as HTMLInputElement).blur();
  next?.focus();
  next?.select();
  // After the last of a column one goes on with the next step, not back to the top of the page.
  if (!next) void last();
}

async function last(): Promise<void> {
  await Promise.all([...saving]);
  await nextTick();
  document.querySelector<HTMLElement>(".go-on, .go")?.focus();
}

/** A column pasted into a field goes down from there, one number a plant. */
function paste(event: ClipboardEvent, plant: Plant, field: "match_count" | "size"): void {
  const lines = (event.clipboardData?.getData("text") ?? "").trim().split(/\r?\n|\r/).map((line) => (line.split("\t")[0] ?? "").trim());
  if (lines.length < 2) return;
  event.preventDefault();
  const rest = (trial.value?.plants ?? []).slice((trial.value?.plants ?? []).findIndex((p) => p.id === plant.id));
  const open = rest.filter((p) => !p.set_aside);
  lines.slice(0, open.length).forEach((line, k) => {
    const target = open[k];
    if (target) saveNumber(target, field, line);
  });
  const over = lines.length - open.length;
  pasted.value = over > 0 ? `${String(over)} more numbers were pasted than there are plants below; they are left out.` : `${plural(lines.length, "number")} pasted.`;
}

async function toCount(plant: Plant): Promise<void> {
  await nextTick();
  const field = document.getElementById(`count-${plant.id}`) as HTMLInputElement | null;
  field?.focus();
  field?.select();
}

async function remove(plant: Plant): Promise<void> {
  const fault = await change(() =>
    take(
      client.DELETE("/api/trials/{trial_id}/plants/{plant_id}", {
        params: { path: { ...path.value, plant_id: plant.id } },
      }),
    ),
  );
  if (fault) faults.set(plant.id, fault);
}
</script>

<template>
  <div v-if="trial" class="stack">
    <section class="sheet stack">
      <div class="head">
        <div>
          <h2>{{ trial.plants.length ? plural(active.length, "plant takes", "plants take") + " part" : "Which plants?" }}</h2>
          <p class="soft">
            Same kind, size and place. Count each once, quickly, so that like can be matched with
            like; set the odd ones aside.
            <template v-if="trial.pest_card">{{ trial.pest_card.where }}</template>
          </p>
        </div>
        <NextStep v-if="enough && !uncounted.length" from="plants" />
      </div>
      <BenchMap v-if="trial.plants.length" :trial="trial" figure="match" :still="fixed" @pick="toCount" />
      <ul v-if="Object.keys(trial.odd_plants).length && !fixed" class="odd">
        <li v-for="(why, id) in trial.odd_plants" :key="id" class="row">
          <span><strong>{{ trial.plants.find((p) => p.id === Number(id))?.name }}</strong>: {{ why }}.</span>
          <el-button @click="setAside(Number(id), why)">Set it aside</el-button>
        </li>
      </ul>
      <p v-if="trial.plants.length && !enough" class="soft">
        {{ trial.remedies.length }} remedies, the control included, need at least
        {{ least }} plants; {{ usual }} or more tell much more.
      </p>
      <p v-else-if="uncounted.length" class="soft">
        {{ uncounted.length === active.length ? "No plant has a match count yet; without any, neighbours form the blocks." : `${plural(uncounted.length, "plant")} still without a match count.` }}
        <RouterLink v-if="uncounted.length === active.length" :to="`/trial/${trial.id}/layout`">Go on without</RouterLink>
      </p>
    </section>

    <form v-if="!fixed" class="sheet stack" novalidate @submit.prevent="add">
      <h2>{{ trial.plants.length ? "Add more" : "Lay out the bench" }}</h2>
      <div class="adding">
        <FieldRow v-slot="{ id }" label="Names begin with" help="S gives S1, S2, …" :fault="addFault?.field === 'prefix' || addFault?.field === 'name' ? addFault : null">
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
      <FaultNote :fault="addFault && !['prefix', 'name', 'rows', 'per_row'].includes(addFault.field ?? '') ? addFault : null" />
    </form>

    <section v-if="trial.plants.length" class="sheet">
      <p v-if="pasted" role="status">{{ pasted }}</p>
      <table>
        <caption class="visually-hidden">The plants, their match counts and those set aside</caption>
        <thead>
          <tr><th scope="col">Plant</th><th scope="col">Row, place</th><th scope="col">Match count</th><th scope="col">Size</th><th scope="col">{{ fixed ? "Lost, because" : "Set aside, because" }}</th><th scope="col"><span class="visually-hidden">Remove</span></th></tr>
        </thead>
        <tbody>
          <template v-for="plant in trial.plants" :key="plant.id">
            <tr :class="{ aside: plant.set_aside }">
              <td><CellField :value="plant.name" data-column="name" :aria-label="`Name of ${plant.name}`" @keep="saveName(plant, $event)" @keydown.enter.prevent="down" /></td>
              <td class="soft">{{ plant.row }}, {{ plant.place }}</td>
              <td><CellField :id="`count-${plant.id}`" :value="String(plant.match_count ?? '')" class="number" data-column="count" inputmode="decimal" :disabled="fixed" :aria-label="`Match count of ${plant.name}`" @keep="saveNumber(plant, 'match_count', $event)" @keydown.enter.prevent="down" @paste="paste($event, plant, 'match_count')" /></td>
              <td><CellField :value="String(plant.size ?? '')" class="number" data-column="size" inputmode="decimal" :disabled="fixed" :aria-label="`Size of ${plant.name}`" placeholder="–" @keep="saveNumber(plant, 'size', $event)" @keydown.enter.prevent="down" @paste="paste($event, plant, 'size')" /></td>
              <td><CellField :value="plant.set_aside ?? ''" data-column="aside" :disabled="fixed && !plant.letter" :aria-label="`Reason to set ${plant.name} aside`" maxlength="200" @keep="saveReason(plant, $event)" @keydown.enter.prevent="down" /></td>
              <td><button v-if="!fixed" type="button" class="remove" :aria-label="`Remove ${plant.name}`" @click="remove(plant)">Remove</button></td>
            </tr>
            <tr v-if="faults.get(plant.id)"><td colspan="6"><FaultNote :fault="faults.get(plant.id) ?? null" /></td></tr>
          </template>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: var(--space-4);
}

.odd {
  display: grid;
  gap: var(--space-2);
  margin: 0;
  padding: 0;
  list-style: none;
}

.adding {
  display: grid;
  grid-template-columns: repeat(3, minmax(120px, 1fr)) auto;
  gap: var(--space-4);
  align-items: start;
}

.go {
  margin-top: 1.75rem;
}

table {
  width: 100%;
  border-collapse: collapse;
}

th {
  text-align: left;
  padding: var(--space-1) var(--space-2);
  font-size: var(--text-s);
}

td {
  padding: 2px var(--space-2);
  border-top: 1px solid var(--hair);
}

td input {
  width: 100%;
  min-height: 40px;
  padding: 0 var(--space-2);
  border: 1px solid transparent;
  border-radius: var(--radius-s);
  background: transparent;
  color: inherit;
  font-size: var(--text-m);
}

td input:hover,
td input.number {
  border-color: var(--line);
}

td input:disabled {
  border-color: transparent;
}

.number {
  max-width: 7rem;
  font-weight: 650;
}

.aside {
  color: var(--ink-soft);
}

.remove {
  min-height: 40px;
  border: 0;
  background: none;
  color: var(--ink-soft);
  text-decoration: underline;
  cursor: pointer;
}

@media (width < 640px) {
  .adding {
    grid-template-columns: 1fr 1fr;
  }

  .go {
    margin-top: 0;
    grid-column: 1 / -1;
  }

  td:nth-child(2),
  th:nth-child(2),
  td:nth-child(4),
  th:nth-child(4),
  td:nth-child(6),
  th:nth-child(6) {
    display: none;
  }

  td input {
    min-height: var(--touch);
  }
}
</style>
