// Stations around the rounds, with the program's answers played from a list.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { h } from "vue";
import type { Schemas } from "../src/api/client";
import CarePanel from "../src/components/field/CarePanel.vue";
import RoundChecks from "../src/components/field/RoundChecks.vue";
import SchedulePanel from "../src/components/field/SchedulePanel.vue";
import { provideTrial } from "../src/composables/useTrial";
import MixStation from "../src/views/pantry/MixStation.vue";
import PatchStation from "../src/views/field/PatchStation.vue";
import SprayView from "../src/views/field/SprayView.vue";
import { region } from "../src/units";

// A page left behind would go on asking in the tests after it.
enableAutoUnmount(afterEach);

vi.mock("vue-router", () => ({ useRouter: () => ({ push: () => undefined }), RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } }));

type Answer = (body: unknown) => unknown;
let calls: { method: string; path: string; body: unknown }[];
let answers: Record<string, Answer>;

const care: Schemas["CareIO"] = {
  leaf_kinds: ["green"],
  patch_wait: "two_days",
  slow_leaves: false,
  round_rhythm: "plan",
  spot: {
    outdoors: true,
    bees: true,
    sun_from: 0,
    sun_to: 24,
    lamp_from: null,
    lamp_to: null,
    covered: false,
    rise: 15,
    night: false,
    room: null,
    sun_side: "none",
    wind_side: "none",
  },
  ml_per_plant: 40,
  margin: 0.1,
  days_between: 3,
  low: null,
  high: null,
  wind: null,
  stages: null,
};
const remedy = (id: number, name: string, letter: string, role = "remedy") => ({
  id,
  name,
  role,
  letter,
  notches: id,
  recipe: `recipe of ${name}`,
  cautions: role === "remedy" ? [`mind the ${name}`] : [],
  unsuited: [] as string[],
  traits: {},
  oil: false,
  poured: true,
  agitation: "",
  coverage: "",
  aftercare: "",
});
const plant = (id: number, letter: string) => ({ id, name: `S${String(id)}`, row: 1, place: id, letter, set_aside: null, block: 1 });
const tag = (letter: string, notches: number, more: object = {}) => ({
  letter,
  notches,
  remedy_id: null as number | null,
  poured: true,
  reach: "leaves",
  dose: "",
  bottled: letter !== "A",
  oil: false,
  agitation: "",
  coverage: "",
  aftercare: "",
  step: 0,
  ...more,
});
const batch = {
  id: 5,
  letter: "B",
  remedy_id: 2,
  title: "Soap",
  usable: true,
  discarded_at: null,
  mixed_at: "2026-05-10T08:00:00Z",
  use_by: "2026-05-11T08:00:00Z",
  mixed_by: "Bram",
  volume: 264,
  rounds: [1],
  note: "",
  parts: [],
  step: 0,
};
const round = {
  id: 1,
  number: 1,
  day: 0,
  due: [1, 2],
  remedies: null as number[] | null,
  on: "2026-05-10",
  sprayed: [] as number[],
  skipped: [] as number[],
  left_out: false,
  events: [],
  started_at: null as string | null,
  running: false,
  batches: {} as Record<string, number>,
  notes: [],
  parts: [],
  steps: {},
};

function makeTrial(changes: object = {}) {
  return {
    id: 4,
    name: "Gutters",
    setup: { unit: "plant" },
    today: "2026-05-10",
    key_opened_at: null,
    sprayed_on: null,
    general_cautions: ["label every bottle"],
    care,
    walk: [1, 2],
    remedies: [remedy(1, "Water", "A", "control"), remedy(2, "Soap", "B")],
    sealed: true,
    tags: [tag("A", 1), tag("B", 2)],
    plants: [plant(1, "A"), plant(2, "B")],
    batches: [batch],
    rounds: [round, { ...round, id: 2, number: 2, day: 5, on: "2026-05-15" }],
    stations: [{ key: "layout", title: "Layout", state: "done" }],
    jobs: [],
    looks: [],
    ...changes,
  };
}

