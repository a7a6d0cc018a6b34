// A plan as it can be played through, from a trial that is kept or a question that is being asked.
import type { Course, Plant, Schemas, Trial } from "./api/client";
import type { BenchOf } from "./composables/usePots";
import { partsOf, type QuestionDraft, type Rows } from "./question";
import { readMoments, readDays, readNumber } from "./words";

export interface Playable {
  plan: Schemas["PlayPlanIn"];
  /** What stands on the bench, in words. */
  on: string;
  /** In how many rows. */
  rows: number;
  /** How the plants are drawn, where that is known. */
  habit: Trial["habit"];
}

const MOST_PLANTS = 120;

/** Whole days after the first spray, each once, rising. */
function wholeDays(moments: readonly number[]): number[] {
  return [...new Set(moments.filter((m) => m > 0).map(Math.ceil))].sort((a, b) => a - b);
}

/** What is played where nothing else was asked. */
export const USUAL: Playable = {
  plan: {
    remedies: [
      { name: "Water only", days_to_show: 1 },
      { name: "Soft soap", days_to_show: 1 },
      { name: "Neem", days_to_show: 4 },
    ],
    plants: 15,
    looks: [3, 7, 14],
    rounds: [0, 7],
    measure: "live",
    threshold: 0.6,
    two_looks: false,
  },
  on: "15 lupins",
  rows: 3,
  habit: "fingers",
};

/** The plan of a trial; of parts of plants, the parts are played. */
export function playableTrial(trial: Trial): Playable | null {
  const [control, others] = [trial.remedies.filter((r) => r.role === "control"), trial.remedies.filter((r) => r.role !== "control")];
  const stands = trial.plants.filter((p) => p.set_aside === null);
  const looks = wholeDays(trial.looks.map((l) => l.day + l.hours / 24));
  if (control.length !== 1 || !others.length || !stands.length || !looks.length) return null;
  return {
    plan: {
      remedies: [...control, ...others].map((r) => ({ name: r.name, days_to_show: Math.max(r.traits.first_look_days, 1) })),
      plants: Math.min(stands.length, MOST_PLANTS),
      looks,
      rounds: [0, ...wholeDays(trial.round_days)],
      measure: trial.measure.key,
      threshold: trial.threshold,
      two_looks: trial.setup.two_looks,
    },
    on: trial.name,
    rows: new Set(stands.map((p) => p.row)).size,
    habit: trial.habit,
  };
}

/** The plan of a question that is not kept yet, once it says enough. */
export function playableDraft(question: Partial<QuestionDraft>, bench: Partial<Rows>): Playable | null {
  const remedies = (question.remedies ?? []).filter((r) => r.name.trim());
  const [control, others] = [remedies.filter((r) => r.role === "control"), remedies.filter((r) => r.role !== "control")];
  const plants = readNumber(bench.count ?? "");
  const rows = readNumber(bench.rows ?? "");
  const looks = wholeDays(readMoments(question.look_days ?? "") ?? []);
  const rounds = readDays(question.round_days ?? "");
  const threshold = readNumber(question.threshold ?? "");
  if (control.length !== 1 || !others.length || !plants || !rows || !looks.length || !rounds || !threshold || !question.measure) return null;
  return {
    plan: {
      remedies: [...control, ...others].map((r) => ({ name: r.name, days_to_show: Math.max(r.traits?.first_look_days ?? 1, 1) })),
      plants: Math.min(plants, MOST_PLANTS),
      looks,
      rounds: [0, ...wholeDays(rounds)],
      measure: question.measure,
      threshold: threshold / 100,
      two_looks: question.setup?.two_looks ?? false,
    },
    on: `${plants} ${question.setup?.crop?.trim() || "plants"}`,
    rows,
    habit: null,
  };
}

const letterOf = (tag: number | null): string | null => (tag ? String.fromCharCode(64 + tag) : null);

/** The played bench as any bench is drawn; `fresh`: sprayed just now. */
export function benchOf(board: Schemas["PlayOut"], { rows, habit }: Pick<Playable, "rows" | "habit">, fresh: boolean): BenchOf {
  const places = partsOf(board.plants.length, Math.min(rows, board.plants.length))
    .flatMap((part) => Array.from({ length: part.rows }, () => part.per_row))
    .flatMap((inRow, row) => Array.from({ length: inRow }, (_, k) => ({ row: row + 1, place: k + 1 })));
  const plants = board.plants.map((plant, k): Plant => ({
    id: k + 1,
    name: `P${k + 1}`,
    row: places[k]?.row ?? 1,
    place: places[k]?.place ?? k + 1,
    block: plant.group,
    letter: letterOf(plant.tag),
    match_count: plant.counts[0] ?? null,
    set_aside: plant.counts.length && !plant.tag ? "left over" : null,
    died_on: null,
    host: null,
    revision: "",
    size: null,
  }));
  const today = "2000-01-01";
  return {
    plants,
    habit,
    today,
    shields: [],
    tags: [...new Set(board.plants.map((p) => p.tag))].flatMap((tag) => (tag ? [{ letter: letterOf(tag) ?? "", notches: tag }] : [])),
    looks: board.days.map((day, number) => ({ number, when: number ? `day ${day}` : "before" })),
    rounds: fresh ? [{ on: today, sprayed: plants.map((p) => p.id) }] : [],
    setup: { place_cm: 30, row_cm: 40 },
    measure: { scale: board.measure === "cover" ? "percent" : "count" },
  };
}

/** Its counts by look. */
export function courseOf(board: Schemas["PlayOut"]): Course {
  return { looks: board.days.map((_, number) => number), values: Object.fromEntries(board.plants.map((p, k) => [k + 1, [...p.counts]])), damage: {} };
}
