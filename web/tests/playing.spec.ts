// A plan played through: what is played of a trial or a question, and the page with its stations.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { alongHeaps, heaps } from "../src/charts/heaps";
import { USUAL, benchOf, playableDraft, playableTrial } from "../src/playing";
import PlayView from "../src/views/playing/PlayView.vue";
import type { Schemas, Trial } from "../src/api/client";

enableAutoUnmount(afterEach);
vi.mock("vue-router", () => ({
  useRoute: () => ({ query: {}, name: "play", fullPath: "/play" }),
  RouterLink: { template: "<a><slot /></a>" },
}));

const question = {
  measure: "live" as const,
  threshold: "60",
  look_days: "12 h, 3, 7-9",
  round_days: "0, 7",
  remedies: [
    { id: null, name: "Soap", role: "remedy" as const, recipe: "" },
    { id: null, name: "Left alone", role: "control" as const, recipe: "" },
    { id: null, name: "", role: "remedy" as const, recipe: "" },
  ],
};

it("plays a question as soon as it says enough, the control first and looks on whole days", () => {
  expect(playableDraft(question, { count: "14", rows: "2" })?.plan).toMatchObject({
    remedies: [{ name: "Left alone" }, { name: "Soap" }],
    plants: 14,
    looks: [1, 3, 7, 8, 9],
    rounds: [0, 7],
    threshold: 0.6,
  });
  expect(playableDraft({ ...question, look_days: "" }, { count: "14", rows: "2" })).toBeNull();
  expect(playableDraft(question, { count: "many", rows: "2" })).toBeNull();
  expect(playableDraft({ ...question, remedies: question.remedies.slice(0, 1) }, { count: "14", rows: "2" })).toBeNull();
});

it("plays a trial's plants that still stand, and no trial without a control", () => {
  const remedy = (name: string, role: string): object => ({ name, role, traits: { first_look_days: 4 } });
  const trial = {
    name: "Phlox",
    threshold: 0.5,
    round_days: [0, 6],
    setup: { two_looks: true },
    measure: { key: "cover" },
    looks: [
      { day: 0, hours: 0 },
      { day: 6, hours: 12 },
    ],
    plants: [
      { row: 1, set_aside: null },
      { row: 2, set_aside: null },
      { row: 2, set_aside: "died" },
    ],
    remedies: [remedy("Milk", "remedy"), remedy("Water", "control")],
  };
  expect(playableTrial(trial as unknown as Trial)).toMatchObject({
    on: "Phlox",
    rows: 2,
    plan: { plants: 2, looks: [7], rounds: [0, 6], measure: "cover", two_looks: true, remedies: [{ name: "Water", days_to_show: 4 }, { name: "Milk" }] },
  });
  expect(playableTrial({ ...trial, remedies: trial.remedies.slice(0, 1) } as unknown as Trial)).toBeNull();
});

it("heaps dots on a line that holds them all", () => {
  const dots = heaps([...Array<number>(150).fill(0.4), 0.41, -7], 640, 70, (v) => v > 0.3);
  expect(dots.filter((d) => d.fooled)).toHaveLength(151);
  expect(Math.min(...dots.map((d) => d.y))).toBeGreaterThan(0);
  expect(Math.min(...dots.map((d) => d.x))).toBeCloseTo(alongHeaps(-1) * 640, -1);
});

const plants = [1, 2, 3, null].map((tag) => ({ tag, group: tag && 1, counts: [30, 12] }));
const start: Schemas["PlayOut"] = {
  day: 0,
  due: "count",
  choices: ["count"],
  says: "Count 4 plants.",
  told: [],
  days: [],
  measure: "live",
  plants: plants.map(() => ({ tag: null, group: null, counts: [] })),
  tags: [],
  sentence: null,
  advice: null,
  hindsight: null,
};
const spray: Schemas["PlayOut"] = { ...start, due: "spray", choices: ["spray", "wait"], says: "Spray round 1.", days: [0], plants };
const over: Schemas["PlayOut"] = {
  ...spray,
  due: "over",
  choices: [],
  days: [0, 7],
  told: ["Day 0: it rained."],
  tags: [{ name: "Soap", letter: "B", tag: 2 }],
  sentence: "Soap works best.",
  advice: "Treat the rest.",
  hindsight: {
    right: true,
    says: "It was right.",
    remedies: [{ name: "Soap", low: 0.4, high: 0.9, truth: 0.8 }],
    what_if: [{ code: "more", title: "With 8 plants", says: "Soap works best." }],
  },
};

it("draws the plants in even rows, with those left over aside and fresh drops after a spray", () => {
  const bench = benchOf(spray, { rows: 3, habit: null }, true);
  expect(bench.plants.map((p) => [p.row, p.place, p.letter])).toEqual([
    [1, 1, "A"],
    [1, 2, "B"],
    [2, 1, "C"],
    [3, 1, null],
  ]);
  expect(bench.plants[3]?.set_aside).toBe("left over");
  expect(bench.rounds[0]?.sprayed).toHaveLength(4);
});

let asked: Schemas["PlayIn"][];
beforeEach(() => {
  localStorage.clear();
  asked = [];
  wire.answer = async (request) => {
    const one = (await request.json()) as Schemas["PlayIn"];
    asked.push(one);
    return new Response(JSON.stringify([start, spray, over][one.moves.length]));
  };
});

async function page(): Promise<VueWrapper> {
  const shown = mount(PlayView);
  await flushPromises();
  return shown;
}

it("goes from station to station by a tap, tells the truth last, and goes on after a reload", async () => {
  const shown = await page();
  expect(asked[0]?.plan).toEqual(USUAL.plan);
  await shown
    .findAll("button")
    .find((b) => b.text().startsWith("Count"))
    ?.trigger("click");
  await flushPromises();
  expect(shown.text()).toContain("Wait a day");
  shown.unmount();

  const again = await page();
  expect(asked.at(-1)?.moves).toEqual(["count"]);
  expect(asked.at(-1)?.seed).toBe(asked[0]?.seed);
  document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
  await flushPromises();
  expect(asked.at(-1)?.moves).toEqual(["count", "spray"]);
  expect(again.text()).toContain("It was right.");
  expect(again.find("svg[aria-label*='Soap: said: 40% to 90%, 80% in truth']").exists()).toBe(true);
  await again
    .findAll("button")
    .find((b) => b.text().startsWith("Play again"))
    ?.trigger("click");
  await flushPromises();
  expect(asked.at(-1)?.moves).toEqual([]);
});
