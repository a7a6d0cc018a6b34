import { describe, expect, it } from "vitest";
import { apart, chancePath, plantX, type PowerPoint } from "../src/charts/power";

const point = (plants: number, best_named: number): PowerPoint => ({
  blocks: plants / 4,
  plants,
  best_named,
  false_winner: 0.01,
  best_beats: 1,
  second_beats: 0.9,
  width: 0.3,
});

describe("how many plants", () => {
  const points = [point(24, 0.5), point(12, 0.1), point(36, 1)];

  it("draws sizes in order, whatever order they came in", () => {
    expect(chancePath(points, "best_named", 100, 50)).toBe("M0.0 45.0L50.0 25.0L100.0 0.0");
  });

  it("moves labels apart that would lie on one another, and leaves the others", () => {
    expect(apart([10, 198, 200], 17)).toEqual([10, 183, 200]);
    expect(apart([200, 100], 17)).toEqual([200, 100]);
    expect(apart([2, 6, 198], 17)).toEqual([10, 27, 198]); // not above the top either
  });

  it("puts a single size in the middle", () => {
    expect(plantX(24, [point(24, 0.5)], 100)).toBe(50);
  });
});
