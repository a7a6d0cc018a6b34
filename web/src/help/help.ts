// Answers and words of the help: one source, on the screens and in docs/glossary.md.
import { ref } from "vue";
import help from "./help.json";

export interface Term {
  word: string;
  forms: readonly string[];
  /** It means other things, too, and is not marked in sentences. */
  common?: boolean;
  says: string;
}

export interface Answer {
  asks: string;
  /** What else people type who mean it. */
  also: string;
  says: string;
  /** The pages that it concerns, as `pageOf` names them. */
  pages: readonly string[];
  /** Where to do it; `{trial}` stands for the trial at hand. */
  act?: { says: string; to: string };
}

export const terms: readonly Term[] = help.terms;
export const answers: readonly Answer[] = help.answers;

/** Whether the help is open, for all pages. */
export const helpOpen = ref(false);

/** The page of a path, and the trial that it is about. */
export function pageOf(path: string): { page: string; trial: string | null } {
  const [first = "", second, third, fourth] = path.split("/").filter(Boolean);
  if (first !== "trial") return { page: first || "today", trial: null };
  const counted = third === "look" ? "look-at" : (third ?? "question");
  return { page: fourth && third === "round" ? "round" : counted, trial: second ?? null };
}

/** Where an answer leads from here; null where it needs a trial and none is at hand. */
export function leadsTo(answer: Answer, trial: string | null): string | null {
  const to = answer.act?.to ?? null;
  if (!to?.includes("{trial}")) return to;
  return trial === null ? null : to.replace("{trial}", trial);
}

const plain = (text: string): string => text.toLowerCase().replace(/[’']/g, "");

/** What has all words that were typed, beginnings of words counting; all of it when nothing was. */
export function search<T extends Term | Answer>(list: readonly T[], typed: string): T[] {
  const wanted = plain(typed).split(/\s+/).filter(Boolean);
  return list.filter((one) => {
    const words = plain("asks" in one ? `${one.asks} ${one.also} ${one.says}` : `${one.word} ${one.forms.join(" ")} ${one.says}`).split(/[^a-z0-9]+/);
    return wanted.every((part) => words.some((word) => word.startsWith(part)));
  });
}

const byForm = new Map(terms.filter((term) => !term.common).flatMap((term) => [term.word, ...term.forms].map((form) => [form.toLowerCase(), term] as const)));
const anyForm = new RegExp(`\\b(${[...byForm.keys()].sort((a, b) => b.length - a.length).join("|")})\\b`, "gi");

/** A text in pieces, each term where it first stands with its word. */
export function inPieces(text: string): { text: string; term: Term | null }[] {
  const seen = new Set<Term>();
  const pieces: { text: string; term: Term | null }[] = [];
  let from = 0;
  for (const found of text.matchAll(anyForm)) {
    const term = byForm.get(found[0].toLowerCase());
    if (!term || seen.has(term)) continue;
    seen.add(term);
    if (found.index > from) pieces.push({ text: text.slice(from, found.index), term: null });
    pieces.push({ text: found[0], term });
    from = found.index + found[0].length;
  }
  if (from < text.length) pieces.push({ text: text.slice(from), term: null });
  return pieces;
}
