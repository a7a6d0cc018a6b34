// The gardener's own units: what is kept in °C, km/h, cm, mm and ml is shown and typed in theirs.
import { ref } from "vue";
import { client, take, type Schemas } from "./api/client";

export type Quantity = "temperature" | "warmer" | "wind" | "length" | "rain" | "volume" | "strength" | "powder" | "weight";
type Scale = readonly [unit: string, times: number, plus: number];

/** Whose units are meant, as the yard says. */
export const region = ref<Schemas["Region"]>("metric");

const METRIC: Record<Quantity, Scale> = {
  temperature: ["°C", 1, 0],
  warmer: ["°C", 1, 0],
  wind: ["km/h", 1, 0],
  length: ["cm", 1, 0],
  rain: ["mm", 1, 0],
  volume: ["ml", 1, 0],
  strength: ["ml/L", 1, 0],
  powder: ["g/L", 1, 0],
  weight: ["g", 1, 0],
};
const GALLON = 3.785411784; // litres in a US gallon, 231 cubic inches by definition
const OUNCE = 28.349523125; // grams, by definition
const MPH: Scale = ["mph", 1 / 1.609344, 0];
const OWN: Record<Schemas["Region"], Partial<Record<Quantity, Scale>>> = {
  metric: {},
  australian: {},
  imperial: { wind: MPH },
  // 1 inch is 2.54 cm, a US fluid ounce 29.5735295625 ml, 768 teaspoons are a gallon, by definition: 1 ml/L is 0.768 of them a gallon.
  us: {
    temperature: ["°F", 1.8, 32],
    warmer: ["°F", 1.8, 0],
    wind: MPH,
    length: ["in", 1 / 2.54, 0],
    rain: ["in", 1 / 25.4, 0],
    volume: ["fl oz", 1 / 29.5735295625, 0],
    strength: ["tsp/gal", 0.768, 0],
    powder: ["oz/gal", GALLON / OUNCE, 0],
    weight: ["oz", 1 / OUNCE, 0],
  },
};

/** Whose clock goes round twice a day. */
function isTwelve(): boolean {
  return region.value === "us" || region.value === "australian";
}

/** A time of day as the gardener's clock has it: "16:05" or "4:05 pm". */
export function clockWords(hours: number): string {
  const minutes = Math.round(hours * 60);
  const [hour, rest] = [Math.floor(minutes / 60) % 24, String(minutes % 60).padStart(2, "0")];
  return isTwelve() ? `${hour % 12 || 12}:${rest} ${hour < 12 ? "am" : "pm"}` : `${String(hour).padStart(2, "0")}:${rest}`;
}

/** The hour alone, and what belongs to it for whoever hears it: "16" and ":00", or "4" and " pm". */
export function hourWords(hour: number): [shown: string, heard: string] {
  return isTwelve() ? [String(hour % 12 || 12), hour < 12 ? " am" : " pm"] : [String(hour), ":00"];
}

/** Moments with their time of day on the gardener's clock. */
export function clockFormat(options: Intl.DateTimeFormatOptions): { format: (moment: Date | number) => string } {
  const once = new Intl.DateTimeFormat("en-GB", { ...options, hourCycle: "h23" });
  const twice = new Intl.DateTimeFormat("en-GB", { ...options, ...(options.hour ? { hour: "numeric" } : {}), hourCycle: "h12" });
  return { format: (moment) => (isTwelve() ? twice : once).format(moment) };
}

/** What needs a second figure after the point to be told apart. */
const FINE = new Set<Quantity>(["rain", "strength", "powder", "weight"]);

function scale(what: Quantity): Scale {
  return OWN[region.value][what] ?? METRIC[what];
}

export async function loadUnits(): Promise<void> {
  try {
    region.value = (await take(client.GET("/api/yard"))).region ?? "metric";
  } catch {
    // The yard could not be asked: metric stays.
  }
}

