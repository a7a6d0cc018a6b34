// A kept trial's question as the API takes it, with some of it changed.
import type { Pest, QuestionIn, Schemas, Trial } from "./api/client";
import { plural, readDays, readMoments, readNumber } from "./words";

export type Setup = Schemas["SetupIO"];
export type RemedyIn = Schemas["RemedyIn"];

export interface QuestionDraft {
  name: string;
  pest: string;
  measure: QuestionIn["measure"];
  threshold: string;
  start_on: string;
  look_days: string;
  round_days: string;
  remedies: RemedyIn[];
  setup: Required<Setup>;
}

/** What gets one remedy where the plants of the sentence are the units; of parts the bench is laid out later. */
export const WHOLE: readonly string[] = ["plant", "pot"];

/** Plants that are drawn while they are said, each with its count. */
export const MOST_DRAWN = 60;

/** Where the plants of a new question stand, as typed, and whether all its fields are unfolded. */
export interface Rows {
  /** Empty where the bench is laid out later. */
  count: string;
  rows: string;
  unfolded: boolean;
  /** Leaves on each plant, where these are treated. */
  each: string;
  /** The quick count of each plant, as typed. */
  counts: string[];
}

/** A bench of which nothing is said. */
export const noRows = (): Rows => ({ count: "", rows: "", unfolded: false, each: "8", counts: [] });

/** A draft as it is asked, null while it cannot be read; days to a harvest move with the start, the day itself does not. */
export function questionOf(form: QuestionDraft, usual: Setup): QuestionIn | null {
  const threshold = readNumber(form.threshold);
  const look_days = readMoments(form.look_days);
  const round_days = readDays(form.round_days);
  if (!form.pest.trim() || !form.start_on || threshold === undefined || !look_days || !round_days) return null;
  const { name, measure, start_on } = form;
  const remedies = form.remedies.map((r) => ({ ...r }));
  return {
    name,
    pest: form.pest.trim(),
    measure,
    threshold: threshold / 100,
    start_on,
    look_days,
    round_days,
    remedies,
    setup: { ...usual, ...form.setup, harvest_days: null },
  };
}

/** Takes over a question that was mended; the share asked for stays as it was typed. */
export function takeOver(form: QuestionDraft, mended: QuestionIn): void {
  const { look_days, round_days, remedies, setup, measure, start_on } = mended;
  Object.assign(form, { measure, start_on, remedies, look_days: look_days.join(", "), round_days: round_days.join(", ") });
  Object.assign(form.setup, setup);
}

/** Plants in rows as even as can be, as parts of a bench: so many rows of so many, longer ones first. */
export function partsOf(count: number, rows: number): { rows: number; per_row: number }[] {
  const longer = count % rows;
  const each = Math.floor(count / rows);
  return [
    { rows: longer, per_row: each + 1 },
    { rows: rows - longer, per_row: each },
  ].filter((part) => part.rows && part.per_row);
}

/** What a pest usually is counted by and when, as a new question proposes it. */
export function usualFor(pest: Pest): { measure: QuestionIn["measure"]; look_days: string; round_days: string } {
  return { measure: pest.measure, look_days: pest.look_days.join(", "), round_days: pest.round_days.join(", ") };
}

export const kinds = [
  { key: "compare", name: "Which remedy works best?", words: "Different remedies side by side, each at its usual strength." },
  { key: "ladder", name: "How weak may it be?", words: "Several strengths of one remedy: the weakest that still works." },
  { key: "square", name: "Which ingredient does it?", words: "Neither, one, the other, and both: a square of two by two." },
  { key: "prevention", name: "Does it keep them away?", words: "Plants that start clean; what is counted is what arrives." },
  { key: "eggs", name: "Does it stop eggs from hatching?", words: "Egg clusters: hatched out of all." },
] as const;

export const units = {
  plant: "Whole plants",
  leaf: "Leaves",
  shoot: "Shoots or branches",
  half: "Halves of a plant",
  pot: "Pots",
  cluster: "Egg clusters",
  trap: "Traps",
  jar: "Jars, eggs taken off",
} as const;

const PLURALS: Record<string, [string, string]> = {
  leaf: ["leaf", "leaves"],
  shoot: ["shoot", "shoots"],
  half: ["half", "halves"],
  cluster: ["egg cluster", "egg clusters"],
  pot: ["pot", "pots"],
  trap: ["trap", "traps"],
  jar: ["jar", "jars"],
};

/** So many of what gets one remedy each: 12 plants, 8 leaves, one jar. */
export function pluralOf(count: number, unit: string): string {
  return plural(count, ...(PLURALS[unit] ?? (["plant", "plants"] as const)));
}

export function questionIn(trial: Trial, setup: Partial<Setup>): QuestionIn {
  return {
    name: trial.name,
    pest: trial.pest,
    measure: trial.measure.key,
    threshold: trial.threshold,
    start_on: trial.start_on,
    look_days: trial.looks.filter((l) => l.number > 0).map((l) => l.day + l.hours / 24),
    round_days: [...trial.round_days],
    remedies: trial.remedies.map(({ id, name, role, recipe, traits }) => ({ id, name, role, recipe, traits })),
    setup: { ...trial.setup, ...setup },
  };
}
