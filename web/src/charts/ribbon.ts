// The day ribbon: hours from dawn to dark, joined into spans of one reason.
import { clockWords } from "../units";

export interface RibbonHour {
  at: string;
  open: boolean;
  light: boolean;
  closed_by: string;
  closed_word: string;
}

export interface Span {
  /** Index of the first hour among those shown, and how many hours. */
  from: number;
  hours: number;
  open: boolean;
  key: string;
  word: string;
}

/** Index of the first and last hour shown: from the hour before it gets light to that after dark. */
export function dawnToDark(hours: readonly RibbonHour[]): [number, number] {
  const first = hours.findIndex((h) => h.light);
  if (first < 0) return [0, hours.length - 1];
  const last = hours.map((h) => h.light).lastIndexOf(true);
  return [Math.max(first - 1, 0), Math.min(last + 1, hours.length - 1)];
}

/** Neighbouring hours that are open, or closed by the same thing, as one span. */
export function spans(hours: readonly RibbonHour[]): Span[] {
  const found: Span[] = [];
  hours.forEach((hour, k) => {
    const key = hour.open ? "open" : hour.closed_by;
    const last = found.at(-1);
    if (last?.key === key) last.hours += 1;
    else found.push({ from: k, hours: 1, open: hour.open, key, word: hour.open ? "open" : hour.closed_word });
  });
  return found;
}

/** Hours on as few lines as hold them, each line about as long as the others. */
export function inLines<T>(hours: readonly T[], most: number): { from: number; own: T[] }[] {
  const lines = Math.ceil(hours.length / Math.max(most, 1));
  const each = Math.ceil(hours.length / Math.max(lines, 1));
  return Array.from({ length: lines }, (_, k) => ({ from: k * each, own: hours.slice(k * each, (k + 1) * each) }));
}

/** Where a time lies along the hours shown, 0 to 1; null when outside. The end is inside only of the last line. */
export function alongRibbon(clock: number, firstHour: number, count: number, isLast = true): number | null {
  const share = (clock - firstHour) / count;
  return share >= 0 && (isLast ? share <= 1 : share < 1) ? share : null;
}

/** The clock of an ISO time as it was said there, in hours. */
export function clockOf(iso: string): number {
  const [hour = 0, minute = 0] = (iso.split("T")[1] ?? "").split(":").map(Number);
  return hour + minute / 60;
}

/** The time of day of an ISO time as it was said there, on the gardener's clock. */
export function timeOf(iso: string): string {
  return clockWords(clockOf(iso));
}
