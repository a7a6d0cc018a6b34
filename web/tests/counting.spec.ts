// Counting on one device: each tap is written down at once, sent until it is kept, never sent twice wrongly.
import { flushPromises } from "@vue/test-utils";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { Fault, type CountSheet, type Schemas, type Trial } from "../src/api/client";
import { useCounting, type Counting } from "../src/composables/useCounting";
import { createOutbox, type Outbox, type Tap } from "../src/composables/useOutbox";
import { pageBox, type Box } from "../src/deviceBox";

function bench(scale = "count", setup = {}): Trial {
  return {
    setup: { samples: 0, beside: ["damage"], ...setup },
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
let box: Box;
let sent: Tap[];
/** How often the program was asked; a tap may be among several of one request. */
let asked: number;
let answer: () => Promise<Partial<Schemas["TapsOut"]>>;
let names: number;

beforeEach(() => {
  vi.useFakeTimers();
  storage = new Memory();
  box = pageBox();
  sent = [];
  asked = 0;
  names = 0;
  answer = () => Promise.resolve({});
});

function outbox(): Outbox {
  const send = async (taps: readonly Tap[]): Promise<Schemas["TapsOut"]> => {
    asked += 1;
    sent.push(...(JSON.parse(JSON.stringify(taps)) as Tap[]));
    return { kept: taps.map((t) => t.key), refused: [], contested: [], ...(await answer()) };
  };
  return createOutbox(send, Promise.resolve(box), () => `tap-${names++}`, () => "2026-05-10T08:00:00Z");
}

/** The page is loaded anew: what the device kept is there before anything is counted. */
async function reloaded(): Promise<Outbox> {
  const fresh = outbox();
  await fresh.ready;
  return fresh;
}

const nothing: CountSheet = { tallies: [], early: [], totals: {}, contests: [], damage_before: {} };

function count(box: Outbox, trial = bench(), sheet = nothing): Counting {
  return effectScope().run(() => useCounting(trial, 0, sheet, box, storage, () => `session-${names++}`)) as Counting;
}

describe("counting", () => {
  it("walks the plants that have a tag and keeps nothing found as zero", async () => {
    const counting = count(outbox());
    expect(counting.plants.value.map((p) => p.name)).toEqual(["S2", "S1"]);
    counting.finish();
    await flushPromises();
    expect(sent.at(-1)?.tally).toMatchObject({ plant_id: 2, value: 0, finished: true });
    expect(counting.plant.value?.name).toBe("S1");
  });

  it("sends the taps of a plant as one session with rising steps, and undoes", async () => {
    const counting = count(outbox());
    counting.add(1);
    counting.add(5);
    counting.undo();
    await flushPromises();
    expect(counting.count.value.value).toBe(1);
    expect(new Set(sent.map((p) => p.tally.session)).size).toBe(1);
    expect(sent.at(-1)?.tally).toMatchObject({ value: 1, step: 3, finished: false });
  });

  it("makes a change of a kept number a correction of its own", async () => {
    const counting = count(outbox());
    counting.add(3);
    counting.finish();
    counting.go(0);
    counting.set({ value: 30 });
    await flushPromises();
    expect(new Set(sent.map((p) => p.tally.session)).size).toBe(2);
    expect(sent.at(-1)?.tally).toMatchObject({ value: 30, finished: true });
  });

  it("counts both sides of a share", async () => {
    const counting = count(outbox(), bench("share"));
    counting.addRest(1);
    counting.add(1);
    counting.add(1);
    await flushPromises();
    expect(sent.at(-1)?.tally).toMatchObject({ measure: "dead", value: 2, of: 3 });
  });

  it("survives a reload without a connection and sends when it is back", async () => {
    answer = () => Promise.reject(offline);
    const first = count(outbox());
    first.add(5);
    first.add(1);
    await flushPromises();

    const box = await reloaded();
    expect(box.waiting.value).toBe(2);
    const second = count(box);
    expect(second.count.value.value).toBe(6);
    answer = () => Promise.resolve({});
    second.add(1);
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
    // The page before it still runs in this test, and sends what it holds once more.
    expect(sent.filter((t) => t.tally.step === 3).map((t) => t.tally.value)).toEqual([7]);
  });

  it("tries again by itself", async () => {
    answer = () => Promise.reject(offline);
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    answer = () => Promise.resolve({});
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
  });

  it("does not lose a tap made while an older one is on its way", async () => {
    let release: () => void = () => undefined;
    answer = () => new Promise((done) => (release = () => { done({}); }));
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    counting.add(1);
    answer = () => Promise.resolve({});
    release();
    await flushPromises();
    expect(sent.at(-1)?.tally.value).toBe(2);
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
    const again = await reloaded();
    expect(again.refused.value).toHaveLength(1);
    expect(count(again).count.value.value).toBe(1);
    for (const refusal of again.refused.value) again.giveUp(refusal);
    await flushPromises();
    expect((await reloaded()).refused.value).toEqual([]);
  });

  it("takes a refusal back once the number is kept after all", async () => {
    answer = () => Promise.reject(new Fault("bad_day", "no", null, "", 422));
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    await flushPromises();
    answer = () => Promise.resolve({});
    counting.add(1);
    await flushPromises();
    expect(box.refused.value).toEqual([]);
  });

  it("waits until the last tap is with the program", async () => {
    let release: () => void = () => undefined;
    answer = () => new Promise((done) => (release = () => { done({}); }));
    const box = outbox();
    count(box).add(1);
    let settled = false;
    void box.settled().then(() => (settled = true));
    await flushPromises();
    expect(settled).toBe(false);
    answer = () => Promise.resolve({});
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
    expect(sent.at(-1)?.tally).toMatchObject({ value: 25, of: 40, finished: true });
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
    expect(sent.at(-1)?.tally).toMatchObject({ plant_id: 2, value: 25, of: 40, finished: true });
    expect(count(outbox(), bench("share")).count.value.value).toBeNull();
  });

  it("does not take a kept share for done while its correction cannot be", () => {
    const trial = bench("share");
    const kept = [{ look_id: 70, plant_id: 2, measure: "dead", sample: 0, session: "kept-before", value: 5, of: 20, finished: true, counted_on: "2026-05-10" }] as never;
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
    expect(sent.at(-1)?.tally).toMatchObject({ value: 26, of: 30, finished: true });
  });

  it("says of which day a number is, and keeps the day of one that is corrected", async () => {
    const trial = bench();
    const kept = [{ look_id: 70, plant_id: 2, measure: "live", sample: 0, session: "kept-before", value: 3, of: null, finished: true, counted_on: "2026-05-01" }] as never;
    const corrected = count(outbox(), trial, { ...nothing, tallies: kept });
    corrected.go(0);
    corrected.set({ value: 4 });
    await flushPromises();
    expect(sent.at(-1)?.tally.counted_on).toBe("2026-05-01");
    const late = effectScope().run(() => useCounting(trial, 1, nothing, outbox(), storage, () => "session-y", () => "2026-05-16")) as Counting;
    late.add(1);
    await flushPromises();
    expect(sent.at(-1)?.tally.counted_on).toBe("2026-05-16");
  });

  it("has a plant counted again that was counted before the day of the look", () => {
    const trial = { ...bench(), today: "2026-05-16" };
    trial.looks = [{ id: 71, number: 1, day: 7, on: "2026-05-17" }] as never;
    const kept = [2, 1].map((id) => ({ look_id: 71, plant_id: id, measure: "live", sample: 0, session: "kept-before", value: 3, of: null, finished: true, counted_on: "2026-05-10" })) as never;
    const counting = effectScope().run(() => useCounting(trial, 1, { ...nothing, early: [2], tallies: kept }, outbox(), storage, () => "session-z")) as Counting;
    expect([...counting.done.value]).toEqual([1]);
  });
});

describe("the box of the device", () => {
  it("gives every tap a name of its own and sends what gathered meanwhile at once", async () => {
    answer = () => Promise.reject(offline);
    const box = outbox();
    const counting = count(box);
    for (let k = 0; k < 1200; k++) counting.add(1);
    await flushPromises();
    answer = () => Promise.resolve({});
    sent = [];
    asked = 0;
    await vi.advanceTimersByTimeAsync(3100);
    expect(new Set(sent.map((t) => t.key)).size).toBe(1200);
    expect(sent.map((t) => t.tally.step)).toEqual(Array.from({ length: 1200 }, (_, k) => k + 1));
    expect(asked).toBe(3);
    expect(box.waiting.value).toBe(0);
  });

  it("keeps a tap that was refused among others, with its reason", async () => {
    answer = () => Promise.resolve({ refused: [{ key: "tap-1", code: "bad_day", message: "no", fix: "" }] });
    const box = outbox();
    count(box).add(1); // tap-1: the first name is the session's
    await flushPromises();
    expect(box.refused.value.map((r) => r.tap.key)).toEqual(["tap-1"]);
    expect(await (await reloaded()).refused.value.length).toBe(1);
  });

  it("does not let one tap that cannot be read hold back the others", async () => {
    answer = () => Promise.reject(offline);
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    counting.finish();
    counting.add(7);
    await flushPromises();
    answer = () => {
      const last = sent.at(-1)?.tally.value;
      return sent.length > 1 && last === 1 ? Promise.reject(new Fault("bad", "no", null, "", 422)) : Promise.resolve({});
    };
    sent = [];
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
    expect(sent.map((t) => t.tally.value)).toContain(7);
  });

  it("waits, and says so, while the program asks for the passcode", async () => {
    answer = () => Promise.reject(new Fault("passcode", "who is it", null, "", 401));
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    expect([box.shut.value, box.waiting.value, box.refused.value.length]).toEqual([true, 1, 0]);
  });

  it("says that a device keeps nothing, and still sends", async () => {
    const closed = createOutbox(() => Promise.resolve({ kept: [], refused: [], contested: [] }), Promise.reject(new Error("private")), () => "a-name", () => "");
    await closed.ready;
    expect(closed.trouble.value).toContain("keeps nothing");
    count(closed).add(1);
    await flushPromises();
    expect(closed.waiting.value).toBe(0);
  });
});

describe("leaf by leaf", () => {
  const six = (beside: string[] = ["damage"]): Trial => bench("count", { samples: 3, beside });
  const values = (counting: Counting): (number | null)[] => counting.leaves.value.map((l) => l.value);

  it("goes from leaf to leaf, then to the next plant, and adds the leaves up", async () => {
    const counting = count(outbox(), six());
    for (const found of [4, 0, 2]) {
      if (found) counting.add(found);
      counting.finish();
    }
    await flushPromises();
    expect(sent.filter((t) => t.tally.finished).map((t) => [t.tally.sample, t.tally.value])).toEqual([[1, 4], [2, 0], [3, 2]]);
    expect(new Set(sent.map((t) => t.tally.session)).size).toBe(3);
    expect([counting.plant.value?.name, counting.sample.value]).toEqual(["S1", 1]);
    counting.go(0);
    expect([counting.whole.value, values(counting)]).toEqual([6, [4, 0, 2]]);
    expect([...counting.done.value]).toEqual([2]);
  });

  it("lets a plant with fewer leaves be done", async () => {
    const counting = count(outbox(), six());
    counting.add(4);
    counting.finish(true);
    await flushPromises();
    expect(sent.at(-1)?.tally).toMatchObject({ sample: 1, last: true, finished: true });
    expect(counting.plant.value?.name).toBe("S1");
    expect([...counting.done.value]).toEqual([2]);
  });

  it("undoes from the next leaf what was kept on the one before", async () => {
    const counting = count(outbox(), six());
    counting.add(4);
    counting.finish();
    counting.undo();
    expect([counting.sample.value, counting.count.value.finished]).toEqual([1, false]);
    counting.undo();
    await flushPromises();
    expect(counting.count.value.value).toBeNull();
    expect(sent.at(-1)?.tally).toMatchObject({ sample: 1, value: null });
  });

  it("counts a young one among the live too, the dead out of both, and confirms zeros", async () => {
    const counting = count(outbox(), six(["young", "dead", "eggs", "damage"]));
    counting.add(2);
    counting.add(1, "young");
    counting.add(1, "dead");
    counting.finish();
    await flushPromises();
    const held = new Map(sent.map((t) => [t.tally.measure, t.tally]));
    expect(held.get("live")).toMatchObject({ value: 3, finished: true });
    expect(held.get("young")).toMatchObject({ value: 1, finished: true });
    expect(held.get("dead")).toMatchObject({ value: 1, of: 4, finished: true });
    expect(held.get("eggs")).toMatchObject({ value: 0, finished: true });
  });

  it("keeps no share of nothing where neither live nor dead are found", async () => {
    const counting = count(outbox(), six(["dead"]));
    counting.finish();
    await flushPromises();
    expect(sent.map((t) => t.tally.measure)).toEqual(["live"]);
    expect(counting.sample.value).toBe(2);
  });

  it("says which counts of a leaf it knew of, so that a correction is none against another device", async () => {
    const kept = [{ plant_id: 2, sample: 1, measure: "live", session: "the-other-one", value: 3, of: null, finished: true, counted_on: "2026-05-10" }] as never;
    const counting = count(outbox(), six(), { ...nothing, tallies: kept });
    expect(counting.sample.value).toBe(2);
    counting.goLeaf(1);
    counting.add(1);
    counting.goLeaf(3);
    counting.add(1);
    await flushPromises();
    expect(sent[0]?.tally.knows).toContain("the-other-one");
    expect(sent[1]?.tally.knows).toEqual([sent[1]?.tally.session]);
  });

  it("scales a leaf of which a quarter was counted, and keeps that it was", async () => {
    const counting = count(outbox(), six(["eggs", "damage"]));
    counting.add(12);
    counting.setPart(0.25);
    counting.add(3, "eggs");
    counting.finish();
    await flushPromises();
    counting.add(5);
    await flushPromises();
    const kept = sent.filter((t) => t.tally.finished).map((t) => [t.tally.measure, t.tally.value, t.tally.effort]);
    expect(kept).toEqual([["live", 12, 0.25], ["eggs", 3, 0.25]]);
    expect(sent.at(-1)?.tally.effort).toBe(1);
    expect(counting.whole.value).toBe(53);
    counting.undo();
    counting.undo();
    counting.undo();
    counting.undo();
    expect(counting.count.value.part ?? 1).toBe(1);
  });

  it("finds its leaf again after a reload without a connection", async () => {
    answer = () => Promise.reject(offline);
    const counting = count(outbox(), six());
    counting.add(4);
    counting.finish();
    counting.add(1);
    await flushPromises();
    const again = count(await reloaded(), six());
    expect([again.sample.value, values(again)]).toEqual([2, [4, 1, null]]);
  });
});
