// The day ribbon, generations, strengths, the words of mixing, and the walk of a spray round.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, describe, expect, it } from "vitest";
import { computed, effectScope, shallowRef } from "vue";
import type { Remedy, Schemas, Trial, Tag } from "../src/api/client";
import { daysShown, layers } from "../src/charts/generations";
import { alongRibbon, clockOf, dawnToDark, inLines, spans, timeOf } from "../src/charts/ribbon";
import { strengthAxis } from "../src/charts/strength";
import DayRibbon from "../src/components/weather/DayRibbon.vue";
import GenerationsPicture from "../src/components/field/GenerationsPicture.vue";
import PatchCell from "../src/components/field/PatchCell.vue";
import { useAnswer } from "../src/composables/useAnswer";
import { useSpraying } from "../src/composables/useSpraying";
import { amount, how, life, measured, roundingNote, volume } from "../src/mixing";

// A page left behind would go on asking in the tests after it.
enableAutoUnmount(afterEach);

function hour(clock: number, closed = "", light = true): Schemas["HourOut"] {
  return {
    at: `2026-05-10T${String(clock).padStart(2, "0")}:00:00+02:00`,
    temperature: 18,
    humidity: 60,
    rain: 0,
    wind: 5,
    sun: 0,
    light,
    bees: false,
    forecast: false,
    open: closed === "",
    drying: 0.8,
    closed_by: closed,
    closed_word: closed && `closed by ${closed}`,
    against: closed ? [`${closed} speaks against it`] : [],
    notes: [],
  };
}

const day = Array.from({ length: 24 }, (_, k) => hour(k, k < 6 || k > 20 ? "dark" : k < 9 ? "wet" : k < 18 ? "bees" : "", k >= 6 && k <= 20));

