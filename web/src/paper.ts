// A trial done on paper as a table: what is pasted into it, and what is sent of it.
import { Fault, type Schemas, type Trial } from "./api/client";
import { wordOf } from "./counting";
import { readNumber } from "./words";

export type PaperIn = Schemas["PaperIn"];
type Key = Trial["measure"]["key"];

export interface Column {
  title: string;
  kind: "plant" | "block" | "remedy" | "value" | "of" | "damage" | "other";
  /** Of which look; null for who got what. */
  look: number | null;
}

export interface Days {
  rounds: Record<number, string>;
  looks: Record<number, string>;
}

/** The columns of a trial's table: who got what (where the layout is not drawn), then look by look. */
export function columnsOf(trial: Trial): Column[] {
  const columns: Column[] = [{ title: "Plant", kind: "plant", look: null }];
  if (!isAllotted(trial)) {
    if (trial.setup.design !== "randomised") columns.push({ title: "Block", kind: "block", look: null });
    columns.push({ title: "Remedy", kind: "remedy", look: null });
  }
  for (const look of trial.looks) {
    const when = look.number === 0 ? "before" : look.when;
    const counted = trial.setup.also ? (trial.pest_card?.name ?? trial.pest) : trial.measure.label;
    columns.push({ title: `${counted}, ${when}`, kind: "value", look: look.number });
    if (trial.measure.scale === "share") columns.push({ title: `out of, ${when}`, kind: "of", look: look.number });
    if (trial.setup.also) columns.push({ title: `${wordOf("other", trial.setup.also)}, ${when}`, kind: "other", look: look.number });
    if (trial.setup.beside.includes("damage")) columns.push({ title: `Damage, ${when}`, kind: "damage", look: look.number });
  }
  return columns;
}

export function isAllotted(trial: Trial): boolean {
  return trial.plants.some((p) => p.letter);
}

/** Empty rows: one a plant in walking order, or as many as are on the bench. */
export function rowsOf(trial: Trial, columns: readonly Column[]): string[][] {
  const byId = new Map(trial.plants.filter((p) => p.letter).map((p) => [p.id, p.name]));
  const names = isAllotted(trial) ? trial.walk.flatMap((id) => byId.get(id) ?? []) : trial.plants.map((p) => p.name);
  const all = names.length ? names : Array.from({ length: 8 }, () => "");
  return all.map((name) => columns.map((_, k) => (k === 0 ? name : "")));
}

/** What was copied from a spreadsheet (tabs) or a CSV (semicolons, or commas that divide whole lines alike). */
export function readPasted(text: string): string[][] {
  const lines = text.replace(/\r\n?/g, "\n").replace(/\n+$/, "").split("\n");
  const mark = ["\t", ";"].find((m) => lines.some((line) => line.includes(m)));
  const commas = lines.map((line) => line.split(",").length);
  // A decimal comma is no division: commas divide only where each line has as many, and more than one.
  const divided = mark ?? (lines.length > 1 && commas.every((n) => n === commas[0] && n > 2) ? "," : null);
  return lines.map((line) => (divided ? line.split(divided) : [line]).map((cell) => cell.trim()));
}

/** The table with pasted cells from a place on; rows are added as needed, columns that do not fit are told. */
export function pasted(
  rows: readonly string[][],
  width: number,
  at: { row: number; column: number },
  cells: readonly string[][],
): { rows: string[][]; left: number } {
  const next = rows.map((row) => [...row]);
  let left = 0;
  cells.forEach((line, y) => {
    while (next.length <= at.row + y) next.push(Array.from({ length: width }, () => ""));
    line.forEach((cell, x) => {
      const row = next[at.row + y];
      if (row && at.column + x < width) row[at.column + x] = cell;
      else if (cell) left += 1;
    });
  });
  return { rows: next, left };
}

type PastedTable = Schemas["PastedOut"];

/** The table with what was read by a header: a line goes to its plant, or below the others. Two lines that say different things of one plant both stay: the table is refused with their name, and nothing is lost. */
export function filledIn(rows: readonly string[][], columns: readonly Column[], found: PastedTable): string[][] {
  const next = rows.map((row) => [...row]);
  const pastedNow = new Map<string[], string[]>();
  for (const [k, line] of found.lines.entries()) {
    const name = line["plant"]?.toLowerCase();
    const said = columns.map((column) => line[column.look === null ? column.kind : `${column.kind}/${column.look}`]);
    const fits = (cells: string[]): boolean =>
      (pastedNow.get(cells) ?? []).every((before, x) => !before || !said[x] || columns[x]?.kind === "plant" || before === said[x]);
    let row = name ? next.find((cells) => cells[0]?.trim().toLowerCase() === name && fits(cells)) : next[k];
    row ??= next.find((cells) => cells.every((cell) => !cell.trim()));
    if (!row) next.push((row = columns.map(() => "")));
    for (const [x, column] of columns.entries()) {
      const cell = said[x];
      if (cell !== undefined && (column.kind !== "plant" || !row[x]?.trim())) row[x] = cell;
    }
    pastedNow.set(row, [...row]);
  }
  return next;
}

/** What is sent; the first cell that cannot be read is named by its row and column. */
export function bodyOf(trial: Trial, columns: readonly Column[], rows: readonly string[][], days: Days, effort: number): PaperIn {
  const used = rows.map((row, k) => ({ row, k })).filter(({ row }) => row.slice(1).some((cell) => cell.trim()));
  const counts = used.flatMap(({ row, k }) => countsIn(trial.measure.key, columns, row, k, effort));
  const looks = new Set(counts.map((c) => c.look));
  return {
    plants: isAllotted(trial)
      ? []
      : used.map(({ row }) => ({ name: cellOf(columns, row, "plant"), block: cellOf(columns, row, "block"), remedy: cellOf(columns, row, "remedy") })),
    rounds: Object.entries(days.rounds)
      .filter(([, on]) => on)
      .map(([number, on]) => ({ number: Number(number), on })),
    looks: Object.entries(days.looks)
      .filter(([number, on]) => on && looks.has(Number(number)))
      .map(([number, on]) => ({ number: Number(number), on })),
    counts,
  };
}

function cellOf(columns: readonly Column[], row: readonly string[], kind: Column["kind"]): string {
  return (row[columns.findIndex((c) => c.kind === kind)] ?? "").trim();
}

function countsIn(measure: Key, columns: readonly Column[], row: readonly string[], k: number, effort: number): NonNullable<PaperIn["counts"]> {
  return columns.flatMap((column, x) => {
    const text = (row[x] ?? "").trim();
    if (column.look === null || column.kind === "of" || !text) return [];
    const out = columns.findIndex((c) => c.kind === "of" && c.look === column.look);
    const share = column.kind === "value" && out >= 0;
    return [
      {
        plant: (row[0] ?? "").trim(),
        look: column.look,
        measure: column.kind === "damage" || column.kind === "other" ? column.kind : measure,
        value: number(text, k, column),
        of: share ? number((row[out] ?? "").trim(), k, columns[out] ?? column) : null,
        effort: column.kind === "damage" || share ? 1 : effort,
      },
    ];
  });
}

function number(text: string, row: number, column: Column): number {
  const value = readNumber(text);
  if (value !== undefined) return value;
  throw new Fault(
    "bad_cell",
    `line ${row + 1}, ${column.title}: “${text}” is not a number`,
    `cell.${row}`,
    "Give a number; nothing found is 0, and what was not counted stays empty.",
    422,
  );
}
