import { describe, expect, it } from "vitest";
import { fromToday, readDays, readNumber } from "../src/words";

describe("what people type", () => {
  it("reads days however they are separated", () => {
    expect(readDays("3, 7;12  14")).toEqual([3, 7, 12, 14]);
    expect(readDays("")).toEqual([]);
    expect(readDays("3, soon")).toBeNull();
    expect(readDays("2.5")).toBeNull();
  });

  it("reads numbers with comma or point, and nothing else", () => {
    expect(readNumber(" 12,5 ")).toBe(12.5);
    expect(readNumber("-3")).toBe(-3);
    for (const text of ["", "1e9", "NaN", "Infinity", "12 mites", "1_000", "0x10"]) {
      expect(readNumber(text)).toBeUndefined();
    }
  });

  it("names days from today, across a change of month and of summer time", () => {
    expect(fromToday("2026-03-01", "2026-02-28")).toBe("tomorrow");
    expect(fromToday("2026-03-30", "2026-03-28")).toBe("in 2 days");
    expect(fromToday("2026-10-20", "2026-10-27")).toBe("7 days late");
  });
});
