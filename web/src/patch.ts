// Words of the patch test.
import type { Schemas } from "./api/client";

export const outcomes: Record<Schemas["PatchOut"]["outcome"], string> = {
  running: "running",
  passed: "passed",
  weaker: "repeat weaker",
  failed: "failed",
};

export const harms: Record<Schemas["Harm"], string> = {
  none: "no damage",
  spots: "spots",
  edge_burn: "burnt edges",
  yellowing: "yellowing",
  drop: "leaf drop",
  loss_of_bloom: "loss of bloom",
  sticky: "sticky",
  wilting: "wilting",
};

export const patchWaits: Record<Schemas["PatchWait"], string> = {
  day: "24 hours",
  two_days: "24 and 48 hours",
  week: "24, 48 hours and a week",
};
