// Work that can wait until the screen has drawn what a finger did.

const SOON_MS = 50;
let waiting: (() => void)[] = [];
let listening = false;

/** Does some work right after the next picture, in order; at once where no picture comes, or the page is left. */
export function afterPaint(work: () => void): void {
  if (!listening) {
    listening = true;
    window.addEventListener("pagehide", run);
    document.addEventListener("visibilitychange", run);
  }
  waiting.push(work);
  if (document.hidden) run();
  else if (waiting.length === 1) requestAnimationFrame(whenFree);
}

/** Soon, but not in the way of the picture that is being drawn; not every browser tells when it is free. */
function whenFree(): void {
  if ("requestIdleCallback" in window) requestIdleCallback(run, { timeout: SOON_MS });
  else setTimeout(run);
}

function run(): void {
  const due = waiting;
  waiting = [];
  for (const one of due) one();
}
