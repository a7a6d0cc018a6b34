import { onScopeDispose, shallowRef, type ShallowRef } from "vue";
import { asFault, type Fault } from "../api/client";

export interface Answer<T> {
  data: ShallowRef<T | null>;
  fault: ShallowRef<Fault | null>;
  load: () => Promise<void>;
}

/** What a call answers, loaded on demand; a slow old answer never overwrites a newer one. */
export function useAnswer<T>(call: () => Promise<T>): Answer<T> {
  const data = shallowRef<T | null>(null);
  const fault = shallowRef<Fault | null>(null);
  let turn = 0;
  onScopeDispose(() => (turn = -1));

  async function load(): Promise<void> {
    const mine = ++turn;
    try {
      const found = await call();
      if (mine !== turn) return;
      data.value = found;
      fault.value = null;
    } catch (thrown) {
      if (mine === turn) fault.value = asFault(thrown);
    }
  }

  return { data, fault, load };
}
