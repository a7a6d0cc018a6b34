// A reading that follows one picture behind: beside what a finger waits for.
import { effect, shallowRef, watch, type ShallowRef, type WatchSource } from "vue";
import { afterPaint } from "../afterPaint";

/**
 * What a reading was when the last picture had been drawn; worked out anew only then, but at once
 * when it is of something else (`of`): nothing of the one before may stand beside it.
 */
export function useAfterPaint<T>(reading: () => T, of: WatchSource[]): Readonly<ShallowRef<T>> {
  const shown = shallowRef() as ShallowRef<T>;
  let due = false;
  const read = effect(
    () => {
      shown.value = reading();
    },
    {
      scheduler: () => {
        if (due) return;
        due = true;
        afterPaint(() => {
          due = false;
          read();
        });
      },
    },
  );
  watch(of, read);
  return shown;
}
