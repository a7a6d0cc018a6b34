// Components as a person meets them: what is said, what a key or a tap does.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type DOMWrapper } from "@vue/test-utils";
import { afterEach, describe, expect, it, vi } from "vitest";
import { nextTick, ref } from "vue";
import { Fault, type Trial, type Verdict } from "../src/api/client";
import CellField from "../src/components/CellField.vue";
import FaultNote from "../src/components/FaultNote.vue";
import VerdictSheet from "../src/components/verdict/VerdictSheet.vue";
import FieldRow from "../src/components/FieldRow.vue";
import { region } from "../src/units";
import JobRow from "../src/components/trial/JobRow.vue";
import PlantTag from "../src/components/PlantTag.vue";
import RemedyRhythm from "../src/components/trial/RemedyRhythm.vue";
import TimeTable from "../src/components/field/TimeTable.vue";
import SlopesPicture from "../src/components/verdict/SlopesPicture.vue";
import SignPicture from "../src/components/finding/SignPicture.vue";
import TrialThread from "../src/components/trial/TrialThread.vue";
import { shortcuts, useKeys } from "../src/composables/useKeys";
import RemedySteps from "../src/components/trial/RemedySteps.vue";
import RemedyPicker from "../src/components/pantry/RemedyPicker.vue";
import { trial } from "./benchWorld";

// A page left behind would go on asking in the tests after it.
enableAutoUnmount(afterEach);

globalThis.ResizeObserver = class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
};

afterEach(() => {
  document.body.innerHTML = "";
  vi.restoreAllMocks();
});

describe("fields", () => {
  it("does not overwrite what is being typed, and takes news when it is left", async () => {
    const field = mount(CellField, { props: { value: "3" }, attachTo: document.body });
    const input = field.get("input").element;
    input.focus();
    await field.get("input").setValue("12");
    await field.setProps({ value: "4" });
    expect(input.value).toBe("12");
    await field.get("input").trigger("change");
    expect(field.emitted("keep")?.at(-1)).toEqual(["12"]);
    input.blur();
    await field.setProps({ value: "5" });
    expect(input.value).toBe("5");
  });

  it("puts the fault where the help was and says it aloud", () => {
    const fault = new Fault("negative_count", "-1 is below zero", "value", "Nothing found is 0.", 422);
    const row = mount(FieldRow, { props: { label: "Count", help: "All of them.", fault } });
    expect(row.get("[role=alert]").text()).toBe("-1 is below zero. Nothing found is 0.");
    expect(row.text()).not.toContain("All of them.");
    expect(
      mount(FieldRow, { props: { label: "Count", help: "All of them." } })
        .find("[role=alert]")
        .exists(),
    ).toBe(false);
  });

  it("brings what is said at the end of a long page into sight, and moves nothing that is seen", async () => {
    const fault = new Fault("offline", "no answer", null, "Try again.", 0);
    const note = mount(FaultNote, { props: { fault: null } });
    const moved = vi.fn();
    let top = 2000;
    Element.prototype.scrollIntoView = moved;
    vi.spyOn(Element.prototype, "getBoundingClientRect").mockImplementation(() => ({ top, bottom: top + 50 }) as DOMRect);
    await note.setProps({ fault });
    expect(moved).toHaveBeenCalledTimes(1);
    top = 100;
    await note.setProps({ fault: new Fault("offline", "no answer", null, "Try again.", 0) });
    expect(moved).toHaveBeenCalledTimes(1);
    vi.restoreAllMocks();
  });

  it("shows texts as text", () => {
    const fault = new Fault("x", "<img src=x onerror=alert(1)>", null, "<b>no</b>", 400);
    const note = mount(FaultNote, { props: { fault } });
    expect(note.find("img").exists()).toBe(false);
    expect(note.text()).toContain("<b>no</b>");
  });
});

