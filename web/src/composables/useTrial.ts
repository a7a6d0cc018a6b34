import { inject, provide, shallowRef, type InjectionKey, type ShallowRef } from "vue";
import { asFault, client, take, type Fault, type Round, type Trial } from "../api/client";
import { keep, takeKept } from "../api/kept";

export interface TrialStore {
  trial: ShallowRef<Trial | null>;
  fault: ShallowRef<Fault | null>;
  busy: ShallowRef<boolean>;
  /** Out of reach, the trial is shown as this device last read it: at this time (ms). */
  keptAt: ShallowRef<number | null>;
  load: () => Promise<void>;
  /** Runs a change that answers with the trial; returns the fault, or null when it went well. */
  change: (call: () => Promise<Trial>) => Promise<Fault | null>;
  /** Runs a change that answers with what it made, then reads the trial anew. */
  make: (call: () => Promise<unknown>) => Promise<Fault | null>;
  /** Runs a change of one round that answers with that round alone. */
  mark: (call: () => Promise<Round>) => Promise<Fault | null>;
}

const key: InjectionKey<TrialStore> = Symbol("trial");

/** The trial a page is about. Calls are made one after the other, so an old answer never wins. */
export function provideTrial(id: number): TrialStore {
  const trial = shallowRef<Trial | null>(null);
  const fault = shallowRef<Fault | null>(null);
  const busy = shallowRef(false);
  const keptAt = shallowRef<number | null>(null);
  const name = `trial/${id}`;
  let queue: Promise<unknown> = Promise.resolve();
  let waiting = 0;

  function run(call: () => Promise<Trial>): Promise<Fault | null> {
    const turn = queue.then(async () => {
      try {
        trial.value = await call();
        return null;
      } catch (thrown) {
        return asFault(thrown);
      } finally {
        busy.value = --waiting > 0;
      }
    });
    queue = turn;
    waiting += 1;
    busy.value = true;
    return turn;
  }

  async function read(): Promise<Trial> {
    const found = await takeKept(name, () => take(client.GET("/api/trials/{trial_id}", { params: { path: { trial_id: id } } })));
    keptAt.value = found.keptAt;
    return found.data;
  }

  /** What a change answered with is the newest there is. */
  function inReach(found: Trial): Trial {
    keptAt.value = null;
    keep(name, found);
    return found;
  }

  function withRound(round: Round): Trial | null {
    const now = trial.value;
    // The first spray fixes the day from which all days are counted: everything is read anew.
    if (!now?.sprayed_on) return null;
    return { ...now, rounds: now.rounds.map((r) => (r.number === round.number ? round : r)) };
  }

  const store: TrialStore = {
    trial,
    fault,
    busy,
    keptAt,
    load: async () => {
      fault.value = await run(read);
    },
    change: (call) => run(async () => inReach(await call())),
    make: (call) => run(() => call().then(read)),
    mark: (call) =>
      run(async () => {
        const round = withRound(await call());
        return round ? inReach(round) : read();
      }),
  };
  provide(key, store);
  return store;
}

export function useTrial(): TrialStore {
  const store = inject(key);
  if (!store) throw new Error("useTrial is used outside a trial's page");
  return store;
}
