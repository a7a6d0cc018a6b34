// How plants grow, seen from above: leaves and stalks of each habit, in one hand.
import type { Schemas } from "../api/client";

export type Habit = Schemas["Habit"];

/** What of a plant is drawn in its place on a bench. */
export type Drawn = "plant" | "leaf" | "left" | "right" | "jar" | "trap";

export interface Leaf {
  /** Where it begins, from the middle of the pot. */
  x: number;
  y: number;
  /** Clockwise from the top, in radians. */
  angle: number;
  length: number;
  width: number;
}

export interface Grown {
  leaves: Leaf[];
  /** A path in the pot's picture, empty for none. */
  stalks: string;
}

type Chance = () => number;
type Place = readonly [x: number, y: number];

const X = 54;
const Y = 42;
/** How far a leaf of usual size reaches. */
const REACH = 37;
const TURN = 2 * Math.PI;

/** A plant of a habit and a size (about 0.7 to 1.3), never twice the same. */
export function plantOf(habit: Habit, size: number, chance: Chance): Grown {
  const scale = Math.min(Math.max(size, 0.7), 1.12);
  const start = chance() * TURN;
  const leaf = ([x, y]: Place, angle: number, length: number, slim: number): Leaf => {
    const grown = length * scale * (0.93 + 0.14 * chance());
    return { x: x * scale, y: y * scale, angle, length: grown, width: grown * slim };
  };
  const ring = (number: number, far: number, length: number, slim: number, turned = 0): Leaf[] =>
    Array.from({ length: number }, (_, k) => {
      const angle = start + turned + (k * TURN) / number + 0.15 * (chance() - 0.5);
      return leaf(at(angle, far), angle, length, slim);
    });
  const pair = (from: Place): Leaf[] => {
    const angle = TURN * chance();
    return [leaf(from, angle, 9, 0.5), leaf(from, angle + TURN / 2, 9, 0.5)];
  };
  switch (habit) {
    case "three": {
      const stalks = Array.from({ length: Math.round(4 + scale) }, (_, k) => start + (k * TURN) / Math.round(4 + scale));
      return {
        leaves: stalks.flatMap((angle) => [-1.25, 1.25, 0].map((aside) => leaf(at(angle, 20), angle + aside, 15, 0.5))),
        stalks: lines(
          stalks.map((angle) => [[0, 0], at(angle, 21)]),
          scale,
        ),
      };
    }
    case "fingers": {
      const fans = [0, 1, 2].map((k) => at(start + (k * TURN) / 3, 18));
      return {
        leaves: fans.flatMap((from) => Array.from({ length: 7 }, (_, k) => leaf(from, start + (k * TURN) / 7, 19, 0.19))),
        stalks: lines(
          fans.map((to) => [[0, 0], to]),
          scale,
        ),
      };
    }
    case "pairs":
      return { leaves: [...ring(4, 2, 36, 0.3), ...ring(4, 2, 26, 0.34, TURN / 8), ...ring(4, 1, 14, 0.42)], stalks: "" };
    case "upright": {
      const shoots = [0, 1, 2].map((k) => at(start + (k * TURN) / 3, 17));
      return {
        leaves: shoots.flatMap((from, s) => [
          ...Array.from({ length: 4 }, (_, k) => leaf(from, start + s + (k * TURN) / 4, 21, 0.2)),
          ...Array.from({ length: 4 }, (_, k) => leaf(from, start + s + ((k + 0.5) * TURN) / 4, 12, 0.26)),
        ]),
        stalks: lines(
          shoots.map((to) => [[0, 0], to]),
          scale,
        ),
      };
    }
    case "bush":
      return { leaves: [...ring(13, 17, 19, 0.32), ...ring(8, 7, 16, 0.36, 0.3)], stalks: "" };
    case "tree": {
      const twigs = ring(5, 24, 1, 1).map((twig) => [twig.x / scale, twig.y / scale] as const);
      return {
        leaves: [...ring(15, 25, 12, 0.42), ...ring(10, 14, 12, 0.42, 0.2), ...ring(5, 4, 11, 0.42, 0.4)],
        stalks: lines(
          twigs.map((to) => [[0, 0], to]),
          scale,
        ),
      };
    }
    case "climber": {
      const nodes = Array.from({ length: 5 }, (_, k): Place => [-26 + 13 * k, 20 - 10 * k + (k % 2 ? 5 : -5)]);
      return {
        leaves: nodes.flatMap((from, k) => [leaf(from, -0.6 + 0.5 * (k % 2), 17, 0.42), leaf(from, 2.2 + 0.5 * (k % 2), 17, 0.42)]),
        stalks: lines([nodes], scale),
      };
    }
    case "trailing": {
      const strings = [0, 1, 2].map((k) => start + (k * TURN) / 3);
      const along = (angle: number, k: number): Place => at(angle + 0.14 * k, 6 + 7 * k);
      return {
        leaves: strings.flatMap((angle) => [0, 1, 2, 3].map((k) => leaf(along(angle, k), angle + (k % 2 ? 1.1 : -0.8), 14, 0.4))),
        stalks: lines(
          strings.map((angle) => [[0, 0], ...[0, 1, 2, 3].map((k) => along(angle, k))]),
          scale,
        ),
      };
    }
    case "grass":
      return { leaves: [...ring(7, 1, 39, 0.1), ...ring(5, 1, 28, 0.12, 0.4)], stalks: "" };
    case "tray":
      return { leaves: [-22, 0, 22].flatMap((y) => [-27, -9, 9, 27].flatMap((x) => pair([x, y]))), stalks: "" };
    case "rosette":
      return { leaves: spiral(size, start, chance), stalks: "" };
  }
}