beforeEach(() => {
  calls = [];
  answers = { "GET /api/trials/4": () => makeTrial() };
  wire.answer = async (request: Request) => {
    const path = new URL(request.url).pathname;
    const text = await request.text();
    let body: unknown = text;
    try {
      body = text ? JSON.parse(text) : null;
    } catch {
      // a table is no JSON
    }
    calls.push({ method: request.method, path, body });
    const answer = answers[`${request.method} ${path}`]?.(body);
    const status = answer instanceof Error ? 409 : 200;
    return new Response(answer instanceof Error ? answer.message : JSON.stringify(answer ?? {}), { status, headers: { "Content-Type": "application/json" } });
  };
  vi.stubGlobal("scrollTo", () => undefined);
});

const ElInput = {
  props: { modelValue: { type: String, default: "" } },
  emits: ["update:modelValue"],
  template: "<input v-bind='$attrs' :value='modelValue' @input=\"$emit('update:modelValue', $event.target.value)\" />",
};
const stubs = {
  ElInput,
  ElButton: { template: "<button type='submit'><slot /></button>" },
  ElSelect: true,
  ElOption: true,
  ElCheckbox: { template: "<label><slot /></label>" },
  ElCheckboxGroup: { template: "<div><slot /></div>" },
  DayRibbon: true,
};

async function inTrial(view: object, props: object = {}): Promise<VueWrapper> {
  const frame = {
    setup: () => {
      const store = provideTrial(4);
      void store.load();
      return () => (store.trial.value ? h(view, props) : null);
    },
  };
  const page = mount(frame, { global: { stubs } });
  await flushPromises();
  return page;
}

function button(page: VueWrapper, text: string) {
  const found = page.findAll("button").find((b) => b.text().includes(text));
  if (!found) throw new Error(`there is no button ${text}`);
  return found;
}

const refusal = (code: string, field: string | null = null) =>
  new Error(JSON.stringify({ error: { code, message: `refused ${code}`, field, fix: "Do otherwise." } }));
const last = (method: string) => calls.filter((c) => c.method === method).at(-1);

describe("the mixing station", () => {
  const mix = {
    open: [],
    brew: [],
    parts: [],
    guesses: [],
    volume: 264,
    bottle: 500,
    pours: [{ name: "water", role: "carrier", amount: 264, unit: "ml", level: 264, reason: "", measured: null }],
    axes: [],
    schools: [],
    like: null,
    order_note: "",
    life_hours: null,
    agitation: "",
    coverage: "",
    suits: [],
    spares: [],
    dose_sign: "",
    aftercare: "",
    ml_per_plant: 40,
    interval_days: 3,
    cost: { per_litre: 0, per_plant: null, per_round: 0, missing: [] },
    warnings: [],
    cautions: [],
    strong: [],
    general_cautions: [],
  };
  const bottle = {
    remedy_id: 2,
    letter: "B",
    notches: 2,
    batches: [batch],
    plants: 6,
    volume: 264,
    card: { kind: "mix", life_hours: 72, agitation: "Shake." },
    mix,
    unread: "",
    strong: [{ key: "alcohol", texts: ["no flame"] }],
    step: 0,
    name: "Soap",
    recipe: "recipe of Soap",
    on: [0],
  };
  beforeEach(() => {
    answers["GET /api/trials/4/bottles"] = () => [bottle];
    answers["GET /api/trials/4/bottles/water"] = () => ({ letter: "A", notches: 1, name: "Water only", plants: 1, volume: 44 });
  });

  it("shows nothing of the bottles while they are sealed", async () => {
    const page = await inTrial(MixStation);
    expect(page.text()).toContain("The bottles are sealed");
    expect(page.text()).not.toContain("Soap");
    expect(calls.some((c) => c.path.includes("/bottles"))).toBe(false);
  });

  it("lets a helper mix, and keeps the batch under the helper's name", async () => {
    answers["POST /api/trials/4/remedies/2/batches"] = () => batch;
    const page = await inTrial(MixStation);
    await button(page, "A helper mixes").trigger("click");
    await flushPromises();
    expect(page.text()).toContain("recipe of Soap");
    expect(page.text()).toContain("I have read: no flame");
    expect(page.get('[aria-label="The control\'s bottle"]').text()).toContain("1 plant: 44 ml");
    await page.get("input[maxlength='40']").setValue("Bram");
    await page.get("section.bottle form").trigger("submit");
    await flushPromises();
    expect(last("POST")?.body).toMatchObject({ volume: 264, life_hours: 72, mixed_by: "Bram", recipe: null });
    expect(page.text()).toContain("Batch 5, 264 ml");
    expect(page.text()).toContain("used in round 1");
  });

  it("puts a refusal at its bottle", async () => {
    answers["POST /api/trials/4/remedies/2/batches"] = () => refusal("not_acknowledged", "acknowledged");
    const page = await inTrial(MixStation);
    await button(page, "A helper mixes").trigger("click");
    await flushPromises();
    await page.get("section.bottle form").trigger("submit");
    await flushPromises();
    expect(page.get("section.bottle [role=alert]").text()).toContain("Refused not_acknowledged");
  });
});

