import { describe, expect, it, vi } from "vitest";
import type { RemedyVerdict, Trial } from "../src/api/client";
import { efficacyMarks, fewer, floorName, floorOf, percent, xOf } from "../src/charts/efficacy";
import { paintPots, type PaintedPot, type PotInk } from "../src/charts/potPaint";
import { dotsOf, drawPot, figureOf, sayPot, type PotDrawing, type PotState } from "../src/charts/pot";
import { axisMarks, slopesOf, yOf } from "../src/charts/slopes";
import { tagName, tagPath } from "../src/charts/tag";
import { knots, threadPath } from "../src/charts/thread";

describe("tags", () => {
  const cuts = (n: number): number => (tagPath(24, 48, n).split("L").length - 5) / 3;

  it("has as many cuts as notches, up to twelve", () => {
    for (let n = 0; n <= 12; n++) expect(cuts(n)).toBe(n);
  });

  it("keeps its notches on the stake, apart from each other", () => {
    const points = tagPath(24, 48, 12)
      .replace(/[MZ]/g, "")
      .split("L")
      .map((p) => p.split(" ").map(Number));
    for (const [x = -1, y = -1] of points) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(24);
      expect(y).toBeLessThanOrEqual(48);
    }
    const right = points.filter(([x]) => x === 24).map(([, y]) => y ?? 0);
    expect(right).toEqual([...right].sort((a, b) => a - b));
  });

  it("is spoken", () => {
    expect(tagName("B", 1)).toBe("tag B, 1 notch");
    expect(tagName(null, null)).toBe("no tag yet");
  });
});

const soap = { name: "Soap", efficacy: 0.8, efficacy_low: -2, efficacy_high: 0.95 } as RemedyVerdict;

describe("the line of efficacy", () => {
  it("runs from half as many again to all gone and keeps all inside", () => {
    expect(xOf(-0.5, 300)).toBe(0);
    expect(xOf(0, 300)).toBe(100);
    expect(xOf(1, 300)).toBe(300);
    expect(xOf(-9, 300)).toBe(0);
  });

  it("draws a remedy that made it ten times worse, and does not cut it off", () => {
    const bad = { ...soap, efficacy: -9, efficacy_low: -20, efficacy_high: -4 };
    const floor = floorOf([soap, bad]);
    expect(floorName(floor)).toBe("16 times the control");
    const [, mark] = efficacyMarks([soap, bad], 300);
    expect(mark?.at).toBeGreaterThan(10);
    expect(mark?.at).toBeLessThan(30);
    expect(mark?.to).toBeGreaterThan(mark?.at ?? 300);
    expect(floorName(floorOf([soap]))).toBe("half as many again");
  });

  it("marks an interval that runs off the picture", () => {
    const [mark] = efficacyMarks([soap, { ...soap, efficacy: null }], 300);
    expect(mark).toMatchObject({ at: 260, from: 0, beyondLeft: true });
    expect(mark?.to).toBeCloseTo(290);
    expect(mark?.text).toBe("80% fewer than on the control, likely −200% to 95%");
  });

  it("never claims all is gone when something was left", () => {
    expect(percent(0.9996)).toBe("99.9%");
    expect(percent(0.986)).toBe("98.6%");
    expect(percent(1)).toBe("100%");
    expect(fewer(-0.1)).toBe("10% more");
    expect([fewer(0.8, "live"), fewer(0.8, "cover")]).toEqual(["80% fewer", "80% less"]);
    expect(fewer(-1e80)).toBe("over 1000% more");
    expect([fewer(-0.981), fewer(0.981)]).toEqual(["98% more", "98.1% fewer"]); // a whole to come near to is below only
  });
});

describe("before and after", () => {
  const trial = {
    measure: { key: "live" },
    looks: [
      { id: 1, number: 0, day: 0, hours: 0, when: "day 0" },
      { id: 2, number: 1, day: 7, hours: 0, when: "day 7" },
    ],
    plants: [
      { id: 10, name: "S1", letter: "A" },
      { id: 11, name: "S2", letter: "A" },
      { id: 12, name: "S3", letter: "B" },
    ],
  } as unknown as Trial;
  const course = { looks: [0, 1], values: { 10: [30, 3], 11: [20, null], 12: [9, 9] }, damage: {} };

  it("takes the plants of a tag that were counted both times", () => {
    expect(slopesOf(trial, course, "A", 1)).toEqual([{ plant: "S1", plantId: 10, before: 30, after: 3 }]);
  });

  it("shows halving alike and keeps zero on the picture", () => {
    expect(yOf(0, 100, 200)).toBe(200);
    expect(yOf(100, 100, 200)).toBe(0);
    const drop = (from: number): number => yOf(from / 2, 1000, 200) - yOf(from, 1000, 200);
    expect(drop(800)).toBeCloseTo(drop(400), 1);
    expect(axisMarks(40)).toEqual([0, 1, 3, 10, 30]);
  });
});

describe("the thread", () => {
  it("hangs its knots evenly and passes through them", () => {
    const [first, second, third] = knots(3, 1000, 20, 100);
    expect([first?.x, second?.x, third?.x]).toEqual([100, 500, 900]);
    if (first && second) expect(threadPath(first, second, 10)).toMatch(/^M100 20C.* 500 20$/);
  });
});

