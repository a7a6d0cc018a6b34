// What is measured of a plant itself: typed once for the plant, and told against the untreated.
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, expect, it } from "vitest";
import SizeFields from "../src/components/counting/SizeFields.vue";
import BesideTable from "../src/components/verdict/BesideTable.vue";

enableAutoUnmount(afterEach);

it("keeps a height as it is typed, with a decimal comma, and leaves what is no number in its field", async () => {
  const page = mount(SizeFields, { props: { plant: 7, wanted: ["damage", "height", "picked"], value: (size: string) => (size === "picked" ? 120 : null) } });
  const [height, picked, more] = page.findAll("input");
  expect([more, picked?.element.value, page.text()]).toEqual([undefined, "120", "Height (cm)Picked since then (g)"]);
  await height?.setValue("31,5");
  await height?.trigger("change");
  expect(page.emitted("kept")).toEqual([["height", 31.5]]);
  await picked?.setValue("some");
  await picked?.trigger("change");
  expect([page.emitted("kept")?.length, picked?.element.value, picked?.attributes("aria-invalid")]).toEqual([1, "some", "true"]);
  await page.setProps({ plant: 8 });
  expect(picked?.element.value).toBe("120");
});

it("tells what grew as more or less, and pests as fewer", () => {
  const read = (efficacy: number, efficacy_low: number, efficacy_high: number): object => ({
    name: "Soap",
    efficacy,
    efficacy_low,
    efficacy_high,
    shown: efficacy < -0.3 ? "more" : "",
  });
  const beside = [
    { measure: "height", label: "Height, cm", remedies: [read(-0.12, -0.28, 0.02)] },
    { measure: "picked", label: "Picked, g", remedies: [read(-0.5, -0.8, -0.2)] },
    { measure: "eggs", label: "Eggs seen", remedies: [read(0.5, 0.2, 0.7)] },
  ];
  const page = mount(BesideTable, { props: { beside: beside as never } });
  expect(page.findAll("td").map((cell) => cell.text())).toEqual([
    "12% more (2% less to 28% more)",
    "50% more (20% more to 80% more) · shown",
    "50% fewer (20% to 70%)",
  ]);
  expect(page.text()).toContain("Of twenty trials at most one");
  const early = mount(BesideTable, { props: { beside: beside as never, soFar: true } });
  expect(early.text()).toContain("The look that decides will tell");
});
