// The garden's year: where days lie on the band, and the journal that is written and taken back.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import ElementPlus from "element-plus";
import { afterEach, expect, it, vi } from "vitest";
import { months, sizeOf, warmthLine, xOf } from "../src/charts/year";
import YearView from "../src/views/seasons/YearView.vue";

enableAutoUnmount(afterEach);
const query: Record<string, string> = {};
vi.mock("vue-router", () => ({
  useRoute: () => ({ query }),
  RouterLink: { props: ["to"], template: "<a :href='typeof to === \"string\" ? to : JSON.stringify(to)'><slot /></a>" },
}));

const scale = { start: "2026-07-01", days: 365, left: 100, right: 830 };

it("lays days along the year and those beyond it at its ends", () => {
  expect(xOf(scale, "2026-07-01")).toBe(100);
  expect(xOf(scale, "2026-09-09")).toBe(240);
  expect(xOf(scale, "2026-06-01")).toBe(100);
  expect(xOf(scale, "2028-01-01")).toBe(830);
  const shown = months(scale);
  expect(shown.map((m) => m.name)).toEqual(["Jul", "Aug", "Sept", "Oct", "Nov", "Dec", "Jan", "Feb", "Mar", "Apr", "May", "Jun"]);
  expect(shown[2]?.x).toBe(224);
  expect(months({ ...scale, right: 400 })[0]?.name).toBe("J");
  expect(sizeOf(1)).toBeGreaterThan(sizeOf(3));
  expect(sizeOf(30)).toBeGreaterThan(0);
});

it("draws warmth from the base line up, and nothing where nothing was gathered", () => {
  expect(warmthLine({ ...scale, days: 2, left: 0, right: 20 }, [5, 10], 10, 50, 40)).toBe("M10.0 30.0L20.0 10.0");
  expect(warmthLine(scale, [0], 0, 50, 40)).toContain(" 50.0");
});

const first = { start: "2025-01-01", on: "2025-05-20", day: 139, place: "Stairs", degree_days: 312.4 };
const thrips = {
  pest: "thrips",
  name: "Thrips",
  firsts: [first],
  this: null,
  expected: { on: "2026-05-14", earliest: "2026-05-12", latest: "2026-05-20", ahead: 6, years: 2, prevent_from: "2026-04-16" },
  said: "It is expected in 4 days.",
  trials: [{ on: "2026-03-01", words: "Soap, 86%", trial_id: 7 }],
  treated: [],
};
const entry = {
  id: 4,
  kind: "look",
  on: "2026-05-02",
  place: "Stairs",
  pest: "thrips",
  name: "Thrips",
  level: 2,
  helpers: true,
  what: "",
  note: "under the leaves",
  degree_days: 212.4,
};
const year = {
  today: "2026-05-10",
  start: "2026-01-01",
  end: "2027-01-01",
  name: "2026",
  years: ["2025-01-01", "2026-01-01"],
  place: "",
  places: ["Sill", "Stairs"],
  lanes: [thrips],
  warmth: [1, 2],
  warmth_before: [1, 3],
  apart: [{ entry_id: 3, what: "Fuchsia", place: "Sill", until: "2026-05-20", look_on: "2026-05-13", found: "Aphids" }],
  tried: [
    { entry_id: 2, pest: "thrips", name: "Thrips", place: "Stairs", what: "Garlic water, strong", on: "2026-04-01", said: "Some before, many 5 days later." },
  ],
  cannot_show: "Not whether they went because of it.",
  entries: [entry],
  air: "",
  tasks: [{ ...entry, id: 8, kind: "task", on: "2026-05-12", what: "Refill the traps", every: 14, level: null }],
};

async function page(sent: { method: string; body: unknown }[] = [], refuse: object | null = null): Promise<VueWrapper> {
  wire.answer = async (request) => {
    const path = new URL(request.url).pathname;
    if (request.method !== "GET")
      sent.push({ method: `${request.method} ${path}`, body: request.method === "POST" ? JSON.parse((await request.clone().text()) || "null") : null });
    if (request.method === "DELETE") return new Response(null, { status: 204 });
    const [status, body] =
      request.method === "POST" && refuse
        ? [422, { error: refuse }]
        : [200, path === "/api/year" || path.startsWith("/api/journal") ? year : path === "/api/own-pests" ? [] : { pests: [] }];
    return new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
  };
  const made = mount(YearView, { global: { plugins: [ElementPlus] }, attachTo: document.body });
  await flushPromises();
  return made;
}

it("says what is next, shows the years as picture and table, and offers a fair trial of what was tried", async () => {
  const shown = await page();
  expect(shown.text()).toContain("It is expected in 4 days.");
  expect(shown.text()).toContain("aphids was found there, so its three weeks began anew");
  expect(shown.get(".frame svg").text()).toContain("expected Thu 14 May");
  expect(shown.findAll("circle.before")).toHaveLength(1);
  expect(shown.get("tbody").text()).toContain("2025, Stairs (after 312 degree-days)");
  expect(shown.text()).toContain("Not whether they went because of it.");
  const link = shown.findAll("a").find((a) => a.text().startsWith("Try them side by side"));
  expect(JSON.parse(link?.attributes("href") ?? "{}")).toEqual({ path: "/new", query: { pest: "thrips", tried: ["Garlic water, strong"] } });
  expect(shown.get(".lines").text()).toContain("Thrips: some, helpers about, Stairs (after 212 degree-days)");
});

it("writes what Today asked for, says a fault at its field, and takes a line back", async () => {
  Object.assign(query, { write: "look", pest: "thrips", at: "Stairs" });
  const sent: { method: string; body: unknown }[] = [];
  const shown = await page(sent);
  await shown
    .findAll("button")
    .find((b) => b.text() === "Few")
    ?.trigger("click");
  await shown.get("form").trigger("submit");
  await flushPromises();
  expect(sent[0]).toMatchObject({ method: "POST /api/journal", body: { kind: "look", place: "Stairs", pest: "thrips", level: 1, on: "2026-05-10", what: "" } });
  expect(shown.get("form [role=status]").text()).toBe("Written down.");
  await shown
    .findAll("button")
    .find((b) => b.text() === "Done")
    ?.trigger("click");
  await flushPromises();
  expect(sent[1]?.method).toBe("POST /api/journal/8/done");
  await shown.get(".lines button").trigger("click");
  await flushPromises();
  expect(sent[2]?.method).toBe("DELETE /api/journal/4");
  const refused = await page([], { code: "empty", field: "level", message: "how many there were is not said", fix: "Say none, few, some or many." });
  await refused.get("form").trigger("submit");
  await flushPromises();
  expect(refused.get("[role=alert]").text()).toBe("Say none, few, some or many.");
});
