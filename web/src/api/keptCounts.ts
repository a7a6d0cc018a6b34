// What the program has taken goes into the copy of the look that this device keeps: out of reach and
// reloaded, a plant that was counted is not shown as one that was not.
import type { Tap } from "../composables/useOutbox";
import type { CountSheet } from "./client";
import { amend } from "./kept";

export function sheetName(trial: number, look: number, person = ""): string {
  return ["sheet", trial, look, person].filter((part) => part !== "").join("/");
}

/** Writes taps that were taken into the kept copies of their looks. */
export async function keepCounted(taps: readonly Tap[]): Promise<void> {
  const names = new Set(taps.map(nameOf));
  for (const name of names) {
    const own = taps.filter((tap) => nameOf(tap) === name);
    await amend<CountSheet>(name, (sheet) => own.reduce(withTap, sheet));
  }
}

function nameOf({ trial, look, tally }: Tap): string {
  return sheetName(trial, look, tally.person ?? "");
}

/** The copy with one number in the place of what was kept of that leaf before. */
export function withTap(sheet: CountSheet, { tally, at }: Pick<Tap, "tally" | "at">): CountSheet {
  const { plant_id, sample = 0, measure, value, of = null, effort = 1, finished, session, step, last = false } = tally;
  const same = (t: CountSheet["tallies"][number]): boolean => t.plant_id === plant_id && t.sample === sample && t.measure === measure;
  const before = sheet.tallies.find(same);
  if (before?.session === session && before.step > step) return sheet;
  const counted = {
    id: before?.id ?? 0,
    look_id: before?.look_id ?? 0,
    plant_id,
    sample,
    measure,
    value,
    of,
    effort,
    finished,
    session,
    step,
    last,
    counted_at: at,
    counted_on: tally.counted_on ?? before?.counted_on ?? at.slice(0, 10),
    standing: "held",
  };
  return { ...sheet, early: sheet.early.filter((plant) => plant !== plant_id), tallies: [...sheet.tallies.filter((t) => !same(t)), counted] };
}
