// The help: one source for screens and glossary, found by a word, and leading to where it is done.
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { readFileSync } from "node:fs";
import { afterEach, expect, it, vi } from "vitest";
import { nextTick } from "vue";
import TermText from "../src/components/TermText.vue";
import HelpDialog from "../src/components/HelpDialog.vue";
import { answers, helpOpen, inPieces, leadsTo, pageOf, search, terms } from "../src/help/help";

enableAutoUnmount(afterEach);
vi.mock("vue-router", () => ({
  useRoute: () => ({ path: "/trial/7/look/2" }),
  RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" },
}));

it("says of each word what the glossary says", () => {
  const glossary = readFileSync("../docs/glossary.md", "utf8").split("## On the screens")[1] ?? "";
  const rows = [...glossary.matchAll(/^\| (.+) \| (.+) \|$/gm)].slice(1).map((row) => [row[1], row[2]]);
  expect(rows).toEqual(terms.map((t) => [t.word, t.says]));
});

it("answers on pages that are there, and leads to them", () => {
  const pages = [
    "today",
    "look",
    "new",
    "mix",
    "yard",
    "practice",
    "play",
    "known",
    "year",
    "question",
    "plants",
    "layout",
    "paper",
    "patch",
    "rounds",
    "verdict",
    "look-at",
    "round",
  ];
  for (const answer of answers) {
    expect(answer.pages.length, answer.asks).toBeGreaterThan(0);
    for (const page of answer.pages) expect(pages, answer.asks).toContain(page);
    const to = leadsTo(answer, "7");
    if (to) expect(pages, answer.asks).toContain(pageOf(to.split("?")[0] ?? "").page);
  }
  expect(new Set(answers.map((a) => a.asks)).size).toBe(answers.length);
});

it.each([
  ["what if it rains", "What if it rains?"],
  ["rain", "What if it rains?"],
  ["dead", "One died."],
  ["died", "One died."],
  ["how many plants", "How many plants do I need?"],
  ["wrong", "I sprayed the wrong one."],
  ["dish", "May I take washing-up liquid?"],
  ["bees", "They are in flower."],
  ["spreadsheet", "I did a trial on paper."],
])("finds by “%s” what answers it", (typed, asks) => {
  expect(search(answers, typed).map((a) => a.asks)).toContain(asks);
});

it("knows the page and the trial of a path", () => {
  expect(pageOf("/")).toEqual({ page: "today", trial: null });
  expect(pageOf("/trial/12/round/3")).toEqual({ page: "round", trial: "12" });
  expect(pageOf("/trial/12")).toEqual({ page: "question", trial: "12" });
  const act = answers.find((a) => a.act?.to.includes("{trial}"));
  expect(act && leadsTo(act, null)).toBeNull();
});

it("opens a term where it first stands, and closes it by Escape", async () => {
  expect(inPieces("Blocks and a block").map((p) => [p.text, p.term?.word])).toEqual([
    ["Blocks", "block"],
    [" and a block", undefined],
  ]);
  expect(inPieces("unblocked")).toEqual([{ text: "unblocked", term: null }]);
  const text = "Not settled: 60% fewer live pests (than on the control).";
  const shown = mount(TermText, { props: { text } });
  expect(shown.text()).toBe(text);
  expect(shown.findAll(".whole").map((one) => one.text())).toContain("control).");
  expect(mount(TermText, { props: { text: "a block/control" } }).text()).toBe("a block/control");
  await shown.findAll("button").at(-1)?.trigger("click");
  expect(shown.text()).toContain("The plants that get no remedy");
  await shown.find("button").trigger("keydown", { key: "Escape" });
  expect(shown.text()).not.toContain("The plants that get no remedy");
});

it("shows this page's answers first, and the search what it finds", async () => {
  helpOpen.value = true;
  const shown = mount(HelpDialog, { global: { stubs: { "el-dialog": { template: "<div><slot /></div>" } } } });
  expect(shown.find("section").text()).toMatch(/^On this page/);
  expect(shown.find("section").text()).toContain("I miscounted.");
  const link = shown.findAll("a").find((a) => a.text().startsWith("To the count before"));
  expect(link?.attributes("href")).toBe("/trial/7/look/0");
  await shown.find("input").setValue("no such thing");
  await nextTick();
  expect(shown.text()).toContain("Nothing is said of that here");
});
