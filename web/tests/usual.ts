// What the program answers of its rules' numbers, for tests of pages that ask for them.
import type { Schemas } from "../src/api/client";
import type { Setup } from "../src/question";

export const usualSetup: Required<Setup> = {
  kind: "compare",
  unit: "plant",
  design: "complete",
  block_size: null,
  gradient: "none",
  place_cm: 40,
  row_cm: 60,
  shields: false,
  match_place: true,
  stressed: false,
  in_bloom: false,
  delicate: false,
  hot: false,
  eaten: false,
  harvest_on: null,
  picked: false,
  harvest_days: null,
  margin: 0.1,
  samples: 0,
  which: "",
  beside: ["damage"],
  marked: false,
  leaf_cm2: null,
  two_waves: false,
  two_looks: false,
  crop: "",
  also: "",
};

export const numbers = {
  least_blocks: 2,
  usual_blocks: 4,
  most_plants: 240,
  most_remedies: 12,
  own_tolerance: 0.05,
  egg_measure: "hatched",
  egg_unit: "cluster",
  setup: usualSetup,
  care: { ml_per_plant: 40 },
} as unknown as Schemas["Numbers"];
