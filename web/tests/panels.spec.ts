// Panels that talk to the program, with the program's answers played from a list.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { h } from "vue";
import type { Trial } from "../src/api/client";
import CriticPanel from "../src/components/planning/CriticPanel.vue";
import PowerPanel from "../src/components/planning/PowerPanel.vue";
import RemedyPicker from "../src/components/pantry/RemedyPicker.vue";
import { provideTrial } from "../src/composables/useTrial";
import { usualSetup } from "./usual";
import MixView from "../src/views/pantry/MixView.vue";

// A page left behind would go on asking in the tests after it.
enableAutoUnmount(afterEach);

vi.mock("vue-router", () => ({ useRoute: () => ({ query: {} }), useRouter: () => ({ push: vi.fn() }), RouterLink: { template: "<a><slot /></a>" } }));

type Answer = (body: unknown, url: string) => unknown;
let calls: { method: string; path: string; body: unknown }[];
let answers: Record<string, Answer>;

const trial = {
  id: 4,
  setup: usualSetup,
  remedies: [
    { id: 1, name: "Water", role: "control" },
    { id: 2, name: "Soap", role: "remedy" },
    { id: 3, name: "Oil", role: "remedy" },
  ],
} as unknown as Trial;

beforeEach(() => {
  calls = [];
  answers = { "GET /api/trials/4": () => trial };
  wire.answer = async (request: Request) => {
    const path = new URL(request.url).pathname;
    const text = await request.text();
    const body: unknown = text ? JSON.parse(text) : null;
    calls.push({ method: request.method, path, body });
    const answer = answers[`${request.method} ${path}`]?.(body, request.url);
    const status = answer instanceof Error ? 422 : 200;
    const content = answer instanceof Error ? JSON.parse(answer.message) : answer;
    return new Response(JSON.stringify(content ?? {}), { status, headers: { "Content-Type": "application/json" } });
  };
});

afterEach(() => {
  vi.useRealTimers();
});

const ElInput = {
  props: { modelValue: { type: String, default: "" } },
  emits: ["update:modelValue"],
  template: "<input v-bind='$attrs' :value='modelValue' @input=\"$emit('update:modelValue', $event.target.value)\" />",
};
const stubs = {
  ElInput,
  ElButton: { template: "<button><slot /></button>" },
  ElDialog: { props: ["modelValue"], template: "<div v-if='modelValue'><slot /><slot name='footer' /></div>" },
  ElSelect: true,
  ElOption: true,
  ElCheckbox: true,
  ElCheckboxGroup: true,
};

async function inTrial(panel: object): Promise<VueWrapper> {
  const frame = {
    setup: () => {
      const store = provideTrial(4);
      void store.load();
      return () => (store.trial.value ? h(panel) : null);
    },
  };
  const page = mount(frame, { global: { stubs } });
  await flushPromises();
  return page;
}

/** What was asked of a path last. */
function sent(path: string): unknown {
  return calls.filter((one) => one.path === path).at(-1)?.body;
}

function button(page: VueWrapper, text: string): ReturnType<VueWrapper["find"]> {
  const found = page.findAll("button").find((b) => b.text().includes(text));
  if (!found) throw new Error(`there is no button ${text}`);
  return found;
}

describe("the critic", () => {
  const finding = {
    code: "too_few_blocks",
    title: "Too few blocks",
    harm: "Only a large difference shows.",
    mend: "Match by place",
    changes: [{ what: "the layout", before: "drawn at random", after: "cleared, to be drawn again" }],
  };
  beforeEach(() => {
    answers["GET /api/trials/4/critique"] = () => ({
      findings: [finding, { ...finding, code: "x", title: "No click", mend: null, changes: [] }],
      overruled: [],
      promise: "The verdict will say it.",
    });
  });

  it("shows what the verdict will say, each finding, and a button only where one click mends", async () => {
    const page = await inTrial(CriticPanel);
    expect(page.text()).toContain("The verdict will say it.");
    expect(page.findAll("li")).toHaveLength(2);
    expect(page.findAll("button").filter((b) => b.text() === "Match by place")).toHaveLength(1);
    expect(page.text()).toContain("drawn at random");
  });

  it("mends and looks at the plan again", async () => {
    answers["POST /api/trials/4/critique/too_few_blocks/mend"] = () => ({ ...trial, name: "mended" });
    const page = await inTrial(CriticPanel);
    answers["GET /api/trials/4/critique"] = () => ({
      findings: [],
      overruled: [],
      promise: "p",
      mended: { label: "Match by place", made_at: "2026-05-10T08:00:00Z" },
    });
    answers["POST /api/trials/4/critique/take-back"] = () => trial;
    await button(page, "Match by place").trigger("click");
    await flushPromises();
    expect(page.text()).toContain("Nothing in this plan would spoil the answer.");
    expect(page.text()).toContain("Done: match by place.");
    await button(page, "Take it back").trigger("click");
    expect(calls.some((c) => c.path.endsWith("/take-back"))).toBe(true);
  });

  it("overrules with a reason, and says when there is none", async () => {
    const path = "POST /api/trials/4/critique/too_few_blocks/overrule";
    answers[path] = () => new Error('{"error":{"code":"empty","message":"a finding is overruled with a reason","field":"reason","fix":"Say why."}}');
    const page = await inTrial(CriticPanel);
    await button(page, "It does not matter here").trigger("click");
    await button(page, "Overrule it").trigger("click");
    await flushPromises();
    expect(page.get("[role=alert]").text()).toContain("with a reason");
    answers[path] = (body) => ({
      findings: [],
      overruled: [{ code: "x", finding: "f", reason: (body as { reason: string }).reason, made_at: "2026-05-10T08:00:00Z" }],
      promise: "p",
    });
    await page.get("input").setValue("no room");
    await button(page, "Overrule it").trigger("click");
    await flushPromises();
    expect(page.text()).toContain("no room");
  });
});