describe("the day ribbon", () => {
  it("runs from the hour before light to the hour after", () => {
    expect(dawnToDark(day)).toEqual([5, 21]);
    expect(dawnToDark(day.map((h) => ({ ...h, light: false })))).toEqual([0, 23]);
  });

  it("joins hours of one reason", () => {
    expect(spans(day.slice(5, 22)).map((s) => [s.key, s.hours])).toEqual([
      ["dark", 1],
      ["wet", 3],
      ["bees", 9],
      ["open", 3],
      ["dark", 1],
    ]);
  });

  it("is cut into lines of about the same length", () => {
    const lengths = (count: number, most: number): number[] => inLines(Array(count).fill(0), most).map((line) => line.own.length);
    expect([lengths(17, 28), lengths(17, 9), lengths(24, 9), lengths(17, 0)[0]]).toEqual([[17], [9, 8], [8, 8, 8], 1]);
  });

  it("knows times as they were said there", () => {
    expect(clockOf("2026-05-10T19:30:00+02:00")).toBe(19.5);
    expect(timeOf("2026-05-10T19:30:00+02:00")).toBe("19:30");
    expect(alongRibbon(12, 5, 14)).toBe(0.5);
    expect(alongRibbon(3, 5, 14)).toBeNull();
    expect([alongRibbon(12, 3, 9, false), alongRibbon(12, 12, 8)]).toEqual([null, 0]); // on one line of two
  });

  const ribbon: Schemas["RibbonOut"] = {
    station: "roof",
    by_hand: false,
    outdoors: true,
    known: true,
    now: "2026-05-10T10:20:00+02:00",
    sunrise: 6.25,
    sunset: 20.5,
    hours: day,
    rows: [],
    days: [
      { day: "2026-05-10", best: "2026-05-10T19:00:00+02:00", open_hours: 3, why: "" },
      { day: "2026-05-11", best: null, open_hours: 0, why: "rain" },
    ],
  };

  it("says the best hour, why an hour is closed, and hangs the jobs at theirs", async () => {
    const jobs = [{ title: "Spray, round 2", at: "2026-05-10T19:00:00+02:00" }];
    const view = mount(DayRibbon, { props: { ribbon, jobs }, global: { stubs: { RouterLink: true } } });
    expect(view.text()).toContain("Best hour today: 19:00");
    expect(view.text()).toContain("sun 06:15 to 20:30");
    expect(view.get("[role=status]").text()).toContain("bees speaks against it");
    await view
      .findAll(".hours button")
      .find((hour) => hour.text().startsWith("19:00"))
      ?.trigger("click");
    expect(view.get("[role=status]").text()).toContain("leaves dry in about 0.8 h");
    expect(view.get(".hook").text()).toBe("19:00 Spray, round 2");
    expect(view.get(".days").text()).toContain("rain");
  });

  it("speaks of no bad hour where nothing is known", () => {
    const days = [{ day: "2026-05-10", best: null, open_hours: 0, why: "no weather is known" }];
    const view = mount(DayRibbon, { props: { ribbon: { ...ribbon, known: false, days } }, global: { stubs: { RouterLink: true } } });
    expect(view.text()).toContain("Nothing is known of today's weather");
    expect(view.text()).not.toContain("No good hour");
    expect(view.text()).not.toContain("no weather is known");
  });

  it("asks in three words where nothing is known, and again where it was said otherwise", async () => {
    const sent: unknown[] = [];
    wire.answer = async (request) => {
      sent.push(await request.json());
      return new Response("{}", { headers: { "Content-Type": "application/json" } });
    };
    const view = mount(DayRibbon, { props: { ribbon: { ...ribbon, known: false } }, global: { stubs: { RouterLink: true } } });
    const press = async (words: string): Promise<void> =>
      view
        .findAll("button")
        .find((b) => b.text() === words)
        ?.trigger("click");
    await press("leaves move");
    expect(sent).toHaveLength(0); // how warm it is was not said yet
    await press("mild");
    await flushPromises();
    expect(sent.at(-1)).toEqual({ warmth: "mild", breeze: "leaves", wet: "none" });
    expect(view.emitted("said")).toHaveLength(1);
    await view.setProps({ ribbon: { ...ribbon, by_hand: true } });
    expect(view.get("details").text()).toContain("Is it otherwise than you said?");
  });
});

const generations: Schemas["GenerationsOut"] = {
  days: Array.from({ length: 20 }, (_, k) => `2026-05-${String(10 + k)}`),
  eggs: Array.from({ length: 20 }, (_, k) => Math.max(1 - k / 5, 0)),
  young: Array.from({ length: 20 }, (_, k) => Math.min(k / 5, 1) - Math.max(Math.min((k - 7) / 5, 1), 0)),
  grown: Array.from({ length: 20 }, (_, k) => Math.max(Math.min((k - 7) / 5, 1), 0)),
  hatched_on: "2026-05-15",
  lays_on: "2026-05-17",
  safe_stages: ["eggs"],
};

describe("generations", () => {
  it("stack to a whole from the bottom up", () => {
    const [eggs, , grown] = layers(generations, 10, 100, 50);
    expect(eggs?.path.startsWith("M0 0L10 10")).toBe(true); // all eggs, then a fifth fewer
    expect(grown?.path).toContain("100 0"); // the top of the last layer is the whole
  });

  it("show enough days", () => {
    expect([daysShown(7, 5), daysShown(null, 5), daysShown(90, 0), daysShown(3, 30)]).toEqual([14, 33, 60, 32]);
  });

  it("are told in words with the rounds", () => {
    const rounds = [
      { number: 1, on: "2026-05-10", sprayed: true },
      { number: 2, on: "2026-05-15", sprayed: false },
    ];
    const view = mount(GenerationsPicture, { props: { generations, rounds, proposed: "2026-05-16" } });
    expect(view.text()).toContain("most eggs have hatched by Fri 15 May; their first daughters lay from Sun 17 May");
    expect(view.findAll(".round")).toHaveLength(2);
    expect(view.findAll(".round.planned")).toHaveLength(1);
    expect(view.text()).toContain("does not reach eggs");
  });
});

