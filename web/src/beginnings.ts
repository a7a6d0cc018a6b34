// How the sentence of a new trial may begin: what is asked, of what, and whether it was done already.
import type { QuestionDraft } from "./question";

export const beginnings = [
  { key: "compare", words: "which remedy works best" },
  { key: "usual", words: "what does better than what I do now" },
  { key: "few", words: "which works, on leaves, shoots or halves of few plants" },
  { key: "ladder", words: "how weak a remedy may be" },
  { key: "square", words: "which of two ingredients does it" },
  { key: "prevention", words: "what keeps them away" },
  { key: "eggs", words: "what stops eggs from hatching" },
  { key: "paper", words: "what I counted already, on paper" },
] as const;

export type Beginning = (typeof beginnings)[number]["key"];

/** Parts of a plant that get one remedy each. */
export const PARTS: readonly string[] = ["leaf", "shoot", "half"];

/** How the sentence begins as it stands; `usual`: what is done anyway is the control. */
export function beginningOf(form: QuestionDraft, paper: boolean, usual: boolean): Beginning {
  if (paper) return "paper";
  if (form.setup.kind && form.setup.kind !== "compare") return form.setup.kind;
  if (PARTS.includes(form.setup.unit)) return "few";
  return usual ? "usual" : "compare";
}

/** What is asked of the remedies, before and after their names and after the share. */
export function asks(kind: string | undefined): { before: string; after: string; share: string } {
  switch (kind) {
    case "ladder":
      return { before: "How weak may it be, of", after: ", to take away at least", share: "% of them, compared with" };
    case "square":
      return { before: "Which of", after: "takes away at least", share: "% of them, compared with" };
    case "prevention":
      return { before: "Does", after: "keep away at least", share: "% of those that come, compared with" };
    case "eggs":
      return { before: "Does", after: "keep at least", share: "% of them from hatching, compared with" };
    default:
      return { before: "Does", after: "take away at least", share: "% of them, compared with" };
  }
}
