// The box of the device: every tap under its own name, kept, sent, refused, or carried over.
import { flushPromises } from "./wire";
import { describe, expect, it, vi } from "vitest";
import { count, device, nothing, offline, outbox, reloaded } from "./countingWorld";
import { Fault } from "../src/api/client";
import { sheetName, withTap } from "../src/api/keptCounts";
import { carryOver, createOutbox } from "../src/composables/useOutbox";
import { howLong } from "../src/words";

describe("the box of the device", () => {
  it("gives every tap a name of its own and sends what gathered meanwhile at once", async () => {
    device.answer = () => Promise.reject(offline);
    const box = outbox();
    const counting = count(box);
    for (let k = 0; k < 1200; k++) counting.add(1);
    await flushPromises();
    device.answer = () => Promise.resolve({});
    device.sent = [];
    device.asked = 0;
    await vi.advanceTimersByTimeAsync(3100);
    expect(new Set(device.sent.map((t) => t.key)).size).toBe(1200);
    expect(device.sent.map((t) => t.tally.step)).toEqual(Array.from({ length: 1200 }, (_, k) => k + 1));
    expect(device.asked).toBe(3);
    expect(box.waiting.value).toBe(0);
  });

  it("counts under a name of its own on each page, and after a reload corrects what it knows", async () => {
    const [one, other] = [count(outbox()), count(outbox())]; // two tabs of one browser
    one.add(8);
    other.add(11);
    await flushPromises();
    const names = device.sent.map((tap) => tap.tally.session);
    expect(new Set(names).size).toBe(2);
    expect(device.sent[1]?.tally.knows).toEqual([names[1]]); // it has not seen the eight
    device.answer = () => Promise.reject(offline);
    count(await reloaded()).add(3); // waits on this device
    await flushPromises();
    const before = device.sent.at(-1)?.tally;
    count(await reloaded()).add(1);
    await flushPromises();
    const last = device.sent.at(-1)?.tally;
    expect(last?.session).not.toBe(before?.session);
    expect(last?.value).toBe(4);
    expect(last?.knows).toContain(`${before?.session ?? ""}@1`);
  });

  it("asks the program only once the device has the tap", async () => {
    const order: string[] = [];
    const put = device.box.put;
    device.box.put = async (shelf, records) => {
      await Promise.resolve();
      await put(shelf, records);
      order.push("kept here");
    };
    device.answer = () => {
      order.push("sent");
      return Promise.resolve({});
    };
    const box = outbox();
    await box.ready;
    count(box).add(1);
    await flushPromises();
    expect(order).toEqual(["kept here", "sent"]);
  });

  it("keeps what a broken program could not take, and sends it again", async () => {
    device.answer = () => Promise.reject(new Fault("unforeseen", "a mistake", null, "", 500));
    const box = outbox();
    count(box).add(3);
    await flushPromises();
    expect([box.waiting.value, box.refused.value.length]).toEqual([1, 0]);
    device.answer = () => Promise.resolve({});
    await vi.advanceTimersByTimeAsync(3100);
    expect([box.waiting.value, device.sent.at(-1)?.tally.value]).toEqual([0, 3]);
  });

  it("knows the newest number of a leaf while an older one is answered", async () => {
    let release = (): void => undefined;
    device.answer = () =>
      new Promise((done) => {
        release = () => {
          done({});
        };
      });
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    await flushPromises();
    counting.add(1); // made while the first is under way
    release();
    await flushPromises();
    expect(box.pending(9, 0, 2, 0, "live")?.value).toBe(2);
  });

  it("says how wrong the device's clock goes", async () => {
    device.answer = () => Promise.resolve({ slow: 20 * 86_400 });
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    expect([box.slow.value, howLong(box.slow.value), howLong(7200), howLong(600)]).toEqual([1_728_000, "20 days", "2 hours", "10 minutes"]);
  });

  it("writes what was taken into the copy of the look that this device keeps", () => {
    const tally = {
      plant_id: 2,
      sample: 0,
      measure: "live" as const,
      value: 8,
      effort: 1,
      finished: true,
      last: false,
      classed: false,
      person: "",
      session: "this-page",
      step: 3,
    };
    const once = withTap({ ...nothing, early: [2] }, { tally, at: "2026-05-10T08:00:00Z" });
    expect(once.tallies).toMatchObject([{ plant_id: 2, value: 8, finished: true, session: "this-page", step: 3, counted_on: "2026-05-10" }]);
    expect(once.early).toEqual([]);
    const older = withTap(once, { tally: { ...tally, value: 7, step: 2 }, at: "2026-05-10T07:00:00Z" });
    expect(older).toEqual(once);
    const fixed = withTap(once, { tally: { ...tally, session: "later-on", value: 9, step: 1 }, at: "2026-05-12T08:00:00Z" });
    expect(fixed.tallies).toMatchObject([{ value: 9, counted_on: "2026-05-10" }]);
    expect([sheetName(3, 0), sheetName(3, 1, "Ada")]).toEqual(["sheet/3/0", "sheet/3/1/Ada"]);
  });

  it("keeps a tap that was refused among others, with its reason", async () => {
    device.answer = () => Promise.resolve({ refused: [{ key: "tap-1", code: "bad_day", message: "no", fix: "" }] });
    const box = outbox();
    count(box).add(1); // tap-1: the first name is the session's
    await flushPromises();
    expect(box.refused.value.map((r) => r.tap.key)).toEqual(["tap-1"]);
    expect(await (await reloaded()).refused.value.length).toBe(1);
  });

  it("does not let one tap that cannot be read hold back the others", async () => {
    device.answer = () => Promise.reject(offline);
    const box = outbox();
    const counting = count(box);
    counting.add(1);
    counting.finish();
    counting.add(7);
    await flushPromises();
    device.answer = () => {
      const last = device.sent.at(-1)?.tally.value;
      return device.sent.length > 1 && last === 1 ? Promise.reject(new Fault("bad", "no", null, "", 422)) : Promise.resolve({});
    };
    device.sent = [];
    await vi.advanceTimersByTimeAsync(3100);
    expect(box.waiting.value).toBe(0);
    expect(device.sent.map((t) => t.tally.value)).toContain(7);
  });

  it("waits, and says so, while the program asks for the passcode", async () => {
    device.answer = () => Promise.reject(new Fault("passcode", "who is it", null, "", 401));
    const box = outbox();
    count(box).add(1);
    await flushPromises();
    expect([box.shut.value, box.waiting.value, box.refused.value.length]).toEqual([true, 1, 0]);
  });

  it("says that a device keeps nothing, and still sends", async () => {
    const closed = createOutbox(
      () => Promise.resolve({ kept: [], refused: [], contested: [], slow: 0 }),
      Promise.reject(new Error("private")),
      () => "a-name",
      () => "",
    );
    await closed.ready;
    expect(closed.trouble.value).toContain("keeps nothing");
    count(closed).add(1);
    await flushPromises();
    expect(closed.waiting.value).toBe(0);
  });

  it("sends what an earlier version had kept in the page's own storage", async () => {
    const old = { trial: 9, look: 0, body: { plant_id: 2, measure: "live", value: 7, effort: 1, finished: true, session: "an-old-session", step: 4 } };
    device.storage.setItem("orthocris.outbox", JSON.stringify({ "9/0/2/live/an-old-session": old }));
    device.storage.setItem("orthocris.refused", JSON.stringify({ "9/0/1/live": { parcel: { ...old, body: { ...old.body, plant_id: 1 } }, fault: {} } }));
    carryOver(outbox(), device.storage);
    await flushPromises();
    expect(device.sent.map((t) => [t.tally.plant_id, t.tally.value])).toEqual([
      [2, 7],
      [1, 7],
    ]);
    expect(device.storage.length).toBe(0);
  });
});
