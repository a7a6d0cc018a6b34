// From a verdict that settles nothing to the trial that goes on from it.
import { flushPromises, wire } from "./wire";
import { mount } from "@vue/test-utils";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Trial } from "../src/api/client";
import GoOnPanel from "../src/components/verdict/GoOnPanel.vue";
import { usualSetup } from "./usual";

const pushed = vi.fn();
vi.mock("vue-router", () => ({ useRouter: () => ({ push: pushed }), RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } }));

let next: unknown;
let keys: (string | null)[];
const open = { keeps: ["Water", "Soap"], leaves_out: { Milk: "it harmed the plants" }, waiting: 0, there: null };

beforeEach(() => {
  keys = [];
  pushed.mockReset();
  wire.answer = (request: Request) => {
    const made = request.method === "POST";
    if (made) keys.push(request.headers.get("Idempotency-Key"));
    return Promise.resolve(Response.json(made ? { id: 9 } : next));
  };
});

async function shown(setup: object = {}): Promise<ReturnType<typeof mount>> {
  const trial = { id: 4, setup: { ...usualSetup, ...setup } } as unknown as Trial;
  const page = mount(GoOnPanel, { props: { trial }, global: { stubs: { ElButton: { template: "<button><slot /></button>" } } } });
  await flushPromises();
  return page;
}

describe("going on", () => {
  it("says what goes on and what is left out, and leads to the new trial's plants", async () => {
    next = open;
    const page = await shown();
    expect(page.text()).toContain("Water and Soap go on.");
    expect(page.text()).toContain("Milk is left out: it harmed the plants.");
    await page.get("button").trigger("click");
    await page.get("button").trigger("click");
    await flushPromises();
    expect(pushed).toHaveBeenCalledWith("/trial/9/plants");
    expect(new Set(keys).size).toBe(1); // pressed twice it makes one trial
  });

  it("speaks of the plants that wait in a second wave", async () => {
    next = { ...open, waiting: 16 };
    const page = await shown({ two_waves: true });
    expect(page.text()).toContain("The second wave");
    expect(page.text()).toContain("on the 16 plants that waited; count them anew");
  });

  it("leads to the trial that goes on already, offers nothing where nothing is in question, and else is not there", async () => {
    next = { ...open, there: 7 };
    expect((await shown()).get("a").attributes("href")).toBe("/trial/7/plants");
    next = { ...open, keeps: ["Water"] };
    const none = await shown();
    expect(none.find("button").exists()).toBe(false);
    expect(none.text()).toContain("No remedy here is in question any more");
    next = null;
    expect((await shown()).find("section").exists()).toBe(false);
  });
});
