// Talking to the program: faults in words, changes in turn, drafts that outlive a reload.
import { eventually } from "./wire";
import { mount } from "@vue/test-utils";
import { beforeEach, describe, expect, it } from "vitest";
import { nextTick, reactive, ref } from "vue";
import { asFault, Fault, take, type Trial } from "../src/api/client";
import { useAfterPaint } from "../src/composables/useAfterPaint";
import { useDraft } from "../src/composables/useDraft";
import { provideTrial, type TrialStore } from "../src/composables/useTrial";
import { questionIn } from "../src/question";
import { usualSetup } from "./usual";

const ok = { ok: true, status: 200 } as Response;

describe("answers", () => {
  it("gives the data of a good answer", async () => {
    expect(await take(Promise.resolve({ data: 3, response: ok }))).toBe(3);
  });

  it("turns the program's error into a fault with its field and fix", async () => {
    const error = { error: { code: "too_large", message: "too many", field: "rows", fix: "Less." } };
    const call = take(Promise.resolve({ error, response: { ok: false, status: 422 } as Response }));
    await expect(call).rejects.toMatchObject({ code: "too_large", field: "rows", fix: "Less.", offline: false });
    const more = [{ code: "empty", message: "no name", field: "name", fix: "Give one." }];
    const several = take(Promise.resolve({ error: { ...error, more }, response: { ok: false, status: 422 } as Response }));
    expect(await several.catch((thrown: Fault) => thrown.at("name"))).toMatchObject({ message: "no name", fix: "Give one." });
  });

  it("has words for an empty error and for no answer at all", async () => {
    const empty = take(Promise.resolve({ response: { ok: false, status: 500 } as Response }));
    await expect(empty).rejects.toMatchObject({ status: 500, message: "the program answered with 500" });
    await expect(take(Promise.reject(new TypeError("fetch failed")))).rejects.toMatchObject({ offline: true });
    expect(asFault("oh").message).toBe("oh");
  });
});

describe("a trial's store", () => {
  function store(): TrialStore {
    let made: TrialStore | undefined;
    mount({
      setup: () => {
        made = provideTrial(1);
      },
      template: "<i />",
    });
    return made as TrialStore;
  }
  const version = (n: number): Trial => ({ id: n }) as Trial;

  it("makes changes one after the other, so that a slow old answer never wins", async () => {
    const { trial, change, busy } = store();
    const order: string[] = [];
    let release: () => void = () => undefined;
    const slow = change(async () => {
      order.push("slow begins");
      await new Promise<void>((done) => (release = done));
      order.push("slow ends");
      return version(1);
    });
    const quick = change(() => {
      order.push("quick");
      return Promise.resolve(version(2));
    });
    await nextTick();
    expect(busy.value).toBe(true);
    release();
    await Promise.all([slow, quick]);
    expect(order).toEqual(["slow begins", "slow ends", "quick"]);
    expect(trial.value?.id).toBe(2);
    expect(busy.value).toBe(false);
  });

  it("gives back the fault of a change, keeps the trial, and goes on", async () => {
    const { trial, change } = store();
    await change(() => Promise.resolve(version(1)));
    const fault = await change(() => Promise.reject(new Fault("x", "no", null, "", 409)));
    expect(fault?.code).toBe("x");
    expect(trial.value?.id).toBe(1);
    expect(await change(() => Promise.resolve(version(3)))).toBeNull();
    expect(trial.value?.id).toBe(3);
  });
});

describe("drafts", () => {
  beforeEach(() => localStorage.clear());

  it("outlive a reload until they are taken up", async () => {
    const [form] = useDraft("test", { name: "", days: [1] });
    form.name = "Gutters";
    form.days.push(2);
    await nextTick();
    const [again, forget] = useDraft("test", { name: "", days: [] as number[] });
    expect(again).toEqual({ name: "Gutters", days: [1, 2] });
    forget();
    again.name = "later";
    await nextTick();
    expect(useDraft("test", { name: "fresh" })[0].name).toBe("fresh");
  });

  it("are not stopped by a broken store", () => {
    localStorage.setItem("orthocris.draft.test", "{broken");
    expect(useDraft("test", { name: "fresh" })[0].name).toBe("fresh");
  });
});

describe("a question sent again", () => {
  it("changes only what was asked to change", () => {
    const trial = {
      name: "x",
      pest: "aphids",
      measure: { key: "live" },
      threshold: 0.6,
      start_on: "2026-05-10",
      looks: [
        { number: 0, day: 0, hours: 0, when: "day 0" },
        { number: 1, day: 3, hours: 0, when: "day 3" },
      ],
      rounds: [{ day: 0 }, { day: 3 }, { day: 5 }],
      round_days: [0, 5], // day 3 is one remedy's own
      remedies: [{ id: 4, name: "Water", role: "control", recipe: "", traits: {}, letter: "A", notches: 1, cautions: [] }],
      setup: { ...usualSetup, kind: "ladder" },
    } as unknown as Trial;
    const sent = questionIn(trial, { shields: true });
    expect(sent.look_days).toEqual([3]);
    expect(sent.round_days).toEqual([0, 5]);
    expect(sent.setup).toMatchObject({ kind: "ladder", shields: true, place_cm: 40 });
    expect(sent.remedies[0]).toEqual({ id: 4, name: "Water", role: "control", recipe: "", traits: {} });
  });
});

describe("what follows one picture behind", () => {
  it("is old until the picture is drawn, and new at once when it is of something else", async () => {
    const counts = reactive<Record<string, number>>({ P1: 4, P2: 9 });
    const plant = ref("P1");
    const shown = useAfterPaint(() => counts[plant.value], [plant]);
    counts["P1"] = 5;
    await nextTick();
    expect(shown.value).toBe(4);
    await eventually(() => {
      expect(shown.value).toBe(5);
    });
    counts["P1"] = 6;
    plant.value = "P2";
    await nextTick();
    expect(shown.value).toBe(9);
  });
});