describe("strengths", () => {
  it("twice as strong is as far anywhere", () => {
    const axis = strengthAxis([5, 20, null], 300);
    expect(axis && axis.at(10) - axis.at(5)).toBeCloseTo(axis ? axis.at(20) - axis.at(10) : NaN);
    expect(strengthAxis([null, 0], 300)).toBeNull();
  });
});

describe("words of mixing", () => {
  const spoon = { tool: "teaspoon", fills: 2, rest: 2.5, amount: 12.5, error: 0.03, warns: false };
  it("say amounts as they are measured", () => {
    expect([amount(741.4), amount(0.3751), volume(750), volume(1000), volume(1500)]).toEqual(["741", "0.375", "750 ml", "1 litre", "1.5 litres"]);
    expect(measured(spoon, "ml")).toBe("2 × teaspoon and 2.5 ml");
    expect(how({ measured: null, level: 750 } as Schemas["PourOut"])).toBe("top up to 750 ml");
    expect([life(8), life(72), life(null)]).toEqual(["8 hours", "3 days", "by its label"]);
  });

  it("say what rounding changes, loudly above a tenth", () => {
    expect(roundingNote({ ...spoon, error: 0.001 }, 12.5, "ml")).toBeNull();
    expect(roundingNote(spoon, 12.1, "ml")).toBe("3% more than the exact 12.1 ml.");
    expect(roundingNote({ ...spoon, error: -0.2, warns: true }, 15, "ml")).toContain("20% too little");
  });
});

describe("the walk of a spray round", () => {
  const tag = (letter: string, notches: number) => ({ letter, notches, remedy_id: null, poured: true }) as Tag;
  const plant = (id: number, letter: string) => ({ id, name: `S${String(id)}`, row: 1, place: id, letter, set_aside: null });
  const found = {
    walk: [1, 2, 3, 4],
    plants: [plant(1, "B"), plant(2, "A"), plant(3, "B"), plant(4, "A")],
    tags: [tag("A", 1), tag("B", 2)],
    remedies: [],
    care: { ml_per_plant: 40 },
    rounds: [{ number: 1, due: [1, 2, 3, 4], sprayed: [2], skipped: [3] }],
  } as unknown as Trial;

  it("goes bottle by bottle to what is still open, and knows the neighbours", () => {
    const trial = shallowRef<Trial | null>(found);
    const walk = useSpraying(
      computed(() => trial.value),
      1,
      () => "key-0001",
    );
    expect(walk.stops.value.map((s) => [s.plant.name, s.mark])).toEqual([
      ["S2", "sprayed"],
      ["S4", "open"],
      ["S1", "open"],
      ["S3", "skipped"],
    ]);
    expect(walk.stop.value?.plant.name).toBe("S4");
    expect(walk.neighbours.value.map((p) => p.name)).toEqual(["S3"]);
    expect(walk.done.value).toBe(2);
    walk.next();
    expect(walk.stop.value?.plant.name).toBe("S1");
    walk.next(); // around to the first that is open
    expect(walk.stop.value?.plant.name).toBe("S4");
    walk.order.value = "plants";
    expect(walk.stops.value.map((s) => s.plant.name)).toEqual(["S1", "S2", "S3", "S4"]);
  });

  it("sends what was done there, and begins afresh at the next plant", () => {
    const walk = useSpraying(
      computed(() => found),
      1,
      () => "key-0001",
    );
    Object.assign(walk.details, { volume: 50, undersides: false, neighbour: 3 });
    expect(walk.entry("sprayed")).toMatchObject({ plant_id: 4, volume: 50, undersides: false, drifted: true, neighbour_id: 3, key: "key-0001" });
    expect(walk.entry("skipped", { note: "a bee" })).toMatchObject({ kind: "skipped", volume: null, note: "a bee" });
    walk.next();
    expect(walk.details).toEqual({ volume: 40, undersides: true, drifted: false, neighbour: null });
  });
});

