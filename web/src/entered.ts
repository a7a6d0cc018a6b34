// What was typed into a field: a number, or a fault that names the field and says what was typed.
import { Fault } from "./api/client";
import { readNumber } from "./words";

/** The number in a field; whatever else was typed is named as it was typed. */
export function need(text: string, field: string): number {
  const value = readNumber(text);
  if (value !== undefined) return value;
  const typed = text.trim();
  throw new Fault("bad_input", typed ? `“${typed}” is not a number` : "there is no number", field, "Give a number such as 12.5.", 422);
}

/** A whole number in a field. */
export function needWhole(text: string, field: string): number {
  const value = need(text, field);
  if (Number.isInteger(value)) return value;
  throw new Fault("bad_input", `“${text.trim()}” is not a whole number`, field, "Give a whole number such as 3.", 422);
}

/** A number in a field that may stay empty. */
export function maybe(text: string, field: string): number | null {
  return text.trim() ? need(text, field) : null;
}
