import { reactive, watch } from "vue";

/**
 * A form whose content survives a reload, kept on this device until it is taken up.
 * Returns the reactive form and a function that forgets the draft.
 */
export function useDraft<T extends object>(name: string, fresh: T): [T, () => void] {
  const place = placeOf(name);
  const form = reactive({ ...fresh, ...draftOf<T>(name) }) as T;
  const stop = watch(form, (now) => write(place, JSON.stringify(now)), { deep: true });
  return [
    form,
    () => {
      stop();
      write(place, null);
    },
  ];
}

/** What is kept of a form on this device. */
export function draftOf<T>(name: string): Partial<T> {
  try {
    return JSON.parse(localStorage.getItem(placeOf(name)) ?? "{}") as Partial<T>;
  } catch {
    return {};
  }
}

function placeOf(name: string): string {
  return `orthocris.draft.${name}`;
}

function write(place: string, text: string | null): void {
  try {
    if (text === null) localStorage.removeItem(place);
    else localStorage.setItem(place, text);
  } catch {
    // Storage full or blocked: the form still works, it only does not survive a reload.
  }
}
