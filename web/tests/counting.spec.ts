// Counting on one device: each tap is written down at once, sent until it is kept, never sent twice wrongly.
import { flushPromises } from "./wire";
import { describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { bench, count, device, nothing, offline, outbox, reloaded } from "./countingWorld";
import { afterPaint } from "../src/afterPaint";
import { Fault, type Trial } from "../src/api/client";
import { useCounting, type Counting } from "../src/composables/useCounting";

describe("counting", () => {
  it("walks the plants that have a tag and keeps nothing found as zero", async () => {
    const counting = count(outbox());
    expect(counting.plants.value.map((p) => p.name)).toEqual(["S2", "S1"]);
    counting.finish();
    await flushPromises();
    expect(device.sent.at(-1)?.tally).toMatchObject({ plant_id: 2, value: 0, finished: true });
    expect(counting.plant.value?.name).toBe("S1");
  });

  it("sends the taps of a plant as one session with rising steps, and undoes", async () => {
    const counting = count(outbox());
    counting.add(1);
    counting.add(5);
    counting.undo();
    await flushPromises();
    expect(counting.count.value.value).toBe(1);
    expect(new Set(device.sent.map((p) => p.tally.session)).size).toBe(1);
    expect(device.sent.at(-1)?.tally).toMatchObject({ value: 1, step: 3, finished: false });
  });

  it("undoes the last two hundred taps and no more", async () => {
    const counting = count(outbox());
    for (let k = 0; k < 250; k++) counting.add(1);
    for (let k = 0; k < 250; k++) counting.undo();
    await flushPromises();
    expect(counting.count.value.value).toBe(50);
    expect(counting.canUndo.value).toBe(false);
  });

  it("draws a tap before it writes it down, and writes all of them in order when the page is left", async () => {
    const box = outbox();
    const counting = effectScope().run(() =>
      useCounting(
        bench(),
        0,
        nothing,
        box,
        device.storage,
        () => `session-${device.names++}`,
        () => null,
        "",
        afterPaint,
      ),
    ) as Counting;
    counting.add(1);
    counting.add(5);
    counting.finish();
    expect([counting.count.value.value, [...counting.done], box.waiting.value]).toEqual([null, [2], 0]);
    window.dispatchEvent(new Event("pagehide"));
    expect(box.waiting.value).toBe(3);
    await flushPromises();
    expect(device.sent.map((p) => [p.tally.value, p.tally.step, p.tally.finished])).toEqual([
      [1, 1, false],
      [6, 2, false],
      [6, 3, true],
    ]);
    counting.go(0);
    counting.add(1);
    await vi.runAllTimersAsync();
    expect(device.sent.at(-1)?.tally).toMatchObject({ value: 7, step: 1, finished: true });
  });

  it("writes a tap down at once on a page that is not in view, where no picture comes", () => {
    const hidden = vi.spyOn(document, "hidden", "get").mockReturnValue(true);
    const box = outbox();
    const counting = effectScope().run(() =>
      useCounting(
        bench(),
        0,
        nothing,
        box,
        device.storage,
        () => "session",
        () => null,
        "",
        afterPaint,
      ),
    ) as Counting;
    counting.add(5);
    expect([counting.count.value.value, box.waiting.value]).toEqual([5, 1]);
    hidden.mockRestore();
  });

  it("makes a change of a kept number a correction of its own", async () => {
    const counting = count(outbox());
    counting.add(3);
    counting.finish();
    counting.go(0);
    counting.set({ value: 30 });
    await flushPromises();
    expect(new Set(device.sent.map((p) => p.tally.session)).size).toBe(2);
    expect(device.sent.at(-1)?.tally).toMatchObject({ value: 30, finished: true });
  });

  it("makes each visit to a kept number a correction of its own", async () => {
    const counting = count(outbox());
    counting.add(3);
    counting.finish();
    for (const value of [30, 31]) {
      counting.go(0);
      await flushPromises();
      counting.set({ value });
      counting.go(1);
      await flushPromises();
    }
    expect(new Set(device.sent.map((p) => p.tally.session)).size).toBe(3);
  });

  it("takes the counts made to match for those before, and nothing that is counted already or of another measure", async () => {
    const matched = (trial: Trial): Trial => ({ ...trial, plants: trial.plants.map((p) => ({ ...p, match_count: 10 * p.id })) });
    const counting = count(outbox(), matched(bench()));
    counting.add(4);
    expect(counting.matched.value.map((p) => p.name)).toEqual(["S1"]);
    counting.takeMatched();
    await flushPromises();
    expect(device.sent.map((p) => [p.tally.plant_id, p.tally.value, p.tally.finished])).toEqual([
      [2, 4, false],
      [1, 10, true],
    ]);
    expect([...counting.done]).toEqual([1]);
    for (const other of [bench("share"), bench("count", { samples: 3, beside: [] })]) {
      expect(count(outbox(), matched(other)).matched.value).toEqual([]);
    }
  });

  it("counts both sides of a share", async () => {
    const counting = count(outbox(), bench("share"));
    counting.addRest(1);
    counting.add(1);
    counting.add(1);
    await flushPromises();
    expect(device.sent.at(-1)?.tally).toMatchObject({ measure: "dead", value: 2, of: 3 });
  });

  it("survives a reload without a connection and sends when it is back", async () => {
    device.answer = () => Promise.reject(offline);
    const first = count(outbox());
    first.add(5);
    first.add(1);
    await flushPromises();

    const box = await reloaded();
    expect(box.waiting.value).toBe(2);
    const second = count(box);
    expect(second.count.value.value).toBe(6);
    device.answer = () => Promise.resolve({});
    second.add(1);
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
    // The page before it still runs in this test, and sends what it holds once more.
    const [last, ...more] = device.sent.filter((t) => t.tally.value === 7);
    expect([last?.tally.step, more.length]).toEqual([1, 0]); // a line of its own, that has seen the six
    expect(last?.tally.knows).toContain(`${device.sent[0]?.tally.session ?? ""}@2`);
  });

  it("tries again by itself", async () => {
    device.answer = () => Promise.reject(offline);
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    device.answer = () => Promise.resolve({});
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
  });

  it("does not lose a tap made while an older one is on its way", async () => {
    let release: () => void = () => undefined;
    device.answer = () =>
      new Promise(
        (done) =>
          (release = () => {
            done({});
          }),
      );
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    counting.add(1);
    device.answer = () => Promise.resolve({});
    release();
    await flushPromises();
    expect(device.sent.at(-1)?.tally.value).toBe(2);
    expect(box.waiting.value).toBe(0);
  });

  it("shows a refusal and does not send it for ever", async () => {
    device.answer = () => Promise.reject(new Fault("too_late_for_before", "too late", null, "leave it", 409));
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    expect(box.refused.value.map((r) => r.fault.code)).toEqual(["too_late_for_before"]);
    expect(box.waiting.value).toBe(0);
    expect(device.sent).toHaveLength(1);
    // It stays, also after a reload, until it is settled.
    const again = await reloaded();
    expect(again.refused.value).toHaveLength(1);
    expect(count(again).count.value.value).toBe(1);
    for (const refusal of again.refused.value) again.giveUp(refusal);
    await flushPromises();
    expect((await reloaded()).refused.value).toEqual([]);
  });

  it("takes a refusal back once the number is kept after all", async () => {
    device.answer = () => Promise.reject(new Fault("bad_day", "no", null, "", 422));
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    await flushPromises();
    device.answer = () => Promise.resolve({});
    counting.add(1);
    await flushPromises();
    expect(box.refused.value).toEqual([]);
  });

  it("waits until the last tap is with the program", async () => {
    let release: () => void = () => undefined;
    device.answer = () =>
      new Promise(
        (done) =>
          (release = () => {
            done({});
          }),
      );
    const box = outbox();
    count(box).add(1);
    let settled = false;
    void box.settled().then(() => (settled = true));
    await flushPromises();
    expect(settled).toBe(false);
    device.answer = () => Promise.resolve({});
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
    expect(device.sent).toEqual([]);
    counting.set({ total: 20 });
    expect(counting.missing.value).toBe("too_many");
    counting.set({ total: 40 });
    expect(counting.finish()).toBe(true);
    await flushPromises();
    expect(device.sent.at(-1)?.tally).toMatchObject({ value: 25, of: 40, finished: true });
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
    expect(device.sent.at(-1)?.tally).toMatchObject({ plant_id: 2, value: 25, of: 40, finished: true });
    expect(count(outbox(), bench("share")).count.value.value).toBeNull();
  });

  it("does not take a kept share for done while its correction cannot be", () => {
    const trial = bench("share");
    const kept = [
      { look_id: 70, plant_id: 2, measure: "dead", sample: 0, session: "kept-before", value: 5, of: 20, finished: true, counted_on: "2026-05-10" },
    ] as never;
    const counting = count(outbox(), trial, { ...nothing, tallies: kept });
    counting.go(0);
    expect(counting.done.has(2)).toBe(true);
    counting.set({ value: 30 });
    expect(counting.done.has(2)).toBe(false);
    expect(counting.incomplete.value.map((p) => p.name)).toEqual(["S2"]);
    counting.undo();
    expect(counting.incomplete.value).toEqual([]);
    expect(counting.count.value).toMatchObject({ value: 5, total: 20, finished: true });
  });

  it("remembers how many eggs a cluster has, and what was hatched comes out of them", async () => {
    const trial = bench("eggs");
    const counting = effectScope().run(() => useCounting(trial, 1, { ...nothing, totals: { 2: 30 } }, outbox(), device.storage, () => "session-x")) as Counting;
    expect(counting.count.value).toMatchObject({ value: null, total: 30 });
    counting.set({ value: 25 });
    counting.add(1);
    counting.finish();
    await flushPromises();
    expect(device.sent.at(-1)?.tally).toMatchObject({ value: 26, of: 30, finished: true });
  });

  it("says of which day a number is, and keeps the day of one that is corrected", async () => {
    const trial = bench();
    const kept = [
      { look_id: 70, plant_id: 2, measure: "live", sample: 0, session: "kept-before", value: 3, of: null, finished: true, counted_on: "2026-05-01" },
    ] as never;
    const corrected = count(outbox(), trial, { ...nothing, tallies: kept });
    corrected.go(0);
    corrected.set({ value: 4 });
    await flushPromises();
    expect(device.sent.at(-1)?.tally.counted_on).toBe("2026-05-01");
    const late = effectScope().run(() =>
      useCounting(
        trial,
        1,
        nothing,
        outbox(),
        device.storage,
        () => "session-y",
        () => "2026-05-16",
      ),
    ) as Counting;
    late.add(1);
    await flushPromises();
    expect(device.sent.at(-1)?.tally.counted_on).toBe("2026-05-16");
  });

  it("has a plant counted again that was counted before the day of the look", () => {
    const trial = { ...bench(), today: "2026-05-16" };
    trial.looks = [{ id: 71, number: 1, day: 7, hours: 0, when: "day 7", on: "2026-05-17" }] as never;
    const kept = [2, 1].map((id) => ({
      look_id: 71,
      plant_id: id,
      measure: "live",
      sample: 0,
      session: "kept-before",
      value: 3,
      of: null,
      finished: true,
      counted_on: "2026-05-10",
    })) as never;
    const counting = effectScope().run(() =>
      useCounting(trial, 1, { ...nothing, early: [2], tallies: kept }, outbox(), device.storage, () => "session-z"),
    ) as Counting;
    expect([...counting.done]).toEqual([1]);
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
    expect(device.sent.filter((t) => t.tally.finished).map((t) => [t.tally.sample, t.tally.value])).toEqual([
      [1, 4],
      [2, 0],
      [3, 2],
    ]);
    expect(new Set(device.sent.map((t) => t.tally.session)).size).toBe(3);
    expect([counting.plant.value?.name, counting.sample.value]).toEqual(["S1", 1]);
    counting.go(0);
    expect([counting.whole.value, values(counting)]).toEqual([6, [4, 0, 2]]);
    expect([...counting.done]).toEqual([2]);
  });

  it("lets a plant with fewer leaves be done", async () => {
    const counting = count(outbox(), six());
    counting.add(4);
    counting.finish(true);
    await flushPromises();
    expect(device.sent.at(-1)?.tally).toMatchObject({ sample: 1, last: true, finished: true });
    expect(counting.plant.value?.name).toBe("S1");
    expect([...counting.done]).toEqual([2]);
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
    expect(device.sent.at(-1)?.tally).toMatchObject({ sample: 1, value: null });
  });

  it("counts a young one among the live too, the dead out of both, and confirms zeros", async () => {
    const counting = count(outbox(), six(["young", "dead", "eggs", "damage"]));
    counting.add(2);
    counting.add(1, "young");
    counting.add(1, "dead");
    counting.finish();
    await flushPromises();
    const held = new Map(device.sent.map((t) => [t.tally.measure, t.tally]));
    expect(held.get("live")).toMatchObject({ value: 3, finished: true });
    expect(held.get("young")).toMatchObject({ value: 1, finished: true });
    expect(held.get("dead")).toMatchObject({ value: 1, of: 4, finished: true });
    expect(held.get("eggs")).toMatchObject({ value: 0, finished: true });
  });

  it("keeps no share of nothing where neither live nor dead are found", async () => {
    const counting = count(outbox(), six(["dead"]));
    counting.finish();
    await flushPromises();
    expect(device.sent.map((t) => t.tally.measure)).toEqual(["live"]);
    expect(counting.sample.value).toBe(2);
  });

  it("says which counts of a leaf it knew of, so that a correction is none against another device", async () => {
    const kept = [
      { plant_id: 2, sample: 1, measure: "live", session: "the-other-one", step: 4, value: 3, of: null, finished: true, counted_on: "2026-05-10" },
    ] as never;
    const counting = count(outbox(), six(), { ...nothing, tallies: kept });
    expect(counting.sample.value).toBe(2);
    counting.goLeaf(1);
    counting.add(1);
    counting.goLeaf(3);
    counting.add(1);
    await flushPromises();
    expect(device.sent[0]?.tally.knows).toContain("the-other-one@4");
    expect(device.sent[1]?.tally.knows).toEqual([device.sent[1]?.tally.session]);
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
    const kept = device.sent.filter((t) => t.tally.finished).map((t) => [t.tally.measure, t.tally.value, t.tally.effort]);
    expect(kept).toEqual([
      ["live", 12, 0.25],
      ["eggs", 3, 0.25],
    ]);
    expect(device.sent.at(-1)?.tally.effort).toBe(1);
    expect(counting.whole.value).toBe(53);
    counting.undo();
    counting.undo();
    counting.undo();
    counting.undo();
    expect(counting.count.value.part ?? 1).toBe(1);
  });

  it("counts nothing by saying how much of a leaf it will count", async () => {
    const counting = count(outbox(), six());
    counting.setPart(0.5);
    expect([counting.part.value, counting.count.value.value]).toEqual([0.5, null]);
    counting.setPart(1);
    await flushPromises();
    expect([counting.part.value, counting.count.value.value, device.sent]).toEqual([1, null, []]);
    counting.setPart(0.5);
    counting.add(4);
    counting.finish();
    await flushPromises();
    expect(device.sent.at(-1)?.tally).toMatchObject({ value: 4, effort: 0.5 });
    expect(counting.part.value).toBe(1); // the next leaf is a whole one
  });

  it("finds its leaf again after a reload without a connection", async () => {
    device.answer = () => Promise.reject(offline);
    const counting = count(outbox(), six());
    counting.add(4);
    counting.finish();
    counting.add(1);
    await flushPromises();
    const again = count(await reloaded(), six());
    expect([again.sample.value, values(again)]).toEqual([2, [4, 1, null]]);
  });
});