describe("the patch station", () => {
  const cell = { remedy_id: 2, leaf_kind: "green", left_out: false, hours: [24, 48], tests: [] as unknown[] };
  beforeEach(() => {
    answers["GET /api/trials/4/patches"] = () => ({ cells: [cell], reason: "Two days.", care });
  });

  it("says how many tests the first spray waits for", async () => {
    const page = await inTrial(PatchStation);
    expect(page.text()).toContain("waits until one more test has passed");
    expect(page.text()).toContain("On green");
  });

  it("offers a small bottle of each mix before the leaves are wetted", async () => {
    const soap = {
      pour: {},
      name: "soap",
      role: "active",
      amount: 1,
      unit: "ml",
      level: 1,
      reason: "",
      measured: { tool: "10 ml syringe", fills: 0, rest: 1, amount: 1, error: 0, warns: false },
    };
    const mix = { open: [], brew: [], pours: [soap], needed: 100, volume: 200, parts: [], guesses: [], warnings: [], cautions: ["Gloves."], like: null };
    answers["GET /api/trials/4/patches/mixes"] = () => [{ remedy_id: 2, step: 0, name: "Soap", recipe: "", mix, unread: "", strong: [] }];
    answers["POST /api/trials/4/remedies/2/batches"] = () => ({ id: 1 });
    const page = await inTrial(PatchStation);
    expect(page.text()).toContain("1 ml soap, water to 200 ml");
    expect(page.text()).toContain("100 ml are left over");
    expect(page.text()).toContain("Gloves.");
    await button(page, "It is mixed: keep it").trigger("click");
    await flushPromises();
    expect(calls.find((c) => c.path.endsWith("/batches"))?.body).toMatchObject({ volume: 200, note: "test mix", step: 0 });
    expect(page.text()).toContain("has a label");
  });

  it("says when all have passed", async () => {
    const passed = { id: 1, strength: 1, outcome: "passed", reason: "nothing", readings: [], hours: [24], next_look: null, applied_at: "2026-05-08T08:00:00Z" };
    answers["GET /api/trials/4/patches"] = () => ({ cells: [{ ...cell, tests: [passed] }], reason: "", care });
    expect((await inTrial(PatchStation)).text()).toContain("Every remedy has passed");
  });
});

