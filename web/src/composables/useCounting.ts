// One person counting through the plants of a look: the number on each, undo, and what is sent.
import { computed, reactive, ref, watch, type ComputedRef, type Ref } from "vue";
import type { CountSheet, Measure, Plant, Trial } from "../api/client";
import { recall, remember } from "../onDevice";
import type { Outbox } from "./useOutbox";

export interface Count {
  /** The number counted; null while nothing was tapped. */
  value: number | null;
  /** For shares: out of how many; null while nobody has said or tapped it. */
  total: number | null;
  finished: boolean;
}

/** What keeps a number from being kept, or null. */
export type Missing = "total" | "too_many" | null;

export interface Counting {
  plants: ComputedRef<Plant[]>;
  index: Ref<number>;
  plant: ComputedRef<Plant | undefined>;
  count: ComputedRef<Count>;
  canUndo: ComputedRef<boolean>;
  done: ComputedRef<Set<number>>;
  score: (measure: Key) => number | null;
  /** What the number here still lacks. */
  missing: ComputedRef<Missing>;
  /** Plants with a number that cannot be kept yet: it waits on this device. */
  incomplete: ComputedRef<Plant[]>;
  set: (part: Partial<Count>) => void;
  add: (by: number) => void;
  addRest: (by: number) => void;
  undo: () => void;
  /** Keeps the number and goes on; false when it still lacks something. */
  finish: () => boolean;
  giveScore: (measure: Key, value: number) => void;
  go: (to: number) => void;
}

type Key = Measure["key"];

interface Session {
  name: string;
  step: number;
}

const SESSIONS = "orthocris.sessions";
const DRAFTS = "orthocris.drafts";

