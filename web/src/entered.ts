// What was typed into a field: a number, or a fault that names the field and says what was typed.
import { Fault } from "./api/client";
import { readNumber } from "./words";

let gathered: Fault[] | null = null;

/** Says that a field is wrong: at once, or together with the others of a form that is read as one. */
function wrong(fault: Fault): number {
  if (!gathered) throw fault;
  gathered.push(fault);
  return NaN;
}

/** Several faults as one: the first, with the others behind it. */
export function together(faults: readonly Fault[]): Fault | null {
  const [first, ...more] = faults;
  if (first) first.more = more;
  return first ?? null;
}

/** Reads a whole form; all fields that are wrong are told at once. */
export function readAll<T>(read: () => T): T {
  const mine: Fault[] = [];
  gathered = mine;
  try {
    const found = read();
    const fault = together(mine);
    if (fault) throw fault;
    return found;
  } catch (thrown) {
    if (thrown instanceof Fault && !mine.includes(thrown)) throw together([...mine, thrown]);
    throw thrown;
  } finally {
    gathered = null;
  }
}

/** The number in a field; whatever else was typed is named as it was typed. */
export function need(text: string, field: string): number {
  const value = readNumber(text);
  if (value !== undefined) return value;
  const typed = text.trim();
  return wrong(new Fault("bad_input", typed ? `“${typed}” is not a number` : "there is no number", field, "Give a number such as 12.5.", 422));
}

/** A whole number in a field. */
export function needWhole(text: string, field: string): number {
  const value = need(text, field);
  if (Number.isInteger(value) || Number.isNaN(value)) return value;
  return wrong(new Fault("bad_input", `“${text.trim()}” is not a whole number`, field, "Give a whole number such as 3.", 422));
}

/** A number in a field that may stay empty. */
export function maybe(text: string, field: string): number | null {
  return text.trim() ? need(text, field) : null;
}
