// The views and forms a gardener works in, with the program's answers played from a list.
import { eventually, flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { h } from "vue";
import CountDay from "../src/components/counting/CountDay.vue";
import PestPicker from "../src/components/finding/PestPicker.vue";
import QuestionForm from "../src/components/trial/QuestionForm.vue";
import { provideTrial } from "../src/composables/useTrial";
import { ownPest, pestsFor } from "../src/pests";
import { numbers, usualSetup } from "./usual";
import CountView from "../src/views/counting/CountView.vue";
import LayoutStation from "../src/views/planning/LayoutStation.vue";
import PlantsStation from "../src/views/trial/PlantsStation.vue";
import QuestionStation from "../src/views/trial/QuestionStation.vue";
import RoundsStation from "../src/views/field/RoundsStation.vue";
import VerdictStation from "../src/views/verdict/VerdictStation.vue";
import FindOutView from "../src/views/finding/FindOutView.vue";
import PlantLink from "../src/views/trial/PlantLink.vue";
import TodayView from "../src/views/trial/TodayView.vue";
import OwnPestFields from "../src/components/trial/OwnPestFields.vue";
import { useKnowledge } from "../src/composables/useKnowledge";

enableAutoUnmount(afterEach);

const went = vi.hoisted(() => ({ to: [] as unknown[], query: {} as Record<string, string>, params: {} as Record<string, string> }));

vi.mock("vue-router", () => ({
  useRoute: () => ({ query: went.query, params: went.params }),
  useRouter: () => ({
    push: (to: unknown) => Promise.resolve(went.to.push(to)),
    replace: (to: unknown) => Promise.resolve(went.to.push(["instead", to])),
  }),
  RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" },
}));

type Answer = (body: unknown, request: Request) => unknown;
let calls: { method: string; path: string; body: unknown; headers: Headers }[];
let answers: Record<string, Answer>;

const pest = {
  key: "aphids",
  name: "Aphids",
  measure: "live",
  look_days: [2, 5, 9],
  round_days: [0, 5],
  count_what: "Every live aphid.",
  where: "the tips",
  synonyms: ["greenfly", "cabbage aphid"],
  tell_tale: "two tubes",
  look_alikes: ["psyllids"],
  stages: ["young"],
  dead_or_alive: "moves",
  helpers: [],
  cannot_work: {},
  tolerance: "a few",
  tolerance_share: 0.1,
  first_aid: "wash",
  signs: {},
  measures: ["live"],
};
const rust = { ...pest, key: "rust", name: "Rust", synonyms: ["orange spots"], measure: "cover", look_days: [7, 14], round_days: [0, 7] };
const measures = [
  { key: "live", label: "Live pests", judged: true },
  { key: "cover", label: "Leaf area", judged: true },
];
const plant = (id: number, more: object = {}) => ({
  id,
  name: `S${String(id)}`,
  row: 1,
  place: id,
  match_count: null,
  set_aside: null,
  block: null,
  letter: null,
  size: null,
  revision: `p${String(id)}`,
  ...more,
});
const ways = [{ key: "spray", name: "spray", unit: "ml", wets: true }];
const remedy = (id: number, name: string, role: string) => ({
  id,
  name,
  role,
  recipe: "",
  letter: null,
  notches: null,
  cautions: [],
  unsuited: [],
  traits: { catalogue: null, way: "spray", ingredients: [], drift_cm: 30, first_look_days: 2, wets: true },
  oil: false,
  poured: true,
  agitation: "",
  coverage: "",
  aftercare: "",
});
const stations = ["question", "plants", "layout", "patch", "mix", "rounds", "verdict"].map((key, k) => ({
  key,
  title: key === "patch" ? "Patch test" : `${key.charAt(0).toUpperCase()}${key.slice(1)}`,
  state: k < 2 ? "done" : k === 2 ? "next" : "later",
  line: "",
}));

function makeTrial(changes: object = {}) {
  return {
    id: 4,
    name: "Gutters",
    pest: "aphids",
    pest_card: pest,
    measure: { key: "live", label: "Live pests", scale: "count", upper: 1e6 },
    threshold: 0.6,
    start_on: "2026-05-10",
    sprayed_on: null,
    today: "2026-05-10",
    seed: null,
    remedies: [remedy(1, "Water", "control"), remedy(2, "Soap", "remedy")],
    plants: [plant(1), plant(2), plant(3), plant(4)],
    walk: [1, 2, 3, 4],
    round_days: [0],
    work: [],
    rounds: [
      {
        id: 1,
        number: 1,
        day: 0,
        due: [1, 2, 3, 4],
        remedies: null,
        on: "2026-05-10",
        sprayed: [],
        skipped: [],
        left_out: false,
        events: [],
        notes: [],
        started_at: null,
        running: false,
        batches: {},
      },
    ],
    looks: [
      { id: 70, number: 0, day: 0, hours: 0, when: "day 0", on: "2026-05-10", counted: 0 },
      { id: 71, number: 1, day: 7, hours: 0, when: "day 7", on: "2026-05-17", counted: 0 },
    ],
    sealed: false,
    tags: [],
    stations,
    jobs: [],
    layout_events: [],
    general_cautions: [],
    holds: [],
    put_away_at: null,
    question_revision: "q1",
    care_revision: "c1",
    changes: [],
    setup: { ...usualSetup },
    key_opened_at: null,
    shields: [],
    odd_plants: {},
    care: { leaf_kinds: ["green"], spot: {}, ml_per_plant: 40, margin: 0.1, days_between: 3 },
    batches: [],
    ...changes,
  };
}

beforeEach(() => {
  localStorage.clear();
  calls = [];
  went.to = [];
  went.query = {};
  answers = {
    "GET /api/trials/4": () => makeTrial(),
    "GET /api/own-pests": () => [],
    "GET /api/knowledge": () => ({
      numbers,
      ways,
      pests: [pest, rust],
      measures,
      signs: [{ key: "honeydew", text: "Sticky leaves", part: "leaf", drawing: null }],
      disorders: [{ key: "thirst", name: "Thirst", signs: {}, tell: "The pot is light.", do: "Water it." }],
    }),
    "POST /api/queries/remedies": () => [],
    "GET /api/inspections": () => [],
    "GET /api/sampling": () => ({
      spread: { mean: 8, clumping: 1, seconds: 30, counted: 0 },
      options: [
        { samples: 3, error: 0.6, minutes: 44 },
        { samples: 6, error: 0.43, minutes: 80 },
        { samples: 12, error: 0.3, minutes: 152 },
      ],
    }),
    "GET /api/trials/4/looks/1/checks": () => [],
    "GET /api/trials/4/rest": () => ({ choices: [], treatments: [], eaten: false, start_on: "2026-05-11", reasons: {} }),
    "GET /api/trials/4/course": () => ({ looks: [], values: {}, damage: {} }),
    "GET /api/trials/4/critique": () => ({ findings: [], overruled: [], promise: "", mended: null }),
  };
  wire.answer = async (request: Request) => {
    const path = new URL(request.url).pathname;
    const text = await request.text();
    const body: unknown = text ? JSON.parse(text) : null;
    calls.push({ method: request.method, path, body, headers: request.headers });
    const answer = answers[`${request.method} ${path}`]?.(body, request);
    const status = answer instanceof Error ? 412 : 200;
    return new Response(answer instanceof Error ? answer.message : JSON.stringify(answer ?? {}), { status, headers: { "Content-Type": "application/json" } });
  };
});

const ElInput = {
  props: { modelValue: { type: String, default: "" } },
  emits: ["update:modelValue"],
  template: "<input v-bind='$attrs' :value='modelValue' @input=\"$emit('update:modelValue', $event.target.value)\" />",
};
const ElCheckbox = {
  props: ["modelValue"],
  emits: ["update:modelValue"],
  template: "<label><input type='checkbox' :checked='modelValue' @change=\"$emit('update:modelValue', $event.target.checked)\" /><slot /></label>",
};
const ElButton = { props: ["nativeType"], template: "<button :type=\"nativeType ?? 'button'\"><slot /></button>" };
const stubs = {
  ElInput,
  ElButton,
  ElSelect: { template: "<div><slot /></div>" },
  ElOption: true,
  ElCheckbox,
  DayRibbon: true,
  SchedulePanel: true,
  CarePanel: true,
  PowerPanel: true,
  GoOnPanel: true,
  DesignPanel: true,
  RemedyPicker: true,
  PestPicker: true,
  ElDialog: { props: ["modelValue"], template: "<div v-if='modelValue'><slot /><slot name='footer' /></div>" },
};

async function inTrial(view: object, props: object = {}): Promise<VueWrapper> {
  const frame = {
    setup: () => {
      const store = provideTrial(4);
      void store.load();
      return () => (store.trial.value ? h(view, props) : null);
    },
  };
  const page = mount(frame, { global: { stubs }, attachTo: document.body });
  await flushPromises();
  return page;
}

async function alone(view: object): Promise<VueWrapper> {
  const page = mount(view, { global: { stubs }, attachTo: document.body });
  await flushPromises();
  return page;
}

function button(page: VueWrapper, text: string) {
  const found = page.findAll("button").find((b) => b.text().includes(text));
  if (!found) throw new Error(`there is no button ${text}`);
  return found;
}

function field(page: VueWrapper, label: string): HTMLInputElement {
  const found = page.findAll("label").find((l) => l.text().startsWith(label));
  const input = document.getElementById(found?.attributes("for") ?? "");
  if (!input) throw new Error(`there is no field ${label}`);
  return input as HTMLInputElement;
}

const last = (method: string) => calls.filter((c) => c.method === method).at(-1);
const changed = () =>
  new Error(JSON.stringify({ error: { code: "changed_elsewhere", message: "the question was changed in another window", field: null, fix: "Look at it." } }));

describe("pests by any word", () => {
  it("finds names first, then synonyms, and takes nothing known for one's own", () => {
    expect(pestsFor("aphid", [pest, rust] as never).map((m) => m.pest.key)).toEqual(["aphids"]);
    expect(pestsFor("Greenfly", [pest, rust] as never)[0]).toMatchObject({ by: "greenfly" });
    expect(pestsFor("orange", [pest, rust] as never).map((m) => m.pest.key)).toEqual(["rust"]);
    expect(ownPest("greenfly", [pest] as never)).toBeNull();
    expect(ownPest("lace bug", [pest] as never)).toBe("lace bug");
    expect(pestsFor("", [pest, rust] as never)).toHaveLength(2);
  });

  it("offers a word of one's own behind what it may mean", () => {
    const page = mount(PestPicker, {
      props: { pests: [pest, rust] as never, modelValue: "lace bug" },
      global: { stubs: { ElSelect: { template: "<div><slot /></div>" }, ElOption: { props: ["value", "label"], template: "<i>{{ value }}</i>" } } },
    });
    expect(page.findAll("i").map((i) => i.text())).toEqual(["aphids", "rust", "lace bug"]);
  });
});

describe("today", () => {
  it("shows what is due, and what was put away can be brought back", async () => {
    const job = { kind: "count", title: "Count, look 1", station: "look", due_on: "2026-05-10", number: 1, left: 2, of: 4, at: null, note: "" };
    answers["GET /api/today"] = () => ({
      today: "2026-05-10",
      trials: [{ id: 4, name: "Gutters", pest: "Aphids", plants: 4, stations, jobs: [job] }],
      put_away: [{ id: 9, name: "Old one", put_away_at: "2026-05-01T08:00:00Z" }],
    });
    answers["GET /api/ribbon"] = () => ({ known: false });
    const page = await alone(TodayView);
    expect(page.get(".job").attributes("href")).toBe("/trial/4/look/1");
    expect(page.text()).toContain("2 of 4 plants left");
    await button(page, "Bring it back").trigger("click");
    expect(last("POST")?.path).toBe("/api/trials/9/restore");
  });

  it("teaches the first step in an empty garden", async () => {
    answers["GET /api/today"] = () => ({ today: "2026-05-10", trials: [], put_away: [] });
    const page = await alone(TodayView);
    expect(page.text()).toContain("Plan a trial");
  });
});

describe("finding out", () => {
  it("says of what no spray helps how to tell and what to do, and asks for no count", async () => {
    answers["GET /api/signs/candidates"] = () => [{ key: "thirst", fit: 1, seen: ["honeydew"], unexplained: [] }];
    const page = await alone(FindOutView);
    await button(page, "Sticky leaves").trigger("click");
    await flushPromises();
    expect(page.get(".in-view").text()).toBe("It may be thirst ↓");
    await button(page, "Thirst").trigger("click");
    expect(page.text()).toContain("Thirst: no spray helps");
    expect(page.text()).toContain("Water it.");
    expect(page.find("form").exists()).toBe(false);
    await button(page, "Start afresh").trigger("click");
  });

  it("keeps what was ticked over a reload, and sends a look with a key of its own", async () => {
    answers["GET /api/signs/candidates"] = () => [{ key: "aphids", fit: 0.5, seen: ["honeydew"], unexplained: [] }];
    answers["POST /api/queries/advice"] = () => ({ action: "trial", reason: "enough", share: 0.5, trend: "unknown" });
    const first = await alone(FindOutView);
    await button(first, "Sticky leaves").trigger("click");
    await flushPromises();
    await button(first, "Aphids").trigger("click");
    first.unmount();
    const page = await alone(FindOutView);
    expect(button(page, "Sticky leaves").attributes("aria-pressed")).toBe("true");
    field(page, "Of these affected").value = "5";
    field(page, "Of these affected").dispatchEvent(new Event("input"));
    await page.get("form").trigger("submit");
    await flushPromises();
    await button(page, "Keep this look").trigger("click");
    await flushPromises();
    expect(last("POST")).toMatchObject({ path: "/api/inspections", body: { pest: "aphids", affected: 5, signs: ["honeydew"] } });
    expect(last("POST")?.headers.get("idempotency-key")).toBeTruthy();
    await button(page, "Start afresh").trigger("click");
    expect(button(page, "Sticky leaves").attributes("aria-pressed")).toBe("false");
  });
});

describe("a pest of one's own", () => {
  it("is kept with how it is counted, said to be there on every page, and taken off again", async () => {
    let kept: object[] = [];
    answers["GET /api/own-pests"] = () => kept;
    answers["POST /api/own-pests"] = (body) => (kept = [{ ...pest, ...(body as object), id: 8, key: "Box moth" }])[0];
    answers["DELETE /api/own-pests/8"] = () => (kept = []);
    const fields = { name: "Box moth", kept: undefined as typeof pest | undefined, measure: "live" as const, lookDays: "2, 6", roundDays: "0" };
    const page = mount(
      {
        setup: () => ({ known: useKnowledge().knowledge, fields }),
        components: { OwnPestFields },
        template:
          '<div><i>{{ known?.pests.map((p) => p.name).join() }}</i><OwnPestFields v-bind="fields" :kept="known?.pests.find((p) => p.key === fields.name)" /></div>',
      },
      { global: { stubs } },
    );
    await flushPromises();
    expect(page.text()).toContain("Box moth is not on the list");
    await page.findAll("input")[2]?.setValue("Every live caterpillar.");
    await page
      .findAll("button")
      .find((b) => b.text() === "Keep it in my list")
      ?.trigger("click");
    await flushPromises();
    expect(calls.find((c) => c.method === "POST")?.body).toMatchObject({
      name: "Box moth",
      count_what: "Every live caterpillar.",
      look_days: [2, 6],
      round_days: [0],
      generation_days: 0,
    });
    expect(page.get("i").text()).toContain("Box moth");
    await page
      .findAll("button")
      .find((b) => b.text() === "Off my list")
      ?.trigger("click");
    await flushPromises();
    expect(page.get("i").text()).not.toContain("Box moth");
  });
});

describe("the fields of a question", () => {
  it("names what is typed wrongly, and reads lists as they are meant", async () => {
    const draft = {
      name: "x",
      pest: "aphids",
      measure: "live",
      threshold: "sixty",
      start_on: "2026-05-10",
      look_days: "2 weeks; 5",
      round_days: "0, 5",
      remedies: [],
      setup: { ...usualSetup },
    };
    const page = mount(QuestionForm, {
      props: { modelValue: draft as never, knowledge: { numbers, ways, pests: [pest], measures, signs: [] } as never, fault: null },
      global: { stubs },
    });
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(page.emitted("wrong")?.[0]).toMatchObject([{ field: "threshold" }]);
    draft.threshold = "60";
    await page.setProps({ modelValue: { ...draft } as never });
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(page.emitted("wrong")?.[1]).toMatchObject([{ field: "look_days" }]);
    await page.setProps({ modelValue: { ...draft, look_days: "2; 5; 9" } as never });
    await page.get("form").trigger("keydown", { key: "Enter", ctrlKey: true });
    await flushPromises();
    expect(page.emitted("submit")?.[0]).toMatchObject([{ look_days: [2, 5, 9], threshold: 0.6 }]);
  });
});

describe("the question of a kept trial", () => {
  it("sends the state it was read in, and leaves both versions to choose from after a conflict", async () => {
    answers["PUT /api/trials/4/question"] = () => changed();
    const page = await inTrial(QuestionStation);
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(last("PUT")?.headers.get("if-match")).toBe('"q1"');
    expect(page.text()).toContain("changed in another window");
    answers["GET /api/trials/4"] = () => makeTrial({ name: "Theirs", question_revision: "q2" });
    await button(page, "Keep mine").trigger("click");
    await flushPromises();
    answers["PUT /api/trials/4/question"] = () => makeTrial({ question_revision: "q3" });
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(last("PUT")?.headers.get("if-match")).toBe('"q2"');
    expect(last("PUT")?.body).toMatchObject({ name: "Gutters" });
  });

  it("puts the trial away after saying what stays with it", async () => {
    answers["GET /api/trials/4"] = () => makeTrial({ holds: ["3 counts"] });
    const page = await inTrial(QuestionStation);
    await button(page, "Put this trial away").trigger("click");
    expect(page.text()).toContain("3 counts stay with it");
    await button(page, "Put it away").trigger("click");
    await flushPromises();
    expect(last("DELETE")?.path).toBe("/api/trials/4");
    expect(went.to).toEqual(["/"]);
  });
});

describe("the plants", () => {
  it("keeps a count with the state of its plant, and names what is no number", async () => {
    answers["PUT /api/trials/4/plants/2"] = () => makeTrial();
    const page = await inTrial(PlantsStation);
    const count = page.get("#count-2");
    await count.setValue("1,5");
    await count.trigger("change");
    await flushPromises();
    expect(last("PUT")).toMatchObject({ path: "/api/trials/4/plants/2", body: { name: "S2", match_count: 1.5 } });
    expect(last("PUT")?.headers.get("if-match")).toBe('"p2"');
    await count.setValue("many");
    await count.trigger("change");
    expect(page.text()).toContain("“many” is not a number");
  });

  it("adds a bench once, however often the button is pressed", async () => {
    answers["POST /api/trials/4/plants"] = () => makeTrial();
    const page = await inTrial(PlantsStation);
    await page.get("form").trigger("submit");
    await page.get("form").trigger("submit");
    await flushPromises();
    const keys = calls.filter((c) => c.method === "POST").map((c) => c.headers.get("idempotency-key"));
    expect(new Set(keys).size).toBe(1);
  });
});

describe("the layout", () => {
  it("draws, then leads on to the first step that is not done", async () => {
    const drawn = makeTrial({
      plants: [plant(1, { block: 1, letter: "A" }), plant(2, { block: 1, letter: "B" })],
      stations: stations.map((s) => (s.key === "layout" ? { ...s, state: "done" } : s)),
    });
    answers["POST /api/trials/4/layout"] = () => drawn;
    answers["GET /api/trials/4/prints"] = () => ({ sheet: {}, blank: {}, tags: {} });
    const page = await inTrial(LayoutStation);
    await button(page, "Draw at random").trigger("click");
    await flushPromises();
    expect(document.activeElement?.textContent).toContain("What stands where");
    expect(page.get(".go-on").attributes("href")).toBe("/trial/4/patch");
  });

  it("moves a plant picked up by one click and put down by another", async () => {
    answers["POST /api/trials/4/plants/1/move"] = () => makeTrial();
    const page = await inTrial(LayoutStation);
    const pots = page.findAll("button.pot");
    await pots[0]?.trigger("click");
    expect(page.text()).toContain("S1 is picked up");
    await pots[2]?.trigger("click");
    await flushPromises();
    expect(last("POST")).toMatchObject({ path: "/api/trials/4/plants/1/move", body: { row: 1, place: 3 } });
  });
});

describe("rounds and looks", () => {
  it("lists them in the order they happen, on a bench that is only a picture", async () => {
    answers["GET /api/trials/4"] = () => makeTrial({ plants: [plant(1, { block: 1, letter: "A" })] });
    answers["GET /api/trials/4/schedule"] = () => ({ stages: [], proposals: [] });
    const page = await inTrial(RoundsStation);
    const text = page.text();
    expect(text.indexOf("Count before")).toBeLessThan(text.indexOf("Spray, round 1"));
    expect(text.indexOf("Spray, round 1")).toBeLessThan(text.indexOf("Look 1"));
    expect(page.findAll("button.pot")).toHaveLength(0);
  });
});

describe("a round that was moved", () => {
  const text = "Round 2 was moved from day 7 to day 9: rain";
  it("is moved back where it stands, and one that was added is left out again", async () => {
    const moved = (amount: number): object => ({
      ...makeTrial().rounds[0],
      number: 2,
      day: 9,
      on: "2026-05-10",
      sprayed: [],
      skipped: [],
      left_out: false,
      notes: [text],
      events: [{ at: "2026-05-01T08:00:00Z", kind: "moved", amount, text }],
    });
    answers["GET /api/trials/4/schedule"] = () => ({ stages: [], proposals: [] });
    answers["POST /api/trials/4/rounds/2/move"] = () => makeTrial();
    answers["POST /api/trials/4/rounds/2/leave-out"] = () => makeTrial();
    for (const [amount, said, path] of [
      [2, "Move it back to", "move"],
      [9, "Leave it out again", "leave-out"],
    ] as const) {
      answers["GET /api/trials/4"] = () => makeTrial({ plants: [plant(1, { block: 1, letter: "A" })], rounds: [moved(amount)] });
      const page = await inTrial(RoundsStation);
      await page
        .findAll("button")
        .find((b) => b.text().startsWith(said))
        ?.trigger("click");
      await flushPromises();
      expect(last("POST")?.path).toBe(`/api/trials/4/rounds/2/${path}`);
      if (amount === 2) expect(last("POST")?.body).toMatchObject({ on: "2026-05-08" });
    }
  });
});

describe("counting on another day", () => {
  const late = {
    sprayed_on: "2026-05-01",
    today: "2026-05-20",
    plants: [plant(1, { letter: "A" })],
    walk: [1],
    looks: [
      { id: 70, number: 0, day: 0, hours: 0, when: "day 0", on: "2026-05-01", counted: 0 },
      { id: 71, number: 1, day: 7, hours: 0, when: "day 7", on: "2026-05-08", counted: 0 },
    ],
  };

  it("asks first which day it was, and sends it with each number", async () => {
    answers["GET /api/trials/4"] = () => makeTrial(late);
    answers["POST /api/taps"] = () => ({ kept: [], refused: [], contested: [] });
    answers["GET /api/trials/4/looks/1/sheet"] = () => ({ tallies: [], early: [], totals: {}, contests: [], damage_before: {} });
    const page = await inTrial(CountView, { number: 1 });
    expect(page.findAll(".keep")).toHaveLength(0);
    await button(page, "On its day").trigger("click");
    await button(page, "+5").trigger("click");
    // Quick taps go together, after a moment.
    await eventually(() => {
      expect(last("POST")).toMatchObject({ path: "/api/taps", body: { taps: [{ trial_id: 4, look: 1, tally: { value: 5, counted_on: "2026-05-08" } }] } });
    });
  });

  it("never offers a day to come", async () => {
    const page = mount(CountDay, { props: { due: "2026-05-28", today: "2026-05-20", before: false, modelValue: null }, global: { stubs } });
    expect(page.text()).toContain("settles nothing");
    expect(page.findAll("button").some((b) => b.text().includes("On its day"))).toBe(false);
    await page.get("input").setValue("2026-05-21");
    await page.get("form").trigger("submit");
    expect(page.emitted("update:modelValue")).toBeUndefined();
    await page.get("input").setValue("2026-05-18");
    await page.get("form").trigger("submit");
    expect(page.emitted("update:modelValue")).toEqual([["2026-05-18"]]);
  });
});

describe("the verdict", () => {
  const verdict = {
    outcome: "winner",
    recommended: "Soap",
    sentence: "Soap works.",
    advice: "Treat the rest.",
    measure: "live",
    look: "7",
    threshold: 0.6,
    design: {},
    remedies: [],
    warnings: [],
    reasons: [],
    beside: [],
    method: {},
  };

  it("settles nothing from counts of before the day", async () => {
    answers["GET /api/trials/4/verdict"] = () => ({ verdict, final: false, early: true, look_number: 1, notes: [], answers: [], seen: [], mess: {} });
    const page = await inTrial(VerdictStation);
    expect(page.text()).toContain("Not settled: counted before its day");
    expect(page.text()).not.toContain("Treat the rest.");
  });

  it("puts a bet for today beside what is not settled, and calls it one", async () => {
    const open = {
      ...verdict,
      outcome: "undecided",
      recommended: null,
      sentence: "Not settled: Soap looks best.",
      advice: "Ten more.",
      if_today: "If you must treat today: Soap. That is wrong in about 3 of 10 such gardens.",
    };
    answers["GET /api/trials/4/verdict"] = () => ({ verdict: open, final: false, early: false, look_number: 2, notes: [], answers: [], seen: [], mess: {} });
    const page = await inTrial(VerdictStation);
    expect(page.get(".sentence").text()).toBe("Not settled: Soap looks best.");
    expect(page.get(".bet").text()).toMatch(/^If you must treat today: Soap\..*It is a bet, and no result of the trial\.$/);
    answers["GET /api/trials/4/verdict"] = () => ({
      verdict: { ...verdict, so_far: true, advice: "Count again." },
      final: false,
      early: false,
      look_number: 1,
      notes: [],
      answers: [],
      seen: [],
      mess: {},
    });
    const early = await inTrial(VerdictStation);
    expect(early.find(".bet").exists()).toBe(false);
    expect(early.text()).toContain("So far");
    expect(early.text()).toContain("Count again.");
  });

  it("is planned again for another season once it is final, and adds to what is known", async () => {
    const record = { made_at: "2026-05-18T08:00:00Z", version: "1", seed: 7, sentence: "" };
    answers["GET /api/trials/4/verdict"] = () => ({
      verdict,
      final: true,
      early: false,
      look_number: 2,
      notes: [],
      answers: [],
      seen: [],
      mess: {},
      record,
      differs: [],
      dots: {},
    });
    answers["POST /api/trials/4/copy"] = () => makeTrial({ id: 12 });
    const page = await inTrial(VerdictStation);
    expect(page.findAll("a").map((a) => a.attributes("href"))).toContain("/known/aphids");
    await page
      .findAll("button")
      .find((b) => b.text().startsWith("Plan it again"))
      ?.trigger("click");
    await flushPromises();
    expect(went.to.at(-1)).toBe("/trial/12/question");
    expect(calls.find((c) => c.path.endsWith("/copy"))?.headers.get("Idempotency-Key")).toBeTruthy();
  });

  it("says what comes first while nothing was counted", async () => {
    answers["GET /api/trials/4/verdict"] = () =>
      new Error(JSON.stringify({ error: { code: "nothing_counted", message: "nothing was counted", field: null, fix: "Count first." } }));
    const page = await inTrial(VerdictStation);
    expect(page.text()).toContain("Count first.");
  });
});

describe("a tag's code", () => {
  it("leads to the count that is due", async () => {
    went.params = { id: "4", plant: "3" };
    answers["GET /api/trials/4"] = () => makeTrial({ jobs: [{ kind: "count", station: "look", number: 1 }] });
    await alone(PlantLink);
    expect(went.to).toEqual([["instead", { path: "/trial/4/look/1", query: { plant: "3" } }]]);
  });
});
