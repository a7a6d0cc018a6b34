// What becomes of the eggs a spray left behind: shares of eggs, young and grown, day by day.

export interface Layer {
  key: "eggs" | "young" | "grown";
  path: string;
}

export interface GenerationData {
  eggs: readonly number[];
  young: readonly number[];
  grown: readonly number[];
}

/** Stacked areas from the bottom: eggs, young, grown; `days` of them across the width. */
export function layers(data: GenerationData, days: number, width: number, height: number): Layer[] {
  const count = Math.min(days + 1, data.eggs.length);
  const x = (k: number) => (width * k) / Math.max(days, 1);
  let floor = Array.from({ length: count }, () => 0);
  return (["eggs", "young", "grown"] as const).map((key) => {
    const top = floor.map((below, k) => below + (data[key][k] ?? 0));
    const up = top.map((share, k) => `${round(x(k))} ${round(height * (1 - share))}`);
    const down = floor.map((share, k) => `${round(x(k))} ${round(height * (1 - share))}`).reverse();
    floor = top;
    return { key, path: `M${up.join("L")}L${down.join("L")}Z` };
  });
}

/** How many days to show: until the daughters lay and a little on, at least two weeks. */
export function daysShown(daysToLay: number | null, last: number): number {
  return Math.min(Math.max((daysToLay ?? 28) + 5, 14, last + 2), 60);
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
