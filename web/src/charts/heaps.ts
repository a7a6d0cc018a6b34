// Many numbers as dots that lie on a line in heaps, from -1 to 1.

export interface Dot {
  x: number;
  y: number;
  fooled: boolean;
}

const STEPS = 64; // heaps along the line

/** Where a number lies along the line, from 0 to 1; what lies beyond an end lies on it. */
export function alongHeaps(value: number): number {
  return 0.02 + (0.96 * (Math.min(Math.max(value, -1), 1) + 1)) / 2;
}

/** A dot for each number, heaped on the line at `height`; tall heaps are pressed together. */
export function heaps(values: readonly number[], width: number, height: number, misleads: (value: number) => boolean): Dot[] {
  const piles = new Map<number, number[]>();
  for (const value of values) {
    const step = Math.round(alongHeaps(value) * STEPS);
    piles.set(step, [...(piles.get(step) ?? []), value]);
  }
  const tallest = Math.max(1, ...[...piles.values()].map((pile) => pile.length));
  const rise = Math.min(6.5, (height - 6) / tallest);
  return [...piles].flatMap(([step, pile]) => pile.map((value, k) => ({ x: (step / STEPS) * width, y: height + 4 - k * rise, fooled: misleads(value) })));
}
