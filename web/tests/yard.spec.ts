// The yard as it is typed: numbers, bottles, prices as they are sold, weather from a table.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { region } from "../src/units";
import YardView from "../src/views/weather/YardView.vue";

enableAutoUnmount(afterEach);

let calls: { method: string; body: unknown }[];
let answers: Record<string, (body: unknown) => unknown>;

beforeEach(() => {
  calls = [];
  answers = {};
  wire.answer = async (request: Request) => {
    const text = await request.text();
    const body: unknown = text.startsWith("{") || text.startsWith("[") ? JSON.parse(text) : text; // a table is no JSON
    calls.push({ method: request.method, body });
    return Response.json(answers[`${request.method} ${new URL(request.url).pathname}`]?.(body) ?? {});
  };
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
  ElCheckbox: true,
  ElCheckboxGroup: true,
  DayRibbon: true,
};
const last = (method: string) => calls.filter((c) => c.method === method).at(-1);

describe("the yard", () => {
  const yard = {
    name: "Steps",
    latitude: 48,
    longitude: 2,
    weather_source: "none",
    seed: 1,
    mild: 12,
    swing: 7,
    hardness: null,
    region: "metric",
    tools: ["tsp"],
    bottles: [500, 1000],
    drop: 0.05,
    currency: "€",
  };
  beforeEach(() => {
    answers["GET /api/yard"] = () => yard;
    answers["GET /api/prices"] = () => [{ name: "soap", pack: 500, price: 3.95 }];
    answers["GET /api/weather/days"] = () => [];
    answers["GET /api/tools"] = () => [];
    answers["GET /api/backups"] = () => ({ folder: "garden/backups", items: [], damage: null });
    answers["GET /api/ribbon"] = () => ({ days: [], hours: [], rows: [] });
  });

  it("sends numbers as typed, and puts a slip beside its field", async () => {
    answers["PUT /api/yard"] = (body) => body;
    const page = mount(YardView, { global: { stubs } });
    await flushPromises();
    const fields = page.findAll("form")[0]!.findAll("input"); // eslint-disable-line @typescript-eslint/no-non-null-assertion
    await fields[1]?.setValue("north");
    await fields[2]?.setValue("east");
    await page.findAll("form")[0]?.trigger("submit");
    await flushPromises();
    expect(page.findAll("[role=alert]").map((one) => one.text())).toEqual([
      expect.stringContaining("“north” is not a number"),
      expect.stringContaining("“east” is not a number"),
    ]);
    expect(page.findAll("[aria-invalid]")).toHaveLength(2);
    await fields[2]?.setValue("2");
    expect(last("PUT")).toBeUndefined();
    await fields[1]?.setValue("-33,9");
    await page.findAll("form")[0]?.trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({ latitude: -33.9, bottles: [500, 1000], hardness: null });
    expect(page.text()).toContain("The yard is kept.");
  });

  it("takes days away from the first to the last, one day where only one is said", async () => {
    answers["PUT /api/yard"] = (body) => body;
    answers["GET /api/yard"] = () => ({ ...yard, away: [{ first: "2026-07-01", last: "2026-07-14" }] });
    const page = mount(YardView, { global: { stubs } });
    await flushPromises();
    for (let k = 0; k < 2; k++) await page.findAll(".away button").at(-1)?.trigger("click");
    await page.get("[aria-label='First day away, 2']").setValue("2026-08-03");
    await page.findAll("form")[0]?.trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({
      away: [
        { first: "2026-07-01", last: "2026-07-14" },
        { first: "2026-08-03", last: "2026-08-03" },
      ],
    });
  });

  it("tells what was changed in the words of the page, never by a key", async () => {
    const part = (name: string, before: string, after: string): object => ({ name, before, after });
    answers["GET /api/tools"] = () => [
      { key: "tsp", name: "teaspoon" },
      { key: "jug", name: "measuring jug" },
    ];
    answers["GET /api/yard/changes"] = () => [
      {
        made_at: "2026-05-31T08:00:00Z",
        what: "yard",
        parts: [
          part("weather source", "none", "simulated"),
          part("tools", "jug", "tsp, jug"),
          part("seed", "1", "4711"),
          part("away", "none", "first 2026-07-01, last 2026-07-14"),
        ],
      },
      { made_at: "2026-05-30T08:00:00Z", what: "prices", parts: [part("soap", "none", "500, 3.95")] },
    ];
    const page = mount(YardView, { global: { stubs } });
    await flushPromises();
    const told = page.findAll("details li").map((one) => one.text());
    expect(told[0]).toContain(
      "weather source from None to A simulated station, to try things out; what you measure with from measuring jug to teaspoon and measuring jug; which weather from 1 to 4711; days away from nothing to first Wed 1 Jul and last Tue 14 Jul",
    );
    expect(told[1]).toContain("soap from nothing to 500 for 3.95");
  });

  it("tells and takes bottles as this gardener measures them, and packs as they are written", async () => {
    answers["GET /api/yard"] = () => ({ ...yard, region: "us" });
    answers["PUT /api/yard"] = (body) => body;
    answers["PUT /api/prices"] = () => [{ name: "soap", pack: 946.352946, price: 3.95 }];
    const page = mount(YardView, { global: { stubs } });
    await flushPromises();
    const form = page.findAll("form")[0]!; // eslint-disable-line @typescript-eslint/no-non-null-assertion
    const bottles = form.findAll("input").find((field) => field.element.value === "16.9, 33.8");
    await bottles?.setValue("16.9, 32");
    await form.trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toMatchObject({ bottles: [500, 946.35] });
    const packs = page.get('[aria-label="Pack: 500 ml, 2 lb, 10 pieces"]');
    await packs.setValue("32 fl oz");
    await page
      .findAll("form")
      .find((f) => f.text().includes("Keep the prices"))
      ?.trigger("submit");
    await flushPromises();
    expect(last("PUT")?.body).toEqual([{ name: "soap", pack: "32 fl oz", price: 3.95 }]);
    expect((packs.element as HTMLInputElement).value).toBe("946.352946");
    region.value = "metric";
  });

  it("reads a table in as it is", async () => {
    answers["POST /api/weather/table"] = () => ({ hours: 24 });
    const page = mount(YardView, { global: { stubs } });
    await flushPromises();
    const input = page.get("input[accept*=csv]");
    Object.defineProperty(input.element, "files", { value: [new File(["time,rain\n"], "w.csv")] });
    await input.trigger("change");
    await flushPromises();
    expect(last("POST")?.body).toBe("time,rain\n");
    expect(page.text()).toContain("24 hours are read in.");
  });
});
