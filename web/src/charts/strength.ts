// Strengths on one logarithmic axis, so that twice as strong is as far anywhere.

export interface StrengthAxis {
  /** Ends of the axis, in the ingredient's unit. */
  from: number;
  to: number;
  at: (value: number) => number;
}

/** An axis of a width that holds every value and the usual range with some room. */
export function strengthAxis(values: readonly (number | null)[], width: number): StrengthAxis | null {
  const known = values.filter((v): v is number => v !== null && v > 0);
  if (!known.length) return null;
  const from = Math.min(...known) / 1.6;
  const to = Math.max(...known) * 1.6;
  const scale = width / Math.log(to / from);
  return { from, to, at: (value) => Math.min(Math.max(Math.log(Math.max(value, from) / from) * scale, 0), width) };
}
