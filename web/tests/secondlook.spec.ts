// What is worth a second look is asked again once a number was corrected.
import { flushPromises, mount } from "@vue/test-utils";
import { expect, it, vi } from "vitest";
import SecondLook from "../src/components/counting/SecondLook.vue";

const wire = vi.hoisted(() => {
  const held = { checks: [] as unknown[] };
  globalThis.fetch = () => Promise.resolve(new Response(JSON.stringify(held.checks), { status: 200, headers: { "Content-Type": "application/json" } }));
  return held;
});

it("goes away with the correction, though no more plants are done than before", async () => {
  wire.checks = [{ code: "jump", plant_id: 2, sample: 0, text: "24 to 300" }];
  const page = mount(SecondLook, { props: { trialId: 1, number: 1, done: "8 2 0", settled: () => Promise.resolve() } });
  await vi.waitFor(() => expect(page.text()).toContain("24 to 300"));
  wire.checks = [];
  await page.setProps({ done: "8 3 0" });
  await vi.waitFor(() => expect(page.text()).toBe(""));
  await flushPromises();
});
