// A reading that follows one picture behind: beside what a finger waits for.
import { effect, shallowRef, stop, type ReactiveEffectRunner, type ShallowRef } from "vue";
import { onScopeDispose } from "vue";
import { afterPaint } from "../afterPaint";

/** What a reading was when the last picture had been drawn; worked out anew only then. */
export function useAfterPaint<T>(reading: () => T): Readonly<ShallowRef<T>> {
  const shown = shallowRef() as ShallowRef<T>;
  let due = false;
  const runner: ReactiveEffectRunner = effect(() => { shown.value = reading(); }, {
    scheduler: () => {
      if (due) return;
      due = true;
      afterPaint(() => {
        due = false;
        runner();
      });
    },
  });
  onScopeDispose(() => { stop(runner); });
  return shown;
}
