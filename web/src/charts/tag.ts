import type { Tag, Trial } from "../api/client";
// The silhouette of a plant tag: a stake with notches cut into its edges, as with scissors.
// Up to six notches on the right edge, the rest on the left.

const PER_EDGE = 6;

function edgeNotches(count: number, top: number, bottom: number, x: number, depth: number): string[] {
  const points: string[] = [];
  // Few notches are cut wide, so that they are seen from afar; many share the edge evenly.
  const step = (bottom - top) / Math.max(4, count);
  const half = step * 0.36;
  for (let k = 0; k < count; k++) {
    const middle = top + step * (k + 0.5);
    points.push(`${x} ${middle - half}`, `${x - depth} ${middle}`, `${x} ${middle + half}`);
  }
  return points;
}

/** SVG path of a tag of this width and height with some notches (0 to 12). */
export function tagPath(width: number, height: number, notches: number): string {
  const shoulder = height * 0.78;
  const depth = width * 0.26;
  const top = height * 0.04;
  const right = edgeNotches(Math.min(notches, PER_EDGE), top, shoulder, width, depth);
  const left = edgeNotches(Math.max(notches - PER_EDGE, 0), top, shoulder, 0, -depth).reverse();
  const points = [
    "0 0",
    `${width} 0`,
    ...right,
    `${width} ${shoulder}`,
    `${width / 2} ${height}`,
    `0 ${shoulder}`,
    ...left,
  ];
  return `M${points.join("L")}Z`;
}

/** The colour of a tag by its notches; colour comes second to shape, so six serve for twelve. */
export function tagColour(notches: number | null | undefined): string {
  return notches ? `var(--tag-${((notches - 1) % 6) + 1})` : "var(--tag-0)";
}

/** How a tag is spoken: "tag B, 2 notches". */
export function tagName(letter: string | null | undefined, notches: number | null | undefined): string {
  if (!letter || !notches) return "no tag yet";
  return `tag ${letter}, ${notches} ${notches === 1 ? "notch" : "notches"}`;
}

/** A trial's tags by their letter. */
export function tagsByLetter(trial: Trial): Map<string, Tag> {
  return new Map(trial.tags.map((tag) => [tag.letter, tag]));
}