describe("the verdict's rows", () => {
  const result = (name: string, own = {}) => ({
    name,
    role: "remedy",
    efficacy: 0.85,
    efficacy_low: 0.7,
    efficacy_high: 0.92,
    mean_before: 20,
    mean_after: 3,
    missed: [],
    failed_on: 0,
    plants: 4,
    lost: 0,
    died: 0,
    damage_beyond_control: null,
    damage_high: null,
    damage_plants: 0,
    helpers: null,
    kills: false,
    vetoed: false,
    worse_than_control: false,
    ...own,
  });
  const verdict = {
    verdict: {
      threshold: 0.6,
      measure: "live",
      recommended: "Soap",
      remedies: [
        result("Soap"),
        result("Oil", { efficacy: 0.9, vetoed: true, lost: 3, died: 1, damage_beyond_control: 2.1, damage_high: 2.6, damage_plants: 4 }),
        result("Water", { role: "control", efficacy: null, efficacy_low: null, efficacy_high: null, mean_after: 26 }),
      ],
    },
    mess: {},
    dots: { Soap: [0.9, 0.8], Oil: [1, -9] },
  } as unknown as Verdict;
  const bottled = {
    ...trial,
    remedies: [
      { id: 5, name: "Soap" },
      { id: 6, name: "Oil" },
    ],
    batches: [
      { remedy_id: 5, cost: 0.5 },
      { remedy_id: 5, cost: 0.25 },
      { remedy_id: 6, cost: null },
    ],
    work: [{ remedy_id: 5, minutes: 40, cost: 2 }],
  } as unknown as Trial;

  it("tell of each remedy in one row what it removed, whether it harms, and its price in the yard's money", async () => {
    wire.answer = () => Promise.resolve(Response.json({ currency: "kr" }));
    const sheet = mount(VerdictSheet, { props: { verdict, trial: bottled } });
    await flushPromises();
    const [soap, oil, water] = sheet.findAll("tbody tr").map((row) => ({
      who: row.get("th").text(),
      line: row.get("td svg").attributes("aria-label"),
      prices: row.findAll("td.price").map((cell) => cell.text()),
      dots: row.findAll("circle").length,
    }));
    expect(soap).toMatchObject({ line: "85% fewer than on the control, likely 70% to 92%", prices: ["not scored", "kr 2.75", "about 40 min"], dots: 2 });
    expect(oil?.who).toContain("harms the plant: out");
    expect(oil?.who).toContain("lost 1 of 7 plants, 2 not counted");
    expect(oil?.prices).toEqual(["+2.1 stepsat most 2.6, 4 plants", "–", "–"]);
    expect(water?.who).toContain("grew to 1.3 times");
    expect(sheet.find("tr.best").text()).toContain("Soap");
    expect(sheet.text()).toContain("worth it from 60%");
  });

  it("say so when nothing can be drawn", () => {
    const none = { ...verdict, verdict: { ...verdict.verdict, remedies: [result("Oil", { efficacy: null, kills: true })] } } as unknown as Verdict;
    const sheet = mount(VerdictSheet, { props: { verdict: none, trial: bottled } });
    expect(sheet.text()).toContain("warnings below");
    expect(sheet.text()).toContain("no plant left");
  });
});

describe("every plant before and after", () => {
  const course = { looks: [0, 1], values: { 1: [12, 11], 2: [9, 0] }, damage: {} };
  const shown = (missed: string[]) => mount(SlopesPicture, { props: { trial, course, lookNumber: 1, order: ["Soap", "Water"], missed } });

  it("rings the plants that a remedy missed, and names them", () => {
    const picture = shown(["S1"]);
    expect(picture.text()).toContain("Ringed: S1, as if untreated.");
    expect(picture.findAll("svg:not(.tag)").map((svg) => svg.attributes("aria-label"))).toEqual([
      "Soap: S1 from 12 to 11, as if untreated",
      "Water: S2 from 9 to 0",
    ]);
    expect(picture.findAll('circle[r="7"]')).toHaveLength(1);
  });

  it("rings none where none was missed, and counts those left with nothing", () => {
    const picture = shown([]);
    expect(picture.text()).not.toContain("Ringed");
    expect(picture.text()).toContain("1 with none");
  });
});

