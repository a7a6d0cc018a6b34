// A pest as it looks close by, in the one hand: live, young, eggs, dead, and what is not counted.
import { disc } from "./strokes";

export type Thing = "live" | "young" | "eggs" | "winged" | "pupa" | "dead" | "skin";

export interface Stroke {
  d: string;
  /** What it is drawn as: see CreaturePicture. */
  as: "body" | "dead" | "egg" | "husk" | "line" | "shine" | "wax";
}

type Shape = "oval" | "pear" | "dome" | "slim";

interface Habit {
  shape: Shape;
  /** Width as a share of the length. */
  slender: number;
  legs: number;
  /** White wax round about. */
  wax?: boolean;
  /** Rings across the body. */
  ringed?: boolean;
  /** Two wings over the body, of those that fly. */
  winged?: boolean;
  /** Its grown ones have wings where what is counted has none. */
  flies?: boolean;
  /** It rests in a skin before it flies. */
  rests?: boolean;
  /** How its young look, where they look otherwise. */
  young?: Habit;
  /** It leaves no skin behind that could be taken for it. */
  skinless?: boolean;
}

const HABITS: Record<string, Habit | undefined> = {
  aphids: { shape: "pear", slender: 0.62, legs: 3, flies: true },
  whiteflies: { shape: "oval", slender: 0.66, legs: 0, flies: true, rests: true },
  spider_mites: { shape: "oval", slender: 0.68, legs: 4 },
  mealybugs: { shape: "oval", slender: 0.55, legs: 3, wax: true, ringed: true },
  scale_insects: { shape: "dome", slender: 0.78, legs: 0 },
  thrips: { shape: "slim", slender: 0.24, legs: 3, ringed: true, rests: true },
  fungus_gnats: { shape: "slim", slender: 0.2, legs: 3, winged: true, skinless: true, young: { shape: "slim", slender: 0.16, legs: 0, ringed: true } },
  beetles: { shape: "oval", slender: 0.7, legs: 3, skinless: true, young: { shape: "slim", slender: 0.34, legs: 3, ringed: true } },
  caterpillars: { shape: "slim", slender: 0.22, legs: 6, ringed: true, skinless: true },
  true_bugs: { shape: "pear", slender: 0.72, legs: 3 },
  slugs_snails: { shape: "slim", slender: 0.3, legs: 0, skinless: true },
};
/** What a disease makes on a leaf: a film that grows, spots, heaps that dust, soot on what is sticky. */
type Mark = "film" | "spots" | "heaps" | "soot";
const DISEASES: Record<string, Mark | undefined> = { powdery_mildew: "film", leaf_spot: "spots", rust: "heaps", sooty_mould: "soot" };
const PLACES = [
  [26, 24, 15],
  [60, 19, 12],
  [78, 47, 13],
  [46, 50, 16],
  [18, 55, 9],
] as const;
/** Those that leaves are drawn with, to practise counting on. */
const PRACTISED: readonly string[] = ["aphids", "whiteflies", "spider_mites", "mealybugs", "scale_insects", "thrips"];
const SIZES: Record<Thing, number> = { live: 66, young: 36, eggs: 15, winged: 54, pupa: 50, dead: 58, skin: 52 };

/** Whether counting a pest can be practised on drawn leaves. */
export function isPractised(pest: string): boolean {
  return PRACTISED.includes(pest);
}

/** What of a pest is drawn, none of what has no body. */
export function thingsOf(pest: string): Thing[] {
  const habit = HABITS[pest];
  if (DISEASES[pest]) return ["live", "dead"];
  const shown: Partial<Record<Thing, boolean | undefined>> = { skin: !habit?.skinless, winged: habit?.flies, pupa: habit?.rests };
  return habit ? (Object.keys(SIZES) as Thing[]).filter((thing) => shown[thing] ?? !(thing in shown)) : [];
}

/** Strokes in a picture of 100 by 72. */
export function drawCreature(pest: string, thing: Thing): Stroke[] {
  const mark = DISEASES[pest];
  if (mark) return PLACES.flatMap(([x, y, r]) => marked(mark, thing === "live", x, y, r));
  const grown = HABITS[pest];
  if (!grown) return [];
  const flying = { ...grown, winged: true, legs: 3, slender: Math.min(grown.slender, 0.5) };
  const habit = thing === "young" ? (grown.young ?? grown) : thing === "winged" ? flying : grown;
  const size = SIZES[thing];
  if (thing === "eggs")
    return [
      [36, 42],
      [54, 30],
      [62, 48],
    ].flatMap(([x = 0, y = 0]) => [
      { d: outline(x, y, size, 0.72, "oval", 0), as: "egg" as const },
      { d: disc(x - 2, y - 2, 1.6), as: "shine" as const },
    ]);
  const rough = thing === "dead" ? 0.16 : thing === "skin" ? 0.06 : 0;
  const body = outline(50, 36, size, habit.slender * (thing === "dead" ? 0.82 : 1), habit.shape, rough);
  if (thing === "pupa")
    return [
      { d: outline(50, 36, size, Math.max(habit.slender, 0.4), "dome", 0), as: "egg" },
      { d: rings(size, Math.max(habit.slender, 0.4)), as: "line" },
    ];
  if (thing === "skin")
    return [
      { d: body, as: "husk" },
      { d: crack(size, habit.slender), as: "line" },
    ];
  if (thing === "dead") return [{ d: body, as: "dead" }];
  const strokes: Stroke[] = habit.wax ? [{ d: outline(50, 36, size * 1.22, habit.slender * 1.25, "oval", 0.12), as: "wax" }] : [];
  if (habit.legs) strokes.push({ d: legs(size, habit), as: "line" });
  strokes.push({ d: body, as: "body" });
  if (habit.winged) for (const side of [-1, 1]) strokes.push({ d: outline(50 + size * 0.16, 36 + side * size * 0.2, size * 0.62, 0.36, "oval", 0), as: "wax" });
  if (habit.ringed) strokes.push({ d: rings(size, habit.slender), as: "line" });
  strokes.push({ d: disc(50 - size * 0.1, 36 - size * habit.slender * 0.16, round(Math.max(size * 0.055, 1.6))), as: "shine" });
  return strokes;
}

