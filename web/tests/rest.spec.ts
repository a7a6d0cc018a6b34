// The rest of the garden: what was counted on a few plants, and an act kept with what it asks.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { defineComponent, h } from "vue";
import type { Trial } from "../src/api/client";
import RestPanel from "../src/components/verdict/RestPanel.vue";
import { provideTrial } from "../src/composables/useTrial";
import { meanOf } from "../src/rest";
import RestView from "../src/views/field/RestView.vue";

enableAutoUnmount(afterEach);
const pushed = vi.fn();
vi.mock("vue-router", () => ({ useRouter: () => ({ push: pushed }), RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } }));

const shown = { removes: 0.85, low: 0.7, high: 0.93 };
const treatment = {
  id: 3,
  remedy: "Soap",
  recipe: "by its label",
  which: "sick",
  place: "By the wall",
  plants: 12,
  ml_each: null,
  kinds: ["Roses"],
  eaten: false,
  shown,
  done: [] as object[],
  due: { act: "count", on: "2026-05-10", why: "Before." } as object | null,
  ended: "",
  ended_by_hand: false,
  left: [],
  said: "",
  eating: "",
  asked: ["cautions", "weather"],
  closed: [] as string[],
  cautions: ["mind it"],
};
const trial = {
  id: 4,
  name: "Gutters",
  today: "2026-05-10",
  general_cautions: ["label every bottle"],
  care: { round_rhythm: "plan", spot: { outdoors: true } },
};
const options = {
  choices: [{ remedy_id: 7, name: "Soap", shown, ml_each: 40 }],
  eaten: true,
  start_on: "2026-05-11",
  reasons: { sick: "Least work.", place: "", near: "", all: "" },
  treatments: [],
};
let now: object;
let sent: Record<string, unknown>[];

beforeEach(() => {
  sent = [];
  wire.answer = async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (request.method === "POST") sent.push((await request.json()) as Record<string, unknown>);
    if (path.endsWith("/queries/rest"))
      return Response.json({ error: { code: "bad_plants", field: "plants", message: "0 plants", fix: "Give how many." } }, { status: 422 });
    if (path === "/api/trials/4/rest") return Response.json(options);
    return Response.json(path === "/api/trials/4" ? trial : path.includes("/rest/") ? now : {});
  };
});

async function follow(changes: object = {}): Promise<VueWrapper> {
  now = { ...treatment, ...changes };
  const Page = defineComponent({
    setup() {
      const store = provideTrial(4);
      void store.load();
      return () => (store.trial.value ? h(RestView, { number: 3 }) : null);
    },
  });
  const page = mount(Page);
  await flushPromises();
  return page;
}

const press = (page: VueWrapper, words: string) => page.findAll("button").find((b) => b.text().includes(words));

describe("the numbers of a few plants", () => {
  it("are read with spaces, semicolons, or commas before a space, and decimal commas", () => {
    expect(meanOf("7 3 0 12 5")).toEqual({ pests: 5.4, looked_at: 5 });
    expect(meanOf("7, 3, 0")).toEqual({ pests: 3.333, looked_at: 3 });
    expect(meanOf("2,5; 1,5")).toEqual({ pests: 2, looked_at: 2 });
    for (const wrong of ["", "  ", "7 three", "4 -1"]) expect(meanOf(wrong)).toBeNull();
  });
});

describe("followed", () => {
  it("keeps a count only once there are numbers", async () => {
    const page = await follow();
    expect(press(page, "Keep the count")?.attributes("disabled")).toBeDefined();
    await page.get("input[placeholder]").setValue("7 3 0");
    await press(page, "Keep the count")?.trigger("click");
    await flushPromises();
    expect(sent.at(-1)).toMatchObject({ act: "count", pests: 3.333, looked_at: 3, on: "2026-05-10", harmed: false });
  });

  it("asks for each tick, and for a reason where the hour is closed; not for one of an earlier day", async () => {
    const page = await follow({ due: { act: "spray", on: "2026-05-10", why: "First." }, closed: ["too dark"] });
    const done = () => press(page, "They are treated");
    for (const tick of page.findAll(".ticks button")) await tick.trigger("click");
    expect(done()?.attributes("disabled")).toBeDefined();
    await page.get("input[type=date]").setValue("2026-05-09");
    expect(page.findAll(".ticks button")).toHaveLength(1);
    expect(done()?.attributes("disabled")).toBeUndefined();
    await done()?.trigger("click");
    await flushPromises();
    expect(sent.at(-1)).toMatchObject({ act: "spray", on: "2026-05-09", cautions_read: true });
  });

  it("keeps what the tried leaves show, and tells how it ended", async () => {
    const page = await follow({ due: { act: "patch_look", on: "2026-05-10", why: "" } });
    await press(page, "They are marked")?.trigger("click");
    await flushPromises();
    expect(sent.at(-1)).toMatchObject({ act: "patch_look", harmed: true });
    const over = await follow({ due: null, ended: "Two looks found hardly any." });
    expect(over.text()).toContain("Two looks found hardly any.");
    expect(press(over, "End it")).toBeUndefined();
  });
});

it("plans from the verdict with what the trial used, and shows a fault at its field", async () => {
  const page = mount(RestPanel, { props: { trial: trial as unknown as Trial } });
  await flushPromises();
  await press(page, "Plan it for the rest")?.trigger("click");
  await vi.waitFor(() => expect(sent.at(-1)).toMatchObject({ remedy_id: 7, ml_each: 40, eaten: true, start_on: "2026-05-11", rhythm: "egg_cycle" }));
  await flushPromises();
  expect(page.get(".wrong [role=alert]").text()).toContain("Give how many.");
  expect(press(page, "Begin")?.attributes("disabled")).toBeDefined();
});
