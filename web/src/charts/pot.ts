// A pot seen from above, drawn from its own numbers in one hand: leaves, what sits on them, harm, fresh drops.
import { partOf, type Drawn, type Habit, type Leaf } from "./habit";
import { disc, rolls } from "./strokes";

export interface PotState {
  /** The plant's id: each plant has its own leaves, the same each time. */
  id: number;
  /** Size against the others of its trial, about 0.7 to 1.3; more is drawn with more leaves. */
  size: number;
  /** Pests counted; null when nothing was counted. */
  count: number | null;
  /** Share of leaf area covered (0 to 1) for a disease, in place of a count. */
  cover: number | null;
  /** Leaf damage, 0 to 5; null when it was not scored. */
  damage: number | null;
  /** Sprayed within a day. */
  fresh: boolean;
  /** How it grows; a rosette where nobody knows. */
  habit?: Habit | null;
  /** What gets one remedy; a whole plant where it is not said. */
  drawn?: Drawn;
}

/** What is drawn of a unit of a trial in its place: halves lie left and right of one another. */
export function drawnOf(unit: string, place: number): Drawn {
  if (unit === "half") return place % 2 ? "left" : "right";
  if (["leaf", "shoot", "cluster"].includes(unit)) return "leaf";
  return unit === "jar" || unit === "trap" ? unit : "plant";
}

/** What of a pot stays the same whatever sits on it. */
export interface StemDrawing {
  /** Stalks below all leaves. */
  stalks: string;
  /** What is drawn below the leaves and shows as their outline: a filled shape is drawn quicker than a line. */
  rims: string;
  leaves: string;
  deepRims: string;
  deep: string;
  veins: string;
}

export interface PotDrawing extends StemDrawing {
  ill: string;
  bites: string;
  dust: string;
  pestRims: string;
  pests: string;
  drops: string;
}

/** The middle of the pot in a picture of 100 by 84. */
const X = 54;
const Y = 42;
/** The share of its leaves on which each score of damage shows. */
const DAMAGE = [0, 0.14, 0.3, 0.5, 0.66, 0.95];
const FEWEST_BITES = 5;
const MOST_DOTS = 16;
const MOST_DUST = 26;

/** How many dots a count is drawn with: one for each doubling, so that a halving takes one away. */
export function dotsOf(count: number): number {
  return count < 1 ? 0 : Math.min(1 + Math.floor(Math.log2(count)), MOST_DOTS);
}

/** A plant's own leaves and what can come upon them: worked out once. */
interface Grown {
  stem: StemDrawing;
  /** From none to all of them: the first so many at its number. */
  ill: string[];
  bites: string[];
  dust: string[];
  pestRims: string[];
  pests: string[];
  drops: string;
}

const grown = new Map<string, Grown>();

/** A card has no leaves. */
const NOTHING: StemDrawing = { stalks: "", rims: "", leaves: "", deepRims: "", deep: "", veins: "" };

/** All of a pot as a handful of paths, in a picture of 100 by 84. */
export function drawPot(state: PotState): PotDrawing {
  const habit = grownOf(state);
  const harmed = Math.ceil((habit.bites.length - 1) * (DAMAGE[Math.round(state.damage ?? 0)] ?? 0));
  const dots = state.count === null ? 0 : dotsOf(state.count);
  return {
    ...habit.stem,
    ill: first(habit.ill, harmed),
    bites: first(habit.bites, harmed),
    dust: first(habit.dust, state.cover === null ? 0 : Math.round(state.cover * MOST_DUST)),
    pestRims: first(habit.pestRims, dots),
    pests: first(habit.pests, dots),
    drops: state.fresh ? habit.drops : "",
  };
}

/** The plant with nothing on it; the same object each time. */
export function drawStem(state: Pick<PotState, "id" | "size" | "habit" | "drawn">): StemDrawing {
  return grownOf(state).stem;
}

/** A plant's own leaves, and the places where pests sit: with fewer of them some go, and none moves. */
function grownOf({ id, size, habit = null, drawn = "plant" }: Pick<PotState, "id" | "size" | "habit" | "drawn">): Grown {
  const name = `${id}/${size.toFixed(2)}/${habit ?? ""}/${drawn}`;
  const known = grown.get(name);
  if (known) return known;
  const chance = rolls(id);
  const { leaves, stalks } = partOf(drawn, habit ?? "rosette", size, chance);
  const [light, deep] = [leaves.filter((_, k) => k % 2 === 0), leaves.filter((_, k) => k % 2 === 1)];
  const dust = spread(leaves, MOST_DUST, chance).map(([x, y]) => blot(x, y, 3.4 + 2.6 * chance()));
  const pests = spread(leaves, MOST_DOTS, chance);
  const made = {
    stem:
      drawn === "trap"
        ? NOTHING
        : {
            stalks,
            rims: light.map(rim).join(""),
            leaves: light.map(blade).join(""),
            deepRims: deep.map(rim).join(""),
            deep: deep.map(blade).join(""),
            veins: leaves.map(veins).join(""),
          },
    ill: drawn === "trap" ? [""] : growing(leaves.map(tip)),
    bites: drawn === "trap" ? [""] : growing(bitten(leaves)),
    dust: growing(dust),
    pestRims: growing(pests.map(([x, y]) => disc(x, y, 3.9))),
    pests: growing(pests.map(([x, y]) => disc(x, y, 2.9))),
    drops: spread(leaves, 9, chance)
      .map(([x, y]) => drop(x, y))
      .join(""),
  };
  grown.set(name, made);
  return made;
}

