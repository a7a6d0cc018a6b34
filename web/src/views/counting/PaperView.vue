<script setup lang="ts">
import { computed, nextTick, reactive, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { asFault, client, take, type Fault, type Schemas, type Trial } from "../../api/client";
import { formName, once } from "../../api/once";
import FaultNote from "../../components/FaultNote.vue";
import FieldRow from "../../components/FieldRow.vue";
import { useTrial } from "../../composables/useTrial";
import { recall, remember } from "../../onDevice";
import { bodyOf, columnsOf, filledIn, isAllotted, pasted, readPasted, rowsOf, type Days } from "../../paper";
import { dayName, plural, readNumber } from "../../words";

/** A trial done on paper, entered in one sitting: typed down the columns, or pasted from a spreadsheet. */
const { trial, change } = useTrial();
const router = useRouter();
const form = formName();
const fault = ref<Fault | null>(null);
const told = ref("");
const asked = ref<{ rows: string[][]; dates: readonly Schemas["SaidDateOut"][] } | null>(null);
const removed = ref<{ row: number; cells: string[] } | null>(null);
const columns = computed(() => (trial.value ? columnsOf(trial.value) : []));
const place = computed(() => `paper/${trial.value?.id ?? 0}`);
const sheet = reactive<{ rows: string[][]; days: Days; effort: string }>(begun());
const allotted = computed(() => trial.value !== null && isAllotted(trial.value));
const filled = computed(() => sheet.rows.filter((row) => row.slice(1).some((cell) => cell.trim())).length);

// What was typed outlives a reload; it is taken away once it is kept.
watch(sheet, () => remember(window.localStorage, place.value, { sheet }), { deep: true });

function begun(): { rows: string[][]; days: Days; effort: string } {
  const found = trial.value;
  if (!found) return { rows: [], days: { rounds: {}, looks: {} }, effort: "1" };
  const kept = recall<{ rows: string[][]; days: Days; effort: string }>(window.localStorage, `paper/${found.id}`)["sheet"];
  if (kept?.rows[0]?.length === columnsOf(found).length) return kept;
  return { rows: rowsOf(found, columnsOf(found)), days: daysOf(found), effort: String(found.setup.samples || 1) };
}

/** The days as planned, as far as they are over; whoever did otherwise corrects them. */
function daysOf(found: Trial): Days {
  const over = (on: string): string => (on <= found.today ? on : "");
  return {
    rounds: Object.fromEntries(found.rounds.map((r) => [r.number, over(r.on)])),
    looks: Object.fromEntries(found.looks.map((l) => [l.number, over(l.on)])),
  };
}

async function paste(event: ClipboardEvent, row: number, column: number): Promise<void> {
  const cells = readPasted(event.clipboardData?.getData("text/plain") ?? "");
  if (cells.length < 2 && (cells[0]?.length ?? 0) < 2) return; // one value: as it is typed
  event.preventDefault();
  if (cells.length > 1 && (await readHeaded(cells, null))) return;
  const found = pasted(sheet.rows, columns.value.length, { row, column }, cells);
  sheet.rows = found.rows;
  told.value = `${plural(cells.length, "line")} pasted.${found.left ? ` ${plural(found.left, "cell")} had no column and was left out.` : ""}`;
}

/** Reads a table by its header and fills it in; false where it has none. */
async function readHeaded(rows: string[][], monthFirst: boolean | null): Promise<boolean> {
  fault.value = null;
  try {
    const found = await take(
      client.POST("/api/trials/{trial_id}/paper/read", { params: { path: { trial_id: trial.value?.id ?? 0 } }, body: { rows, month_first: monthFirst } }),
    );
    asked.value = found.asked.length ? { rows, dates: found.asked } : null;
    if (!found.headed || asked.value) return found.headed;
    sheet.rows = filledIn(sheet.rows, columns.value, found);
    for (const { number, on } of found.looks) sheet.days.looks[number] = on;
    const left = found.left.length ? ` Left out, as no column here is called so: ${found.left.join(", ")}.` : "";
    told.value = `${plural(found.lines.length, "line")} pasted by the names of their columns.${found.looks.length ? " The days were taken from it: look whether they are right." : ""}${left}`;
    return true;
  } catch (thrown) {
    fault.value = asFault(thrown);
    return false;
  }
}

function remove(row: number): void {
  removed.value = { row, cells: sheet.rows.splice(row, 1)[0] ?? [] };
}

function putBack(): void {
  if (removed.value) sheet.rows.splice(removed.value.row, 0, removed.value.cells);
  removed.value = null;
}

async function focus(row: number, column: number): Promise<void> {
  if (row === sheet.rows.length && !allotted.value) sheet.rows.push(columns.value.map(() => ""));
  await nextTick();
  const cell = document.getElementById(`cell-${row}-${column}`) as HTMLInputElement | null;
  cell?.focus();
  cell?.select();
}

async function keep(): Promise<void> {
  const found = trial.value;
  if (!found) return;
  fault.value = null;
  const effort = readNumber(sheet.effort) ?? 0;
  try {
    const body = bodyOf(found, columns.value, sheet.rows, sheet.days, effort);
    fault.value = await change(() =>
      take(client.POST("/api/trials/{trial_id}/paper", { params: { path: { trial_id: found.id }, header: once(form, body) }, body })),
    );
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
  if (fault.value) return;
  window.localStorage.removeItem(place.value);
  await router.push(`/trial/${found.id}/rounds`);
}
</script>

<template>
  <form v-if="trial" class="stack" novalidate @submit.prevent="keep">
    <section class="sheet stack">
      <h2>From paper</h2>
      <p class="soft">
        Type down each column in the order you walk (Enter goes down), or copy the cells of a spreadsheet and paste them into the first cell: with their header
        line the columns are found by their names. Empty is not counted; nothing found is 0. Give the days on which it was really done.
        <template v-if="allotted"
          >For the next time: <a :href="`/api/trials/${trial.id}/blank.pdf`" target="_blank" rel="noopener">sheets to fill in by hand</a>, in the same
          order.</template
        >
      </p>
      <div class="days">
        <label v-for="round in trial.rounds" :key="`r${round.number}`"
          >Round {{ round.number }} sprayed on <input v-model="sheet.days.rounds[round.number]" type="date" class="date" :max="trial.today"
        /></label>
        <label v-for="look in trial.looks" :key="`l${look.number}`"
          >{{ look.number ? `Look ${look.number} (${look.when})` : "Before" }} counted on
          <input v-model="sheet.days.looks[look.number]" type="date" class="date" :max="trial.today"
        /></label>
      </div>
      <FieldRow v-slot="{ id }" label="Leaves behind each number" help="As many as were counted on each plant together."
        ><el-input :id="id" v-model="sheet.effort" class="few" inputmode="numeric"
      /></FieldRow>
    </section>

    <FaultNote :fault="fault" />
    <p v-if="told" role="status" class="soft">{{ told }}</p>
    <div v-if="asked?.dates[0]" class="notice stack" role="alert">
      <p>
        “{{ asked.dates[0].text }}” can be {{ dayName(asked.dates[0].on) }} or {{ dayName(asked.dates[0].other ?? asked.dates[0].on) }}. Which did you write
        first?
      </p>
      <div class="row">
        <el-button @click="readHeaded(asked.rows, false)">The day</el-button><el-button @click="readHeaded(asked.rows, true)">The month</el-button>
      </div>
    </div>
    <p v-if="removed" role="status" class="soft">
      The line{{ removed.cells[0] ? ` of ${removed.cells[0]}` : "" }} is taken out. <button type="button" class="as-text" @click="putBack">Put it back</button>
    </p>
    <div class="sheet grid">
      <table>
        <thead>
          <tr>
            <th class="no">#</th>
            <th v-for="column in columns" :key="column.title" :class="{ wide: column.kind === 'remedy' }">{{ column.title }}</th>
            <th v-if="!allotted"><span class="visually-hidden">Take out</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, y) in sheet.rows" :key="y" :class="{ wrong: fault?.field === `cell.${y}` || fault?.field?.startsWith(`plants.${y}.`) }">
            <td class="no small soft">{{ y + 1 }}</td>
            <td v-for="(column, x) in columns" :key="column.title">
              <input
                :id="`cell-${y}-${x}`"
                v-model="row[x]"
                :aria-label="`${column.title}, ${row[0] || `line ${y + 1}`}`"
                :readonly="allotted && x === 0"
                :inputmode="column.look === null ? 'text' : 'decimal'"
                autocomplete="off"
                @paste="paste($event, y, x)"
                @keydown.enter.prevent="focus(y + 1, x)"
                @keydown.down.prevent="focus(y + 1, x)"
                @keydown.up.prevent="focus(y - 1, x)" />
            </td>
            <td v-if="!allotted" class="no">
              <button type="button" class="as-text" :aria-label="`Take out line ${y + 1}${row[0] ? `, ${row[0]}` : ''}`" @click="remove(y)">×</button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="row">
      <el-button type="primary" size="large" native-type="submit" :disabled="!filled">Keep {{ plural(filled, "plant") }}</el-button
      ><el-button v-if="!allotted" @click="focus(sheet.rows.length, 0)">Another line</el-button>
    </div>
  </form>
</template>

<style scoped>
.days {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3) var(--space-5);
}

.days label {
  display: grid;
  gap: var(--space-1);
}

.few {
  max-width: 9em;
}

.grid {
  overflow-x: auto;
  padding: 0;
}

table {
  border-collapse: collapse;
  width: 100%;
}

th {
  position: sticky;
  top: 0;
  padding: var(--space-2);
  background: var(--well);
  text-align: left;
  font-size: var(--text-s);
  line-height: 1.2;
  vertical-align: bottom;
}

td {
  padding: 0;
  border: 1px solid var(--hair);
}

.wide {
  min-width: 12em;
}

.no {
  padding: 0 var(--space-2);
  text-align: right;
}

input:not(.date) {
  width: 100%;
  min-width: 68px;
  min-height: 40px;
  padding: 0 var(--space-2);
  border: 0;
  background: none;
  color: var(--ink);
  font-size: var(--text-m);
  font-variant-numeric: tabular-nums;
}

input[readonly] {
  font-weight: 650;
}

.wrong td {
  background: var(--bad-wash);
}
</style>