describe("a patch test", () => {
  const remedy = { id: 2, name: "Soap", letter: "B", notches: 2 } as Remedy;
  const test: Schemas["PatchOut"] = {
    id: 9,
    leaves: 3,
    strength: 1,
    applied_at: "2026-05-10T08:00:00Z",
    treated_before: 0,
    beside_before: 0,
    readings: [],
    hours: [24, 48],
    outcome: "running",
    worst: 0,
    reason: "next look after 24 hours",
    next_look: "2026-05-11T08:00:00Z",
  };
  const stubs = { "el-button": { template: "<button type='submit'><slot /></button>" }, "el-select": true, "el-option": true, "el-checkbox": true };
  const at = (iso: string, tests = [test]) =>
    mount(PatchCell, {
      props: { cell: { remedy_id: 2, remedy: "Soap", leaf_kind: "green", left_out: false, hours: [24, 48], tests }, remedy, now: Date.parse(iso) },
      global: { stubs },
    });

  it("is looked at from its hour on, beside an unsprayed leaf", async () => {
    expect(at("2026-05-10T20:00:00Z").find("form").exists()).toBe(false);
    const view = at("2026-05-11T05:00:00Z");
    expect(view.text()).toContain("Soap");
    await view.findAll("[role=group]")[0]?.findAll("button")[2]?.trigger("click");
    await view.get("form").trigger("submit");
    expect(view.emitted("look")?.[0]).toEqual([9, { hours: 24, treated: 2, beside: 0, harm: "none" }]);
  });

  it("is put on again when it must be weaker", async () => {
    const view = at("2026-05-13T08:00:00Z", [{ ...test, outcome: "weaker", next_look: null }]);
    await view.get("button").trigger("click");
    await view.get("form").trigger("submit");
    expect(view.emitted("putOn")?.[0]).toEqual([
      { remedy_id: 2, leaf_kind: "green", leaves: 3, strength: 0.5, treated_before: 0, beside_before: 0, applied_at: null },
    ]);
  });

  it("is corrected where a look stands, and failed by damage that shows later", async () => {
    const seen = [24, 48].map((hours) => ({ hours, seen_at: "2026-05-12T08:00:00Z", treated: 1, beside: 1, harm: "none" as const }));
    const view = at("2026-05-16T09:00:00Z", [{ ...test, outcome: "passed", next_look: null, readings: seen }]);
    expect(view.find("form").exists()).toBe(false);
    await view.get("[aria-label='Correct the look after 24 h']").trigger("click");
    await view.findAll("[role=group]")[0]?.findAll("button")[3]?.trigger("click");
    await view.get("form").trigger("submit");
    expect(view.emitted("look")?.[0]).toEqual([9, { hours: 24, treated: 3, beside: 1, harm: "none" }]);
    await view
      .findAll("button")
      .find((b) => b.text() === "Damage shows on them only now")
      ?.trigger("click");
    expect(view.text()).toContain("Keep the look after 6 days");
    await view.get("form").trigger("submit");
    expect(view.emitted("look")?.[1]).toEqual([9, { hours: 145, treated: 0, beside: 0, harm: "none" }]);
  });
});

describe("an answer", () => {
  it("that comes late never overwrites a newer one", async () => {
    const waiting: ((value: string) => void)[] = [];
    const call = () => new Promise<string>((resolve) => waiting.push(resolve));
    const answer = effectScope().run(() => useAnswer(call));
    if (!answer) throw new Error("no scope");
    const first = answer.load();
    const second = answer.load();
    waiting[1]?.("new");
    await second;
    waiting[0]?.("old");
    await first;
    expect(answer.data.value).toBe("new");
  });
});
