// Taps on their way to the program: kept on this device at the tap, sent as soon as can be, each
// under its own name, until the program has said that it is kept.
import { computed, ref, shallowRef, type ComputedRef, type Ref } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../api/client";
import { keepCounted } from "../api/keptCounts";
import { recall } from "../onDevice";
import { deviceBox, pageBox, roomLeft, type Box, type Kept } from "../deviceBox";

export interface Tap extends Kept {
  trial: number;
  look: number;
  /** When it was made, by this device's clock. */
  at: string;
  tally: Schemas["TallyIn"];
}

export interface Refusal extends Kept {
  tap: Tap;
  fault: Pick<Fault, "message" | "fix" | "code">;
}

export type Send = (taps: readonly Tap[]) => Promise<Schemas["TapsOut"]>;

export interface Outbox {
  /** Settles when what was kept here before is known again. */
  ready: Promise<void>;
  /** Taps that the program has not confirmed yet and may still take. */
  waiting: ComputedRef<number>;
  /** Numbers that the program refused, with its reason; they stay until somebody settles them. */
  refused: ComputedRef<Refusal[]>;
  /** Taps that are not even on the device's own database yet: a matter of milliseconds. */
  unwritten: Ref<number>;
  /** How many taps were found to contradict another device's count. */
  contested: Ref<number>;
  /** By how many seconds this device's clock is behind the program's; 0 where it goes right. */
  slow: Ref<number>;
  /** Why nothing can be kept on this device, or "". */
  trouble: Ref<string>;
  /** The program asks who this is before it takes anything more. */
  shut: Ref<boolean>;
  /** Gives a refused number up: it is taken off this device. */
  giveUp: (refusal: Refusal) => void;
  /** Waits until everything that can be sent is sent, or has failed once. */
  settled: () => Promise<void>;
  /** The unsent number of a place, so that a reload shows what was tapped. */
  pending: (trial: number, look: number, plant: number, sample: number, measure: string, person?: string) => Schemas["TallyIn"] | undefined;
  put: (trial: number, look: number, tally: Schemas["TallyIn"]) => void;
  flush: () => Promise<void>;
}

const RETRY_MS = 3000;
const GATHER_MS = 250;
const MOST = 500;

function sendToProgram(taps: readonly Tap[]): Promise<Schemas["TapsOut"]> {
  const body = {
    sent_at: new Date().toISOString(),
    taps: taps.map(({ key, trial, look, at, tally }) => ({ key, trial_id: trial, look, tapped_at: at, tally })),
  };
  return take(client.POST("/api/taps", { body }));
}

/** The plant, look, sample and measure that a number is about, whatever session it came from. */
export function spotOf(tap: Pick<Tap, "trial" | "look" | "tally">): string {
  const { plant_id, sample = 0, measure, person = "" } = tap.tally;
  return [tap.trial, tap.look, plant_id, sample, measure, person].join("/");
}