describe("small signs", () => {
  it("a tag says its letter and notches, a plain one nothing", () => {
    expect(mount(PlantTag, { props: { letter: "C", notches: 3 } }).attributes("aria-label")).toBe("tag C, 3 notches");
    expect(mount(PlantTag, { props: { letter: "C", notches: 3, plain: true } }).attributes("aria-hidden")).toBe("true");
  });

  it.each(["stippling", "webbing", "wool", "maggots", "rings", "slime"])("%s has a drawing of its own", (drawing) => {
    const bare = mount(SignPicture, { props: { drawing: "none" } }).html();
    expect(mount(SignPicture, { props: { drawing } }).html().length).toBeGreaterThan(bare.length - 60);
    expect(mount(SignPicture, { props: { drawing } }).html()).not.toBe(bare);
  });

  it("the thread tells the state of each station and which is open", () => {
    const stations = [
      { key: "question", title: "Question", state: "done", line: "x" },
      { key: "rounds", title: "Rounds", state: "frayed", line: "x" },
      { key: "verdict", title: "Verdict", state: "next", line: "x" },
    ] as const;
    const thread = mount(TrialThread, {
      props: { stations: [...stations], trialId: 4, current: "rounds" },
      global: { stubs: { RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } } },
    });
    expect(thread.text()).toContain("(done, not quite as planned)");
    expect(thread.get("[aria-current=step]").text()).toContain("Rounds");
    expect(thread.findAll("path.loose")).toHaveLength(0);
  });

  it("a job leads to the place where it is done and says how late it is", () => {
    const row = mount(JobRow, {
      props: {
        job: { kind: "count", title: "Count, look 2", station: "look", due_on: "2026-05-08", number: 2, left: 3, of: 8, at: null, note: "" },
        trialId: 5,
        trialName: "Gutters",
        today: "2026-05-10",
      },
      global: { stubs: { RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } } },
    });
    expect(row.attributes("href")).toBe("/trial/5/look/2");
    expect(row.text()).toContain("2 days late");
    expect(row.text()).toContain("3 of 8 plants left");
  });
});

describe("keys", () => {
  it("run while their view lives, not while somebody types, and only when they may", async () => {
    const run = vi.fn();
    const allowed = ref(true);
    const view = mount(
      {
        setup: () => {
          useKeys([{ key: "x", label: "Try", run, when: () => allowed.value }]);
        },
        template: "<input />",
      },
      { attachTo: document.body },
    );
    const press = (target: EventTarget, init: object = {}): boolean =>
      target.dispatchEvent(new KeyboardEvent("keydown", { key: "x", bubbles: true, cancelable: true, ...init }));
    press(document.body);
    press(view.get("input").element);
    press(document.body, { ctrlKey: true });
    expect(run).toHaveBeenCalledTimes(1);
    allowed.value = false;
    press(document.body);
    expect(run).toHaveBeenCalledTimes(1);
    expect([...shortcuts].map((s) => s.label)).toContain("Try");
    view.unmount();
    await nextTick();
    expect([...shortcuts].map((s) => s.label)).not.toContain("Try");
  });
});

