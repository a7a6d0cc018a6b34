// A plant found dead while counting is set aside with its day, where it is seen.
import { flushPromises, wire } from "./wire";
import { mount } from "@vue/test-utils";
import { expect, it } from "vitest";
import DeadPlant from "../src/components/counting/DeadPlant.vue";
import type { Plant, Trial } from "../src/api/client";

const plant = { id: 4, name: "L4", row: 1, place: 4, match_count: 12, size: null, host: null, revision: "r1" } as Plant;
const trial = { id: 9, today: "2026-05-10" } as Trial;

it("asks once more, keeps the day after the last tap is with the program, and says when it could not", async () => {
  const order: string[] = [];
  let answer = Response.json({ error: { code: "offline", message: "no signal", field: null, fix: "Try again." } }, { status: 503 });
  wire.answer = async (request) => {
    order.push(`${request.method} ${new URL(request.url).pathname} ${JSON.stringify(((await request.json()) as Record<string, unknown>)["died_on"])}`);
    return answer;
  };
  const shown = mount(DeadPlant, { props: { trial, plant, day: "2026-05-10", settled: () => Promise.resolve(order.push("settled")).then(() => undefined) } });
  const press = async (text: string): Promise<void> => {
    await shown
      .findAll("button")
      .find((b) => b.text() === text)
      ?.trigger("click");
    await flushPromises();
  };
  await press("It died");
  expect(order).toEqual([]);
  await press("Yes, seen today");
  expect(shown.text()).toContain("No signal");
  expect(shown.emitted("died")).toBeUndefined();
  answer = Response.json({});
  await press("Yes, seen today");
  expect(order.slice(-2)).toEqual(["settled", 'PUT /api/trials/9/plants/4 "2026-05-10"']);
  expect(shown.emitted("died")).toHaveLength(1);
  await press("It died");
  await shown.setProps({ plant: { ...plant, id: 5, name: "L5" } });
  expect(shown.text()).toBe("It died");
  await shown.setProps({ day: "2026-05-08" }); // a sheet of the day before yesterday, entered today
  await press("It died");
  await press("Yes, seen on Fri 8 May");
  expect(order.at(-1)).toBe('PUT /api/trials/9/plants/5 "2026-05-08"');
});