export function createOutbox(
  send: Send,
  opened: Promise<Box>,
  newKey: () => string,
  now: () => string,
  /** Waited before each request: quick taps go together, and none of them waits for the network's work. */
  gather: () => Promise<void> = () => Promise.resolve(),
  /** Told what the program has taken, before it leaves this device. */
  taken: (taps: readonly Tap[]) => Promise<void> = () => Promise.resolve(),
): Outbox {
  const taps = new Map<string, Tap>();
  const newest = new Map<string, Tap>();
  const refusals = shallowRef<ReadonlyMap<string, Refusal>>(new Map());
  const waiting = ref(0);
  const contested = ref(0);
  const slow = ref(0);
  const trouble = ref("");
  const shut = ref(false);
  let box: Box = pageBox();
  let order = 0;
  const unwritten = ref(0);
  let fresh: Tap[] = [];
  let gone: string[] = [];
  let writing: Promise<void> | null = null;
  let running: Promise<void> | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const ready = open();

  async function open(): Promise<void> {
    try {
      box = await opened;
      const [kept, refused] = [await box.load<Tap>("taps"), await box.load<Refusal>("refused")];
      const made = [...taps.values()];
      taps.clear();
      for (const tap of [...kept, ...made]) hold(tap);
      refusals.value = new Map(refused.map((r) => [spotOf(r.tap), r]));
      if (made.length) await box.put("taps", made);
    } catch {
      trouble.value =
        "This browser keeps nothing on the device (private mode, or storage is full): what is tapped without a connection is lost when the page closes.";
    }
    void flush();
  }

  function hold(tap: Tap): void {
    taps.set(tap.key, tap);
    newest.set(spotOf(tap), tap);
    order = Math.max(order, tap.order);
    waiting.value = taps.size;
  }

  function letGo(keys: readonly string[]): void {
    for (const key of keys) {
      const tap = taps.get(key);
      taps.delete(key);
      if (tap && newest.get(spotOf(tap))?.key === key) newest.delete(spotOf(tap));
    }
    waiting.value = taps.size;
    gone.push(...keys);
    void write();
  }

  /** Writes what gathered while the last was written: all of it at once, or quick taps would queue up. */
  function write(): Promise<void> {
    writing ??= writeAll().finally(() => {
      writing = null;
      if (fresh.length || gone.length) void write();
    });
    return writing;
  }

  async function writeAll(): Promise<void> {
    await Promise.resolve(); // whatever is tapped in one go is written in one
    while (fresh.length || gone.length) {
      const [put, remove] = [fresh, gone];
      [fresh, gone] = [[], []];
      await kept(async () => {
        if (put.length) await box.put("taps", put);
        if (remove.length) await box.remove("taps", remove);
      });
      unwritten.value = fresh.length;
    }
  }

  /** A writing that fails is said, and the page itself still holds the taps. */
  async function kept(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch {
      trouble.value = "This device could not keep the last taps: storage is full. Stay on this page until all is sent.";
    }
  }

  function refuse(tap: Tap, fault: Refusal["fault"] | null): void {
    const spot = spotOf(tap);
    const before = refusals.value.get(spot);
    if (!fault && !before) return;
    const next = new Map(refusals.value);
    next.delete(spot);
    if (before) void kept(() => box.remove("refused", [before.key]));
    if (fault) {
      const refusal = { key: tap.key, order: tap.order, tap, fault };
      next.set(spot, refusal);
      void kept(() => box.put("refused", [refusal]));
    }
    refusals.value = next;
  }

  /** Sends some taps; false when the program cannot be reached now. */
  async function sendSome(batch: readonly Tap[]): Promise<boolean> {
    let answer: Schemas["TapsOut"];
    try {
      answer = await send(batch);
    } catch (thrown) {
      const fault = asFault(thrown);
      shut.value = fault.status === 401;
      if (fault.offline || fault.status === 401 || fault.status === 403 || fault.status >= 500) return false;
      if (batch.length > 1) return sendOneByOne(batch);
      for (const tap of batch) refuse(tap, { code: fault.code, message: fault.message, fix: fault.fix });
      letGo(batch.map((tap) => tap.key));
      return true;
    }
    shut.value = false;
    const why = new Map(answer.refused.map((r) => [r.key, r]));
    for (const tap of batch) refuse(tap, why.get(tap.key) ?? null);
    contested.value += answer.contested.length;
    slow.value = answer.slow;
    await taken(batch.filter((tap) => !why.has(tap.key))).catch(() => undefined);
    letGo(batch.map((tap) => tap.key));
    return true;
  }

  /** What one tap of a request is refused for as a whole must not hold back the others. */
  async function sendOneByOne(batch: readonly Tap[]): Promise<boolean> {
    for (const tap of batch) if (!(await sendSome([tap]))) return false;
    return true;
  }

  async function sendAll(): Promise<void> {
    while (taps.size) {
      await gather();
      await write(); // on the device first
      const batch = [...taps.values()].slice(0, MOST);
      if (!(await sendSome(batch))) {
        timer = setTimeout(() => void flush(), RETRY_MS);
        return;
      }
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
    ready,
    waiting: computed(() => waiting.value),
    refused: computed(() => [...refusals.value.values()]),
    unwritten,
    contested,
    slow,
    trouble,
    shut,
    giveUp: (refusal) => {
      const next = new Map(refusals.value);
      next.delete(spotOf(refusal.tap));
      refusals.value = next;
      void kept(() => box.remove("refused", [refusal.key]));
    },
    settled: async () => {
      await running;
      await flush();
    },
    pending: (trial, look, plant, sample, measure, person = "") => {
      const spot = [trial, look, plant, sample, measure, person].join("/");
      return (newest.get(spot) ?? refusals.value.get(spot)?.tap)?.tally;
    },
    put: (trial, look, tally) => {
      const tap = { key: newKey(), order: order + 1, trial, look, at: now(), tally };
      hold(tap);
      fresh.push(tap);
      unwritten.value = fresh.length;
      void write();
      void flush();
    },
    flush,
  };
}

/** What an earlier version kept in the page's own storage: it is sent like the rest. */
export function carryOver(box: Outbox, storage: Storage = window.localStorage): void {
  for (const place of ["orthocris.outbox", "orthocris.refused"]) {
    for (const old of Object.values(recall<Old | { parcel: Old }>(storage, place))) {
      const { trial, look, body } = "parcel" in old ? old.parcel : old;
      box.put(trial, look, body);
    }
    storage.removeItem(place);
  }
}

interface Old {
  trial: number;
  look: number;
  body: Schemas["TallyIn"];
}

let shared: Outbox | undefined;

/** The one outbox of this device. */
export function useOutbox(): Outbox {
  if (!shared) {
    shared = createOutbox(
      sendToProgram,
      deviceBox(),
      () => crypto.randomUUID(),
      () => new Date().toISOString(),
      () => new Promise((done) => setTimeout(done, GATHER_MS)),
      keepCounted,
    );
    const box = shared;
    void box.ready.then(() => {
      carryOver(box);
    });
    void roomLeft().then((said) => (box.trouble.value ||= said));
    window.addEventListener("online", () => void box.flush());
    // Whoever leaves while the device keeps nothing is asked first.
    window.addEventListener("beforeunload", (event) => {
      if (box.trouble.value && box.waiting.value) event.preventDefault();
    });
  }
  return shared;
}
