// The rest of the garden: words of what is done, and what was counted on a few plants.
import type { Schemas } from "./api/client";
import { readNumber } from "./words";

export const WHICH: Record<Schemas["Which"], string> = {
  sick: "Only those that have it",
  place: "All of one bed, shelf or room",
  near: "All it lives on within reach",
  all: "The whole collection",
};

export const ACTS: Record<Schemas["Act"], string> = {
  patch: "Put the mix on a few leaves of each kind that never had it",
  patch_look: "Look at the leaves that had the mix, beside others",
  count: "Count on a few plants",
  spray: "Treat them",
};

/** The mean of "7 3 0 12 5" and how many plants that is; null where a part is no number. */
export function meanOf(text: string): { pests: number; looked_at: number } | null {
  const numbers = text
    .split(/[\s;]+|,(?=\s)/)
    .filter(Boolean)
    .map(readNumber);
  if (!numbers.length || numbers.some((n) => n === undefined || n < 0)) return null;
  const sum = numbers.reduce<number>((total, n) => total + (n ?? 0), 0);
  return { pests: Number((sum / numbers.length).toFixed(3)), looked_at: numbers.length };
}
