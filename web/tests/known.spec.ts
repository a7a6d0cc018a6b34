// What is known of a pest: the trials of a remedy, all together, and what another would find.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, expect, it, vi } from "vitest";
import KnownView from "../src/views/verdict/KnownView.vue";

enableAutoUnmount(afterEach);
vi.mock("vue-router", () => ({ RouterLink: { props: ["to"], template: "<a :href='typeof to === \"string\" ? to : to.path'><slot /></a>" } }));

const trial = {
  trial_id: 7,
  name: "Lupins, last year",
  on: "2025-05-10",
  crop: "lupins",
  plants: 6,
  efficacy: 0.86,
  low: 0.78,
  high: 0.91,
  damage: 0,
  out: false,
  best: true,
};
const soap = {
  name: "Mild soap",
  strength: "15 ml/L",
  catalogue: "mild_soap",
  trials: [trial, { ...trial, trial_id: 9, out: true }],
  efficacy: 0.8,
  low: 0.6,
  high: 0.9,
  next_low: 0.4,
  next_high: 0.95,
  harmed: 1,
  words: "It harmed the plants in 1 trial here.",
};

let borne: object[] = [];

async function page(pest: string | null, remedies: object[], asked: string[] = []): Promise<VueWrapper> {
  wire.answer = (request) => {
    const path = new URL(request.url).pathname;
    asked.push(path);
    const body =
      path === "/api/borne"
        ? borne
        : path === "/api/known"
          ? remedies.length
            ? [
                { pest: "aphids", name: "Aphids", trials: 2 },
                { pest: "whiteflies", name: "Whiteflies", trials: 1 },
              ]
            : []
          : {
              pest: "aphids",
              name: "Aphids",
              trials: remedies.length,
              remedies,
              harmful: [{ name: "Vinegar", strength: "", words: "It harmed the plants in 2 trials here." }],
            };
    return Promise.resolve(new Response(JSON.stringify(body), { status: 200, headers: { "Content-Type": "application/json" } }));
  };
  const made = mount(KnownView, { props: { pest } });
  await flushPromises();
  return made;
}

it("shows the pest of most trials, each trial with its place, and harm in words", async () => {
  const asked: string[] = [];
  const shown = await page(null, [soap], asked);
  expect(asked).toContain("/api/known/aphids");
  expect(shown.findAll("a").filter((a) => a.attributes("href") === "/trial/7/verdict")).toHaveLength(1);
  expect(shown.text()).toContain("May 2025, lupins: 86% fewer, the best there");
  expect(shown.findAll(".trial")).toHaveLength(2);
  expect(shown.get("[role=img]").attributes("aria-label")).toBe("80% removed, likely 60% to 90%");
  expect(shown.text()).toContain("harmed the plants in 1 trial");
  expect(shown.get(".harmful").text()).toContain("Vinegar: It harmed the plants in 2 trials here.");
});

it("asks for the pest of its address, and draws nothing beyond its line", async () => {
  const asked: string[] = [];
  const shown = await page("own pest/2", [{ ...soap, next_low: -40 }], asked);
  expect(asked).toContain("/api/known/own%20pest%2F2");
  const ends = shown.findAll("line.next").map((line) => Number(line.attributes("x1")));
  expect(ends.every((x) => x >= 0)).toBe(true);
});

it("says how to begin where nothing was judged yet", async () => {
  expect((await page(null, [])).text()).toContain("Once the verdict of a trial is read");
});

it("shows which leaves bore which mix, and where one was marked", async () => {
  const test = { kind: "fuchsias", remedy: "Soap", strength: "15 ml/L", passed: 2, marked: 0 };
  borne = [test, { ...test, kind: "roses", passed: 1, marked: 1 }, { ...test, remedy: "Oil", strength: "" }];
  const shown = await page(null, []);
  const cells = shown.findAll("tbody tr").map((row) => row.findAll("th, td").map((cell) => cell.text()));
  expect(shown.findAll("thead th").map((one) => one.text())).toEqual(["Leaves", "Oil", "Soap, 15 ml/L"]);
  expect(cells).toEqual([
    ["fuchsias", "borne 2 times", "borne 2 times"],
    ["roses", "", "borne, marked"],
  ]);
  expect(shown.get("td.marked").text()).toBe("borne, marked");
});
