<script setup lang="ts">
import { computed, nextTick, reactive, ref } from "vue";
import { client, Fault, take, type Plant } from "../../api/client";
import { ifStill } from "../../api/once";
import { PARTS } from "../../beginnings";
import { useTrial } from "../../composables/useTrial";
import { plural, readNumber } from "../../words";
import CellField from "../CellField.vue";
import FaultNote from "../FaultNote.vue";

/** The list of plants, each cell kept as it is left; what was refused stands under its plant. */
const { trial, change, make, load } = useTrial();
const path = computed(() => ({ trial_id: trial.value?.id ?? 0 }));
const fixed = computed(() => trial.value?.sprayed_on !== null);
/** Leaves, halves, clusters and traps are on a plant; those on one plant form a block. */
const onPlants = computed(() => [...PARTS, "cluster", "trap"].includes(trial.value?.setup.unit ?? "") || Boolean(trial.value?.plants.some((p) => p.host)));
const pasted = ref("");
const saving = new Set<Promise<void>>();
const faults = reactive(new Map<number, Fault>());
defineExpose({ save });

function save(plant: Plant, part: Partial<Plant>): Promise<void> {
  const work = keep(plant, part).finally(() => saving.delete(work));
  saving.add(work);
  return work;
}

async function keep(plant: Plant, part: Partial<Plant>): Promise<void> {
  const fault = await change(() => {
    // Changes wait for each other, so the plant is read when this one's turn has come.
    const now = trial.value?.plants.find((p) => p.id === plant.id) ?? plant;
    const { name, row, place, match_count, set_aside, size, host, died_on } = { ...now, ...part };
    return take(
      client.PUT("/api/trials/{trial_id}/plants/{plant_id}", {
        params: { path: { ...path.value, plant_id: plant.id }, header: ifStill(now.revision) },
        body: { name, row, place, match_count, set_aside, size, host, died_on: set_aside ? died_on : null },
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

function saveName(plant: Plant, text: string): void {
  void save(plant, { name: text });
}

function saveHost(plant: Plant, text: string): void {
  void save(plant, { host: text.trim() || null });
}

function saveReason(plant: Plant, text: string): void {
  void save(plant, { set_aside: text.trim() || null });
}

/** A plant that died counts against its remedy; one that was stolen or broken does not. */
function saveDeath(plant: Plant, day: string | null): void {
  void save(plant, { died_on: day });
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
  const lines = (event.clipboardData?.getData("text") ?? "")
    .trim()
    .split(/\r?\n|\r/)
    .map((line) => (line.split("\t")[0] ?? "").trim());
  if (lines.length < 2) return;
  event.preventDefault();
  const rest = (trial.value?.plants ?? []).slice((trial.value?.plants ?? []).findIndex((p) => p.id === plant.id));
  const open = rest.filter((p) => !p.set_aside);
  lines.slice(0, open.length).forEach((line, k) => {
    const target = open[k];
    if (target) saveNumber(target, field, line);
  });
  const over = lines.length - open.length;
  pasted.value =
    over > 0 ? `${String(over)} more numbers were pasted than there are plants below; they are left out.` : `${plural(lines.length, "number")} pasted.`;
}

async function remove(plant: Plant): Promise<void> {
  const fault = await make(() =>
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
  <section v-if="trial?.plants.length" class="sheet">
    <p v-if="pasted" role="status">{{ pasted }}</p>
    <table>
      <caption class="visually-hidden">
        The plants, their match counts and those set aside
      </caption>
      <thead>
        <tr>
          <th scope="col">Plant</th>
          <th scope="col">Row, place</th>
          <th v-if="onPlants" scope="col">On plant</th>
          <th scope="col">Match count</th>
          <th scope="col">Size</th>
          <th scope="col">{{ fixed ? "Lost, because" : "Set aside, because" }}</th>
          <th scope="col"><span class="visually-hidden">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <template v-for="plant in trial.plants" :key="plant.id">
          <tr :class="{ aside: plant.set_aside }">
            <td>
              <CellField
                :value="plant.name"
                data-column="name"
                :aria-label="`Name of ${plant.name}`"
                @keep="saveName(plant, $event)"
                @keydown.enter.prevent="down" />
            </td>
            <td class="soft">{{ plant.row }}, {{ plant.place }}</td>
            <td v-if="onPlants">
              <CellField
                :value="plant.host ?? ''"
                data-column="host"
                :disabled="fixed"
                :aria-label="`Plant that ${plant.name} is on`"
                maxlength="40"
                @keep="saveHost(plant, $event)"
                @keydown.enter.prevent="down" />
            </td>
            <td>
              <CellField
                :id="`count-${plant.id}`"
                :value="String(plant.match_count ?? '')"
                class="number"
                data-column="count"
                inputmode="decimal"
                :disabled="fixed"
                :aria-label="`Match count of ${plant.name}`"
                @keep="saveNumber(plant, 'match_count', $event)"
                @keydown.enter.prevent="down"
                @paste="paste($event, plant, 'match_count')" />
            </td>
            <td>
              <CellField
                :value="String(plant.size ?? '')"
                class="number"
                data-column="size"
                inputmode="decimal"
                :disabled="fixed"
                :aria-label="`Size of ${plant.name}`"
                placeholder="–"
                @keep="saveNumber(plant, 'size', $event)"
                @keydown.enter.prevent="down"
                @paste="paste($event, plant, 'size')" />
            </td>
            <td>
              <CellField
                :value="plant.set_aside ?? ''"
                data-column="aside"
                :disabled="fixed && !plant.letter"
                :aria-label="`Reason to set ${plant.name} aside`"
                maxlength="200"
                @keep="saveReason(plant, $event)"
                @keydown.enter.prevent="down" />
              <label v-if="fixed && plant.letter && plant.set_aside" class="small died"
                ><input
                  type="checkbox"
                  :checked="plant.died_on !== null"
                  @change="saveDeath(plant, ($event.target as HTMLInputElement).checked ? trial.today : null)" />
                It died<template v-if="plant.died_on">
                  on
                  <input
                    type="date"
                    class="date"
                    :value="plant.died_on"
                    :min="trial.sprayed_on ?? undefined"
                    :max="trial.today"
                    :aria-label="`Day on which ${plant.name} died`"
                    @change="saveDeath(plant, ($event.target as HTMLInputElement).value || null)" /></template
              ></label>
            </td>
            <td><button v-if="!fixed" type="button" class="remove" :aria-label="`Remove ${plant.name}`" @click="remove(plant)">Remove</button></td>
          </tr>
          <tr v-if="faults.get(plant.id)">
            <td :colspan="onPlants ? 7 : 6"><FaultNote :fault="faults.get(plant.id) ?? null" /></td>
          </tr>
        </template>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
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

.died {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-2);
  min-height: var(--touch);
}

.died input {
  width: auto;
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
