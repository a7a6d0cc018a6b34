// One stop for Tab in a group of buttons; the arrow keys go on from there.
import { onMounted, onUpdated, type Ref } from "vue";

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

function middle(element: HTMLElement): readonly [number, number] {
  const box = element.getBoundingClientRect();
  return [box.left + box.width / 2, box.top + box.height / 2];
}

/** The nearest button in a direction, as they stand on the screen. */
function towards(from: HTMLElement, items: readonly HTMLElement[], [dx, dy]: readonly [number, number]): HTMLElement | undefined {
  const [x, y] = middle(from);
  let best: HTMLElement | undefined;
  let least = Infinity;
  for (const item of items) {
    const [a, b] = middle(item);
    const along = (a - x) * dx + (b - y) * dy;
    const aside = Math.abs((a - x) * dy) + Math.abs((b - y) * dx);
    if (along > 4 && along + 3 * aside < least) [best, least] = [item, along + 3 * aside];
  }
  return best;
}

export function useRoving(box: Ref<HTMLElement | null>, selector: string): void {
  function items(): HTMLElement[] {
    return [...(box.value?.querySelectorAll<HTMLElement>(selector) ?? [])];
  }

  function stopAt(active: HTMLElement | undefined): void {
    for (const item of items()) item.tabIndex = item === active ? 0 : -1;
  }

  function keepOneStop(): void {
    const all = items();
    const focused = all.find((item) => item === document.activeElement);
    stopAt(focused ?? all.find((item) => item.tabIndex === 0 && item.dataset["stop"] === "yes") ?? all[0]);
  }

  function onKey(event: KeyboardEvent): void {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const all = items();
    const at = all.indexOf(event.target as HTMLElement);
    if (at < 0) return;
    const arrow = ARROWS[event.key];
    const next = arrow ? towards(all[at] as HTMLElement, all, arrow) : event.key === "Home" ? all[0] : event.key === "End" ? all.at(-1) : undefined;
    if (!arrow && !next) return;
    event.preventDefault();
    event.stopPropagation();
    next?.focus();
  }

  function onFocus(event: FocusEvent): void {
    const target = items().find((item) => item === event.target);
    if (!target) return;
    for (const item of items()) delete item.dataset["stop"];
    target.dataset["stop"] = "yes";
    stopAt(target);
  }

  onMounted(() => {
    box.value?.addEventListener("keydown", onKey);
    box.value?.addEventListener("focusin", onFocus);
    keepOneStop();
  });
  onUpdated(keepOneStop);
}
