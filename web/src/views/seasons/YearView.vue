<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { asFault, client, take, type Fault, type Schemas } from "../../api/client";
import FaultNote from "../../components/FaultNote.vue";
import JournalForm from "../../components/seasons/JournalForm.vue";
import YearBand from "../../components/seasons/YearBand.vue";
import { useAnswer } from "../../composables/useAnswer";
import { fromDataUrl, shrunk } from "../../photo";
import { shown } from "../../units";
import { dayName, fromToday } from "../../words";

/** A year of the garden: what was first seen when, what is next, and the journal it is made of. */
const route = useRoute();
const text = (name: string): string => (typeof route.query[name] === "string" ? route.query[name] : "");
const place = computed(() => text("place"));
const start = computed(() => text("start"));
const found = useAnswer(() => take(client.GET("/api/year", { params: { query: { ...(start.value ? { start: start.value } : {}), place: place.value } } })));
watch([place, start], found.load, { immediate: true });
const year = computed(() => found.data.value);
const fault = ref<Fault | null>(null);
const KINDS = ["look", "treated", "newcomer", "task", "air"] as const;
const asked = computed(() => ({ kind: KINDS.find((k) => k === text("write")) ?? "look", pest: text("pest"), place: text("at") }));
const next = computed(() => (year.value?.lanes ?? []).filter((lane) => lane.said));
/** Those tried against one pest become the remedies of a fair trial. */
const trials = computed(() => {
  const byPest = new Map<string, { name: string; pest: string; tried: string[] }>();
  for (const one of year.value?.tried ?? []) {
    const own = byPest.get(one.pest) ?? { name: one.name, pest: one.pest, tried: [] };
    byPest.set(one.pest, { ...own, tried: [...new Set([...own.tried, one.what])] });
  }
  return [...byPest.values()];
});
const LEVELS = ["none", "few", "some", "many"] as const;

function told(entry: Schemas["EntryOut"]): string {
  if (entry.kind === "task") return `${entry.what}: done`;
  if (entry.kind === "air") return `Room air: ${entry.humidity}% humidity`;
  if (entry.kind === "newcomer") return `${entry.what} came and stands apart`;
  if (entry.kind === "treated") return `${entry.name}: treated with ${entry.what}`;
  return `${entry.name}: ${LEVELS[entry.level ?? 0]}${entry.helpers ? ", helpers about" : ""}`;
}

function yearName(iso: string): string {
  const first = Number(iso.slice(0, 4));
  return iso.slice(5, 7) === "01" ? String(first) : `${first}/${String((first + 1) % 100).padStart(2, "0")}`;
}

const takeBack = (id: number): Promise<void> => act(() => take(client.DELETE("/api/journal/{row_id}", { params: { path: { row_id: id } } })));
const finish = (id: number): Promise<void> => act(() => take(client.POST("/api/journal/{row_id}/done", { params: { path: { row_id: id } } })));

/** A photo of what was seen goes to its line, made smaller on the way. */
async function addPhoto(id: number, event: Event): Promise<void> {
  const field = event.target as HTMLInputElement;
  const [file] = field.files ?? [];
  field.value = "";
  if (!file) return;
  const photo = fromDataUrl(await shrunk(file));
  await act(() =>
    take(
      client.PUT("/api/journal/{row_id}/picture", {
        params: { path: { row_id: id } },
        body: photo as unknown as string,
        bodySerializer: (body) => body as unknown as Blob,
        headers: { "Content-Type": photo.type || "image/jpeg" },
      }),
    ),
  );
}

async function act(call: () => Promise<unknown>): Promise<void> {
  try {
    await call();
    fault.value = null;
  } catch (thrown) {
    fault.value = asFault(thrown);
  }
  await found.load();
}
</script>

