<script setup lang="ts">
import { computed, ref } from "vue";
import { RouterLink } from "vue-router";
import type { Schemas } from "../../api/client";
import { alongRibbon, clockOf, dawnToDark, inLines, spans, timeOf } from "../../charts/ribbon";
import { useWidth } from "../../composables/useWidth";
import { dayName } from "../../words";
import PlantTag from "../PlantTag.vue";
import TodayByEye from "./TodayByEye.vue";
import { clockWords, hourWords, inUnits, shown as inTheirs, unitOf } from "../../units";

export interface Hung {
  title: string;
  at: string;
  to?: string;
}

/** Today from dawn to dark as one band: what closes each hour, and today's jobs at their best hour. */
const props = defineProps<{ ribbon: Schemas["RibbonOut"]; jobs?: readonly Hung[]; perRemedy?: boolean }>();
const emit = defineEmits<{ said: [] }>();
const chosen = ref<number | null>(null);

const frame = ref<HTMLElement | null>(null);
const whole = useWidth(frame, 1080);
const range = computed(() => (props.ribbon.outdoors ? dawnToDark(props.ribbon.hours) : ([0, 23] as [number, number])));
/** Pixels of an hour, more where letters are large. */
const least = (): number => (38 / 16) * (parseFloat(getComputedStyle(document.documentElement).fontSize) || 16);
const hours = computed(() => props.ribbon.hours.slice(range.value[0], range.value[1] + 1));
/** The whole day in sight: where it is wider than the screen, on two lines or three. */
const lines = computed(() =>
  inLines(hours.value, Math.floor(whole.value / least())).map(({ from, own }) => ({
    from,
    hours: own,
    bands: spans(own),
    nowAt: alongRibbon(clockOf(props.ribbon.now), range.value[0] + from, own.length, range.value[0] + from + own.length > range.value[1]),
  })),
);
const shown = computed(() => {
  const index = chosen.value ?? hours.value.findIndex((h) => clockOf(h.at) === Math.floor(clockOf(props.ribbon.now)));
  return hours.value[index] ?? null;
});
const hung = computed(() =>
  (props.jobs ?? []).flatMap((job) => {
    const share = alongRibbon(clockOf(job.at), range.value[0], hours.value.length);
    return share === null ? [] : [{ ...job, share }];
  }),
);
const today = computed(() => props.ribbon.days[0]);
const rows = computed(() => props.ribbon.rows);
const nextDays = computed(() => props.ribbon.days.slice(1));
/** Nobody tells of the weather out there, so whoever stands in it is asked. */
const asks = computed(() => !props.ribbon.known && props.ribbon.outdoors);

function sentence(hour: Schemas["HourOut"]): string {
  if (hour.open) {
    const notes = hour.notes.length ? `; but ${hour.notes.join("; ")}` : "";
    return `open, leaves dry in about ${hour.drying.toFixed(1)} h${notes}`;
  }
  return hour.against.join("; ");
}
</script>

