// Our own reference pictures: one leaf with exactly so much of its area covered.
import { disc, rolls } from "./strokes";

export interface CoverPicture {
  leaf: string;
  veins: string;
  /** Patches, cut off at the leaf's edge by its outline. */
  patches: string;
  /** The share of the leaf's area under them, in per cent, as drawn. */
  share: number;
}

const WIDTH = 100;
const HEIGHT = 60;
const MIDDLE = HEIGHT / 2;
const BULGE = 25;
const CLOSE = 0.25; // per cent

const drawn = new Map<number, CoverPicture>();

/** A leaf in a picture of 100 by 60 with `percent` of it covered, to within half a point. */
export function coverPicture(percent: number): CoverPicture {
  const known = drawn.get(percent);
  if (known) return known;
  const { spots, share } = placed(Math.min(Math.max(percent, 0), 100));
  const picture = { leaf: blade(), veins: veins(), patches: spots.map(({ x, y, r }) => disc(x, y, Number(r.toFixed(2)))).join(""), share };
  drawn.set(percent, picture);
  return picture;
}

interface Spot {
  x: number;
  y: number;
  r: number;
}

/** The points of the leaf, a unit apart: shares of its area are told by them. */
const POINTS = Array.from({ length: WIDTH * HEIGHT }, (_, k) => ({ x: (k % WIDTH) + 0.5, y: Math.floor(k / WIDTH) + 0.5 })).filter(
  ({ x, y }) => Math.abs(y - MIDDLE) <= halfWidth(x),
);

/** Spots are laid until they cover enough; the last is made smaller until it fits. */
function placed(percent: number): { spots: Spot[]; share: number } {
  if (percent >= 100) return { spots: [{ x: 50, y: MIDDLE, r: 60 }], share: 100 };
  const spots: Spot[] = [];
  const bare = new Set(POINTS);
  const wanted = (percent / 100) * POINTS.length;
  const close = (CLOSE / 100) * POINTS.length;
  const chance = rolls(17);
  const usual = 2.2 + percent / 14;
  for (let tries = 0; tries < 4000 && POINTS.length - bare.size < wanted - close; tries += 1) {
    const x = 8 + 84 * chance();
    const y = MIDDLE + (2 * chance() - 1) * halfWidth(x);
    let r = usual * (0.6 + 0.8 * chance());
    if (spots.length < 200 && tries < 3000 && percent < 60 && spots.some((s) => Math.hypot(s.x - x, s.y - y) < 0.7 * (s.r + r))) continue;
    const far: { point: (typeof POINTS)[number]; d: number }[] = [];
    for (const point of bare) {
      const d = Math.abs(point.x - x) > r ? r + 1 : Math.hypot(point.x - x, point.y - y);
      if (d <= r) far.push({ point, d });
    }
    far.sort((one, other) => one.d - other.d);
    const room = Math.floor(wanted + close) - (POINTS.length - bare.size);
    if (far.length > room) r = Math.max((far[room]?.d ?? r) - 0.01, 0.3);
    for (const { point, d } of far) if (d <= r) bare.delete(point);
    spots.push({ x, y, r });
  }
  return { spots, share: (100 * (POINTS.length - bare.size)) / POINTS.length };
}

function halfWidth(x: number): number {
  const along = (x - 4) / 92;
  return along <= 0 || along >= 1 ? 0 : BULGE * Math.sin(Math.PI * along ** 0.9) ** 0.8;
}

function blade(): string {
  const xs = Array.from({ length: 47 }, (_, k) => 4 + 2 * k);
  const points = [...xs.map((x) => [x, MIDDLE - halfWidth(x)]), ...[...xs].reverse().map((x) => [x, MIDDLE + halfWidth(x)])];
  return `M${points.map(([x = 0, y = 0]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;
}

function veins(): string {
  const side = [18, 34, 50, 66].flatMap((x) =>
    [-1, 1].map((up) => `M${x} ${MIDDLE}q8 ${(up * halfWidth(x + 8) * 0.3).toFixed(1)} 12 ${(up * halfWidth(x + 12) * 0.8).toFixed(1)}`),
  );
  return `M0 ${MIDDLE}H94${side.join("")}`;
}
