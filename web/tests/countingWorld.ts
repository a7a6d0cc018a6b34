// One device that counts, for tests: its storage, its box, and a program that answers as a test wants.
import { beforeEach, vi } from "vitest";
import { effectScope } from "vue";
import { Fault, type CountSheet, type Schemas, type Trial } from "../src/api/client";
import { useCounting, type Counting } from "../src/composables/useCounting";
import { createOutbox, type Outbox, type Tap } from "../src/composables/useOutbox";
import { pageBox } from "../src/deviceBox";

export function bench(scale = "count", setup = {}): Trial {
  return {
    setup: { samples: 0, beside: ["damage"], ...setup },
    id: 9,
    today: "2026-05-10",
    measure: { key: scale === "share" ? "dead" : scale === "eggs" ? "hatched" : "live", scale: scale === "eggs" ? "share" : scale, upper: 1_000_000 },
    looks: [
      { id: 70, number: 0, day: 0, hours: 0, when: "day 0", on: "2026-05-10" },
      { id: 71, number: 1, day: 7, hours: 0, when: "day 7", on: "2026-05-17" },
    ],
    plants: [1, 2, 3].map((id) => ({ id, name: `S${id}`, match_count: null as number | null, letter: id === 3 ? null : "A" })),
    walk: [2, 1, 3],
  } as unknown as Trial;
}

export class Memory implements Storage {
  [name: string]: unknown;
  private readonly map = new Map<string, string>();
  get length(): number {
    return this.map.size;
  }
  clear(): void {
    this.map.clear();
  }
  getItem(key: string): string | null {
    return this.map.get(key) ?? null;
  }
  key(): null {
    return null;
  }
  removeItem(key: string): void {
    this.map.delete(key);
  }
  setItem(key: string, value: string): void {
    this.map.set(key, value);
  }
}

export const offline = new Fault("offline", "no answer", null, "", 0);
function fresh() {
  return {
    storage: new Memory(),
    box: pageBox(),
    sent: [] as Tap[],
    /** How often the program was asked; a tap may be among several of one request. */
    asked: 0,
    names: 0,
    answer: (): Promise<Partial<Schemas["TapsOut"]>> => Promise.resolve({}),
  };
}

export const device = fresh();

beforeEach(() => {
  vi.useFakeTimers();
  Object.assign(device, fresh());
});

export function outbox(): Outbox {
  const send = async (taps: readonly Tap[]): Promise<Schemas["TapsOut"]> => {
    device.asked += 1;
    device.sent.push(...(JSON.parse(JSON.stringify(taps)) as Tap[]));
    return { kept: taps.map((t) => t.key), refused: [], contested: [], slow: 0, ...(await device.answer()) };
  };
  return createOutbox(
    send,
    Promise.resolve(device.box),
    () => `tap-${device.names++}`,
    () => "2026-05-10T08:00:00Z",
  );
}

/** The page is loaded anew: what the device kept is there before anything is counted. */
export async function reloaded(): Promise<Outbox> {
  const fresh = outbox();
  await fresh.ready;
  return fresh;
}

export const nothing: CountSheet = { tallies: [], early: [], totals: {}, contests: [], damage_before: {}, earlier: [] };

export function count(box: Outbox, trial = bench(), sheet = nothing): Counting {
  return effectScope().run(() => useCounting(trial, 0, sheet, box, device.storage, () => `session-${device.names++}`)) as Counting;
}