<template>
  <section ref="frame" class="ribbon" aria-label="The day ribbon">
    <header>
      <strong v-if="today?.best">Best hour today: {{ timeOf(today.best) }}</strong>
      <strong v-else-if="asks">Nothing is known of today's weather yet</strong>
      <strong v-else>No good hour is left today: {{ today?.why }}</strong>
      <span v-if="ribbon.outdoors" class="small soft">sun {{ clockWords(ribbon.sunrise) }} to {{ clockWords(ribbon.sunset) }} · {{ ribbon.station }}</span>
      <span v-else class="small soft">indoors: only the lamp counts</span>
    </header>
    <TodayByEye v-if="asks" @said="emit('said')" />
    <div v-for="line in lines" v-else :key="line.from" class="band" :style="{ '--count': line.hours.length }">
      <div
        class="hours"
        role="group"
        :aria-label="lines.length > 1 ? `Hours from ${hourWords(Math.floor(clockOf(line.hours[0]?.at ?? ''))).join('')}` : 'Hours'">
        <button
          v-for="(hour, k) in line.hours"
          :key="hour.at"
          type="button"
          :class="[hour.open ? 'open' : `by-${hour.closed_by}`, { chosen: shown === hour }]"
          :aria-pressed="shown === hour"
          @click="chosen = line.from + k">
          <span class="clock"
            >{{ hourWords(Math.floor(clockOf(hour.at)))[0] }}<span class="visually-hidden">{{ hourWords(Math.floor(clockOf(hour.at)))[1] }}</span></span
          >
          <span v-if="hour.temperature !== null" class="degrees">{{ Math.round(Number(inTheirs(hour.temperature, "temperature"))) }}°</span>
          <span class="visually-hidden">: {{ inUnits(sentence(hour)) }}</span>
        </button>
      </div>
      <div class="words" aria-hidden="true">
        <span v-for="span in line.bands" :key="span.from" :class="{ open: span.open }" :style="{ gridColumn: `${span.from + 1} / span ${span.hours}` }">{{
          span.word
        }}</span>
      </div>
      <span v-if="line.nowAt !== null" class="now" :style="{ left: `${line.nowAt * 100}%` }" aria-hidden="true"><span>now</span></span>
    </div>
    <div v-if="hung.length" class="hooks">
      <component
        :is="job.to ? RouterLink : 'span'"
        v-for="job in hung"
        :key="job.title"
        :to="job.to"
        class="hook"
        :class="{ right: job.share > 0.6 }"
        :style="{ '--at': job.share }">
        <span>{{ timeOf(job.at) }} {{ job.title }}</span>
      </component>
    </div>
    <details v-if="ribbon.known && ribbon.by_hand">
      <summary>Is it otherwise than you said?</summary>
      <TodayByEye @said="emit('said')" />
    </details>
    <p v-if="shown && !asks" class="said" role="status">
      <strong>{{ timeOf(shown.at) }}</strong>{{ " " }}
      <template v-if="shown.temperature !== null"> {{ Math.round(Number(inTheirs(shown.temperature, "temperature"))) }} {{ unitOf("temperature") }}</template
      ><template v-if="shown.humidity !== null">, {{ Math.round(shown.humidity) }}% humidity</template
      ><template v-if="shown.wind !== null">, wind {{ inUnits(`${Math.round(shown.wind)} km/h`) }}</template
      ><template v-if="shown.forecast"> (forecast)</template>: {{ inUnits(sentence(shown)) }}.
    </p>
    <ul v-if="!(asks || ribbon.by_hand) || nextDays.some((d) => d.best)" class="days">
      <li v-for="day in nextDays" :key="day.day" :class="{ none: !day.best }">
        <span class="small">{{ dayName(day.day) }}</span>
        <strong v-if="day.best">{{ timeOf(day.best) }}</strong>
        <span v-if="day.best" class="small">{{ day.open_hours }} h open</span>
        <span v-else class="small">{{ inUnits(day.why) }}</span>
      </li>
    </ul>
    <details v-if="perRemedy && ribbon.rows.length > 1">
      <summary>Each bottle by itself</summary>
      <div v-for="(row, at) in rows" :key="at" class="row-of">
        <PlantTag :letter="row.letter" :notches="row.notches" :height="30" />
        <span class="cells" :style="{ '--count': hours.length }">
          <span
            v-for="(hour, k) in hours"
            :key="hour.at"
            :class="row.open[k + range[0]] ? 'open' : 'shut'"
            :title="`${timeOf(hour.at)}: ${row.against[k + range[0]]?.join('; ') || 'open'}`" />
        </span>
        <span v-if="shown" class="why small">{{ timeOf(shown.at) }}: {{ row.against[ribbon.hours.indexOf(shown)]?.map(inUnits).join("; ") || "open" }}</span>
      </div>
    </details>
  </section>
</template>

