// Finding a pest by any word for it.
import type { Pest } from "./api/client";

export interface Match {
  pest: Pest;
  /** The synonym that was meant, empty when the name itself matches. */
  by: string;
}

function plain(text: string): string {
  return text
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, " ");
}

function rank(word: string, wanted: string): number {
  if (word === wanted) return 0;
  if (word.startsWith(wanted)) return 1;
  if (word.split(" ").some((part) => part.startsWith(wanted))) return 2;
  return word.includes(wanted) ? 3 : 9;
}

/** Pests that a word may mean, the best first: names before synonyms, beginnings before middles. */
export function pestsFor(query: string, pests: readonly Pest[]): Match[] {
  const wanted = plain(query);
  if (!wanted) return pests.map((pest) => ({ pest, by: "" }));
  return pests
    .map((pest) => {
      const byName = rank(plain(pest.name), wanted);
      const others = pest.synonyms.map((word) => ({ word, rank: rank(plain(word), wanted) })).sort((a, b) => a.rank - b.rank);
      const best = others[0] ?? { word: "", rank: 9 };
      return byName <= best.rank ? { pest, by: "", rank: byName } : { pest, by: best.word, rank: best.rank };
    })
    .filter((m) => m.rank < 9)
    .sort((a, b) => a.rank - b.rank)
    .map(({ pest, by }) => ({ pest, by }));
}

/** A word that is no name of a pest here and may be the gardener's own; null when it is one. */
export function ownPest(query: string, pests: readonly Pest[]): string | null {
  const wanted = plain(query);
  if (!wanted) return null;
  const known = pests.some((p) => [p.key, p.name, ...p.synonyms].some((word) => plain(word) === wanted));
  return known ? null : query.trim();
}