const WORDS: Record<Thing, string> = {
  live: "live",
  young: "young, live too",
  eggs: "eggs",
  winged: "winged, live too",
  pupa: "at rest, live too",
  dead: "dead",
  skin: "empty, not counted",
};

/** The same in words. */
export function thingWords(pest: string, thing: Thing): string {
  if (DISEASES[pest]) return thing === "live" ? "fresh" : "old, or stopped";
  return WORDS[thing];
}

/** One place of a disease, as it spreads and as it is left. */
function marked(mark: Mark, fresh: boolean, x: number, y: number, r: number): Stroke[] {
  const blot = outline(x, y, 2 * r, 0.8, "oval", fresh ? 0.2 : 0.1);
  const threads = { d: [-0.7, 0, 0.7].map((at) => `M${round(x + at * r)} ${round(y - 0.5 * r)}v${round(-0.6 * r)}`).join(""), as: "line" } as const;
  switch (mark) {
    case "film": // chains of dust stand on the fresh one, the old one is thin and browns from its middle
      return fresh
        ? [{ d: blot, as: "wax" }, threads]
        : [
            { d: blot, as: "husk" },
            { d: disc(x, y, round(0.4 * r)), as: "dead" },
          ];
    case "spots": // small and whole with a pale seam; old ones are wide, ringed and dry in the middle
      if (fresh)
        return [
          { d: disc(x, y, round(0.62 * r)), as: "wax" },
          { d: disc(x, y, round(0.42 * r)), as: "body" },
        ];
      return [
        { d: disc(x, y, round(0.95 * r)), as: "dead" },
        { d: disc(x, y, round(0.6 * r)) + disc(x, y, round(0.3 * r)), as: "line" },
      ];
    case "heaps": // burst open, with dust about them; then flat and closed
      if (!fresh) return [{ d: outline(x, y, 1.3 * r, 0.6, "oval", 0), as: "dead" }];
      return [
        { d: outline(x, y, 1.5 * r, 0.66, "oval", 0.12), as: "body" },
        { d: [0, 1, 2, 3, 4, 5].map((k) => disc(round(x + 1.1 * r * Math.cos(k)), round(y + 0.85 * r * Math.sin(k)), 1.2)).join(""), as: "shine" },
      ];
    case "soot": // a closed coat; then flakes that lift off
      return fresh
        ? [{ d: blot, as: "body" }]
        : [
            { d: outline(x, y, 1.4 * r, 0.7, "oval", 0.22), as: "husk" },
            { d: `M${round(x - 0.5 * r)} ${y}l${round(0.5 * r)} ${round(-0.3 * r)}l${round(0.5 * r)} ${round(0.4 * r)}`, as: "line" },
          ];
  }
}

function outline(x: number, y: number, length: number, slender: number, shape: Shape, rough: number): string {
  const points = Array.from({ length: 26 }, (_, k) => {
    const turn = (2 * Math.PI * k) / 26;
    const wild = 1 + rough * Math.sin(k * 12.9898);
    const along = 0.5 * length * Math.cos(turn) * wild;
    const wide = shape === "pear" ? 0.85 + 0.35 * Math.cos(turn) : shape === "dome" ? 1 + 0.12 * Math.sin(turn) : 1;
    return `${round(x + along)} ${round(y + 0.5 * length * slender * Math.sin(turn) * wild * wide)}`;
  });
  return `M${points.join("L")}Z`;
}

function legs(length: number, habit: Habit): string {
  const half = length / 2;
  return Array.from({ length: habit.legs }, (_, k) => {
    const at = 50 + half * (-0.55 + (1.2 * (k + 0.5)) / habit.legs);
    const out = half * habit.slender;
    return [-1, 1]
      .map(
        (side) =>
          `M${round(at)} ${round(36 + side * out * 0.7)}l${round(half * 0.12)} ${round(side * out * 0.6)}l${round(half * 0.16)} ${round(side * half * 0.12)}`,
      )
      .join("");
  }).join("");
}

function rings(length: number, slender: number): string {
  return [-0.24, -0.08, 0.08, 0.24]
    .map((at) => {
      const half = 0.5 * length * slender * Math.sqrt(Math.max(1 - (2 * at) ** 2, 0)) * 0.9;
      return `M${round(50 + at * length)} ${round(36 - half)}v${round(2 * half)}`;
    })
    .join("");
}

/** The split along the back by which the animal left its skin. */
function crack(length: number, slender: number): string {
  return `M${round(50 - length * 0.3)} 36l${round(length * 0.1)} ${round(-length * slender * 0.1)}l${round(length * 0.1)} ${round(length * slender * 0.18)}l${round(length * 0.14)} ${round(-length * slender * 0.12)}`;
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
