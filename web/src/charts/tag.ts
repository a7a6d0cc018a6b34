import type { Tag } from "../api/client";
import outlines from "./tagOutlines.json";

// The silhouette of a plant tag, drawn by the program: python -m orthocris tags > tagOutlines.json

/** SVG path of a tag of this width and height with some notches (0 to 12). */
export function tagPath(width: number, height: number, notches: number): string {
  const outline = outlines[notches] ?? [];
  return `M${outline.map(([x = 0, y = 0]) => `${x * width} ${y * height}`).join("L")}Z`;
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

/** A trial's tags by their letter; in a round, as what stands under them is given in it. */
export function tagsByLetter<T extends Pick<Tag, "letter">>(trial: { tags: readonly T[] }, round?: { parts: readonly T[] }): Map<string, T> {
  return new Map([...trial.tags, ...(round?.parts ?? [])].map((tag) => [tag.letter, tag]));
}