describe("how many plants", () => {
  const point = { blocks: 5, plants: 15, trials: 1000, best_named: 0.4, false_winner: 0.01, best_beats: 0.9, second_beats: 0.7, width: 0.3 };
  const job = { id: 7, at_hand: 5, efficacies: [0.75, 0.6], points: [], answer: "", progress: 0, state: "running" };

  beforeEach(() => {
    answers["GET /api/trials/4/power/earlier"] = () => [];
  });

  it("reckons with what earlier trials found only when told to, the rest as usual", async () => {
    answers["GET /api/trials/4/power/earlier"] = () => [{ remedy_id: 2, removed: 0.823, trials: 2 }];
    answers["POST /api/trials/4/power"] = answers["GET /api/power/7"] = () => ({ ...job, state: "done" });
    const page = await inTrial(PowerPanel);
    expect(page.text()).toContain("Earlier trials found Soap 82% (2 trials).");
    expect(calls.some((call) => call.method === "POST")).toBe(false);
    await button(page, "Reckon with that").trigger("click");
    await flushPromises();
    expect(sent("/api/trials/4/power")).toMatchObject({ efficacies: [0.82, 0.6] });
  });

  it("begins, follows the progress and shows the answer", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    answers["POST /api/trials/4/power"] = () => job;
    answers["GET /api/power/7"] = () => ({ ...job, progress: 0.5 });
    const page = await inTrial(PowerPanel);
    await button(page, "Simulate it").trigger("click");
    await flushPromises();
    await vi.advanceTimersByTimeAsync(160);
    await flushPromises();
    expect(page.get("progress").attributes("value")).toBe("0.5");
    answers["GET /api/power/7"] = () => ({
      ...job,
      state: "done",
      progress: 1,
      points: [point, { ...point, blocks: 10, plants: 30 }],
      answer: "With your 15 plants you can.",
    });
    await vi.advanceTimersByTimeAsync(160);
    await flushPromises();
    expect(page.find("progress").exists()).toBe(false);
    expect(page.get(".answer").text()).toBe("With your 15 plants you can.");
    expect(page.findAll("tbody tr")).toHaveLength(2);
    expect(page.get("tr.mine th").text()).toBe("15");
  });

  it("sends assumptions as fractions and refuses words", async () => {
    answers["POST /api/trials/4/power"] = answers["GET /api/power/7"] = () => ({ ...job, state: "done" });
    const page = await inTrial(PowerPanel);
    await button(page, "Simulate it").trigger("click");
    await flushPromises();
    await page.get("[aria-label^='Soap']").setValue("80");
    await button(page, "Simulate again").trigger("click");
    await flushPromises();
    expect(sent("/api/trials/4/power")).toMatchObject({ efficacies: [0.8, 0.6], growth: 1 });
    await page.get("[aria-label^='Soap']").setValue("much");
    await button(page, "Simulate again").trigger("click");
    expect(page.get("[role=alert]").text()).toContain("not a number");
  });

  it("cancels", async () => {
    let state = job.state;
    answers["POST /api/trials/4/power"] = answers["GET /api/power/7"] = () => ({ ...job, state });
    answers["DELETE /api/power/7"] = () => ((state = "cancelled"), null);
    const page = await inTrial(PowerPanel);
    await button(page, "Simulate it").trigger("click");
    await flushPromises();
    await button(page, "Cancel").trigger("click");
    await flushPromises();
    expect(page.text()).toContain("Cancelled.");
  });
});

