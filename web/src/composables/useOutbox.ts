// Counts on their way to the program: written down on this device at the tap, sent at once,
// sent again until the program has said that they are kept.
import { computed, ref, type ComputedRef } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../api/client";
import { recall, remember } from "../onDevice";

export interface Parcel {
  trial: number;
  look: number;
  body: Schemas["TallyIn"];
}

export interface Refusal {
  parcel: Parcel;
  fault: Pick<Fault, "message" | "fix" | "code">;
}

export type Send = (parcel: Parcel) => Promise<unknown>;

export interface Outbox {
  /** Parcels that the program has not confirmed yet and may still take. */
  waiting: ComputedRef<number>;
  /** Parcels that the program refused, with its reason; they stay until somebody settles them. */
  refused: ComputedRef<Refusal[]>;
  /** Gives a refused number up: it is taken off this device. */
  giveUp: (parcel: Parcel) => void;
  /** Waits until everything that can be sent is sent, or has failed once. */
  settled: () => Promise<void>;
  /** The unsent number for a plant, so that a reload shows what was tapped. */
  pending: (trial: number, look: number, plant: number, measure: string) => Parcel | undefined;
  put: (parcel: Parcel) => void;
  flush: () => Promise<void>;
}

const PLACE = "orthocris.outbox";
const REFUSED = "orthocris.refused";
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
  const parcels = ref<Record<string, Parcel>>(recall(storage, PLACE));
  const refusals = ref<Record<string, Refusal>>(recall(storage, REFUSED));
  let running: Promise<void> | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  function store(): void {
    remember(storage, PLACE, parcels.value);
    remember(storage, REFUSED, refusals.value);
  }

  function without<T>(map: Record<string, T>, name: string): Record<string, T> {
    return Object.fromEntries(Object.entries(map).filter(([key]) => key !== name));
  }

  async function sendAll(): Promise<void> {
    for (;;) {
      const next = Object.entries(parcels.value)[0];
      if (!next) return;
      const [name, parcel] = next;
      let refusal: Refusal | null = null;
      try {
        await send(parcel);
      } catch (thrown) {
        const fault = asFault(thrown);
        if (fault.offline || fault.status >= 500) {
          timer = setTimeout(() => void flush(), RETRY_MS);
          return;
        }
        refusal = { parcel, fault: { message: fault.message, fix: fault.fix, code: fault.code } };
      }
      // A newer tap may have replaced the parcel while this one was on its way.
      if (parcels.value[name]?.body.step === parcel.body.step) parcels.value = without(parcels.value, name);
      const place = spot(parcel);
      refusals.value = refusal ? { ...refusals.value, [place]: refusal } : without(refusals.value, place);
      store();
    }
  }

  async function flush(): Promise<void> {
    if (running) return running;
    clearTimeout(timer);
    running = sendAll();
    try {
      await running;
    } finally {
      running = null;
    }
  }

  return {
    waiting: computed(() => Object.keys(parcels.value).length),
    refused: computed(() => Object.values(refusals.value)),
    giveUp: (parcel) => {
      refusals.value = without(refusals.value, spot(parcel));
      store();
    },
    settled: async () => {
      await running;
      await flush();
    },
    pending: (trial, look, plant, measure) =>
      [...Object.values(parcels.value), ...Object.values(refusals.value).map((r) => r.parcel)]
        .filter(
          (p) =>
            p.trial === trial &&
            p.look === look &&
            p.body.plant_id === plant &&
            p.body.measure === measure,
        )
        .at(-1),
    put: (parcel) => {
      parcels.value = { ...parcels.value, [slot(parcel)]: parcel };
      store();
      void flush();
    },
    flush,
  };
}

/** The plant, look and measure a number is about, whatever session it came from. */
function spot(parcel: Parcel): string {
  return [parcel.trial, parcel.look, parcel.body.plant_id, parcel.body.measure].join("/");
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