describe("a row of pots, painted", () => {
  const ink: PotInk = {
    outline: "o",
    vein: "v",
    paleVein: "pv",
    ill: "i",
    soil: "s",
    dust: "d",
    drop: "w",
    pest: "p",
    words: "ink",
    softWords: "soft",
    font: "500 14px x",
    fine: 2,
    line: 19,
    height: 104,
  };
  const pot: PaintedPot = {
    x: 3,
    drawing: drawPot({ id: 7, size: 1, count: 12, cover: null, damage: 3, fresh: false }),
    figure: "12",
    tagged: true,
    soft: false,
    pale: false,
  };

  /** What a brush is told, in order. */
  function painted(size: { width: number; height: number }, pots: PaintedPot[]): { canvas: HTMLCanvasElement; said: string[] } {
    vi.stubGlobal(
      "Path2D",
      class {
        constructor(readonly path: string) {}
      },
    );
    const said: string[] = [];
    const brush = new Proxy({} as Record<string, unknown>, {
      get:
        (_, name) =>
        (...given: unknown[]) => {
          said.push(
            `${String(name)} ${given.map((one) => (typeof one === "number" ? Math.round(one) : typeof one === "object" ? "path" : one)).join(" ")}`.trim(),
          );
        },
      set: (_, name, value) => {
        if (name === "fillStyle") said.push(`with ${String(value)}`);
        return true;
      },
    });
    const canvas = { width: 0, height: 0, getContext: () => brush } as unknown as HTMLCanvasElement;
    paintPots(canvas, size, pots, ink);
    vi.unstubAllGlobals();
    return { canvas, said };
  }

  it("is as fine as the screen, and never wider than a browser paints", () => {
    const { canvas } = painted({ width: 200, height: 104 }, [pot]);
    expect([canvas.width, canvas.height]).toEqual([400, 208]);
    const long = painted({ width: 20_000, height: 104 }, [pot]);
    expect([long.canvas.width, long.canvas.height]).toEqual([16_000, 83]);
  });

  it("paints harm below the pests, keeps the tag free, and writes the figure at its pot", () => {
    const { said } = painted({ width: 200, height: 104 }, [pot, { ...pot, x: 101, figure: "aside", soft: true, tagged: false }]);
    const fills = said.filter((one) => one.startsWith("with "));
    expect(fills).toEqual(["with i", "with s", "with o", "with p", "with i", "with s", "with o", "with p", "with ink", "with soft"]);
    expect(said.filter((one) => one === "clearRect 2 3 20 34")).toHaveLength(1);
    expect(said.filter((one) => one.startsWith("fillText"))).toEqual(["fillText 12 88 89", "fillText aside 186 89"]);
  });

  it("paints nothing on a clean plant but its figure", () => {
    const clean = drawPot({ id: 7, size: 1, count: 0, cover: null, damage: 0, fresh: false });
    const { said } = painted({ width: 200, height: 104 }, [{ ...pot, drawing: clean, figure: "0" }]);
    expect(said.filter((one) => one.startsWith("fill path") || one.startsWith("stroke"))).toEqual([]);
    expect(said).toContain("fillText 0 88 89");
  });
});

describe("a pot", () => {
  const usual: PotState = { id: 7, size: 1, count: 12, cover: null, damage: 0, fresh: false };

  it.each(["rosette", "upright", "bush", "climber", "trailing", "grass", "tree", "tray", "three", "fingers", "pairs"] as const)(
    "draws a %s as itself, within its pot's picture, with pests and harm on its leaves",
    (habit) => {
      const drawn = drawPot({ ...usual, habit, count: 4000, damage: 5 });
      const numbers = [...`${drawn.leaves}${drawn.deep}${drawn.pests}`.matchAll(/[MLC](-?[\d.]+) (-?[\d.]+)/g)].map(
        (m) => [Number(m[1]), Number(m[2])] as const,
      );
      expect(numbers.length).toBeGreaterThan(20);
      for (const [x, y] of numbers) expect(x > -2 && x < 108 && y > -8 && y < 92, `${x} ${y}`).toBe(true);
      expect(drawPot({ ...usual, habit }).leaves === drawPot(usual).leaves).toBe(habit === "rosette");
      expect(drawn.ill).not.toBe("");
      expect(drawPot({ ...usual, habit, damage: 1 }).ill.length).toBeLessThan(drawn.ill.length);
    },
  );
  const dots = (drawing: PotDrawing): number => drawing.pests.split("Z").length - 1;

  it("takes a dot away for each halving and none is none", () => {
    expect([0, 1, 2, 3, 4, 8, 60, 120].map(dotsOf)).toEqual([0, 1, 2, 2, 3, 4, 6, 7]);
    expect(dots(drawPot(usual)) - dots(drawPot({ ...usual, count: 6 }))).toBe(1);
    expect(drawPot({ ...usual, count: 0 }).pests).toBe("");
  });

  it("keeps a plant's own leaves whatever sits on them, and gives a larger one more", () => {
    expect(drawPot({ ...usual, count: 400 }).leaves).toBe(drawPot(usual).leaves);
    expect(drawPot({ ...usual, id: 8 }).leaves).not.toBe(drawPot(usual).leaves);
    const leaves = (size: number): number => (drawPot({ ...usual, size }).veins.match(/M/g)?.length ?? 0) / 5;
    expect(leaves(1.3)).toBeGreaterThan(leaves(0.7));
  });

  it("shows harm, dust and drops, and says the same in words", () => {
    const bad = { ...usual, count: null, cover: 0.4, damage: 3, fresh: true };
    const drawing = drawPot(bad);
    expect([drawing.ill, drawing.bites, drawing.dust, drawing.drops].every(Boolean)).toBe(true);
    expect(sayPot(bad)).toEqual(["40% covered", "moderate damage", "sprayed within a day"]);
    expect(sayPot({ ...usual, damage: null })).toEqual(["12 counted"]);
    expect(sayPot({ ...usual, count: null })[0]).toBe("not counted");
    expect([figureOf(3.25), figureOf(12.4), figureOf(0)]).toEqual(["3.3", "12", "0"]);
  });
});