describe("who gets what on which day", () => {
  const rounds = [
    { number: 1, day: 0, remedies: [7, 8], steps: {} },
    { number: 2, day: 1, remedies: [7], steps: { 7: 1 } },
  ];
  const stepwise = trial.remedies.map((one) => ({ ...one, traits: one.id === 7 ? { steps: [{ after: 1, name: "neem" }] } : {} }));

  it("marks the days of each remedy, and is not there where all share the rounds", () => {
    const page = mount(TimeTable, {
      props: { trial: { ...trial, remedies: stepwise, rounds, looks: [{ day: 1 }], work: [{ remedy_id: 7, times: 2, minutes: 24 }] } as unknown as Trial },
    });
    const marks = page.findAll("tbody tr").map((row) => row.findAll("td:not(.work)").map((cell) => cell.find(".dot").exists()));
    expect(marks).toEqual([
      [true, false],
      [true, false],
    ]);
    expect(page.find("tbody td:nth-of-type(2)").text()).toBe("neem");
    expect(page.findAll("td.work").map((cell) => cell.text())).toEqual(["about 24 min", "–"]);
    expect(page.findAll("th.look").map((day) => day.text())).toEqual(["1"]);
    const shared = [{ number: 1, day: 0, remedies: null }];
    expect(mount(TimeTable, { props: { trial: { ...trial, rounds: shared, work: [] } as unknown as Trial } }).text()).toBe("");
  });
});

describe("strengths of a ladder", () => {
  afterEach(() => (region.value = "metric"));

  it("are shown and typed by the gallon, and sent as they are kept", async () => {
    region.value = "us";
    const soap = {
      key: "mild_soap",
      name: "Mild soap",
      role: "remedy",
      acts: "contact",
      ingredients: [{ key: "soap", name: "soap", amount: 10, unit: "ml/L", low: 5, high: 20 }],
      usual_ladder: [5, 10, 20],
      reasons: [],
      schools: [],
      missing: [],
    };
    const sent: { strengths: number[] }[] = [];
    wire.answer = async (request: Request) => {
      if (request.url.endsWith("/remedies")) return Response.json([soap]);
      sent.push((await request.json()) as { strengths: number[] });
      return Response.json({ remedies: [] });
    };
    const input = {
      props: ["modelValue"],
      emits: ["update:modelValue", "change"],
      template: '<input :value="modelValue" @input="$emit(`update:modelValue`, $event.target.value)" @change="$emit(`change`)" />',
    };
    const page = mount(RemedyPicker, {
      props: { pest: "aphids", setup: { kind: "ladder" } as never, taken: [], whole: true },
      global: { stubs: { "el-input": input } },
    });
    await flushPromises();
    expect(page.text()).toContain("typical 3.84–15.36 tsp/gal");
    await page.get("button.remedy").trigger("click");
    await flushPromises();
    const field = page.get<HTMLInputElement>("input");
    expect(field.element.value).toBe("3.84, 7.68, 15.36");
    await field.setValue("3.84, 8, 15.36");
    await field.trigger("change");
    await flushPromises();
    expect(sent.map((one) => one.strengths)).toEqual([
      [5, 10, 20],
      [5, 10.42, 20],
    ]); // 8 teaspoons of 4.93 ml in 3.785 litres
  });
});

