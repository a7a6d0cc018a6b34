// The numbers of one look on this device: what holds of each leaf, and under which session it is sent.
import { reactive } from "vue";
import type { CountSheet, Measure, Schemas, Trial } from "../api/client";
import { recall, remember } from "../onDevice";
import type { Outbox } from "./useOutbox";

export type Key = Measure["key"];

export interface Count {
  /** The number counted; null while nothing was tapped. */
  value: number | null;
  /** For shares: out of how many; null while nobody has said or tapped it. */
  total: number | null;
  finished: boolean;
  /** The plant has no more leaves after this one. */
  last?: boolean;
  /** How much of the leaf was counted, where not all of it. */
  part?: number;
  /** For traps: how many days it was out. */
  days?: number;
  /** The number is what a class is read as. */
  classed?: boolean;
}

/** What keeps a number from being kept, or null. */
export type Missing = "total" | "too_many" | null;

export interface Tallies {
  /** What holds of a leaf; `sample` 0 is the plant as a whole. */
  of: (plant: number, sample: number, measure: Key) => Count;
  /** Keeps a number: on this device, and with the program as soon as it can be a number there. */
  put: (plant: number, sample: number, measure: Key, next: Count) => void;
  lack: (measure: Key, count: Count) => Missing;
  /** The highest number of a leaf of a plant of which something is known. */
  highest: (plant: number) => number;
  /** Out of how many a plant was counted at the looks before, null where nobody knows. */
  knownTotal: (plant: number) => number | null;
  /** What is tapped at a leaf from now on is a correction, a line of its own in the record. */
  endSession: (plant: number, sample: number) => void;
}

interface Session {
  name: string;
  step: number;
}

type Seen = Pick<Schemas["TallyIn"], "session" | "step">;
/** Sessions named with a number: the newest that were seen. */
const MOST_KNOWN = 40;

const DRAFTS = "orthocris.drafts";
const SHARES: readonly Key[] = ["dead", "hatched"];