describe("the checks before a round", () => {
  const blocker = { code: "window_closed", text: "Now is no good hour: wind.", fix: "Wait.", overrulable: true };
  beforeEach(() => {
    answers["GET /api/trials/4/ribbon"] = () => ({ known: true, days: [{ best: "2026-05-10T19:00:00Z", why: "" }] });
    answers["POST /api/trials/4/rounds/1/queries/check"] = (body) => {
      const said = body as Record<string, boolean>;
      const asked = { shaken: "shaken", cautions: "cautions_read", bees: "bees_looked", fruit: "fruit_looked" };
      const open = Object.entries(asked).filter(([, tick]) => !said[tick]);
      return [
        ...open.map(([code]) => ({ code, text: code === "shaken" ? "The bottles are not shaken." : `No ${code}.`, fix: "", overrulable: false })),
        blocker,
      ];
    };
  });

  it("asks for no tick that the round does not need", async () => {
    answers["POST /api/trials/4/rounds/1/queries/check"] = () => [];
    const trial = makeTrial({ rounds: [{ ...round, due: [1], remedies: [1] }] });
    const page = mount(RoundChecks, { props: { trial: trial as never, number: 1 }, global: { stubs } });
    await flushPromises();
    expect(page.findAll(".ticks button")).toHaveLength(0);
    expect(page.text()).toContain("Nothing comes out of a bottle.");
    expect(button(page, "Start round 1").attributes("disabled")).toBeUndefined();
  });

  it("opens only when everything is ticked or overruled with a reason", async () => {
    const page = mount(RoundChecks, { props: { trial: makeTrial() as never, number: 1 }, global: { stubs } });
    await flushPromises();
    expect(page.text()).toContain("Now is no good hour: wind");
    expect(page.text()).toContain("best hour today 19:00");
    expect(page.text()).toContain("First: the bottles are not shaken");
    expect(button(page, "Start round 1").attributes("disabled")).toBeDefined();
    for (const tick of page.findAll(".ticks button")) await tick.trigger("click");
    await flushPromises();
    await page.get("input[placeholder^='Why you go on']").setValue("no other hour");
    expect(button(page, "Start round 1").attributes("disabled")).toBeUndefined();
    await button(page, "Start round 1").trigger("click");
    expect(page.emitted("start")?.[0]).toEqual([
      {
        shaken: true,
        cautions_read: true,
        bees_looked: true,
        fruit_looked: true,
        weather_looked: false,
        done_on: null,
        batches: { B: 5 },
        reasons: { window_closed: "no other hour" },
      },
    ]);
  });

  it("does not take a round entered late for one of today while its day is not given", async () => {
    answers["POST /api/trials/4/rounds/1/queries/check"] = () => [];
    const ElCheckbox = { name: "tick", emits: ["update:modelValue"], template: "<label><slot /></label>" };
    const page = mount(RoundChecks, { props: { trial: makeTrial() as never, number: 1 }, global: { stubs: { ...stubs, ElCheckbox } } });
    await flushPromises();
    page.findComponent({ name: "tick" }).vm.$emit("update:modelValue", true);
    await flushPromises();
    expect(page.text()).toContain("the day on which it was done is not given");
    expect(button(page, "Start round 1").attributes("disabled")).toBeDefined();
    await page.get("input[type=date]").setValue("2026-05-06");
    await flushPromises();
    expect(button(page, "Start round 1").attributes("disabled")).toBeUndefined();
  });

  it("shows all cautions together while the key is sealed, and leads to what is missing", async () => {
    answers["POST /api/trials/4/rounds/1/queries/check"] = () => [
      { code: "patch_tests", text: "1 patch test not passed.", fix: "", overrulable: true },
      { code: "no_batch", text: "One of the bottles is not mixed or not chosen.", fix: "", overrulable: false },
    ];
    const page = mount(RoundChecks, { props: { trial: makeTrial({ batches: [] }) as never, number: 1 }, global: { stubs } });
    await flushPromises();
    expect(page.text()).toContain("One or more of the bottles");
    expect(page.text()).toContain("mind the Soap");
    expect(page.findAll("a").map((a) => a.attributes("href"))).toEqual(["/trial/4/mix", "/trial/4/patch"]);
  });
});