describe("what follows in a remedy", () => {
  it("is added a day later, changed and taken out, three at most", async () => {
    const input = {
      props: ["modelValue"],
      emits: ["update:modelValue", "change"],
      template: '<input :value="modelValue" @input="$emit(`update:modelValue`, $event.target.value)" @change="$emit(`change`, $event.target.value)" />',
    };
    const stubs = { "el-select": true, "el-option": true, "el-input": input, "el-button": { template: "<button><slot /></button>" } };
    const page = mount(RemedySteps, {
      props: { "index": 1, "ways": [], "modelValue": { way: "spray" }, "onUpdate:modelValue": (now: object | undefined) => page.setProps({ modelValue: now }) },
      global: { stubs },
    });
    const steps = (): { after: number; name: string; recipe: string; above: number | null }[] => (page.props("modelValue") as { steps: [] }).steps;
    const add = (): DOMWrapper<Element> | undefined => page.findAll("button").find((button) => button.text().endsWith("in remedy 1"));
    for (let k = 0; k < 3; k++) await add()?.trigger("click");
    expect(add()).toBeUndefined();
    await page.get("[aria-label='Name of step 3 of remedy 1']").setValue("neem");
    await page.get("[aria-label='Recipe of step 3 of remedy 1']").setValue("5 ml neem per litre");
    await page.get("[aria-label='Days after the first, step 3 of remedy 1']").setValue("4");
    await page.get("[aria-label='Days after the first, step 3 of remedy 1']").trigger("change");
    await page.get("[aria-label='Take out step 2 of remedy 1']").trigger("click");
    expect(steps().map((s) => [s.after, s.name, s.recipe])).toEqual([
      [4, "neem", "5 ml neem per litre"],
      [3, "", ""],
    ]);
    const ask = (): DOMWrapper<Element> | undefined => page.findAll("button").find((button) => button.text().startsWith("If it is not enough"));
    await ask()?.trigger("click");
    expect(ask()).toBeUndefined(); // one rule, behind what has a day
    await page.get("[aria-label='More than so many are left, rule of remedy 1']").setValue("12,5");
    await page.get("[aria-label='More than so many are left, rule of remedy 1']").trigger("change");
    await page.get("[aria-label='Take out step 2 of remedy 1']").trigger("click");
    await add()?.trigger("click");
    expect(steps().map((s) => [s.after, s.above])).toEqual([
      [3, null],
      [4, null],
      [2, 12.5],
    ]);
  });
});

describe("how and when a remedy is given", () => {
  const select = {
    props: ["ariaLabel"],
    emits: ["update:modelValue"],
    template: `<select :aria-label="ariaLabel" @change="$emit('update:modelValue', $event.target.dataset.pick)" />`,
  };
  const stubs = {
    "el-select": select,
    "el-option": true,
    "el-input": {
      props: ["modelValue"],
      emits: ["update:modelValue", "change"],
      template: '<input :value="modelValue" @input="$emit(`update:modelValue`, $event.target.value)" @change="$emit(`change`)" />',
    },
  };
  const ways = [
    { key: "spray", name: "spray", unit: "ml", wets: true, whole: false, minutes: 1 },
    { key: "dust", name: "dust", unit: "g", wets: false, whole: false, minutes: 1 },
  ];

  it("is chosen, with the usual number, and typed", async () => {
    const page = mount(RemedyRhythm, { props: { index: 1, ways, modelValue: { way: "spray" } }, global: { stubs } });
    const sent = (): object => (page.emitted("update:modelValue")?.at(-1) as [object])[0];
    const pick = async (label: string, key: string): Promise<void> => {
      const found = page.get(`[aria-label="${label}"]`);
      (found.element as HTMLElement).dataset["pick"] = key;
      await found.trigger("change");
    };
    await pick("When remedy 1 is given", "every");
    expect(sent()).toMatchObject({ way: "spray", programme: { rhythm: "every", every: 3 } });
    region.value = "us"; // an amount of its own, as this gardener measures it
    await page.get("[aria-label='Dose of remedy 1']").setValue("3.4");
    await page.get("[aria-label='Dose of remedy 1']").trigger("change");
    expect(sent()).toMatchObject({ dose: 100.55, dose_unit: "ml" });
    region.value = "metric";
    await pick("How remedy 1 is given", "dust");
    expect(sent()).toMatchObject({ way: "dust", wets: false });
    await page.setProps({ modelValue: { way: "dust", programme: { rhythm: "days", every: 7, days: [0, 4, 9] } } });
    const [dose, days] = page.findAll("input");
    await dose?.setValue("2,5");
    await dose?.trigger("change");
    expect(sent()).toMatchObject({ dose: 2.5, dose_unit: "g" });
    await days?.setValue("0, 2, 5");
    await days?.trigger("change");
    expect(sent()).toMatchObject({ programme: { rhythm: "days", every: 7, days: [0, 2, 5] } });
  });
});
