import { computed, watch, type Ref } from "vue";
import type { Schemas } from "../api/client";
import type { RemedyIn } from "../question";

interface Plan {
  /** What is known to act, with what speaks against it, and the pest it was listed for. */
  list: Ref<readonly Schemas["CatalogueOut"][]>;
  listedFor: Ref<string>;
  make: (body: Schemas["ProposalIn"]) => Promise<RemedyIn[]>;
  pest: () => string;
  kind: () => string;
  /** The names of what stands in the plan. */
  chosen: () => string;
  /** False where nobody asks for a guess: on paper, or where all is filled in field by field. */
  asked: () => boolean;
}

const SINGLE = ["compare", "prevention"];

/**
 * The first guess of a plan's remedies, once for a pest and a question: never over a choice, nor
 * under a hand that has begun to choose.
 */
export function useGuess(plan: Plan, guessed: (made: RemedyIn[]) => void): { choose: () => void } {
  /** What is listed first of what acts on the pest, with hardly anything against it; of a ladder its strengths, of a two-by-two with the next. */
  const wish = computed<Schemas["ProposalIn"] | null>(() => {
    const able = plan.list.value.filter((r) => r.role === "remedy" && r.acts_on_it);
    const suited = [...able.filter((r) => r.reasons.length <= 1), ...able];
    if (plan.kind() === "ladder") {
      const first = suited.find((r) => r.usual_ladder.length > 1);
      return first ? { keys: [first.key], strengths: first.usual_ladder, square: false } : null;
    }
    if (plan.kind() === "square") {
      const [one, ...rest] = suited.filter((r) => r.ingredients.length);
      const other = rest.find((r) => r.ingredients[0]?.key !== one?.ingredients[0]?.key);
      return one && other ? { keys: [one.key, other.key], square: true } : null;
    }
    return suited[0] && SINGLE.includes(plan.kind()) ? { keys: [suited[0].key], square: false } : null;
  });
  let guessedFor = "";
  let guess = "";
  let begun = false;
  const free = (): boolean => !begun && plan.chosen() === guess;
  watch([plan.list, plan.kind], async () => {
    const pest = plan.pest();
    const asked = `${pest}/${JSON.stringify(wish.value)}`;
    if (!plan.asked() || !wish.value || !pest || plan.listedFor.value !== pest || guessedFor === asked || !free()) return;
    guessedFor = asked;
    const made = await plan.make(wish.value);
    if (!made.length || !free()) return;
    guess = made.map((r) => r.name).join("; ");
    guessed(made);
  });
  return { choose: () => void (begun = true) };
}