describe("the spray round", () => {
  const running = { ...round, running: true, started_at: "2026-05-10T08:00:00Z", batches: { B: 5 } };

  it("walks on after each plant, and takes the last one back", async () => {
    answers["GET /api/trials/4"] = () => makeTrial({ rounds: [running], sprayed_on: "2026-05-09" });
    answers["POST /api/trials/4/rounds/1/sprays"] = () => ({ ...running, sprayed: [1] });
    answers["DELETE /api/trials/4/rounds/1/sprays/1"] = () => makeTrial({ rounds: [running], sprayed_on: "2026-05-09" });
    const page = await inTrial(SprayView, { number: 1 });
    expect(page.get(".name").text()).toBe("S1");
    await button(page, "Sprayed").trigger("click");
    await flushPromises();
    expect(last("POST")?.body).toMatchObject({ plant_id: 1, kind: "sprayed", volume: 40, undersides: true });
    expect(page.get(".name").text()).toBe("S2");
    expect(page.text()).toContain("bottle B · batch 5");
    await button(page, "Undo").trigger("click");
    await flushPromises();
    expect(page.get(".name").text()).toBe("S1");
  });

  it("offers a deviation where the program refuses a second spray", async () => {
    answers["GET /api/trials/4"] = () => makeTrial({ rounds: [running], sprayed_on: "2026-05-09" });
    answers["POST /api/trials/4/rounds/1/sprays"] = () => refusal("too_soon", "deviation");
    const page = await inTrial(SprayView, { number: 1 });
    await button(page, "Sprayed").trigger("click");
    await flushPromises();
    expect(page.get(".name").text()).toBe("S1");
    await page.get("input[aria-label='Why it was sprayed all the same']").setValue("rain");
    answers["POST /api/trials/4/rounds/1/sprays"] = () => ({ ...running, sprayed: [1] });
    const keys = [(last("POST")?.body as { key: string }).key];
    await button(page, "Record it as a deviation").trigger("click");
    await flushPromises();
    keys.push((last("POST")?.body as { key: string }).key);
    expect(last("POST")?.body).toMatchObject({ deviation: "rain" });
    expect(new Set(keys).size).toBe(2);
  });

  it("keeps what a plant got from the wrong bottle", async () => {
    const plants = [plant(1, "A"), plant(2, "B"), plant(3, "C")];
    answers["GET /api/trials/4"] = () => makeTrial({ plants, rounds: [running], sprayed_on: "2026-05-09" });
    answers["POST /api/trials/4/rounds/1/sprays"] = () => ({ ...running, sprayed: [1] });
    const page = await inTrial(SprayView, { number: 1 });
    const here = page.get(".name").text();
    await button(page, "Wrong bottle").trigger("click");
    const own = page.text().match(/bottle ([ABC])/)?.[1] ?? "";
    expect(
      page
        .findAll("button")
        .map((b) => b.text())
        .filter((text) => text.startsWith("Bottle ")),
    ).not.toContain(`Bottle ${own}`);
    await button(page, "Bottle C").trigger("click");
    await flushPromises();
    expect(last("POST")?.body).toMatchObject({ kind: "sprayed", deviation: `it got bottle C, not ${own}` });
    expect(page.get(".name").text()).not.toBe(here);
  });

  it("asks for a reason to skip", async () => {
    answers["GET /api/trials/4"] = () => makeTrial({ rounds: [running], sprayed_on: "2026-05-09" });
    answers["POST /api/trials/4/rounds/1/sprays"] = () => ({ ...running, skipped: [1] });
    const page = await inTrial(SprayView, { number: 1 });
    await button(page, "Skip").trigger("click");
    await button(page, "A bee on the flowers").trigger("click");
    await flushPromises();
    expect(last("POST")?.body).toMatchObject({ kind: "skipped", note: "A bee on the flowers", volume: null });
  });

  it("after the last plant tells what to do, and asks for the dry leaves of an oil", async () => {
    const oily = [remedy(1, "Water", "A", "control"), { ...remedy(2, "Oil", "B"), oil: true, aftercare: "Keep out of ponds." }];
    answers["GET /api/trials/4"] = () => makeTrial({ rounds: [{ ...running, sprayed: [1, 2] }], remedies: oily });
    answers["GET /api/trials/4/rounds/1/mess"] = () => ({ B: ["film", "dull"] });
    answers["PUT /api/trials/4/rounds/1/mess"] = (body) => ({ B: (body as { kinds: string[] }).kinds });
    const page = await inTrial(SprayView, { number: 1 });
    expect(page.text()).toContain("All 2 plants are recorded");
    expect(page.text()).toContain("Keep out of ponds.");
    await page.get("[aria-label='Dry leaves of bottle B']").findAll("button")[1]?.trigger("click");
    await flushPromises();
    expect(last("PUT")?.body).toEqual({ letter: "B", kinds: ["film", "shiny"] }); // it looks one way
    const fine = page.findAll("[aria-label='Bottle B'] button").find((b) => b.text() === "Fine");
    await fine?.trigger("click");
    await flushPromises();
    expect(last("PUT")?.body).toEqual({ letter: "B", kinds: ["shiny"] });
  });
});

