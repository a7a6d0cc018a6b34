import { onScopeDispose } from "vue";

/** Does something once nothing more has been asked for `ms`; nothing after the page is left. */
export function useSoon(act: () => void, ms: number): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  onScopeDispose(() => clearTimeout(timer));
  return () => {
    clearTimeout(timer);
    timer = setTimeout(act, ms);
  };
}