export function useCounting(
  trial: Trial,
  lookNumber: number,
  sheet: CountSheet,
  outbox: Outbox,
  storage: Storage | null,
  newName: () => string,
  /** The day the numbers are of (ISO); null: today, or that of the number corrected. */
  countedOn: () => string | null = () => null,
): Counting {
  const look = trial.looks.find((l) => l.number === lookNumber);
  const measure = trial.measure.key;
  const share = trial.measure.scale === "share";
  const byId = new Map(trial.plants.map((p) => [p.id, p]));
  const plants = computed(() =>
    trial.walk.flatMap((id) => {
      const plant = byId.get(id);
      return plant?.letter ? [plant] : [];
    }),
  );
  const counts = reactive(new Map<string, Count>());
  const past = reactive(new Map<number, Count[]>());
  const sessions = recall<Session>(storage, SESSIONS);
  const drafts = recall<Count>(storage, DRAFTS);

  for (const plant of plants.value) {
    for (const key of [measure, "damage"] as const) {
      const known = (key === measure ? drafts[place(plant.id, key)] : undefined) ?? started(plant.id, key);
      if (known) counts.set(`${plant.id}/${key}`, known);
    }
  }

  const index = ref(firstOpen());
  const plant = computed(() => plants.value[index.value]);
  const count = computed(() => current(plant.value?.id ?? 0));
  const done = computed(
    () => new Set(plants.value.filter((p) => isDone(p.id)).map((p) => p.id)),
  );

  // A new visit to a finished plant is a correction: its session is its own line in the history.
  watch(plant, (_, left) => {
    if (left && current(left.id).finished) endSession(left.id, measure);
  });

  function place(id: number, key: string): string {
    return [trial.id, lookNumber, id, key].join("/");
  }

  function current(id: number): Count {
    return counts.get(`${id}/${measure}`) ?? { value: null, total: known(id), finished: false };
  }

  /** A cluster has as many eggs at each look: the total is known from the looks before. */
  function known(id: number): number | null {
    return measure === "hatched" ? (sheet.totals[id] ?? null) : null;
  }

  function lack(count: Count): Missing {
    if (!share) return null;
    if (count.total === null || count.total < 1) return "total";
    return (count.value ?? 0) > count.total ? "too_many" : null;
  }

  function isDone(id: number): boolean {
    return current(id).finished && lack(current(id)) === null;
  }

  /** Whether a number kept is of a day before its look's, so that it is to be counted again. */
  function isEarly(id: number): boolean {
    return Boolean(look && sheet.early.includes(id) && look.on <= dayAfter(trial.today));
  }

  function started(id: number, key: Key): Count | null {
    const unsent = outbox.pending(trial.id, lookNumber, id, key)?.body;
    const kept = keptOf(id, key);
    const found = unsent ?? (isEarly(id) ? undefined : kept);
    if (!found || found.value === null) return null;
    return { value: found.value, total: found.of ?? null, finished: found.finished };
  }

  function keptOf(id: number, key: Key): CountSheet["tallies"][number] | undefined {
    return sheet.tallies.find((t) => t.plant_id === id && t.measure === key);
  }

  function firstOpen(): number {
    const open = plants.value.findIndex((p) => !isDone(p.id));
    return Math.max(open, 0);
  }

  function send(id: number, key: Key, next: Count): void {
    counts.set(`${id}/${key}`, next);
    if (key === measure) draft(id, null);
    const session = sessionOf(id, key);
    outbox.put({
      trial: trial.id,
      look: lookNumber,
      body: {
        plant_id: id,
        measure: key,
        value: next.value,
        // Nothing looked at yet has no total; the program takes no share of nothing.
        of: share && key === measure && next.value !== null ? next.total : null,
        effort: 1,
        finished: next.finished,
        session: session.name,
        step: session.step,
        counted_on: dayOf(id, key),
      },
    });
  }

  /** The day given for these numbers; a correction of a number kept is of that number's day. */
  function dayOf(id: number, key: Key): string | null {
    if (countedOn() !== null) return countedOn();
    const kept = keptOf(id, key);
    return kept && !isEarly(id) ? kept.counted_on : null;
  }

  function change(next: Count): void {
    const id = plant.value?.id;
    if (id === undefined) return;
    past.set(id, [...(past.get(id) ?? []), current(id)]);
    sendOrWait(id, next);
  }

  /** A share that cannot be one yet waits on this device until its total is there. */
  function sendOrWait(id: number, next: Count): void {
    if (lack(next) === null || (share && next.value === null)) {
      send(id, measure, next);
      return;
    }
    counts.set(`${id}/${measure}`, next);
    draft(id, next);
  }

  function draft(id: number, next: Count | null): void {
    const name = place(id, measure);
    if (!next && !(name in drafts)) return;
    // eslint-disable-next-line @typescript-eslint/no-dynamic-delete
    if (next) drafts[name] = next; else delete drafts[name];
    remember(storage, DRAFTS, drafts);
  }

  function sessionOf(id: number, key: string): Session {
    const name = place(id, key);
    const session = sessions[name] ?? { name: newName(), step: 0 };
    session.step += 1;
    sessions[name] = session;
    remember(storage, SESSIONS, sessions);
    return session;
  }

  function endSession(id: number, key: string): void {
    // eslint-disable-next-line @typescript-eslint/no-dynamic-delete
    delete sessions[place(id, key)];
    past.delete(id);
    remember(storage, SESSIONS, sessions);
  }

  function bounded(value: number): number {
    return Math.min(Math.max(value, 0), trial.measure.upper);
  }

  return {
    plants,
    index,
    plant,
    count,
    done,
    canUndo: computed(() => (past.get(plant.value?.id ?? 0) ?? []).length > 0),
    score: (key) => counts.get(`${plant.value?.id ?? 0}/${key}`)?.value ?? null,
    missing: computed(() => lack(count.value)),
    incomplete: computed(() => plants.value.filter((p) => current(p.id).value !== null && lack(current(p.id)) !== null)),
    set: (part) => change({ ...count.value, ...part }),
    add: (by) => {
      const now = count.value;
      const value = bounded((now.value ?? 0) + by);
      // Eggs have their total; what is found dead is one more looked at.
      const grows = share && !(measure === "hatched" && known(plant.value?.id ?? 0) !== null);
      const total = grows ? Math.max((now.total ?? 0) + value - (now.value ?? 0), 0) : now.total;
      change({ ...now, value, total });
    },
    addRest: (by) =>
      change({
        ...count.value,
        value: count.value.value ?? 0,
        total: Math.max((count.value.total ?? count.value.value ?? 0) + by, count.value.value ?? 0),
      }),
    undo: () => {
      const id = plant.value?.id ?? 0;
      const before = past.get(id) ?? [];
      const last = before.at(-1);
      if (!last) return;
      past.set(id, before.slice(0, -1));
      sendOrWait(id, last.value === null ? { ...last, finished: false } : last);
    },
    finish: () => {
      const id = plant.value?.id;
      if (id === undefined || lack(count.value) !== null) return false;
      const next = { ...count.value, value: count.value.value ?? 0, finished: true };
      if (!count.value.finished || count.value.value === null) send(id, measure, next);
      endSession(id, measure);
      const after = plants.value.findIndex((p, k) => k > index.value && !isDone(p.id));
      index.value = after >= 0 ? after : Math.min(index.value + 1, plants.value.length - 1);
      return true;
    },
    giveScore: (key, value) => {
      const id = plant.value?.id;
      if (id === undefined) return;
      send(id, key, { value, total: null, finished: true });
      // eslint-disable-next-line @typescript-eslint/no-dynamic-delete
      delete sessions[place(id, key)];
      remember(storage, SESSIONS, sessions);
    },
    go: (to) => {
      index.value = Math.min(Math.max(to, 0), plants.value.length - 1);
    },
  };
}

function dayAfter(iso: string): string {
  const [year = 1970, month = 1, day = 1] = iso.split("-").map(Number);
  return new Date(Date.UTC(year, month - 1, day + 1)).toISOString().slice(0, 10);
}
