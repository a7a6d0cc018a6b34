// Counting on one device: each tap is written down at once, sent until it is kept, never sent twice wrongly.
import { flushPromises } from "@vue/test-utils";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { Fault, type Trial } from "../src/api/client";
import { useCounting, type Counting } from "../src/composables/useCounting";
import { createOutbox, type Outbox, type Parcel } from "../src/composables/useOutbox";

function bench(scale = "count"): Trial {
  return {
    id: 9,
    measure: { key: scale === "share" ? "dead" : "live", scale, upper: 1_000_000 },
    looks: [{ id: 70, number: 0, day: 0 }],
    plants: [1, 2, 3].map((id) => ({ id, name: `S${id}`, remedy_id: id === 3 ? null : 4 })),
    walk: [2, 1, 3],
    tallies: [],
  } as unknown as Trial;
}

class Memory implements Storage {
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

const offline = new Fault("offline", "no answer", null, "", 0);
let storage: Memory;
let sent: Parcel[];
let answer: () => Promise<unknown>;
let names: number;

beforeEach(() => {
  vi.useFakeTimers();
  storage = new Memory();
  sent = [];
  names = 0;
  answer = () => Promise.resolve();
});

function outbox(): Outbox {
  return createOutbox((parcel) => {
    sent.push(JSON.parse(JSON.stringify(parcel)) as Parcel);
    return answer();
  }, storage);
}

function count(box: Outbox, trial = bench()): Counting {
  return effectScope().run(() => useCounting(trial, 0, box, storage, () => `session-${names++}`)) as Counting;
}

describe("counting", () => {
  it("walks the plants that have a tag and keeps nothing found as zero", async () => {
    const counting = count(outbox());
    expect(counting.plants.value.map((p) => p.name)).toEqual(["S2", "S1"]);
    counting.finish();
    await flushPromises();
    expect(sent.at(-1)?.body).toMatchObject({ plant_id: 2, value: 0, finished: true });
    expect(counting.plant.value?.name).toBe("S1");
  });

  it("sends the taps of a plant as one session with rising steps, and undoes", async () => {
    const counting = count(outbox());
    counting.add(1);
    counting.add(5);
    counting.undo();
    await flushPromises();
    expect(counting.count.value.value).toBe(1);
    expect(new Set(sent.map((p) => p.body.session)).size).toBe(1);
    expect(sent.at(-1)?.body).toMatchObject({ value: 1, step: 3, finished: false });
  });

  it("makes a change of a kept number a correction of its own", async () => {
    const counting = count(outbox());
    counting.add(3);
    counting.finish();
    counting.go(0);
    counting.set({ value: 30 });
    await flushPromises();
    expect(new Set(sent.map((p) => p.body.session)).size).toBe(2);
    expect(sent.at(-1)?.body).toMatchObject({ value: 30, finished: true });
  });

  it("counts both sides of a share", async () => {
    const counting = count(outbox(), bench("share"));
    counting.addRest(1);
    counting.add(1);
    counting.add(1);
    await flushPromises();
    expect(sent.at(-1)?.body).toMatchObject({ measure: "dead", value: 2, of: 3 });
  });

  it("survives a reload without a connection and sends when it is back", async () => {
    answer = () => Promise.reject(offline);
    const first = count(outbox());
    first.add(5);
    first.add(1);
    await flushPromises();

    const box = outbox();
    expect(box.waiting.value).toBe(1);
    const second = count(box);
    expect(second.count.value.value).toBe(6);
    answer = () => Promise.resolve();
    second.add(1);
    await flushPromises();
    expect(box.waiting.value).toBe(0);
    expect(sent.at(-1)?.body).toMatchObject({ value: 7, step: 3 });
  });

  it("tries again by itself", async () => {
    answer = () => Promise.reject(offline);
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    answer = () => Promise.resolve();
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
  });

  it("does not lose a tap made while an older one is on its way", async () => {
    let release: () => void = () => undefined;
    answer = () => new Promise<void>((done) => (release = done));
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    counting.add(1);
    answer = () => Promise.resolve();
    release();
    await flushPromises();
    expect(sent.at(-1)?.body.value).toBe(2);
    expect(box.waiting.value).toBe(0);
  });

  it("shows a refusal and does not send it for ever", async () => {
    answer = () => Promise.reject(new Fault("too_late_for_before", "too late", null, "leave it", 409));
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    expect(box.refused.value?.fault.code).toBe("too_late_for_before");
    expect(box.waiting.value).toBe(0);
    expect(sent).toHaveLength(1);
  });
});
