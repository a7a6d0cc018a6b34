// Words of the rhythms, and of what a look calls for.
import type { Schemas } from "./api/client";

export const roundRhythms: Record<Schemas["RoundRhythm"], string> = {
  plan: "Fixed days, as planned",
  egg_cycle: "By the egg cycle",
  every_3: "Every 2 to 3 days while heavy",
  twice_weekly: "Twice a week for weeks",
  watch: "Watch and repeat",
};

export const stopWords: Record<Schemas["Next"], string> = {
  stop: "Stop spraying",
  next_round: "Go on with the next round",
  change_plan: "Too slow: change the plan",
  look_first: "Look first",
};
