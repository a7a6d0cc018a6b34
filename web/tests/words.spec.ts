import { describe, expect, it } from "vitest";
import { fromToday, momentText, readDays, readMoments, readNumber } from "../src/words";

describe("what people type", () => {
  it("reads days however they are separated", () => {
    expect(readDays("3, 7;12  14")).toEqual([3, 7, 12, 14]);
    expect(readDays("")).toEqual([]);
    expect(readDays("3, soon")).toBeNull();
    expect(readDays("2.5")).toBeNull();
  });

  it("reads when looks are, in days and hours as people write them", () => {
    const hours = (text: string) => readMoments(text)?.map((moment) => Math.round(moment * 24)) ?? null;
    expect(hours("3 h, half a day, 1, 1 d 12 h, 7")).toEqual([3, 12, 24, 36, 168]);
    expect(hours("3h; 2 days and day 5")).toEqual([3, 48, 120]);
    expect(hours("3, 7 12")).toEqual([72, 168, 288]);
    expect(hours("1.5")).toEqual([36]);
    expect(hours("1-4, days 6 to 7")).toEqual([24, 48, 72, 96, 144, 168]);
    for (const text of ["soon", "3 h, later", "20 minutes", "1.01", "-3", "7-2"]) expect(hours(text)).toBeNull();
    expect(
      [
        { day: 0, hours: 3 },
        { day: 1, hours: 12 },
        { day: 7, hours: 0 },
      ].map(momentText),
    ).toEqual(["3 h", "1 d 12 h", "7"]);
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
