// Words of the mixing bench.
import type { Schemas } from "./api/client";
import { region, shown } from "./units";

/** A number short enough to be measured: 741, 7.5, 0.375. */
export function amount(value: number): string {
  return value >= 100 ? String(Math.round(value)) : String(Number(value.toPrecision(3)));
}

const GALLON = 3785.411784; // ml in a US gallon, 231 cubic inches by definition

/** "750 ml" or "1.5 litres"; "25.4 fl oz (750 ml)" or "2 gallons (7.57 litres)" for a US gardener. */
export function volume(ml: number): string {
  if (region.value !== "us") return metric(ml);
  const own = ml < GALLON ? `${amount(Number(shown(ml, "volume")))} fl oz` : `${amount(ml / GALLON)} gallons`;
  return `${own.replace(/^1 gallons$/, "1 gallon")} (${metric(ml)})`;
}

function metric(ml: number): string {
  if (ml < 1000) return `${amount(ml)} ml`;
  const litres = ml / 1000;
  return litres === 1 ? "1 litre" : `${amount(litres)} litres`;
}

/** How a measured amount is taken: "2 × tablespoon (15 ml) and 5 ml". */
export function measured(found: Schemas["MeasuredOut"], unit: string): string {
  const parts = [];
  if (found.fills) parts.push(`${found.fills} × ${found.tool}`);
  if (found.rest > 0 || !found.fills) {
    parts.push(`${amount(found.rest)} ${unit}${found.fills ? "" : ` with the ${found.tool}`}`);
  }
  return parts.join(" and ");
}

/** How one thing goes into the bottle. */
export function how(pour: Schemas["PourOut"]): string {
  return pour.measured ? measured(pour.measured, pour.unit) : `top up to ${volume(pour.level)}`;
}

/** What rounding to the tool changes, or null when it is nothing to speak of. */
export function roundingNote(found: Schemas["MeasuredOut"], wanted: number, unit: string): string | null {
  const share = Math.abs(found.error);
  if (share <= 0.005) return null;
  const more = found.error > 0;
  if (found.warns) {
    return `Your tool makes this ${Math.round(share * 100)}% ${more ? "too much" : "too little"} (${amount(wanted)} ${unit} wanted): use a finer one.`;
  }
  return `${Math.round(share * 1000) / 10}% ${more ? "more" : "less"} than the exact ${amount(wanted)} ${unit}.`;
}

/** Hours as people say them. */
export function life(hours: number | null): string {
  if (hours === null) return "by its label";
  if (hours < 36) return `${amount(hours)} hours`;
  return `${amount(hours / 24)} days`;
}
