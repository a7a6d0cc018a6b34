import { describe, expect, it } from "vitest";
import { fillLines, levelY } from "../src/charts/bottle";

describe("the bottle", () => {
  it("draws levels to scale and never outside the glass", () => {
    expect(levelY(500, 1000, 300)).toBe(150);
    expect(levelY(0, 1000, 300)).toBe(300);
    expect(levelY(2000, 1000, 300)).toBe(0);
  });

  it("keeps labels apart though the lines are close, in pouring order from below", () => {
    const lines = fillLines([0, 2, 9, 750], 1000, 300, 40);
    expect(lines[0]?.y).toBe(300);
    for (let k = 1; k < lines.length; k++) {
      expect((lines[k - 1]?.labelY ?? 0) - (lines[k]?.labelY ?? 0)).toBeGreaterThanOrEqual(40);
    }
    expect(lines[3]?.labelY).toBe(75);
  });
});