<template>
  <div class="stack">
    <FaultNote :fault="fault ?? found.fault.value" />
    <template v-if="year">
      <div class="row head">
        <h1>{{ place || "The garden" }}, {{ year.name }}</h1>
        <nav v-if="year.years.length > 1" class="row" aria-label="Years">
          <RouterLink
            v-for="one in year.years"
            :key="one"
            :to="{ query: { ...route.query, start: one } }"
            :aria-current="one === year.start ? 'page' : undefined"
            >{{ yearName(one) }}</RouterLink
          >
        </nav>
      </div>
      <nav v-if="year.places.length > 1" class="row small" aria-label="Places">
        <RouterLink :to="{ query: { ...route.query, place: '' } }" :aria-current="place ? undefined : 'page'">The whole garden</RouterLink>
        <RouterLink
          v-for="one in year.places"
          :key="one"
          :to="{ query: { ...route.query, place: one } }"
          :aria-current="place.toLowerCase() === one.toLowerCase() ? 'page' : undefined"
          >{{ one }}</RouterLink
        >
      </nav>
      <div class="page">
        <div class="stack">
          <section v-if="next.length || year.apart.length || year.tasks.length || year.air" class="sheet stack" aria-labelledby="next">
            <h2 id="next">What is next</h2>
            <ul class="plain">
              <li v-for="lane in next" :key="lane.pest">
                <strong>{{ lane.name }}.</strong> {{ lane.said }} <RouterLink :to="`/known/${encodeURIComponent(lane.pest)}`">What works on it here</RouterLink>
              </li>
              <li v-for="one in year.tasks" :key="`task ${one.id}`" class="task">
                <span
                  ><strong>{{ one.what }}</strong
                  >, {{ one.place }}, {{ fromToday(one.on, year.today) }}{{ one.every ? `; every ${one.every} days` : "" }}</span
                >
                <el-button size="small" :aria-label="`Done: ${one.what}, ${one.place}`" @click="finish(one.id ?? 0)">Done</el-button>
                <button type="button" class="as-text" :aria-label="`Take back: ${one.what}`" @click="takeBack(one.id ?? 0)">Take back</button>
              </li>
              <li v-for="one in year.apart" :key="one.entry_id ?? one.what">
                <strong>{{ one.what }}</strong> stands apart at {{ one.place
                }}<template v-if="one.found">; {{ one.found.toLowerCase() }} was found there, so its three weeks began anew</template>.
                <template v-if="one.look_on">Look at it {{ fromToday(one.look_on, year.today) }}, leaves, stems and the soil.</template
                ><template v-else>It may join the others {{ fromToday(one.until, year.today) }}.</template>
              </li>
            </ul>
            <p v-if="year.air">{{ year.air }}</p>
          </section>
          <section class="sheet"><JournalForm :today="year.today" :places="year.places" :asked="asked" @written="found.load()" /></section>
        </div>
        <div class="stack">
          <section v-if="year.lanes.length" class="sheet"><YearBand :year="year" /></section>
          <section v-else class="sheet stack">
            <h2>Nothing was written down yet</h2>
            <p>Look round once a week and write down what you see, and where. Next year this page says when to begin, and shifts it with the year’s warmth.</p>
          </section>
          <section v-if="year.tried.length" class="sheet stack" aria-labelledby="tried">
            <h2 id="tried">Tried one after the other</h2>
            <ul class="plain">
              <li v-for="one in year.tried" :key="one.entry_id ?? one.what">
                <strong>{{ one.what }}</strong><br />{{ one.name }}, {{ one.place }}, {{ dayName(one.on) }}. {{ one.said }}
              </li>
            </ul>
            <p class="small soft">{{ year.cannot_show }}</p>
            <div class="row">
              <RouterLink v-for="one in trials" :key="one.pest" class="go-on" :to="{ path: '/new', query: { pest: one.pest, tried: one.tried } }"
                >Try them side by side on {{ one.name.toLowerCase() }} →</RouterLink
              >
            </div>
          </section>
          <section v-if="year.entries.length" class="sheet stack" aria-labelledby="lines">
            <h2 id="lines">The journal</h2>
            <ul class="plain lines">
              <li v-for="(entry, k) in year.entries" :key="entry.id ?? `found ${k}`">
                <span class="day">{{ dayName(entry.finished_on ?? entry.on) }}</span><span
                  >{{ told(entry) }}, {{ entry.place
                  }}<template v-if="entry.degree_days !== null"
                    ><span class="soft small"> (after {{ Math.round(Number(shown(entry.degree_days, "warmer"))) }} degree-days)</span></template
                  ><template v-if="entry.note"
                    ><br /><span class="soft">{{ entry.note }}</span></template
                  ><template v-if="entry.photo"
                    ><br /><a :href="entry.photo" target="_blank" rel="noopener"
                      ><img :src="entry.photo" :alt="`Photo: ${told(entry)}, ${entry.place}`" loading="lazy" /></a></template
                ></span>
                <RouterLink v-if="entry.id === null" to="/look">Find out</RouterLink>
                <span v-else class="row acts">
                  <label class="file"
                    >{{ entry.photo ? "Another photo" : "Photo" }}<span class="visually-hidden"> of {{ told(entry) }}, {{ dayName(entry.on) }}</span
                    ><input type="file" accept="image/*" @change="addPhoto(entry.id, $event)"
                  /></label>
                  <button type="button" class="as-text" :aria-label="`Take back: ${told(entry)}, ${dayName(entry.on)}`" @click="takeBack(entry.id)">
                    Take back
                  </button>
                </span>
              </li>
            </ul>
            <p class="small"><a href="/api/journal.csv" download="journal.csv">All of it as a table</a></p>
          </section>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.head {
  justify-content: space-between;
}

nav a {
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
}

[aria-current] {
  font-weight: 700;
  text-decoration: none;
}

.page {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--space-4);
  align-items: start;
}

@media (width >= 1000px) {
  .page {
    grid-template-columns: 21rem minmax(0, 1fr);
  }
}

.plain {
  display: grid;
  gap: var(--space-3);
  margin: 0;
  padding: 0;
  list-style: none;
}

.task {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  align-items: baseline;
}

.lines li {
  display: grid;
  grid-template-columns: 7.5rem minmax(0, 1fr) auto;
  gap: var(--space-3);
  align-items: baseline;
}

.day {
  color: var(--ink-soft);
}

.acts {
  align-items: center;
}

.file {
  position: relative;
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
  text-decoration: underline;
  cursor: pointer;
}

.file:focus-within {
  outline: 3px solid var(--accent);
}

.file input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}

img {
  width: auto;
  height: 88px;
  border-radius: var(--radius-m);
}

@media (width < 640px) {
  .lines li {
    grid-template-columns: 1fr auto;
    gap: 0 var(--space-3);
    align-items: center;
  }

  .day {
    grid-column: 1 / -1;
  }
}
</style>
