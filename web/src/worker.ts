// The worker that opens the pages without a network, where the browser allows one (https, or this machine).
import { ref } from "vue";
import { registerSW } from "virtual:pwa-register";

/** A newer version is ready; it is taken up when whoever uses this one says so. */
export const newerReady = ref(false);
let takeUp: (() => Promise<void>) | undefined;

export function openWithoutNetwork(): void {
  if (!("serviceWorker" in navigator) || !window.isSecureContext) return;
  // Not before the page itself is all in: on a phone in the garden it comes first.
  window.addEventListener("load", () => setTimeout(register, 2000));
}

function register(): void {
  const update = registerSW({ onNeedRefresh: () => (newerReady.value = true) });
  takeUp = async () => {
    navigator.serviceWorker.addEventListener(
      "controllerchange",
      () => {
        window.location.reload();
      },
      { once: true },
    );
    await update(false);
  };
}

export async function takeNewer(): Promise<void> {
  await takeUp?.();
}
