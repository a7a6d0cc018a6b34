// A garden in one file: looked at before anything is kept, brought in once, refused with the reason.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, expect, it, vi } from "vitest";
import MovingPanel from "../src/components/door/MovingPanel.vue";

enableAutoUnmount(afterEach);
const stubs = { ElButton: { template: "<button><slot /></button>" }, RouterLink: { template: "<a><slot /></a>" } };
const restored = vi.fn(() => Promise.resolve());
const coming = {
  title: "Garden",
  trials: [
    { name: "Beds", called: "Beds (brought in)", start_on: "2025-05-10", plants: 12, numbers: 1 },
    { name: "Rail", called: "Rail", start_on: "2025-06-10", plants: 1, numbers: 0 },
  ],
  beside: ["3 journal lines"],
  pictures: 1,
  pictures_missing: 2,
};

async function looked(body: object, status = 200): Promise<{ page: VueWrapper; sent: string[] }> {
  const sent: string[] = [];
  wire.answer = (request) => {
    const path = new URL(request.url).pathname;
    sent.push(`${path} ${request.headers.get("content-type") ?? ""} ${request.headers.get("idempotency-key") ? "once" : ""}`.trim());
    return Promise.resolve(
      new Response(JSON.stringify(path.endsWith("look") ? body : { trial_id: 7 }), {
        status: path.endsWith("look") ? status : 201,
        headers: { "Content-Type": "application/json" },
      }),
    );
  };
  const page = mount(MovingPanel, { props: { restored }, global: { stubs } });
  const input = page.get("input[type=file]");
  Object.defineProperty(input.element, "files", { value: [new File(["PK"], "garden.zip")] });
  Object.defineProperty(input.element, "value", { value: "", writable: true });
  await input.trigger("change");
  await flushPromises();
  return { page, sent };
}

it("tells what would come in and what it would be called, and brings it in", async () => {
  const { page, sent } = await looked(coming);
  expect(page.text()).toContain("Beds, Sat 10 May 2025: 12 plants, 1 number; called “Beds (brought in)”, for one of its name is here");
  expect(page.text()).toContain("1 plant, nothing counted yet");
  expect(page.text()).toContain("With it: 3 journal lines, 1 photo. 2 photos named in it are not in the file.");
  await page
    .findAll("button")
    .find((one) => one.text() === "Bring it in")
    ?.trigger("click");
  await flushPromises();
  expect(sent).toEqual(["/api/moving/look application/zip", "/api/moving application/zip once"]);
  expect(restored).toHaveBeenCalledOnce();
  expect(page.text()).toContain("2 trials came in");
  expect(page.text()).not.toContain("Bring it in");
});

it("says why a file cannot come in, with the place", async () => {
  const { page } = await looked(
    { error: { code: "bad_bundle", message: "in tables/tally.csv, line 3: 9 cells, not 20", field: "file", fix: "Save it anew." } },
    422,
  );
  expect(page.text()).toContain("In tables/tally.csv, line 3");
  expect(page.text()).toContain("Save it anew.");
});
