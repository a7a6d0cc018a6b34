// One person counting through the plants of a look, leaf by leaf where that is planned.
import { isSize } from "../counting";
import { computed, reactive, ref, watch, type ComputedRef, type Ref } from "vue";
import type { CountSheet, Plant, Trial } from "../api/client";
import type { Outbox } from "./useOutbox";
import { useTallies, type Count, type Key, type Missing } from "./useTallies";

export type { Count, Key, Missing } from "./useTallies";

export interface Leaf {
  number: number;
  value: number | null;
  finished: boolean;
  /** How much of it was counted, 1 for all of it. */
  part: number;
}

export interface Counting {
  plants: ComputedRef<Plant[]>;
  index: Ref<number>;
  plant: ComputedRef<Plant | undefined>;
  /** The leaf that is counted, from 1; 0 where plants are counted as a whole. */
  sample: Ref<number>;
  /** The leaves of the plant; none where it is counted as a whole. */
  leaves: ComputedRef<Leaf[]>;
  /** What is counted beside the trial's own measure, leaf by leaf. */
  beside: Key[];
  /** What the steps and digits go to. */
  field: Ref<Key>;
  /** The number of what is counted here. */
  tally: (measure: Key) => number | null;
  /** The trial's own number at this leaf. */
  count: ComputedRef<Count>;
  /** What is counted on every plant so far, by its id. */
  sums: ComputedRef<Map<number, number | null>>;
  /** All leaves of the plant together, null while nothing is counted. */
  whole: ComputedRef<number | null>;
  canUndo: ComputedRef<boolean>;
  /** The plants that are done, by their ids. */
  done: ReadonlySet<number>;
  score: (measure: Key) => number | null;
  /** What the number here still lacks. */
  missing: ComputedRef<Missing>;
  /** Plants with a number that cannot be kept yet: it waits on this device. */
  incomplete: ComputedRef<Plant[]>;
  set: (part: Partial<Count>) => void;
  /** Takes the number that a class is read as. */
  setClass: (reads: number) => void;
  add: (by: number, measure?: Key) => void;
  addRest: (by: number) => void;
  undo: () => void;
  /** Keeps what is here and goes on; false when it still lacks something. */
  finish: (noMoreLeaves?: boolean) => boolean;
  giveScore: (measure: Key, value: number) => void;
  /** Traps: how many days this one was out, until it is said otherwise those since the look before. */
  days: ComputedRef<number>;
  setDays: (days: number) => void;
  /** Takes over what was counted in another way, by a picture. */
  takeOver: (numbers: Partial<Record<Key, number>>) => void;
  /** Plants whose count made to match can be the count before, for nothing is counted on them yet. */
  matched: ComputedRef<Plant[]>;
  /** Takes those counts over. */
  takeMatched: () => void;
  go: (to: number) => void;
  goLeaf: (to: number) => void;
  /** How much of what is counted here was counted. */
  part: ComputedRef<number>;
  /** Says how much of what is counted here was counted: all of it (1), a half, a quarter. */
  setPart: (part: number) => void;
}

interface Moment {
  index: number;
  sample: number;
  counts: [Key, Count][];
}

