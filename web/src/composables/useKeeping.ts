import { ref, type Ref } from "vue";
import { asFault, type Fault } from "../api/client";

/** One form's answer: its fault, and at which field that stands. */
export function useKeeping(say: (words: string) => void): {
  fault: Ref<Fault | null>;
  keep: (words: string, work: () => Promise<unknown>) => Promise<void>;
  at: (...fields: string[]) => Fault | null;
} {
  const fault = ref<Fault | null>(null);

  /** Does something and says that it is done: in the words it returns, or else in `words`. */
  async function keep(words: string, work: () => Promise<unknown>): Promise<void> {
    try {
      const said = await work();
      fault.value = null;
      say(typeof said === "string" ? said : words);
    } catch (thrown) {
      fault.value = asFault(thrown);
      say("");
    }
  }

  function at(...fields: string[]): Fault | null {
    return fault.value?.at(...fields) ?? null;
  }

  return { fault, keep, at };
}
