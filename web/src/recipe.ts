// A recipe's sentence in pieces: what was read, and the words between.
import type { Schemas } from "./api/client";

export type Token = Schemas["TokenOut"];
export interface Piece {
  words: string;
  token: Token | null;
}

/** The whole sentence, piece by piece; places count letters, so a smiley is one of them. */
export function piecesOf(text: string, tokens: readonly Token[]): Piece[] {
  const letters = Array.from(text);
  const pieces: Piece[] = [];
  let at = 0;
  for (const token of [...tokens].sort((a, b) => a.start - b.start)) {
    if (token.start < at) continue;
    if (token.start > at) pieces.push({ words: letters.slice(at, token.start).join(""), token: null });
    pieces.push({ words: letters.slice(token.start, token.end).join(""), token });
    at = token.end;
  }
  if (at < letters.length) pieces.push({ words: letters.slice(at).join(""), token: null });
  return pieces;
}

/** The sentence with a choice taken: its words in the place of those it is about. */
export function withChoice(text: string, choice: Schemas["ChoiceOut"]): string {
  const letters = Array.from(text);
  const changed = [...letters.slice(0, choice.start), ...Array.from(choice.text), ...letters.slice(choice.end)].join("");
  return choice.text
    ? changed
    : changed
        .replace(/ {2,}/g, " ")
        .replace(/ ([,;.])/g, "$1")
        .trim();
}
