// What is worth a second look is asked again once a number was corrected.
import { flushPromises, wire } from "./wire";
import { mount } from "@vue/test-utils";
import { expect, it } from "vitest";
import SecondLook from "../src/components/counting/SecondLook.vue";

it("goes away with the correction, though no more plants are done than before", async () => {
  const say = (checks: object[]): void => {
    wire.answer = () => Promise.resolve(new Response(JSON.stringify(checks), { status: 200, headers: { "Content-Type": "application/json" } }));
  };
  say([{ code: "jump", plant_id: 2, sample: 0, text: "24 to 300" }]);
  const page = mount(SecondLook, { props: { trialId: 1, number: 1, done: "8 2 0", settled: () => Promise.resolve() } });
  await flushPromises();
  expect(page.text()).toContain("24 to 300");
  say([]);
  await page.setProps({ done: "8 3 0" });
  await flushPromises();
  expect(page.text()).toBe("");
});
