// Words of the counting screens.
import type { Schemas } from "./api/client";
import type { Count, Key, Missing } from "./composables/useCounting";

export const damageWords = ["none", "trace", "slight", "moderate", "heavy", "severe"];

export const tallyWords: Record<Key, string> = {
  live: "live",
  dead: "dead",
  hatched: "hatched",
  cover: "% of the leaf",
  rating: "rating",
  catch: "caught",
  young: "young",
  eggs: "eggs",
  damage: "damage",
  helpers: "helpers",
  vanished: "gone",
  other: "second pest",
  height: "height",
  leaves: "leaves",
  picked: "picked",
  moisture: "moisture",
};

/** What is measured of the plant itself, with its unit: how it grows and bears, and how dry it stands. */
export const SIZES = [
  { key: "height", words: "Height", unit: "cm" },
  { key: "leaves", words: "Leaves", unit: "" },
  { key: "picked", words: "Picked since then", unit: "g" },
  { key: "moisture", words: "Soil moisture", unit: "1 to 10" },
] as const;
export type Size = (typeof SIZES)[number]["key"];

export function isSize(key: string): key is Size {
  return SIZES.some((size) => size.key === key);
}

/** What a number is of; a second pest goes by its name. */
export function wordOf(key: Key, also: string): string {
  return key === "other" && also ? also.replaceAll("_", " ") : tallyWords[key];
}

export type Stage = Schemas["MarkOut"]["stage"];
export type Seen = NonNullable<Schemas["NoteOut"]["seen"]>[number];

export const markWords: Record<Stage, string> = { live: "live", young: "young", eggs: "egg", dead: "dead" };

/** What a plant is judged by beside counts: kinds of leaf damage, then how it fares. */
export const seenWords: Record<Seen, string> = {
  spots: "Spots",
  edge_burn: "Burnt edges",
  yellowing: "Yellowing",
  drop: "Leaves dropped",
  bloom_lost: "Bloom lost",
  wilting: "Wilting",
  new_growth: "New growth",
  flowers: "In flower",
  fruit: "Fruit set",
  sticky: "Sticky",
  ants: "Ants",
  eggs_dropped: "Eggs dropped",
  eggs_eaten: "Eggs eaten",
  eggs_destroyed: "Eggs destroyed",
};

export function manyOf(unit: string): string {
  return unit === "leaf" ? "leaves" : `${unit}s`;
}

/** Of a leaf with very many only a part may be counted; the program scales it. */
const PARTS = [1, 0.5, 0.25, 0.1];
const partNames: Record<number, string> = { 1: "all", 0.5: "½", 0.25: "¼", 0.1: "⅒" };

/** The parts that may be counted; with the area of a usual leaf a window of 1 cm², too. */
export function partsOf(leafCm2: number | null | undefined): number[] {
  return leafCm2 ? [...PARTS, windowOf(leafCm2)] : PARTS;
}

/** A window of 1 cm² as a part of a leaf. */
export function windowOf(leafCm2: number): number {
  return Math.round(10_000 / leafCm2) / 10_000;
}

export function partWords(part: number): string {
  return partNames[part] ?? "1 cm²";
}

/** What keeping a number does, as its button says it. */
/** `own` names what the trial's own number is of, where a second pest is counted beside it. */
export function keepWords(count: Count, missing: Missing, share: boolean, own = ""): string {
  if (missing === "total") return "Out of how many?";
  if (missing === "too_many") return `${count.value ?? 0} of ${count.total ?? 0} cannot be: correct it`;
  if (count.finished) return "Next";
  const of = share ? ` of ${count.total ?? 0}` : "";
  if (own) return count.value ? `Keep ${count.value} ${own}${of}` : `No ${own}${of}`;
  return count.value ? `Keep ${count.value}${of}` : `None found${of}`;
}

/** Whether everything is with the program, and if not, what is not. */
export function keptWords(refused: number, incomplete: readonly { name: string }[], waiting: number, unwritten: number, shut: boolean): string {
  if (shut) return `${waiting} kept here: passcode needed`;
  if (refused) return `${refused} refused`;
  if (incomplete.length) return `${incomplete.length === 1 ? incomplete[0]?.name : incomplete.length} not complete`;
  if (unwritten) return `keeping ${unwritten} …`;
  return waiting ? `${waiting} ${waiting === 1 ? "tap" : "taps"} kept here, waiting` : "✓ all kept";
}