export function unitOf(what: Quantity): string {
  return scale(what)[0];
}

/** A kept number as the gardener writes it, for a field; empty for none. */
export function shown(value: number | null | undefined, what: Quantity): string {
  if (value === null || value === undefined) return "";
  const [unit, times, plus] = scale(what);
  return unit === METRIC[what][0] ? String(value) : String(Number((value * times + plus).toFixed(FINE.has(what) ? 2 : 1)));
}

/** What was typed, as it is kept; a field that nobody changed keeps its number to the last figure. */
export function kept(typed: number, what: Quantity, before?: number | null): number {
  if (before !== null && before !== undefined && String(typed) === shown(before, what)) return before;
  const [unit, times, plus] = scale(what);
  return unit === METRIC[what][0] ? typed : Number(((typed - plus) / times).toFixed(2));
}

const SAID: readonly (readonly [pattern: RegExp, what: Quantity])[] = [
  [/(-?\d+(?:\.\d+)?)(?: (to|and) (-?\d+(?:\.\d+)?))? ?°C/g, "temperature"],
  [/(\d+(?:\.\d+)?)(?: (to|and) (\d+(?:\.\d+)?))? ?km\/h/g, "wind"],
  [/(\d+(?:\.\d+)?)(?: (to|and) (\d+(?:\.\d+)?))? ?cm\b/g, "length"],
  [/(\d+(?:\.\d+)?)(?: (to|and) (\d+(?:\.\d+)?))? ?mm\b/g, "rain"],
  [/(\d+(?:\.\d+)?)(?: (to over|to|and) (\d+(?:\.\d+)?))? ?ml(?:\/L| a litre)/g, "strength"],
  [/(\d+(?:\.\d+)?)(?: (to over|to|and) (\d+(?:\.\d+)?))? ?g(?:\/L| a litre)/g, "powder"],
];

function round(value: string, what: Quantity): string {
  const [, times, plus] = scale(what);
  const number = Number(value) * times + plus;
  return FINE.has(what) ? String(Number(number.toPrecision(2))) : String(Math.round(number));
}

/** Which quantity a strength in ml or g a litre is; null for shares and others, which are the same everywhere. */
export function strengthOf(unit: string): Quantity | null {
  return unit === "ml/L" ? "strength" : unit === "g/L" ? "powder" : null;
}

/** A strength with its unit: "10 ml/L", or "7.68 tsp/gal"; short enough to be read. */
export function strengthWords(value: number, unit: string): string {
  const what = strengthOf(unit);
  return what && unitOf(what) !== unit ? `${shown(value, what)} ${unitOf(what)}` : `${short(value)} ${unit}`;
}

function short(value: number): string {
  return value >= 100 ? String(Math.round(value)) : String(Number(value.toPrecision(3)));
}

/** A sentence of the program with its temperatures, winds and lengths in the gardener's units. */
export function inUnits(text: string): string {
  const said = text.replace(/(?<=\d{4}, )(\d\d):(\d\d)/g, (_, hour: string, minute: string) => clockWords(Number(hour) + Number(minute) / 60));
  return SAID.reduce((now, [pattern, what]) => {
    if (unitOf(what) === METRIC[what][0]) return now;
    return now.replace(
      pattern,
      (_, low: string, joint?: string, high?: string) => `${round(low, what)}${high ? ` ${joint ?? "to"} ${round(high, what)}` : ""} ${unitOf(what)}`,
    );
  }, said);
}

/** A tool by the name it has where this gardener buys it: a spoon is a spoon, a jug holds what it is marked with. */
export function toolWords(name: string): string {
  const unit = unitOf("volume");
  if (unit === "ml") return name;
  return name.replace(/spoon \(\d+ ml\)/, "spoon").replace(/\((\d+) litre\)/, (_, litres: string) => `(${shown(1000 * Number(litres), "volume")} ${unit})`);
}
