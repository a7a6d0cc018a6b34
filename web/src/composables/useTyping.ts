// Digits typed on a keyboard: the first replaces what is there, the next follow it.
import { ref, type Ref } from "vue";

export interface Typing {
  /** Which number the digits go to. */
  field: Ref<"value" | "total">;
  digit: (d: number) => void;
  back: () => void;
  /** The next digit begins a new number. */
  reset: () => void;
}

export function useTyping(read: (field: "value" | "total") => number | null, write: (field: "value" | "total", value: number) => void, upper: number): Typing {
  const field = ref<"value" | "total">("value");
  let typed = false;
  return {
    field,
    digit: (d) => {
      const next = (typed ? (read(field.value) ?? 0) : 0) * 10 + d;
      typed = true;
      if (next <= upper) write(field.value, next);
    },
    back: () => {
      typed = true;
      write(field.value, Math.floor((read(field.value) ?? 0) / 10));
    },
    reset: () => {
      typed = false;
      field.value = "value";
    },
  };
}
