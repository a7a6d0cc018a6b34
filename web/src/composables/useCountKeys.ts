// Counting by the keyboard alone: digits, more, less, damage, keep, the plant before and after.
import type { ComputedRef, Ref } from "vue";
import { damageWords } from "../counting";
import type { Counting, Key } from "./useCounting";
import { useKeys } from "./useKeys";
import type { Typing } from "./useTyping";

export interface CountKeys {
  counting: Counting;
  typing: Typing;
  /** Digits score the damage while this holds. */
  scoring: Ref<boolean>;
  /** Nothing is counted before it is said of which day it is. */
  ready: ComputedRef<boolean>;
  share: ComputedRef<boolean>;
  word: (key: Key) => string;
  keep: () => void;
  score: (grade: number) => void;
  /** To the next leaf or plant, or the one before. */
  stroke: (by: 1 | -1) => void;
}

export function useCountKeys({ counting, typing, scoring, ready, share, word, keep, score, stroke }: CountKeys): void {
  const counts = (): boolean => ready.value;
  useKeys([
    ...Array.from({ length: 10 }, (_, d) => ({
      key: String(d),
      label: `Type the number: ${d}`,
      when: counts,
      run: () => (scoring.value && d < damageWords.length ? score(d) : typing.digit(d)),
    })),
    { key: "Backspace", label: "Take back the last digit", when: counts, run: typing.back },
    { key: "+", label: "One more", when: counts, run: () => counting.add(1) },
    { key: " ", label: "One more", when: counts, run: () => counting.add(1) },
    { key: "-", label: "One less", when: counts, run: () => counting.add(-1) },
    { key: "d", label: "Leaf damage: then 0 to 5", when: counts, run: () => (scoring.value = !scoring.value) },
    {
      key: "o",
      label: "Out of how many: then the digits",
      when: () => share.value && ready.value,
      run: () => {
        typing.reset();
        typing.field.value = "total";
      },
    },
    { key: "u", label: "Undo", run: counting.undo },
    ...counting.beside.map((measure) => ({
      key: { dead: "x", other: "b" }[measure as string] ?? word(measure).charAt(0),
      label: `One more: ${word(measure)}`,
      when: counts,
      run: () => {
        counting.add(1, measure);
        typing.reset();
      },
    })),
    { key: "Enter", label: "Keep, go on", run: () => keep() },
    { key: "ArrowLeft", label: "Leaf or plant before", run: () => stroke(-1) },
    { key: "ArrowRight", label: "Leaf or plant after", run: () => stroke(1) },
    { key: "ArrowUp", label: "Plant before", run: () => counting.go(counting.index.value - 1) },
    { key: "ArrowDown", label: "Plant after", run: () => counting.go(counting.index.value + 1) },
  ]);
}
