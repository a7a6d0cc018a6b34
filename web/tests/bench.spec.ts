// The bench as a person meets it: what is drawn, painted and said, what a key, a tap or a drag does.
import { eventually } from "./wire";
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, describe, expect, it, vi } from "vitest";
import { nextTick } from "vue";
import { drawPot, drawStem, drawnOf } from "../src/charts/pot";
import PlantPot from "../src/components/PlantPot.vue";
import BenchMap from "../src/components/BenchMap.vue";
import { useTheme } from "../src/composables/useTheme";
import { plants, trial } from "./benchWorld";

enableAutoUnmount(afterEach);

afterEach(() => {
  document.body.innerHTML = "";
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

/** What is painted on the shelves from now on: shapes by their outlines, and words. */
function painted(): { figures: () => string[]; shapes: () => string[]; clear: () => void } {
  const [figures, shapes]: [string[], string[]] = [[], []];
  class Outline {
    constructor(readonly path: string) {}
  }
  vi.stubGlobal("Path2D", Outline);
  const nothing = (): void => undefined;
  const brush = {
    setTransform: nothing,
    clearRect: nothing,
    setLineDash: nothing,
    stroke: nothing,
    fill: ({ path }: Outline) => shapes.push(path),
    fillText: (words: string) => figures.push(words),
  };
  vi.spyOn(HTMLCanvasElement.prototype, "getContext").mockReturnValue(brush as unknown as null);
  return {
    figures: () => [...figures],
    shapes: () => [...shapes],
    clear: () => {
      figures.length = shapes.length = 0;
    },
  };
}

describe("the bench", () => {
  const bench = (props: object = {}): ReturnType<typeof mount> => mount(BenchMap, { props: { trial, figure: "match", ...props }, attachTo: document.body });

  it("names each plant for whoever cannot see it, without its remedy", () => {
    const names = bench()
      .findAll(".pot")
      .map((pot) => pot.attributes("aria-label"));
    expect(names).toEqual(["S1, block 2, tag B, 2 notches, match count 12", "S2, block 1, tag A, 1 notch, match count 9", "S3, set aside: too small"]);
    expect(names.join()).not.toContain("Soap");
  });

  it("stands plants where they stand, with a gap where nobody does", () => {
    const shelves = bench().findAll(".shelf");
    expect(shelves).toHaveLength(2);
    expect(shelves[1]?.findAll(".pot, .gap").map((e) => e.classes().includes("pot"))).toEqual([false, true]);
  });

  it("moves a plant with Alt and an arrow, not past the first row, and only when it may", async () => {
    const movable = bench({ movable: true });
    await movable.findAll(".pot")[0]?.trigger("keydown", { key: "ArrowDown", altKey: true });
    await movable.findAll(".pot")[0]?.trigger("keydown", { key: "ArrowUp", altKey: true });
    await movable.findAll(".pot")[0]?.trigger("keydown", { key: "ArrowRight" });
    expect(movable.emitted("move")).toEqual([[plants[0], 2, 1]]);
    const fixed = bench();
    await fixed.findAll(".pot")[0]?.trigger("keydown", { key: "ArrowDown", altKey: true });
    expect(fixed.emitted("move")).toBeUndefined();
  });

  it("swaps by dropping one plant on another", async () => {
    const movable = bench({ movable: true });
    await movable.findAll(".pot")[0]?.trigger("dragstart");
    await movable.findAll(".pot")[1]?.trigger("drop");
    expect(movable.emitted("move")).toEqual([[plants[0], 1, 2]]);
  });

  it("draws a shield once between two neighbours, at the left one", () => {
    expect(
      bench()
        .findAll(".shield-right")
        .map((p) => p.attributes("data-plant")),
    ).toEqual(["1"]);
  });

  const course = { looks: [0, 1], values: { 1: [40, 4], 2: [33, null] }, damage: { 1: [0, 3] } };

  it("goes through the looks by a slider, each pot in numbers, dots and words", async () => {
    const shelf = painted();
    const page = bench({ figure: "course", course, still: true });
    expect(shelf.figures()).toEqual(["4", "–", "aside"]);
    expect(page.findAll(".pot")[0]?.attributes("aria-label")).toContain("4 counted, moderate damage, sprayed within a day");
    expect(shelf.shapes()).toContain(drawPot({ id: 1, size: 1, count: 4, cover: null, damage: 3, fresh: true }).pests);
    shelf.clear();
    await page.get("input[type=range]").setValue("0");
    expect(shelf.figures()).toEqual(["40", "33", "aside"]);
    expect(shelf.shapes()).toContain(drawPot({ id: 1, size: 1, count: 40, cover: null, damage: 0, fresh: false }).pests);
    await eventually(() => {
      expect(page.findAll(".pot")[0]?.attributes("aria-label")).not.toContain("sprayed");
    });
    expect(page.findAll(".plant.pale")).toHaveLength(1);
  });

  it("paints in the theme in force, and as fine as the screen", async () => {
    const shelf = painted();
    bench({ figure: "course", course, still: true });
    shelf.clear();
    useTheme().value = "evening";
    await nextTick();
    expect(shelf.figures()).toEqual(["4", "–", "aside"]);
    shelf.clear();
    Object.assign(window, { devicePixelRatio: 2 });
    window.dispatchEvent(new Event("resize"));
    await nextTick();
    expect(shelf.figures()).toEqual(["4", "–", "aside"]);
    Object.assign(window, { devicePixelRatio: 1 });
    useTheme().value = "day";
  });

  it("paints a row that is scrolled away when it comes near", async () => {
    const shelf = painted();
    const rows: IntersectionObserverCallback[] = [];
    vi.stubGlobal(
      "IntersectionObserver",
      class {
        constructor(told: IntersectionObserverCallback) {
          rows.push(told);
        }
        observe(): void {
          /* Told below. */
        }
        disconnect(): void {
          /* Nothing is watched. */
        }
      },
    );
    const scrolled = async (near: boolean): Promise<void> => {
      for (const told of rows) told([{ isIntersecting: near } as IntersectionObserverEntry], {} as IntersectionObserver);
      await nextTick();
    };
    const page = bench({ figure: "course", course, still: true });
    await scrolled(false);
    shelf.clear();
    await page.get("input[type=range]").setValue("0");
    expect(shelf.figures()).toEqual([]);
    await scrolled(true);
    expect(shelf.figures()).toEqual(["40", "33", "aside"]);
  });

  it("draws on paper what is painted on the screen", async () => {
    const page = bench({ figure: "course", course });
    expect(page.findAll(".pests, .ill, .figure")).toHaveLength(0);
    window.dispatchEvent(new Event("beforeprint"));
    await nextTick();
    expect(page.findAll(".figure").map((f) => f.text())).toEqual(["4", "–", "aside"]);
    expect(page.get(".pests").attributes("d")).toBe(drawPot({ id: 1, size: 1, count: 4, cover: null, damage: 3, fresh: true }).pests);
    expect(page.find(".ill").exists()).toBe(true);
    window.dispatchEvent(new Event("afterprint"));
    await nextTick();
    expect(page.findAll(".pests, .ill, .figure")).toHaveLength(0);
  });

  it("draws a leaf as a leaf, and round its stalk a thread with as many knots as its tag has notches", () => {
    const leaf = mount(PlantPot, {
      props: { state: () => ({ id: 1, size: 1, count: null, cover: null, damage: null, fresh: false, drawn: "leaf" as const }), letter: "C", notches: 3 },
    });
    expect([leaf.findAll(".soil").length, leaf.findAll(".thread circle").length]).toEqual([0, 3]);
    const half = (drawn: "left" | "right"): string => drawStem({ id: 1, size: 1, drawn }).leaves;
    expect(half("left")).not.toBe(half("right"));
    expect([1, 2].map((place) => drawnOf("half", place))).toEqual(["left", "right"]);
  });

  it("shows who is done", () => {
    const done = bench({ figure: "done", done: new Set([2]) });
    expect(done.findAll(".pot")[1]?.attributes("aria-label")).toContain("done");
    expect(done.findAll(".pot")[0]?.attributes("aria-label")).toContain("to do");
  });
});
