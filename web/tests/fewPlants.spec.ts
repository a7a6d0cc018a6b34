// Three pots, or one plant: what their leaves could show, and the click that takes them.
import { flushPromises, wire } from "./wire";
import { mount } from "@vue/test-utils";
import { expect, it } from "vitest";
import { h } from "vue";
import FewPlants from "../src/components/planning/FewPlants.vue";
import { provideTrial } from "../src/composables/useTrial";
import { usualSetup } from "./usual";

const plant = (id: number): object => ({ id, name: `P${id}`, set_aside: null });
const trial = { id: 4, setup: usualSetup, remedies: [{ id: 1 }, { id: 2 }], plants: [plant(1), plant(2), plant(3)] };

it("names what halves and leaves can tell, and puts them in the plants' place", async () => {
  const sent: unknown[] = [];
  wire.answer = async (request) => {
    if (request.method === "POST") {
      sent.push(await request.json());
      return Response.json({ ...trial, setup: { ...usualSetup, unit: "leaf" } });
    }
    if (!request.url.endsWith("/units")) return Response.json(trial);
    return Response.json([
      { unit: "half", each: 2, says: "With 6 halves you can tell 90% from nothing." },
      { unit: "leaf", each: 2, says: "With 6 leaves you can tell 90% from nothing." },
    ]);
  };
  const Page = {
    setup: () => {
      void provideTrial(4).load();
      return () => h(FewPlants);
    },
  };
  const page = mount(Page, { global: { stubs: { ElButton: { template: "<button><slot /></button>" } } } });
  await flushPromises();
  await flushPromises();
  expect(page.text()).toContain("Halves of each plant: With 6 halves you can tell 90% from nothing.");
  expect(page.text()).toContain("2 leaves on each plant");
  await page.findAll("button")[1]?.trigger("click");
  await flushPromises();
  expect(sent).toEqual([{ unit: "leaf", each: 2 }]);
});
