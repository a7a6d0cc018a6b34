// Small pieces of wording shared by the screens.

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

/** How far a day is from today, in words. */
export function fromToday(iso: string, today: string): string {
  const days = Math.round((localDay(iso).getTime() - localDay(today).getTime()) / 86_400_000);
  if (days === 0) return "today";
  if (days === 1) return "tomorrow";
  if (days === -1) return "since yesterday";
  return days > 0 ? `in ${days} days` : `${-days} days late`;
}

/** Reads days such as "3, 7, 12"; null when something in it is no whole number. */
export function readDays(text: string): number[] | null {
  const parts = text.split(/[\s,;]+/).filter(Boolean);
  const days = parts.map(Number);
  return days.every(Number.isInteger) ? days : null;
}

/** A number as typed, or undefined when it is none; comma and point both serve. */
export function readNumber(text: string): number | undefined {
  const plain = text.trim().replace(",", ".");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain)) return undefined;
  return Number(plain);
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
