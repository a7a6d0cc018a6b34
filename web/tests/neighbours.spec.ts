// Trials of other gardens: looked at before anything is kept, taken in under a name, taken off.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import ElementPlus from "element-plus";
import { afterEach, expect, it } from "vitest";
import BeforePanel from "../src/components/verdict/BeforePanel.vue";
import NeighbourPanel from "../src/components/verdict/NeighbourPanel.vue";

enableAutoUnmount(afterEach);
const looked = {
  name: "Beds",
  pest: "aphids",
  pest_name: "Aphids",
  crop: "lupins",
  on: "2025-05-10",
  remedies: ["Water", "Soap"],
  plants: 12,
  numbers: 24,
  sentence: "Soap works best.",
  warnings: ["few plants"],
  here: false,
  own: "",
};
const kept = { id: 3, garden: "Bram", name: "Beds", pest: "aphids", pest_name: "Aphids", on: "2025-05-10", sentence: "Soap works best." };

async function panel(found: object, status = 200): Promise<{ shown: VueWrapper; sent: string[] }> {
  const sent: string[] = [];
  wire.answer = async (request) => {
    const url = new URL(request.url);
    if (request.method !== "GET")
      sent.push(
        `${request.method} ${url.pathname}${url.search} ${request.headers.get("content-type") ?? ""} ${request.method === "POST" ? await request.clone().text() : ""}`.trim(),
      );
    if (request.method === "DELETE") return new Response(null, { status: 204 });
    const body = url.pathname === "/api/queries/bundle" ? found : request.method === "POST" ? [kept] : [];
    return new Response(JSON.stringify(body), {
      status: url.pathname === "/api/queries/bundle" ? status : 200,
      headers: { "Content-Type": "application/json" },
    });
  };
  const shown = mount(NeighbourPanel, { global: { plugins: [ElementPlus] } });
  await flushPromises();
  const input = shown.get("input[type=file]");
  Object.defineProperty(input.element, "files", { value: [new File(["PK"], "beds.zip")] });
  Object.defineProperty(input.element, "value", { value: "", writable: true });
  await input.trigger("change");
  await flushPromises();
  return { shown, sent };
}

it("shows what would come in, takes it in under a name, and takes it off", async () => {
  const { shown, sent } = await panel(looked);
  expect(shown.text()).toContain("Aphids, lupins, first spray Sat 10 May 2025: Water, Soap on 12 plants, 24 numbers.");
  expect(shown.text()).toContain("few plants");
  await shown.get("form input").setValue("Bram");
  await shown.get("form").trigger("submit");
  await flushPromises();
  expect(sent).toEqual(["POST /api/queries/bundle application/zip PK", "POST /api/neighbours?garden=Bram application/zip PK"]);
  expect(shown.text()).toContain("Taken in from Bram.");
  expect(shown.emitted("changed")).toHaveLength(1);
  await shown.get(".kept button").trigger("click");
  await flushPromises();
  expect(sent[2]).toBe("DELETE /api/neighbours/3");
});

it("keeps what is here, what is one's own, and what cannot be read out", async () => {
  expect((await panel({ ...looked, here: true })).shown.find("form").exists()).toBe(false);
  expect((await panel({ ...looked, own: "Rail" })).shown.text()).toContain("your own trial “Rail”");
  const refused = await panel({ error: { code: "bad_bundle", message: "it is no whole ZIP file", field: "file", fix: "Choose another." } }, 422);
  expect(refused.shown.text()).toContain("Choose another.");
});

it("tells a verdict with earlier trials apart from the trial's own, and says nothing where there are none", async () => {
  let rows: object[] = [{ name: "Soap", trials: 2, harmed: 0, efficacy: 0.8, low: 0.6, high: 0.9, words: "With 2 earlier trials, Soap removes about 80%." }];
  wire.answer = () => Promise.resolve(new Response(JSON.stringify(rows), { status: 200, headers: { "Content-Type": "application/json" } }));
  const stubs = { global: { stubs: { RouterLink: { template: "<a><slot /></a>" } } }, props: { trialId: 1, pest: "aphids", look: 2 } };
  const shown = mount(BeforePanel, stubs);
  await flushPromises();
  expect(shown.text()).toContain("Not the verdict of this trial");
  expect(shown.text()).toContain("With 2 earlier trials, Soap removes about 80%.");
  rows = [];
  const none = mount(BeforePanel, stubs);
  await flushPromises();
  expect(none.text()).toBe("");
});