export function useCounting(
  trial: Trial,
  lookNumber: number,
  sheet: CountSheet,
  outbox: Outbox,
  storage: Storage | null,
  newName: () => string,
  /** The day the numbers are of (ISO); null: today, or that of the number corrected. */
  countedOn: () => string | null = () => null,
  person = "",
  later?: (work: () => void) => void,
): Counting {
  const measure = trial.measure.key;
  const share = trial.measure.scale === "share";
  const planned = trial.setup.samples;
  const beside = trial.setup.beside.filter((key) => key !== "damage" && !isSize(key) && key !== measure && (key !== "dead" || !share));
  const tallies = useTallies(trial, lookNumber, sheet, outbox, storage, newName, countedOn, person, later);
  const byId = new Map(trial.plants.map((p) => [p.id, p]));
  const plants = computed(() =>
    trial.walk.flatMap((id) => {
      const plant = byId.get(id);
      return plant?.letter ? [plant] : [];
    }),
  );
  // Plain, for it is copied and read at every tap; what shows is how many there are.
  const past: Moment[] = [];
  const marked = ref(0);
  const field = ref<Key>(measure);
  const traps = measure === "catch";
  const said = ref<number | null>(null);
  // Said before anything was counted: it holds for the first number, and is no number itself.
  const partSaid = ref(1);

  // Kept plant by plant, so that a tap is worked out for its own plant alone.
  const done = reactive(new Set<number>());
  const lacking = reactive(new Set<number>());
  for (const { id } of plants.value) judge(id);
  const index = ref(
    Math.max(
      plants.value.findIndex((p) => !done.has(p.id)),
      0,
    ),
  );
  const plant = computed(() => plants.value[index.value]);
  const sample = ref(firstLeaf(plant.value?.id));
  const count = computed(() => here(measure));
  // What was counted of whole plants by the trial's own measure is such a number already.
  const sameMeasure = lookNumber === 0 && !planned && !share && !traps && !person;
  const matched = computed(() =>
    sameMeasure ? plants.value.filter((p) => p.match_count !== null && !done.has(p.id) && tallies.of(p.id, 0, measure).value === null) : [],
  );
  const days = computed(() => count.value.days ?? said.value ?? daysOut(trial, lookNumber));

  // A new visit to a finished leaf is a correction: its session is its own line in the history.
  watch([plant, sample], (_, [left, leaf]) => {
    if (left && tallies.of(left.id, leaf, measure).finished) tallies.endSession(left.id, leaf);
    field.value = measure;
    partSaid.value = 1;
  });

  /** Looks whether a plant is done, and whether a number of it still lacks something. */
  function judge(id: number): void {
    if (isDone(id)) done.add(id);
    else done.delete(id);
    if (isIncomplete(id)) lacking.add(id);
    else lacking.delete(id);
  }

  function keepTally(id: number, leaf: number, key: Key, next: Count): void {
    tallies.put(id, leaf, key, next);
    judge(id);
  }

  function here(key: Key): Count {
    return tallies.of(plant.value?.id ?? 0, sample.value, key);
  }

  function leavesOf(id: number): Leaf[] {
    if (!planned) return [];
    return Array.from({ length: Math.max(planned, tallies.highest(id)) }, (_, k) => {
      const { value, finished, part = 1 } = tallies.of(id, k + 1, measure);
      return { number: k + 1, value, finished, part };
    });
  }

  function sumOf(id: number): number | null {
    if (!planned) return tallies.of(id, 0, measure).value;
    const counted = leavesOf(id).flatMap(({ value, part }) => (value === null ? [] : value / part));
    return counted.length ? Math.round(counted.reduce((sum, value) => sum + value, 0)) : null;
  }

  function isDone(id: number): boolean {
    if (!planned) return isSound(id, 0);
    const counted = leavesOf(id).filter((leaf) => leaf.value !== null);
    const ended = counted.length >= planned || counted.some((leaf) => tallies.of(id, leaf.number, measure).last);
    return counted.length > 0 && ended && counted.every((leaf) => isSound(id, leaf.number));
  }

  function isSound(id: number, leaf: number): boolean {
    const found = tallies.of(id, leaf, measure);
    return found.finished && tallies.lack(measure, found) === null;
  }

  function firstLeaf(id: number | undefined): number {
    if (!planned || id === undefined) return 0;
    return leavesOf(id).find((leaf) => !leaf.finished)?.number ?? 1;
  }

  function isIncomplete(id: number): boolean {
    return (planned ? leavesOf(id).map((leaf) => leaf.number) : [0]).some((leaf) => {
      const found = tallies.of(id, leaf, measure);
      return found.value !== null && tallies.lack(measure, found) !== null;
    });
  }

  /** Remembers what stands here, so that it can be put back, also from the next leaf. */
  function mark(): void {
    const counts = [measure, ...beside].map((key): [Key, Count] => [key, { ...here(key) }]);
    past.push({ index: index.value, sample: sample.value, counts });
    if (past.length > MARKS) past.shift();
    marked.value = past.length;
  }

  function put(key: Key, next: Count): void {
    const id = plant.value?.id;
    if (id === undefined) return;
    const part = next.part ?? (partSaid.value < 1 ? partSaid.value : undefined);
    const whole = part === undefined ? next : { ...next, part };
    keepTally(id, sample.value, key, traps && (key === measure || key === "other") ? { ...whole, days: next.days ?? days.value } : whole);
    if ((key === measure || key === "dead") && beside.includes("dead")) putDead(id);
  }

  /** The dead beside the live are dead out of both together. */
  function putDead(id: number): void {
    const [live, dead] = [here(measure), here("dead")];
    const total = (live.value ?? 0) + (dead.value ?? 0);
    if (dead.value !== null && total > 0 && dead.total !== total) keepTally(id, sample.value, "dead", { ...dead, total });
  }

  function bounded(value: number): number {
    return Math.min(Math.max(value, 0), trial.measure.upper);
  }

  function add(by: number, key: Key = field.value): void {
    mark();
    field.value = key;
    if (key !== measure) {
      const now = here(key);
      const value = bounded((now.value ?? 0) + by);
      const { part } = count.value;
      put(key, { ...now, value, ...(part && { part }), total: key === "dead" ? (here(measure).value ?? 0) + value || null : null });
      // Young ones are live ones too.
      if (key === "young") addOwn(value - (now.value ?? 0));
      return;
    }
    addOwn(by);
  }

  function addOwn(by: number): void {
    const now = here(measure);
    const value = bounded((now.value ?? 0) + by);
    // Eggs have their total; what is found dead is one more looked at.
    const grows = share && !(measure === "hatched" && tallies.knownTotal(plant.value?.id ?? 0) !== null);
    const total = grows ? Math.max((now.total ?? 0) + value - (now.value ?? 0), 0) : now.total;
    put(measure, { ...now, value, total, classed: false });
  }

  function undo(): void {
    const last = past.pop();
    if (!last) return;
    marked.value = past.length;
    index.value = last.index;
    sample.value = last.sample;
    for (const [key, before] of last.counts) {
      const now = here(key);
      if (now.value === before.value && now.total === before.total && now.finished === before.finished && (now.part ?? 1) === (before.part ?? 1)) continue;
      put(key, before.value === null ? { ...before, finished: false } : before);
    }
  }

  function finish(noMoreLeaves = false): boolean {
    const id = plant.value?.id;
    if (id === undefined || tallies.lack(measure, count.value) !== null) return false;
    mark();
    const last = noMoreLeaves || undefined;
    for (const key of [measure, ...beside]) {
      const now = here(key);
      if (now.finished && now.value !== null && !last) continue;
      const value = now.value ?? 0;
      const { part } = count.value;
      const next = { ...now, value, finished: true, ...(last && { last }), ...(part && { part }) };
      if (key === "dead" && !(next.total ??= (count.value.value ?? 0) + value)) continue; // none live, none dead: no share
      put(key, next);
    }
    tallies.endSession(id, sample.value);
    onward(id);
    return true;
  }

  function onward(id: number): void {
    const next = isDone(id)
      ? undefined
      : (leavesOf(id).find((leaf) => leaf.number > sample.value && !leaf.finished) ?? leavesOf(id).find((leaf) => !leaf.finished));
    if (next) {
      sample.value = next.number;
      return;
    }
    const after = plants.value.findIndex((p, k) => k > index.value && !done.has(p.id));
    go(after >= 0 ? after : index.value + 1);
  }

  function go(to: number): void {
    const before = index.value;
    index.value = Math.min(Math.max(to, 0), plants.value.length - 1);
    if (index.value !== before) sample.value = firstLeaf(plant.value?.id);
  }

  function takeMatched(): void {
    for (const { id, match_count } of matched.value) {
      keepTally(id, 0, measure, { value: match_count, total: null, finished: true });
      tallies.endSession(id, 0);
    }
  }

  function giveScore(key: Key, value: number): void {
    const id = plant.value?.id;
    if (id === undefined) return;
    keepTally(id, 0, key, { value, total: null, finished: true });
    if (planned) tallies.endSession(id, 0);
  }

  return {
    plants,
    index,
    plant,
    sample,
    leaves: computed(() => leavesOf(plant.value?.id ?? 0)),
    beside,
    field,
    tally: (key) => here(key).value,
    count,
    sums: computed(() => new Map(plants.value.map((p) => [p.id, sumOf(p.id)]))),
    whole: computed(() => sumOf(plant.value?.id ?? 0)),
    done,
    canUndo: computed(() => marked.value > 0),
    score: (key) => tallies.of(plant.value?.id ?? 0, 0, key).value,
    missing: computed(() => tallies.lack(measure, count.value)),
    incomplete: computed(() => plants.value.filter((p) => lacking.has(p.id))),
    set: (part) => {
      mark();
      put(field.value, { ...here(field.value), classed: false, ...part });
    },
    setClass: (reads) => {
      mark();
      field.value = measure;
      put(measure, { ...count.value, value: reads, classed: true });
    },
    add,
    addRest: (by) => {
      mark();
      const now = count.value;
      put(measure, { ...now, value: now.value ?? 0, total: Math.max((now.total ?? now.value ?? 0) + by, now.value ?? 0) });
    },
    part: computed(() => count.value.part ?? partSaid.value),
    setPart: (part) => {
      partSaid.value = part;
      const counted = [measure, ...beside].filter((key) => here(key).value !== null);
      if (!counted.length) return;
      mark();
      for (const key of counted) put(key, { ...here(key), part });
    },
    days,
    setDays: (to) => {
      said.value = Math.min(Math.max(to, 1), 60);
      if (count.value.value === null) return;
      mark();
      put(measure, { ...count.value, days: said.value });
    },
    takeOver: (numbers) => {
      mark();
      for (const key of [measure, ...beside]) {
        const value = numbers[key];
        if (value === undefined) continue;
        const total = key === "dead" ? (numbers.live ?? 0) + value || null : here(key).total;
        put(key, { ...here(key), value: bounded(value), total });
      }
    },
    matched,
    takeMatched,
    undo,
    finish,
    giveScore,
    go,
    goLeaf: (to) => {
      if (planned) sample.value = Math.min(Math.max(to, 1), Math.max(planned, tallies.highest(plant.value?.id ?? 0) + 1));
    },
  };
}

/** How many days a trap is out at a look that is counted today: since the look before, or a week before the first. */
function daysOut(trial: Trial, lookNumber: number): number {
  const [now, before] = [lookNumber, lookNumber - 1].map((number) => trial.looks.find((l) => l.number === number));
  return now && before ? Math.max(now.day - before.day, 1) : WEEK;
}

const WEEK = 7;
/** How many steps can be undone. */
const MARKS = 200;