describe("what comes next", () => {
  const proposal = (rhythm: string, on: string | null) => ({ rhythm, first: on, last: on, on, reason: `because of ${rhythm}` });
  const schedule = {
    stages: [{ name: "eggs", phase: "egg", k: 60, t0: 11 }],
    last_spray: "2026-05-10",
    decided_at: 1,
    next_number: 2,
    next_on: "2026-05-15",
    moved: null,
    degree_days: true,
    generations: {
      days: ["2026-05-10", "2026-05-11"],
      eggs: [1, 0.9],
      young: [0, 0.1],
      grown: [0, 0],
      hatched_on: "2026-05-16",
      lays_on: "2026-05-20",
      safe_stages: ["eggs"],
    },
    proposals: [proposal("egg_cycle", "2026-05-18"), proposal("plan", "2026-05-15"), proposal("watch", null)],
    advice: { action: "next_round", reason: "Pests are left.", best_left: 0.3, best_efficacy: 0.5 },
  };
  beforeEach(() => {
    answers["GET /api/trials/4/schedule"] = () => schedule;
  });

  it("offers the chosen rhythm's day and moves the round with its reason", async () => {
    answers["POST /api/trials/4/rounds/2/move"] = () => makeTrial();
    const page = await inTrial(SchedulePanel);
    expect(page.text()).toContain("After look 1: go on with the next round");
    expect(page.findAll("tbody tr")).toHaveLength(3);
    expect(page.text()).toContain("when a look says so");
    await button(page, "Move round 2 to Mon 18 May").trigger("click");
    await flushPromises();
    expect(last("POST")?.body).toEqual({ on: "2026-05-18", reason: "because of egg_cycle" });
    expect(page.findAll("button").some((b) => b.text().includes("Leave round"))).toBe(false);
  });

  it("puts what rain calls for first", async () => {
    answers["GET /api/trials/4/schedule"] = () => ({ ...schedule, moved: { ...proposal("plan", "2026-05-13"), reason: "7 mm of rain washed round 1 off" } });
    const page = await inTrial(SchedulePanel);
    expect(page.get(".offer").text()).toContain("7 mm of rain washed round 1 off");
    expect(page.get(".offer").text()).toContain("Move round 2 to Wed 13 May");
  });

  it("lets a round be left out where the look says stop", async () => {
    answers["GET /api/trials/4/schedule"] = () => ({ ...schedule, advice: { ...schedule.advice, action: "stop", reason: "As good as gone." } });
    answers["POST /api/trials/4/rounds/2/leave-out"] = () => makeTrial();
    const page = await inTrial(SchedulePanel);
    await button(page, "Leave round 2 out").trigger("click");
    await flushPromises();
    expect(last("POST")?.body).toEqual({ reason: "As good as gone." });
  });

  it("chooses a rhythm for the trial", async () => {
    answers["PUT /api/trials/4/care"] = () => makeTrial();
    const page = await inTrial(SchedulePanel);
    await button(page, "Choose").trigger("click");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({ round_rhythm: "plan", ml_per_plant: 40 });
  });
});

describe("care of a bench", () => {
  const stages = [{ name: "eggs", phase: "egg" as const, k: 60, t0: 11 }];

  it("keeps typical stages untouched, and the gardener's own once one is changed", async () => {
    answers["PUT /api/trials/4/care"] = () => makeTrial();
    const page = await inTrial(CarePanel, { stages });
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({ stages: null, low: null, spot: { outdoors: true, lamp_from: null } });
    await page.get("input[aria-label='Degree-days of eggs']").setValue("72,5");
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({ stages: [{ name: "eggs", phase: "egg", k: 72.5, t0: 11 }] });
    region.value = "us"; // thresholds are shown and typed as the other temperatures are
    const own = await inTrial(CarePanel, { stages });
    const threshold = own.get<HTMLInputElement>("input[aria-label='Threshold of eggs']");
    expect(threshold.element.value).toBe("51.8");
    await threshold.setValue("50");
    await own.get("form").trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({ stages: [{ name: "eggs", t0: 10 }] });
    region.value = "metric";
  });
});
