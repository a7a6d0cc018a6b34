// The verdict's picture: every remedy's tag on a line from "as if untreated" to "all gone".
import type { RemedyVerdict } from "../api/client";

export const FLOOR = -0.5; // half as many again: the left end where no remedy was worse
const MOST_TIMES = 1024; // the farthest left end, in times the control's
const UNTREATED = 1 / 3; // where "as if untreated" lies

export interface EfficacyMark {
  name: string;
  at: number;
  from: number;
  to: number;
  beyondLeft: boolean;
  text: string;
}

/**
 * Place of an efficacy on a line of this width, from `floor` to 1: even between nothing and all
 * gone, by doublings of the control's to the left of nothing.
 */
export function xOf(efficacy: number, width: number, floor = FLOOR): number {
  if (efficacy >= 0) return width * (UNTREATED + (1 - UNTREATED) * Math.min(efficacy, 1));
  const share = Math.min(Math.log(1 - efficacy) / Math.log(1 - floor), 1);
  return width * UNTREATED * (1 - share);
}

/** The left end that shows every remedy's own place: the next doubling beyond the worst. */
export function floorOf(remedies: readonly RemedyVerdict[]): number {
  const worst = Math.max(1.5, ...remedies.map((r) => 1 - (r.efficacy ?? 0)));
  if (worst <= 1.5) return FLOOR;
  return 1 - Math.min(2 ** Math.ceil(Math.log2(worst * 1.2)), MOST_TIMES);
}

/** What the left end stands for. */
export function floorName(floor: number): string {
  return floor === FLOOR ? "half as many again" : `${1 - floor} times the control`;
}

/** A fraction as a percentage that never claims more than was seen. */
export function percent(fraction: number): string {
  // Beyond a tenfold there is no number any more that anybody could use.
  if (Math.abs(fraction) > 10) return fraction > 0 ? "over 1000%" : "under −1000%";
  if (fraction > 0.98 && fraction < 1) {
    return `${Math.min(Math.floor(fraction * 1000) / 10, 99.9)}%`;
  }
  return `${Math.round(fraction * 100)}%`.replace("-", "−");
}

const UNCOUNTED = ["cover", "rating"]; // of these there is less, not fewer

/** "24% fewer" (of an area: "less"), or "10% more" where a remedy left more than the control had. */
export function fewer(efficacy: number, measure = ""): string {
  if (efficacy < 0) return `${efficacy < -10 ? percent(-efficacy) : `${Math.round(-100 * efficacy)}%`} more`; // there is no whole to come near to
  return `${percent(efficacy)} ${UNCOUNTED.includes(measure) ? "less" : "fewer"}`;
}

/** Marks for the remedies that have an efficacy, in the order given. */
export function efficacyMarks(remedies: readonly RemedyVerdict[], width: number, measure = ""): EfficacyMark[] {
  const floor = floorOf(remedies);
  return remedies.flatMap((remedy) => {
    if (remedy.efficacy === null) return [];
    const low = remedy.efficacy_low ?? remedy.efficacy;
    const high = remedy.efficacy_high ?? remedy.efficacy;
    return [
      {
        name: remedy.name,
        at: xOf(remedy.efficacy, width, floor),
        from: xOf(low, width, floor),
        to: xOf(high, width, floor),
        beyondLeft: low < floor,
        text: `${fewer(remedy.efficacy, measure)} than on the control` + (remedy.efficacy_low === null ? "" : `, likely ${percent(low)} to ${percent(high)}`),
      },
    ];
  });
}
