// Small pieces of wording shared by the screens.
import { clockFormat } from "./units";

const day = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short" });

/** Reads an ISO date as a local day. */
export function localDay(iso: string): Date {
  const [year = 1970, month = 1, date = 1] = iso.split("-").map(Number);
  return new Date(year, month - 1, date);
}

/** "Wed, 25 Nov". */
export function dayName(iso: string): string {
  return day.format(localDay(iso));
}

const moment = clockFormat({ day: "numeric", month: "short", year: "numeric", hour: "2-digit", minute: "2-digit" });

/** An instant as day and time on this device's clock. */
export function momentName(iso: string): string {
  return moment.format(new Date(iso));
}

/** The day so many days after another, as both are written in data. */
export function daysAfter(iso: string, days: number): string {
  return new Date(Date.parse(`${iso}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

/** Days from one day to another, negative backwards. */
export function daysApart(iso: string, from: string): number {
  return Math.round((localDay(iso).getTime() - localDay(from).getTime()) / 86_400_000);
}

/** How far a day is from today, in words. */
export function fromToday(iso: string, today: string): string {
  const days = daysApart(iso, today);
  if (days === 0) return "today";
  if (days === 1) return "tomorrow";
  if (days === -1) return "since yesterday";
  return days > 0 ? `in ${days} days` : `${-days} days late`;
}

/**
 * Reads numbers in a row, however they are separated; null when one of them is none. Where
 * semicolons or blanks stand between them, a comma within one is a decimal comma.
 */
export function readList(text: string): number[] | null {
  const plain = text.trim();
  const apart = /;|\s/.test(plain) ? plain.split(/\s*;\s*|\s*,\s+|\s+,\s*|\s+/) : plain.split(",");
  const numbers = apart
    .map((part) => part.replace(/,+$/, ""))
    .filter(Boolean)
    .map(readNumber);
  return numbers.some((n) => n === undefined) ? null : (numbers as number[]);
}

/** Reads days such as "3, 7, 12"; null when something in it is no whole number. */
export function readDays(text: string): number[] | null {
  const days = readList(text);
  return days?.every(Number.isInteger) ? days : null;
}

/** Reads when looks are, such as "3 h, half a day, 2, 1 d 12 h, 7-14": days, in whole hours; null for anything else. */
export function readMoments(text: string): number[] | null {
  const parts = text
    .toLowerCase()
    .replace(/half an? day/g, "12 h")
    .split(/[;,]|\band\b/);
  const hours = parts.flatMap((part) => {
    const range = /^\s*(?:days?\s+)?(\d{1,3})\s*(?:-|–|to)\s*(\d{1,3})\s*$/.exec(part);
    const [first, last] = [Number(range?.[1]), Number(range?.[2])];
    if (range && first <= last) return Array.from({ length: last - first + 1 }, (_, k) => 24 * (first + k));
    const left = part
      .replace(/(\d)\s*(?:days?|d)\b\s*(?=\d)/g, "$1d")
      .replace(/\bdays?\s+(?=\d)/g, "")
      .trim();
    return left ? left.split(/\s+(?=\d)/).map(hoursOf) : [];
  });
  return hours.some((h) => h === null) ? null : hours.map((h) => (h ?? 0) / 24);
}

/** "3 h", "1d12 h", "2", "2 days" or "1.5" as hours, null for anything else and for parts of an hour. */
function hoursOf(text: string): number | null {
  const found = /^(?:(\d+(?:\.\d+)?)(?:\s*(?:d|days?))?)?$/.exec(text) ?? /^(?:(\d+)d)?(\d+)\s*(?:h|hr|hrs|hours?)$/.exec(text);
  if (!found) return null;
  const hours = Number(found[1] ?? 0) * 24 + Number(found[2] ?? 0);
  return Number.isInteger(Math.round(hours * 1000) / 1000) ? Math.round(hours) : null;
}

/** A look's time as it is typed. */
export function momentText(look: { day: number; hours: number }): string {
  if (!look.hours) return String(look.day);
  return look.day ? `${look.day} d ${look.hours} h` : `${look.hours} h`;
}

/** A number as typed, or undefined when it is none; comma and point both serve. */
export function readNumber(text: string): number | undefined {
  const plain = text.trim().replace(",", ".");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain)) return undefined;
  return Number(plain);
}

/** Names in one breath: A, B and C. */
export function listing(names: readonly string[]): string {
  return new Intl.ListFormat("en-GB").format(names);
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** How long, in the largest unit of which there are two or so: 20 days, 3 hours, 12 minutes. */
export function howLong(seconds: number): string {
  const found =
    (
      [
        ["day", 86_400],
        ["hour", 3600],
      ] as const
    ).find(([, size]) => seconds >= 2 * size) ?? (["minute", 60] as const);
  return plural(Math.round(seconds / found[1]), found[0]);
}