/** A single leaf, as large as its picture: one blade, or the leaflets of a compound leaf. */
function leafOf(habit: Habit, size: number, chance: Chance): Grown {
  const scale = Math.min(Math.max(size, 0.8), 1.08);
  const turn = 0.3 * (chance() - 0.5);
  const leaf = (y: number, angle: number, length: number, slim: number): Leaf => ({
    x: 0,
    y,
    angle: turn + angle,
    length: length * scale,
    width: length * scale * slim,
  });
  if (habit === "three")
    return {
      leaves: [-1.3, 1.3, 0].map((angle) => leaf(10, angle, 38, 0.46)),
      stalks: lines(
        [
          [
            [0, 10],
            [0, 38],
          ],
        ],
        1,
      ),
    };
  if (habit === "fingers")
    return {
      leaves: Array.from({ length: 9 }, (_, k) => leaf(6, (k - 4) * 0.62, 38, 0.17)),
      stalks: lines(
        [
          [
            [0, 6],
            [0, 38],
          ],
        ],
        1,
      ),
    };
  const slim = habit === "grass" ? 0.12 : habit === "upright" || habit === "pairs" ? 0.26 : 0.38;
  return {
    leaves: [leaf(34, 0, 70, slim)],
    stalks: lines(
      [
        [
          [0, 34],
          [0, 40],
        ],
      ],
      1,
    ),
  };
}

/** What of a plant is drawn; a half has the leaves of its side, a rod between it and the other. */
export function partOf(drawn: Drawn, habit: Habit, size: number, chance: Chance): Grown {
  if (drawn === "plant") return plantOf(habit, size, chance);
  if (drawn === "trap") return { leaves: [-20, -7, 7, 20].map((x) => ({ x, y: 34, angle: 0, length: 68, width: 8 })), stalks: "" };
  if (drawn === "leaf" || drawn === "jar") return leafOf(habit, drawn === "jar" ? 0.8 : size, chance);
  const side = drawn === "left" ? -1 : 1;
  const { leaves } = plantOf(habit, size, chance);
  return {
    leaves: leaves.filter((leaf) => side * (leaf.x + (leaf.length / 2) * Math.sin(leaf.angle)) > 0),
    stalks: lines(
      [
        [
          [0, -39],
          [0, 39],
        ],
      ],
      1,
    ),
  };
}

/** Leaves round the middle by the golden angle, the older ones longer. */
function spiral(size: number, start: number, chance: Chance): Leaf[] {
  const number = Math.round(Math.min(Math.max(6 * size, 4), 9));
  return Array.from({ length: number }, (_, k) => {
    const length = REACH * Math.min(size, 1.08) * (1 - 0.045 * k) * (0.94 + 0.1 * chance());
    return { x: 0, y: 0, angle: start + (137.5 * k * Math.PI) / 180, length, width: length * (0.3 + 0.05 * chance()) };
  });
}

function at(angle: number, far: number): Place {
  return [far * Math.sin(angle), -far * Math.cos(angle)];
}

function lines(strings: readonly (readonly Place[])[], scale: number): string {
  return strings.map((points) => points.map(([x, y], k) => `${k ? "L" : "M"}${(X + x * scale).toFixed(1)} ${(Y + y * scale).toFixed(1)}`).join("")).join("");
}