/** None of the parts, the first, the first two and so on: put together once, not at every look. */
function growing(parts: readonly string[]): string[] {
  const grown = [""];
  for (const part of parts) grown.push((grown.at(-1) ?? "") + part);
  return grown;
}

function first(grown: readonly string[], number: number): string {
  return grown[Math.min(number, grown.length - 1)] ?? "";
}

/** What a pot shows, in words. */
export function sayPot(state: PotState): string[] {
  const harm = ["", "a trace of damage", "slight damage", "moderate damage", "heavy damage", "severe damage"][Math.round(state.damage ?? 0)];
  return [
    state.cover !== null ? `${Math.round(state.cover * 100)}% covered` : state.count === null ? "not counted" : `${figureOf(state.count)} counted`,
    harm ?? "",
    state.fresh ? "sprayed within a day" : "",
  ].filter(Boolean);
}

/** The number printed below a pot. */
export function figureOf(value: number): string {
  return value < 10 && !Number.isInteger(value) ? value.toFixed(1) : String(Math.round(value));
}

/** A point of a leaf: so far along it and so far to its side. */
function on({ x, y, angle, length, width }: Leaf, along: number, side: number): [number, number] {
  const [u, v] = [length * along, width * side];
  return [X + x + u * Math.sin(angle) + v * Math.cos(angle), Y + y - u * Math.cos(angle) + v * Math.sin(angle)];
}

function at(point: readonly [number, number]): string {
  return `${point[0].toFixed(1)} ${point[1].toFixed(1)}`;
}

function blade(leaf: Leaf): string {
  return `M${at(on(leaf, 0, 0))}C${at(on(leaf, 0.25, 0.95))} ${at(on(leaf, 0.8, 1.05))} ${at(on(leaf, 1, 0))}C${at(on(leaf, 0.8, -1.05))} ${at(on(leaf, 0.25, -0.95))} ${at(on(leaf, 0, 0))}Z`;
}

/** The leaf a little larger. */
function rim(leaf: Leaf): string {
  return blade({ ...leaf, length: leaf.length + 1, width: leaf.width + 1.3 });
}

function veins(leaf: Leaf): string {
  const ribs = [0.36, 0.6].flatMap((along) => [1, -1].map((side) => `M${at(on(leaf, along, 0))}L${at(on(leaf, along + 0.13, 0.5 * side))}`));
  return `M${at(on(leaf, 0.06, 0))}L${at(on(leaf, 0.88, 0))}${ribs.join("")}`;
}

/** The pale, dying end of a leaf. */
function tip(leaf: Leaf): string {
  return `M${at(on(leaf, 0.68, 0.66))}C${at(on(leaf, 0.84, 0.6))} ${at(on(leaf, 0.92, 0.3))} ${at(on(leaf, 1, 0))}C${at(on(leaf, 0.92, -0.3))} ${at(on(leaf, 0.84, -0.6))} ${at(on(leaf, 0.68, -0.66))}Q${at(on(leaf, 0.78, 0))} ${at(on(leaf, 0.68, 0.66))}Z`;
}

/** A bite out of each leaf; of few leaves several, so that little harm is less than much. */
function bitten(leaves: readonly Leaf[]): string[] {
  const rounds = Math.ceil(FEWEST_BITES / Math.max(leaves.length, 1));
  return Array.from({ length: rounds }, (_, round) =>
    leaves.map((leaf, k) => bite(leaf, (k + round) % 2 ? 1 : -1, 0.48 + 0.13 * (round % 2 ? -round : round) * 0.6)),
  ).flat();
}

function bite(leaf: Leaf, side: number, along: number): string {
  return disc(...on(leaf, along, 0.74 * side), Number(Math.min(3.8, 0.45 * leaf.width).toFixed(1)));
}

/** Dust of a mildew: three soft discs that run into one another. */
function blot(x: number, y: number, r: number): string {
  const round = Number(r.toFixed(1));
  return disc(x, y, round) + disc(x + r * 0.8, y + r * 0.3, Number((r * 0.7).toFixed(1))) + disc(x - r * 0.4, y + r * 0.7, Number((r * 0.6).toFixed(1)));
}

function drop(x: number, y: number): string {
  return `M${x.toFixed(1)} ${(y - 4).toFixed(1)}q3.4 4.4 0 6.4q-3.4 -2 0 -6.4Z`;
}

/** Places on the leaves that keep some distance from one another, as far as there is room. */
function spread(leaves: readonly Leaf[], number: number, chance: () => number): [number, number][] {
  const found: [number, number][] = [];
  for (let k = 0; k < number; k++) {
    let best: [number, number] = [X, Y];
    let far = -1;
    for (let tries = 0; tries < 6; tries++) {
      const leaf = leaves[Math.floor(chance() * leaves.length)];
      if (!leaf) break;
      const place = on(leaf, 0.28 + 0.58 * chance(), 1.1 * (chance() - 0.5));
      const near = Math.min(...found.map(([x, y]) => Math.hypot(x - place[0], y - place[1])), 99);
      if (near > far) [best, far] = [place, near];
    }
    found.push(best);
  }
  return found;
}
