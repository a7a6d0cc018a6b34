// Counting on one device: each tap is written down at once, sent until it is kept, never sent twice wrongly.
import { flushPromises } from "@vue/test-utils";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { Fault, type CountSheet, type Trial } from "../src/api/client";
import { useCounting, type Counting } from "../src/composables/useCounting";
import { createOutbox, type Outbox, type Parcel } from "../src/composables/useOutbox";

function bench(scale = "count"): Trial {
  return {
    id: 9,
    today: "2026-05-10",
    measure: { key: scale === "share" ? "dead" : scale === "eggs" ? "hatched" : "live", scale: scale === "eggs" ? "share" : scale, upper: 1_000_000 },
    looks: [{ id: 70, number: 0, day: 0, on: "2026-05-10" }, { id: 71, number: 1, day: 7, on: "2026-05-17" }],
    plants: [1, 2, 3].map((id) => ({ id, name: `S${id}`, letter: id === 3 ? null : "A" })),
    walk: [2, 1, 3],
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

const nothing: CountSheet = { tallies: [], early: [], totals: {} };

function count(box: Outbox, trial = bench(), sheet = nothing): Counting {
  return effectScope().run(() => useCounting(trial, 0, sheet, box, storage, () => `session-${names++}`)) as Counting;
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
    expect(box.refused.value.map((r) => r.fault.code)).toEqual(["too_late_for_before"]);
    expect(box.waiting.value).toBe(0);
    expect(sent).toHaveLength(1);
    // It stays, also after a reload, until it is settled.
    const again = outbox();
    expect(again.refused.value).toHaveLength(1);
    expect(count(again).count.value.value).toBe(1);
    again.giveUp(again.refused.value[0]?.parcel as Parcel);
    expect(outbox().refused.value).toEqual([]);
  });

  it("takes a refusal back once the number is kept after all", async () => {
    answer = () => Promise.reject(new Fault("bad_day", "no", null, "", 422));
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    await flushPromises();
    answer = () => Promise.resolve();
    counting.add(1);
    await flushPromises();
    expect(box.refused.value).toEqual([]);
  });

  it("waits until the last tap is with the program", async () => {
    let release: () => void = () => undefined;
    answer = () => new Promise<void>((done) => (release = done));
    const box = outbox();
    count(box).add(1);
    let settled = false;
    void box.settled().then(() => (settled = true));
    await flushPromises();
    expect(settled).toBe(false);
    answer = () => Promise.resolve();
    release();
    await flushPromises();
    expect(settled).toBe(true);
  });

  it("asks out of how many before it keeps a share", async () => {
    const counting = count(outbox(), bench("share"));
    expect(counting.finish()).toBe(false);
    counting.set({ value: 25 });
    expect(counting.missing.value).toBe("total");
    expect(counting.finish()).toBe(false);
    await flushPromises();
    expect(sent).toEqual([]);
    counting.set({ total: 20 });
    expect(counting.missing.value).toBe("too_many");
    counting.set({ total: 40 });
    expect(counting.finish()).toBe(true);
    await flushPromises();
    expect(sent.at(-1)?.body).toMatchObject({ value: 25, of: 40, finished: true });
  });

  it("holds a share without its total through a reload, and says whose it is", async () => {
    const first = count(outbox(), bench("share"));
    first.set({ value: 25 });
    first.go(1);
    expect(first.incomplete.value.map((p) => p.name)).toEqual(["S2"]);
    const again = count(outbox(), bench("share"));
    expect(again.plant.value?.name).toBe("S2");
    expect(again.count.value).toMatchObject({ value: 25, total: null });
    again.set({ total: 40 });
    expect(again.incomplete.value).toEqual([]);
    again.finish();
    await flushPromises();
    expect(sent.at(-1)?.body).toMatchObject({ plant_id: 2, value: 25, of: 40, finished: true });
    expect(count(outbox(), bench("share")).count.value.value).toBeNull();
  });

  it("does not take a kept share for done while its correction cannot be", () => {
    const trial = bench("share");
    const kept = [{ look_id: 70, plant_id: 2, measure: "dead", value: 5, of: 20, finished: true, counted_on: "2026-05-10" }] as never;
    const counting = count(outbox(), trial, { ...nothing, tallies: kept });
    counting.go(0);
    expect(counting.done.value.has(2)).toBe(true);
    counting.set({ value: 30 });
    expect(counting.done.value.has(2)).toBe(false);
    expect(counting.incomplete.value.map((p) => p.name)).toEqual(["S2"]);
    counting.undo();
    expect(counting.incomplete.value).toEqual([]);
    expect(counting.count.value).toMatchObject({ value: 5, total: 20, finished: true });
  });

  it("remembers how many eggs a cluster has, and what was hatched comes out of them", async () => {
    const trial = bench("eggs");
    const counting = effectScope().run(() => useCounting(trial, 1, { ...nothing, totals: { 2: 30 } }, outbox(), storage, () => "session-x")) as Counting;
    expect(counting.count.value).toMatchObject({ value: null, total: 30 });
    counting.set({ value: 25 });
    counting.add(1);
    counting.finish();
    await flushPromises();
    expect(sent.at(-1)?.body).toMatchObject({ value: 26, of: 30, finished: true });
  });

  it("says of which day a number is, and keeps the day of one that is corrected", async () => {
    const trial = bench();
    const kept = [{ look_id: 70, plant_id: 2, measure: "live", value: 3, of: null, finished: true, counted_on: "2026-05-01" }] as never;
    const corrected = count(outbox(), trial, { ...nothing, tallies: kept });
    corrected.go(0);
    corrected.set({ value: 4 });
    await flushPromises();
    expect(sent.at(-1)?.body.counted_on).toBe("2026-05-01");
    const late = effectScope().run(() => useCounting(trial, 1, nothing, outbox(), storage, () => "session-y", () => "2026-05-16")) as Counting;
    late.add(1);
    await flushPromises();
    expect(sent.at(-1)?.body.counted_on).toBe("2026-05-16");
  });

  it("has a plant counted again that was counted before the day of the look", () => {
    const trial = { ...bench(), today: "2026-05-16" };
    trial.looks = [{ id: 71, number: 1, day: 7, on: "2026-05-17" }] as never;
    const kept = [2, 1].map((id) => ({ look_id: 71, plant_id: id, measure: "live", value: 3, of: null, finished: true, counted_on: "2026-05-10" })) as never;
    const counting = effectScope().run(() => useCounting(trial, 1, { ...nothing, early: [2], tallies: kept }, outbox(), storage, () => "session-z")) as Counting;
    expect([...counting.done.value]).toEqual([1]);
  });
});
