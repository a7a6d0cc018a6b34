// Three plants on two shelves, for tests of what shows them.
import type { Plant, Trial } from "../src/api/client";

export const plants: Plant[] = [
  { id: 1, name: "S1", row: 1, place: 1, match_count: 12, set_aside: null, block: 2, letter: "B", size: null, host: null, died_on: null, revision: "r" },
  { id: 2, name: "S2", row: 1, place: 2, match_count: 9, set_aside: null, block: 1, letter: "A", size: null, host: null, died_on: null, revision: "r" },
  {
    id: 3,
    name: "S3",
    row: 2,
    place: 2,
    match_count: null,
    set_aside: "too small",
    block: null,
    letter: null,
    size: null,
    host: null,
    died_on: null,
    revision: "r",
  },
];
export const trial = {
  plants,
  remedies: [
    { id: 7, name: "Soap", role: "remedy", letter: "B", notches: 2 },
    { id: 8, name: "Water", role: "control", letter: "A", notches: 1 },
  ],
  measure: { key: "live", scale: "count" },
  looks: [
    { id: 1, number: 0, day: 0, hours: 0, when: "day 0" },
    { id: 2, number: 1, day: 7, hours: 0, when: "day 7" },
  ],
  rounds: [{ number: 1, on: "2026-05-10", sprayed: [1] }],
  today: "2026-05-11",
  tags: [
    { letter: "A", notches: 1, remedy_id: 8 },
    { letter: "B", notches: 2, remedy_id: 7 },
  ],
  shields: [{ one: 2, other: 1 }],
  setup: { place_cm: 25, row_cm: 80 },
} as unknown as Trial;