describe("the remedy list", () => {
  const row = {
    role: "remedy",
    way: "spray",
    acts: "contact",
    recipe: "r",
    schools: [],
    usual_ladder: [5, 10, 20],
    ingredients: [{ key: "soap", name: "soap", amount: 10, unit: "ml/L", low: 5, high: 20 }],
    reasons: [] as string[],
    missing: [] as string[],
  };
  const rows = [
    { ...row, key: "bt", name: "Bacterial spray", ingredients: [], reasons: ["It must be eaten."] },
    { ...row, key: "mild_soap", name: "Mild soap" },
    { ...row, key: "oil", name: "Oil" },
  ];
  const picker = async (kind: "compare" | "ladder" | "square"): Promise<VueWrapper> => {
    answers["POST /api/queries/remedies"] = () => rows;
    answers["POST /api/queries/proposal"] = (body) => ({ remedies: [{ name: JSON.stringify(body), role: "remedy" }] });
    const page = mount(RemedyPicker, { props: { pest: "aphids", setup: { ...usualSetup, kind }, taken: ["Oil"], whole: true }, global: { stubs } });
    await flushPromises();
    return page;
  };

  it("puts what does not suit last, with its reason, and does not hide it", async () => {
    const page = await picker("compare");
    const names = page.findAll("li strong").map((e) => e.text());
    expect(names).toEqual(["Mild soap", "Oil", "Bacterial spray"]);
    expect(page.findAll("li")[2]?.text()).toContain("It must be eaten.");
    await button(page, "Bacterial spray").trigger("click");
    await flushPromises();
    expect(page.emitted("add")).toHaveLength(1);
  });

  it("adds in the order of the presses, whichever answer comes first", async () => {
    const page = await picker("compare");
    const answered = wire.answer;
    let late: () => void = () => undefined;
    const held = new Promise<void>((done) => (late = done));
    wire.answer = async (request) => {
      if ((await request.clone().text()).includes("mild_soap")) await held;
      return answered(request);
    };
    await button(page, "Mild soap").trigger("click");
    await button(page, "Oil").trigger("click");
    await flushPromises();
    late();
    await flushPromises();
    const added = (page.emitted("add") ?? []).map(([remedies]) => JSON.stringify(remedies));
    expect(added.map((one) => ["mild_soap", "oil"].find((key) => one.includes(key)))).toEqual(["mild_soap", "oil"]);
  });

  it("makes a ladder of one remedy at the strengths typed", async () => {
    const page = await picker("ladder");
    expect(page.findAll("li strong").map((e) => e.text())).not.toContain("Bacterial spray");
    await button(page, "Mild soap").trigger("click");
    await flushPromises();
    expect((page.get("input").element as HTMLInputElement).value).toBe("5, 10, 20");
    expect(page.emitted("replace")).toHaveLength(1); // nothing has to be pressed
    await page.get("input").setValue("2,5; 15");
    await page.get("input").trigger("keydown", { key: "Enter" });
    await flushPromises();
    expect(sent("/api/queries/proposal")).toMatchObject({ keys: ["mild_soap"], strengths: [2.5, 15] });
    expect(page.emitted("replace")).toHaveLength(2);
    await page.get("input").setValue("5, strong");
    await page.get("input").trigger("keydown", { key: "Enter" });
    await flushPromises();
    expect(page.text()).toContain("“5, strong” are not strengths");
  });

  it("makes a square of two", async () => {
    const page = await picker("square");
    await button(page, "Mild soap").trigger("click");
    await button(page, "Oil").trigger("click");
    await flushPromises();
    expect(sent("/api/queries/proposal")).toMatchObject({ keys: ["mild_soap", "oil"], square: true });
  });
});

