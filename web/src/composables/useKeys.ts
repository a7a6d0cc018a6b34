import { onScopeDispose, shallowReactive } from "vue";

export interface Shortcut {
  key: string;
  label: string;
  /** In force only while this holds; always, when left out. */
  when?: () => boolean;
  run: () => void;
}

/** Every shortcut now in force, for the list behind "?". */
export const shortcuts = shallowReactive(new Set<Shortcut>());

const shown: Record<string, string> = {
  "ArrowLeft": "←",
  "ArrowRight": "→",
  "Enter": "Enter",
  "Backspace": "⌫",
  " ": "space",
};

export function keyName(key: string): string {
  return shown[key] ?? key;
}

/** Puts shortcuts in force while the calling component lives; typing into a field is left alone. */
export function useKeys(list: Shortcut[]): void {
  for (const shortcut of list) shortcuts.add(shortcut);

  function onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const target = event.target as HTMLElement | null;
    if (target?.closest("input, textarea, select, [contenteditable], .el-dialog")) return;
    if (event.key === "Enter" && target?.closest("button, a")) return;
    if (event.key === " " && target?.closest("button, a")) return;
    const found = list.find((s) => s.key === event.key && (s.when?.() ?? true));
    if (!found) return;
    event.preventDefault();
    found.run();
  }

  window.addEventListener("keydown", onKey);
  onScopeDispose(() => {
    window.removeEventListener("keydown", onKey);
    for (const shortcut of list) shortcuts.delete(shortcut);
  });
}
