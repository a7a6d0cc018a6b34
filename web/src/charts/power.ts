// How many plants: curves of chances against the number of plants, as SVG paths.

export interface PowerPoint {
  blocks: number;
  plants: number;
  best_named: number;
  false_winner: number;
  best_beats: number;
  second_beats: number;
  width: number | null;
}

export type Chance = "best_named" | "false_winner" | "second_beats";

/** Place of a number of plants between the smallest and the largest simulated. */
export function plantX(plants: number, points: readonly PowerPoint[], width: number): number {
  const all = points.map((p) => p.plants);
  const low = Math.min(...all);
  const high = Math.max(...all);
  return high === low ? width / 2 : ((plants - low) / (high - low)) * width;
}

/** Heights of labels beside the ends of curves, moved apart so that none lies on another or above the top. */
export function apart(heights: readonly number[], gap: number, top = 10): number[] {
  const order = heights.map((_, k) => k).sort((a, b) => (heights[a] ?? 0) - (heights[b] ?? 0));
  const found = [...heights];
  let lowest = Infinity;
  for (const k of [...order].reverse()) {
    const own = Math.min(found[k] ?? 0, lowest - gap);
    found[k] = own;
    lowest = own;
  }
  let free = top;
  for (const k of order) {
    const own = Math.max(found[k] ?? 0, free);
    found[k] = own;
    free = own + gap;
  }
  return found;
}

/** Path through one chance at every size; a chance of 1 is at the top. */
export function chancePath(points: readonly PowerPoint[], chance: Chance, width: number, height: number): string {
  return [...points]
    .sort((a, b) => a.plants - b.plants)
    .map((p, k) => `${k ? "L" : "M"}${plantX(p.plants, points, width).toFixed(1)} ${((1 - p[chance]) * height).toFixed(1)}`)
    .join("");
}
