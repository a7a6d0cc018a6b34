// Counts on their way to the program: written down on this device at the tap, sent at once,
// sent again until the program has said that they are kept.
import { computed, ref, type ComputedRef } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../api/client";

export interface Parcel {
  trial: number;
  look: number;
  body: Schemas["TallyIn"];
}

export type Send = (parcel: Parcel) => Promise<unknown>;

export interface Outbox {
  /** Parcels that the program has not confirmed yet. */
  waiting: ComputedRef<number>;
  /** The last refusal, with the parcel it is about. */
  refused: ComputedRef<{ parcel: Parcel; fault: Fault } | null>;
  /** The unsent number for a plant, so that a reload shows what was tapped. */
  pending: (trial: number, look: number, plant: number, measure: string) => Parcel | undefined;
  put: (parcel: Parcel) => void;
  flush: () => Promise<void>;
}

const PLACE = "orthocris.outbox";
const RETRY_MS = 3000;

function sendToProgram(parcel: Parcel): Promise<unknown> {
  return take(
    client.POST("/api/trials/{trial_id}/looks/{number}/tallies", {
      params: { path: { trial_id: parcel.trial, number: parcel.look } },
      body: parcel.body,
    }),
  );
}

function slot(parcel: Parcel): string {
  const { plant_id, measure, session } = parcel.body;
  return [parcel.trial, parcel.look, plant_id, measure, session].join("/");
}

export function createOutbox(send: Send, storage: Storage | null): Outbox {
  const parcels = ref<Record<string, Parcel>>(restore(storage));
  const refused = ref<{ parcel: Parcel; fault: Fault } | null>(null);
  let running = false;
  let timer: ReturnType<typeof setTimeout> | undefined;

  function store(): void {
    try {
      storage?.setItem(PLACE, JSON.stringify(parcels.value));
    } catch {
      // Storage full or blocked: the parcel is still in memory and being sent.
    }
  }

  async function flush(): Promise<void> {
    if (running) return;
    running = true;
    clearTimeout(timer);
    try {
      for (;;) {
        const next = Object.entries(parcels.value)[0];
        if (!next) break;
        const [name, parcel] = next;
        try {
          await send(parcel);
          if (refused.value && slot(refused.value.parcel) === name) refused.value = null;
        } catch (thrown) {
          const fault = asFault(thrown);
          if (fault.offline || fault.status >= 500) {
            timer = setTimeout(() => void flush(), RETRY_MS);
            break;
          }
          refused.value = { parcel, fault };
        }
        // A newer tap may have replaced the parcel while this one was on its way.
        if (parcels.value[name]?.body.step === parcel.body.step) {
          // eslint-disable-next-line @typescript-eslint/no-dynamic-delete
          delete parcels.value[name];
          store();
        }
      }
    } finally {
      running = false;
    }
  }

  return {
    waiting: computed(() => Object.keys(parcels.value).length),
    refused: computed(() => refused.value),
    pending: (trial, look, plant, measure) =>
      Object.values(parcels.value)
        .filter(
          (p) =>
            p.trial === trial &&
            p.look === look &&
            p.body.plant_id === plant &&
            p.body.measure === measure,
        )
        .at(-1),
    put: (parcel) => {
      parcels.value[slot(parcel)] = parcel;
      store();
      void flush();
    },
    flush,
  };
}

function restore(storage: Storage | null): Record<string, Parcel> {
  try {
    return JSON.parse(storage?.getItem(PLACE) ?? "{}") as Record<string, Parcel>;
  } catch {
    return {};
  }
}

let shared: Outbox | undefined;

/** The one outbox of this device. */
export function useOutbox(): Outbox {
  if (!shared) {
    shared = createOutbox(sendToProgram, window.localStorage);
    void shared.flush();
    window.addEventListener("online", () => void shared?.flush());
  }
  return shared;
}
