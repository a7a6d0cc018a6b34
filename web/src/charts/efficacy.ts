// The verdict's picture: every remedy's tag on a line from "as if untreated" to "all gone".
import type { RemedyVerdict } from "../api/client";

export const FLOOR = -0.5; // worse than this is drawn at the edge, with an arrow

export interface EfficacyMark {
  name: string;
  at: number;
  from: number;
  to: number;
  beyondLeft: boolean;
  text: string;
}

/** Place of an efficacy on a line of this width, from FLOOR to 1. */
export function xOf(efficacy: number, width: number): number {
  const bounded = Math.min(Math.max(efficacy, FLOOR), 1);
  return ((bounded - FLOOR) / (1 - FLOOR)) * width;
}

/** A fraction as a percentage that never claims more than was seen. */
export function percent(fraction: number): string {
  // Beyond a tenfold there is no number any more that anybody could use.
  if (Math.abs(fraction) > 10) return fraction > 0 ? "over 1000%" : "under −1000%";
  if (fraction > 0.99 && fraction < 1) {
    return `${Math.min(Math.floor(fraction * 1000) / 10, 99.9)}%`;
  }
  return `${Math.round(fraction * 100)}%`.replace("-", "−");
}

/** "24% fewer", or "10% more" where a remedy left more than the control had. */
export function fewer(efficacy: number): string {
  return efficacy < 0 ? `${percent(-efficacy)} more` : `${percent(efficacy)} fewer`;
}

/** Marks for the remedies that have an efficacy, in the order given. */
export function efficacyMarks(remedies: readonly RemedyVerdict[], width: number): EfficacyMark[] {
  return remedies.flatMap((remedy) => {
    if (remedy.efficacy === null) return [];
    const low = remedy.efficacy_low ?? remedy.efficacy;
    const high = remedy.efficacy_high ?? remedy.efficacy;
    return [
      {
        name: remedy.name,
        at: xOf(remedy.efficacy, width),
        from: xOf(low, width),
        to: xOf(high, width),
        beyondLeft: low < FLOOR,
        text:
          `${fewer(remedy.efficacy)} than on the control` +
          (remedy.efficacy_low === null ? "" : `, likely ${percent(low)} to ${percent(high)}`),
      },
    ];
  });
}
