// Words of what an inspection calls for.
import type { Schemas } from "./api/client";

export const adviceWords: Record<Schemas["Action"], string> = {
  watch: "Leave it and watch",
  clean_first: "Wash off, pick or prune first",
  trial: "Worth a trial",
  too_far: "Too far gone",
};

export interface SightingDraft {
  seen: string[];
  pest: string;
  place: string;
  looked: string;
  affected: string;
  helpers: string;
  vigorous: boolean;
  wilting: boolean;
  indoors: boolean;
}

/** An inspection of which nothing is known yet. */
export function freshSighting(): SightingDraft {
  return { seen: [], pest: "", place: "", looked: "10", affected: "", helpers: "0", vigorous: true, wilting: false, indoors: false };
}
