import { onScopeDispose, watchEffect } from "vue";

const APP = "Orthocris";

/** The title of the page in the tab and the history, while the calling component lives. */
export function useTitle(title: () => string | null | undefined): void {
  const stop = watchEffect(() => {
    const said = title();
    if (said) document.title = `${said} · ${APP}`;
  });
  onScopeDispose(stop);
}