describe("the mixing bench", () => {
  const spoon = { tool: "teaspoon", fills: 0, rest: 5, amount: 5, error: 0.85, warns: true };
  const pour = { name: "soap", role: "active", amount: 2.7, unit: "ml", level: 2.7, reason: "Soap next.", measured: spoon };
  const water = { ...pour, name: "water", role: "carrier", measured: null, level: 750 };
  const cost = { per_litre: 0.08, per_plant: null, per_round: 0.06, missing: ["oil"] };
  const axis = { name: "soap", unit: "ml/L", yours: 20, theirs: 10, low: 5, high: 20, text: "soap: yours is twice as strong" };
  const mix = {
    open: [],
    brew: [],
    axes: [axis],
    schools: [],
    like: "Mild soap",
    order_note: "",
    life_hours: 72,
    agitation: "",
    coverage: "",
    suits: [],
    spares: ["seedlings"],
    dose_sign: "",
    aftercare: "",
    ml_per_plant: 40,
    interval_days: 3,
    cost,
    warnings: ["Water of 240 mg/L CaCO3 binds part of the soap"],
    strong: [],
    parts: [{ name: "soap", per_litre: 3.6, unit: "ml/L" }],
    guesses: ["a dash is taken as 1 ml"],
    volume: 750,
    bottle: 1000,
    pours: [pour, water],
    cautions: ["Gloves."],
    general_cautions: [],
  };

  const said = { tokens: [], parts: [], guesses: [], settled: true, refused: null };
  const vinegar = {
    start: 5,
    end: 12,
    kind: "open",
    words: "vinegar",
    taken_for: "how much of it?",
    choices: [{ label: "leave it out", start: 5, end: 12, text: "" }],
  };

  it("shows tools, the error of rounding, guesses and cautions", async () => {
    answers["GET /api/tools"] = () => [];
    answers["GET /api/yard"] = () => ({ tools: ["tsp"], region: "metric", currency: "€" });
    answers["POST /api/queries/mix"] = () => mix;
    answers["POST /api/queries/reading"] = () => said;
    const page = mount(MixView, { global: { stubs } });
    await flushPromises();
    expect(page.text()).toContain("soap: 5 ml with the teaspoon");
    expect(page.text()).toContain("85% too much (2.7 ml wanted)");
    expect(page.text()).toContain("Guessed: a dash is taken as 1 ml");
    expect(page.text()).toContain("Gloves.");
    expect(page.text()).toContain("water (carrier): top up to 750 ml");
    expect(page.text()).toContain("binds part of the soap");
    expect(page.text()).toContain("€ 0.080 a litre, € 0.060 a round (without oil: no price)");
    expect(page.text()).toContain("yours is twice as strong");
    expect(page.text()).toContain("Use within3 days");
    expect(page.text()).toContain("not before 3 days");
  });

  it("keeps the recipe on the bench in one's own list, and offers it from then on", async () => {
    answers["GET /api/tools"] = () => [];
    answers["POST /api/queries/mix"] = () => mix;
    answers["POST /api/queries/reading"] = () => said;
    let kept: object[] = [];
    answers["GET /api/recipes"] = () => kept;
    answers["POST /api/own-remedies"] = (body) => (kept = [{ ...(body as object), key: "own:3" }])[0];
    const page = mount(MixView, { global: { stubs: { ...stubs, ElOption: { props: ["label"], template: "<i>{{ label }}</i>" } } } });
    await flushPromises();
    await page.get("input").setValue("50 ml nettle tea in 1 litre");
    await button(page, "Keep it in my list").trigger("click");
    await page.get("label input").setValue("My tea");
    await button(page, "Keep it").trigger("click");
    await flushPromises();
    expect(kept).toMatchObject([{ name: "My tea", recipe: "50 ml nettle tea in 1 litre" }]);
    expect(page.text()).toContain("My tea is in your list.");
  });

  it("keeps the name in its field when the list refuses it, and says why", async () => {
    answers["GET /api/tools"] = () => [];
    answers["POST /api/queries/mix"] = () => mix;
    answers["POST /api/queries/reading"] = () => said;
    answers["POST /api/own-remedies"] = () =>
      new Error('{"error":{"code":"same_name","message":"you keep a remedy called Tea already","field":"name","fix":"Give this one another name."}}');
    const page = mount(MixView, { global: { stubs } });
    await flushPromises();
    await button(page, "Keep it in my list").trigger("click");
    await page.get("label input").setValue("Tea");
    await button(page, "Keep it").trigger("click");
    await flushPromises();
    expect(page.text()).toContain("You keep a remedy called Tea already. Give this one another name.");
    expect((page.get("label input").element as HTMLInputElement).value).toBe("Tea");
  });

  it("puts a refusal beside the recipe and shows no bottle", async () => {
    answers["GET /api/tools"] = () => [];
    answers["POST /api/queries/reading"] = () => said;
    answers["POST /api/queries/mix"] = () => new Error('{"error":{"code":"dangerous","message":"bleach gives off gas","field":"parts","fix":"Leave it out."}}');
    const page = mount(MixView, { global: { stubs } });
    await flushPromises();
    expect(page.get("[role=alert]").text()).toContain("Bleach gives off gas. Leave it out.");
    expect(page.find("svg").exists()).toBe(false);
  });

  it("draws no bottle before every word is settled, and a click settles it", async () => {
    answers["GET /api/tools"] = () => [];
    answers["POST /api/queries/mix"] = () => ({ ...mix, open: [vinegar], pours: [] });
    answers["POST /api/queries/reading"] = () => ({ ...said, tokens: [vinegar], settled: false });
    const page = mount(MixView, { global: { stubs } });
    await flushPromises();
    const recipe = page.get("input");
    await recipe.setValue("some vinegar 😀");
    await recipe.trigger("keydown", { key: "Enter" });
    await flushPromises();
    expect(page.text()).not.toContain("In this order");
    expect(page.text()).toContain("Settle “vinegar” first");
    await page.get(".token").trigger("click");
    await button(page, "leave it out").trigger("click");
    expect((recipe.element as HTMLInputElement).value).toBe("some 😀");
  });
});