<style scoped>
.ribbon {
  display: grid;
  gap: var(--space-2);
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
  align-items: baseline;
}

.band {
  position: relative;
  padding-top: 18px;
}

.hours,
.words {
  display: grid;
  grid-template-columns: repeat(var(--count), minmax(0, 1fr));
}

.hours button {
  position: relative;
  display: grid;
  place-items: center;
  align-content: center;
  min-width: 0;
  min-height: 52px;
  padding: 0;
  border: 0;
  border-right: 1px solid var(--sheet);
  background: var(--well);
  color: var(--ink);
  font-size: var(--text-s);
  cursor: pointer;
}

.hours .open {
  background: var(--trap);
  color: var(--on-trap);
  font-weight: 700;
}

.hours .by-dark {
  background: var(--band);
  color: var(--on-band);
}

.hours .by-wet,
.hours .by-rain,
.hours .by-rain_soon {
  background-image: radial-gradient(var(--line) 1.6px, transparent 1.8px);
  background-size: 9px 9px;
}

.hours .by-sun,
.hours .by-hot,
.hours .by-lamp {
  background-image: repeating-linear-gradient(90deg, var(--hair) 0 2px, transparent 2px 8px);
}

.hours .by-wind,
.hours .by-cold {
  background-image: repeating-linear-gradient(0deg, var(--hair) 0 2px, transparent 2px 8px);
}

.hours .by-bees {
  background-image: repeating-linear-gradient(45deg, var(--hair) 0 3px, transparent 3px 9px);
}

.hours .chosen {
  box-shadow: inset 0 -5px 0 var(--accent);
}

.clock {
  font-weight: 700;
}

.hours span {
  padding-inline: 2px;
  line-height: 1.2;
}

.hours button:not(.open, .by-dark) span {
  background: var(--well);
}

.words span {
  padding: 2px 3px;
  border-left: 2px solid var(--line);
  font-size: 0.75rem;
  line-height: 1.15;
  overflow-wrap: anywhere;
}

.words .open {
  font-weight: 700;
}

.now {
  position: absolute;
  top: 0;
  height: 18px;
  border-left: 4px solid var(--accent);
  pointer-events: none;
}

.now span {
  padding-left: 4px;
  font-size: 0.75rem;
  font-weight: 700;
  line-height: 1;
  color: var(--accent);
  vertical-align: top;
}

.hooks {
  display: grid;
  gap: 2px;
  padding-top: var(--space-2);
}

.hook {
  display: block;
  margin-left: calc(var(--at) * 100%);
  padding: 4px 0 4px var(--space-2);
  border-left: 3px solid var(--accent);
  color: var(--ink);
  font-size: var(--text-s);
  font-weight: 650;
}

.hook.right {
  margin-left: 0;
  margin-right: calc((1 - var(--at)) * 100%);
  padding: 4px var(--space-2) 4px 0;
  border-left: 0;
  border-right: 3px solid var(--accent);
  text-align: right;
}

.days {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(4.2rem, 1fr));
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.days li {
  display: grid;
  align-content: start;
  padding: var(--space-2);
  border-top: 4px solid var(--trap);
  background: var(--sheet);
}

.days .none {
  border-top-color: var(--line);
  color: var(--ink-soft);
}

.row-of {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  padding-block: 3px;
}

.why {
  flex: 0 0 40%;
}

.cells {
  display: grid;
  flex: 1;
  grid-template-columns: repeat(var(--count), minmax(0, 1fr));
  gap: 1px;
  height: 24px;
}

.cells .open {
  background: var(--trap);
}

.cells .shut {
  background: var(--well);
}

@media (width < 640px) {
  .hook,
  .hook.right {
    margin: 0;
    padding: 4px 0 4px var(--space-2);
    border: 0;
    border-left: 3px solid var(--accent);
    text-align: left;
  }

  .days li {
    padding: var(--space-1);
  }
}
</style>
