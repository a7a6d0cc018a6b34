// Every theme's text has a contrast of 4.5:1 or better, graphics and focus rings 3:1.
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const css = readFileSync("src/styles/tokens.css", "utf8");
const themes = [...css.matchAll(/:root\[data-theme="(\w+)"\]\s*\{([^}]*)\}/g)].map((found) => ({
  name: found[1] ?? "",
  colours: new Map([...(found[2] ?? "").matchAll(/--([\w-]+):\s*(#[0-9a-f]{6})/g)].map((m) => [m[1] ?? "", m[2] ?? ""])),
}));

function luminance(hex: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5]
    .map((k) => parseInt(hex.slice(k, k + 2), 16) / 255)
    .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function contrast(one: string, other: string): number {
  const [high = 0, low = 0] = [luminance(one), luminance(other)].sort((a, b) => b - a);
  return (high + 0.05) / (low + 0.05);
}

const grounds = ["paper", "sheet", "well"];
const text: [string, string[]][] = [
  ["ink", [...grounds, "accent-wash", "trap-wash", "warn-wash", "bad-wash"]],
  ["ink-soft", [...grounds, "accent-wash"]],
  ["accent", grounds],
  ["good", ["paper", "sheet"]],
  ["bad", ["paper", "sheet", "bad-wash"]],
  ["on-accent", ["accent", "accent-strong"]],
  ["on-trap", ["trap"]],
  ["on-band", ["band"]],
];
const tags = ["tag-0", "tag-1", "tag-2", "tag-3", "tag-4", "tag-5", "tag-6"];
const graphics: [string, string[]][] = [
  ["line", ["paper", "sheet"]],
  ["accent", grounds],
  ["trap", ["band"]],
  ["warn", ["paper", "sheet"]],
];

describe("contrast", () => {
  it("has the three themes", () => {
    expect(themes.map((t) => t.name)).toEqual(["day", "evening", "sun"]);
  });

  for (const { name, colours } of themes) {
    const cases: [string, string, number][] = [
      ...text.flatMap(([fore, backs]) => backs.map((back): [string, string, number] => [fore, back, 4.5])),
      ...graphics.flatMap(([fore, backs]) => backs.map((back): [string, string, number] => [fore, back, 3])),
      // A tag's letter is written in the sheet's colour on the tag.
      ...tags.map((tag): [string, string, number] => ["sheet", tag, 4.5]),
    ];
    it.each(cases)(`${name}: %s on %s is at least %s`, (fore, back, least) => {
      expect(contrast(colours.get(fore) ?? "", colours.get(back) ?? "")).toBeGreaterThanOrEqual(least);
    });
  }
});
