// What the gardener minds: said at a tap, kept, and shown with what would change the choice.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, expect, it } from "vitest";
import MindPanel from "../src/components/verdict/MindPanel.vue";

enableAutoUnmount(afterEach);
const oil = { name: "Oil", removes: 0.95, score: 90, off: { money: 5 }, costs: { money: 2, leaves: 0.4, helpers: null } };
const soap = { name: "Soap", removes: 0.88, score: 86.8, off: { money: 1.25 }, costs: { money: 0.5, leaves: -0.2, helpers: null } };

it("shows both with what each costs, keeps a weight, and says what would change it", async () => {
  const sent: unknown[] = [];
  let ranked: object[] = [oil, soap];
  wire.answer = async (request) => {
    if (request.method === "PUT") {
      sent.push(await request.clone().json());
      return new Response(null, { status: 204 });
    }
    const body = request.url.includes("/yard")
      ? { currency: "€" }
      : { minds: { money: 1 }, asked: ["money", "leaves", "helpers"], ranked, flips: [{ mind: "money", weight: 2, name: "Soap" }], unknown: [] };
    return new Response(JSON.stringify(body), { status: 200, headers: { "Content-Type": "application/json" } });
  };
  const shown = mount(MindPanel, { props: { trialId: 1, look: 2 } });
  await flushPromises();
  expect(shown.get(".suits").text()).toBe("By what you mind: Oil (95% fewer), before Soap (88%).");
  expect(
    shown
      .findAll("tbody tr")[0]
      ?.findAll("td")
      .map((c) => c.text()),
  ).toEqual(["notsomemuch", "€ 2.00 a plant −5", "€ 0.50 a plant −1"]);
  expect(shown.text()).toContain("It would be Soap if you minded money much.");
  await shown.findAll("tbody tr")[0]?.findAll("button")[2]?.trigger("click");
  await flushPromises();
  expect(sent).toEqual([{ minds: { money: 2 } }]);
  ranked = [oil];
  const alone = mount(MindPanel, { props: { trialId: 1, look: 2 } });
  await flushPromises();
  expect(alone.text()).toBe(""); // where one works there is nothing to choose
});
