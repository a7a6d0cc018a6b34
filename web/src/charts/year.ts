// A garden's year as a band: days along it, months on it, warmth beneath it.
import { daysApart, localDay } from "../words";

export interface YearScale {
  start: string;
  days: number;
  left: number;
  right: number;
}

/** Where a day lies along the band; days outside the year at its ends. */
export function xOf(scale: YearScale, iso: string): number {
  const share = Math.min(Math.max(daysApart(iso, scale.start) / scale.days, 0), 1);
  return scale.left + share * (scale.right - scale.left);
}

/** The beginnings of the months: where, and what they are called; one letter where they are narrow. */
export function months(scale: YearScale): { x: number; name: string }[] {
  const first = localDay(scale.start);
  const short = (scale.right - scale.left) / 12 < 36;
  const names = new Intl.DateTimeFormat("en-GB", { month: short ? "narrow" : "short" });
  return Array.from({ length: 12 }, (_, k) => {
    const day = new Date(first.getFullYear(), first.getMonth() + k, 1);
    const iso = `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-01`;
    return { x: xOf(scale, iso), name: names.format(day) };
  });
}

/** Warmth gathered, day by day, as points from the base line up; `most` fills the height. */
export function warmthLine(scale: YearScale, sums: readonly number[], most: number, base: number, height: number): string {
  const step = (scale.right - scale.left) / scale.days;
  return sums
    .map((sum, k) => `${k ? "L" : "M"}${(scale.left + (k + 1) * step).toFixed(1)} ${(base - (most > 0 ? sum / most : 0) * height).toFixed(1)}`)
    .join("");
}

/** Circles of the years before on one lane: the older, the smaller; the day is of this year. */
export function sizeOf(yearsAgo: number): number {
  return Math.max(7.5 - 1.5 * yearsAgo, 3);
}
