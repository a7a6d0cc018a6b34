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
const STEP = 1;
const CLOSE = 0.25; // per cent

const drawn = new Map<number, CoverPicture>();

/** A leaf in a picture of 100 by 60 with `percent` of it covered, to within half a point. */
export function coverPicture(percent: number): CoverPicture {
  const known = drawn.get(percent);
  if (known) return known;
  const spots = placed(Math.min(Math.max(percent, 0), 100));
  const picture = { leaf: blade(), veins: veins(), patches: spots.map(({ x, y, r }) => disc(x, y, Number(r.toFixed(2)))).join(""), share: shareOf(spots) };
  drawn.set(percent, picture);
  return picture;
}

interface Spot {
  x: number;
  y: number;
  r: number;
}

/** Spots are laid until they cover enough; the last is made smaller until it fits. */
function placed(percent: number): Spot[] {
  if (percent >= 100) return [{ x: 50, y: MIDDLE, r: 60 }];
  const spots: Spot[] = [];
  const chance = rolls(17);
  const usual = 2.2 + percent / 14;
  for (let tries = 0; tries < 4000 && shareOf(spots) < percent - CLOSE; tries += 1) {
    const x = 8 + 84 * chance();
    const y = MIDDLE + (2 * chance() - 1) * halfWidth(x);
    let r = usual * (0.6 + 0.8 * chance());
    if (spots.length < 200 && tries < 3000 && percent < 60 && spots.some((s) => Math.hypot(s.x - x, s.y - y) < 0.7 * (s.r + r))) continue;
    while (shareOf([...spots, { x, y, r }]) > percent + CLOSE && r > 0.3) r *= 0.9;
    spots.push({ x, y, r });
  }
  return spots;
}

/** The share of the leaf's area that lies under spots, by points a unit apart. */
function shareOf(spots: readonly Spot[]): number {
  let leaf = 0;
  let covered = 0;
  for (let x = STEP / 2; x < WIDTH; x += STEP) {
    const half = halfWidth(x);
    for (let y = STEP / 2; y < HEIGHT; y += STEP) {
      if (Math.abs(y - MIDDLE) > half) continue;
      leaf += 1;
      if (spots.some((s) => (s.x - x) ** 2 + (s.y - y) ** 2 <= s.r ** 2)) covered += 1;
    }
  }
  return (100 * covered) / leaf;
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
  const side = [18, 34, 50, 66].flatMap((x) => [-1, 1].map((up) => `M${x} ${MIDDLE}q8 ${(up * halfWidth(x + 8) * 0.3).toFixed(1)} 12 ${(up * halfWidth(x + 12) * 0.8).toFixed(1)}`));
  return `M0 ${MIDDLE}H94${side.join("")}`;
}