export function useTallies(
  trial: Trial,
  lookNumber: number,
  sheet: CountSheet,
  outbox: Outbox,
  storage: Storage | null,
  newName: () => string,
  countedOn: () => string | null,
  /** Who counts a second time, "" for the count that holds. */
  person = "",
  /** When a number that is on the screen is written down. */
  later: (work: () => void) => void = (work) => {
    work();
  },
): Tallies {
  const look = trial.looks.find((l) => l.number === lookNumber);
  const counts = reactive(new Map<string, Count>());
  const tops = reactive(new Map<number, number>());
  // Of this page alone: two pages of one browser that counted under one name would replace one another.
  const sessions = new Map<string, Session>();
  const drafts = recall<Count>(storage, DRAFTS);
  /** The sessions of a leaf that this page knows of, with the step it saw: who has seen a count corrects it. */
  const known = new Map<string, Map<string, number>>();

  read();

  function read(): void {
    for (const kept of sheet.tallies) {
      saw(kept.plant_id, kept.sample, kept);
      if (!isEarly(kept.plant_id, kept.measure)) note(kept.plant_id, kept.sample, kept.measure, fromTally(kept));
    }
    for (const plant of trial.plants) {
      for (const sample of samplesOf()) {
        for (const measure of measures()) {
          const unsent = outbox.pending(trial.id, lookNumber, plant.id, sample, measure, person);
          if (unsent) saw(plant.id, sample, unsent);
          const draft = drafts[`${place(plant.id, sample)}/${measure}`];
          const found = draft ?? (unsent && fromTally(unsent));
          if (found) note(plant.id, sample, measure, found);
        }
      }
    }
  }

  function samplesOf(): number[] {
    return Array.from({ length: Math.max(trial.setup.samples, 0) + EXTRA }, (_, k) => k);
  }

  function measures(): Key[] {
    return [...new Set<Key>([trial.measure.key, "damage", ...trial.setup.beside])];
  }

  function fromTally(tally: Pick<Schemas["TallyIn"], "value" | "of" | "finished" | "last" | "effort">): Count {
    const { effort = 1 } = tally;
    const part = trial.measure.key === "catch" ? { days: effort } : effort < 1 ? { part: effort } : {};
    return { value: tally.value, total: tally.of ?? null, finished: tally.value !== null && tally.finished, last: tally.last ?? false, ...part };
  }

  function note(plant: number, sample: number, measure: Key, count: Count): void {
    counts.set(`${plant}/${sample}/${measure}`, count);
    if (count.value !== null && sample > (tops.get(plant) ?? 0)) tops.set(plant, sample);
  }

  function place(plant: number, sample: number): string {
    return [trial.id, lookNumber, plant, sample, ...(person ? [person] : [])].join("/");
  }

  function saw(plant: number, sample: number, { session, step }: Seen): void {
    const name = place(plant, sample);
    const found = known.get(name) ?? new Map<string, number>();
    found.set(session, Math.max(step, found.get(session) ?? 0));
    known.set(name, found);
  }

  function knows(plant: number, sample: number, own: string): string[] {
    const others = [...(known.get(place(plant, sample)) ?? [])].filter(([session]) => session !== own);
    return [own, ...others.slice(-MOST_KNOWN).map(([session, step]) => `${session}@${step}`)];
  }

  /** A cluster has as many eggs at each look: the total is known from the looks before. */
  function knownTotal(plant: number): number | null {
    return trial.measure.key === "hatched" ? (sheet.totals[plant] ?? null) : null;
  }

  /** Whether a number kept is of a day before its look's, so that it is to be counted again. */
  function isEarly(plant: number, measure: string): boolean {
    return measure === trial.measure.key && Boolean(look && sheet.early.includes(plant) && look.on <= dayAfter(trial.today));
  }

  function lack(measure: Key, count: Count): Missing {
    if (!SHARES.includes(measure)) return null;
    if (count.total === null || count.total < 1) return "total";
    return (count.value ?? 0) > count.total ? "too_many" : null;
  }

  function put(plant: number, sample: number, measure: Key, next: Count): void {
    note(plant, sample, measure, next);
    const waits = next.value !== null && lack(measure, next) !== null;
    draft(`${place(plant, sample)}/${measure}`, waits ? next : null);
    if (!waits)
      later(() => {
        send(plant, sample, measure, next);
      });
  }

  /** A share that cannot be one yet waits on this device until its total is there. */
  function draft(name: string, next: Count | null): void {
    if (!next && !(name in drafts)) return;
    if (next) drafts[name] = next;
    else Reflect.deleteProperty(drafts, name);
    remember(storage, DRAFTS, drafts);
  }

  function send(plant: number, sample: number, measure: Key, next: Count): void {
    const session = sessionOf(plant, sample);
    outbox.put(trial.id, lookNumber, {
      plant_id: plant,
      sample,
      measure,
      value: next.value,
      // Nothing looked at yet has no total; the program takes no share of nothing.
      of: SHARES.includes(measure) && next.value !== null ? next.total : null,
      effort: next.days ?? next.part ?? 1,
      finished: next.finished,
      last: next.last ?? false,
      classed: next.classed ?? false,
      person,
      session: session.name,
      step: session.step,
      knows: knows(plant, sample, session.name),
      counted_on: dayOf(plant, sample, measure),
    });
  }

  /** A correction of a number kept is of that number's day; others are of the day given. */
  function dayOf(plant: number, sample: number, measure: Key): string | null {
    const kept = sheet.tallies.find((t) => t.plant_id === plant && t.sample === sample && t.measure === measure);
    return kept && kept.value !== null && !isEarly(plant, measure) ? kept.counted_on : countedOn();
  }

  function sessionOf(plant: number, sample: number): Session {
    const name = place(plant, sample);
    const session = sessions.get(name) ?? { name: newName(), step: 0 };
    session.step += 1;
    sessions.set(name, session);
    saw(plant, sample, { session: session.name, step: session.step });
    return session;
  }

  return {
    of: (plant, sample, measure) =>
      counts.get(`${plant}/${sample}/${measure}`) ?? { value: null, total: measure === trial.measure.key ? knownTotal(plant) : null, finished: false },
    put,
    lack,
    highest: (plant) => tops.get(plant) ?? 0,
    knownTotal,
    endSession: (plant, sample) => {
      later(() => {
        sessions.delete(place(plant, sample));
      });
    },
  };
}

/** Leaves beyond those planned that an unsent tap is looked for at. */
const EXTRA = 10;

function dayAfter(iso: string): string {
  const [year = 1970, month = 1, day = 1] = iso.split("-").map(Number);
  return new Date(Date.UTC(year, month - 1, day + 1)).toISOString().slice(0, 10);
}
