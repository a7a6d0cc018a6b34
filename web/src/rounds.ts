// What a round is: which remedies are given in it, and what to call it.
import type { Remedy, Round, Trial } from "./api/client";

/** The remedies given in a round; all where it does not say which. */
export function givenIn(trial: Trial, round: Round): Remedy[] {
  return trial.remedies.filter((remedy) => (round.remedies ?? [remedy.id]).includes(remedy.id));
}

/** "Spray" where nothing but sprays are given, else "Treat". */
export function verbOf(trial: Trial, round: Round): "Spray" | "Treat" {
  const ways = givenIn(trial, round)
    .filter((r) => r.role === "remedy")
    .map((r) => r.traits.way ?? "spray");
  return ways.every((way) => ["spray", "mist", "none"].includes(way)) ? "Spray" : "Treat";
}
