// Today: a trial is found by words, one that was put away too.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, expect, it, vi } from "vitest";
import TodayView from "../src/views/trial/TodayView.vue";

enableAutoUnmount(afterEach);
vi.mock("vue-router", () => ({ RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } }));

const row = (id: number, name: string, pest: string, crop: string) => ({ id, name, pest, crop, plants: 4, stations: [], jobs: [], eating: "" });
const trials = [
  row(1, "Along the rail", "Aphids", "lupins"),
  row(2, "On the stairs", "Whiteflies", "fuchsias"),
  row(3, "Gutters", "Spider mites", "strawberries"),
  row(4, "Shelf", "Aphids", "ferns"),
];

async function page(count: number): Promise<VueWrapper> {
  wire.answer = (request) =>
    Promise.resolve(
      Response.json(
        request.url.includes("ribbon")
          ? { known: false }
          : { today: "2026-05-10", trials: trials.slice(0, count), put_away: [{ id: 9, name: "Lupins of old", put_away_at: "2026-05-01T08:00:00Z" }] },
      ),
    );
  const shown = mount(TodayView, { global: { stubs: { TrialThread: true, DayRibbon: true } } });
  await flushPromises();
  return shown;
}

it("finds trials by their name, pest and plants, and those put away by their name", async () => {
  const shown = await page(4);
  const seek = async (words: string) => {
    await shown.get(".seek input, input.seek").setValue(words);
    return shown.findAll(".trials strong").map((one) => one.text());
  };
  expect(await seek("aphids")).toEqual(["Along the rail", "Shelf"]);
  expect(shown.find(".away").exists()).toBe(false);
  expect(await seek("LUPINS")).toEqual(["Along the rail"]);
  expect(shown.get(".away").text()).toContain("Lupins of old");
  expect(await seek("aphids fern")).toEqual(["Shelf"]);
  expect(await seek("slugs")).toEqual([]);
  expect(shown.text()).toContain("No trial has these words");
});

it("asks for no words where there are few trials", async () => {
  expect((await page(2)).find(".seek").exists()).toBe(false);
});
