// Records kept on this device, so that a reload or a lost connection loses nothing.

export function recall<T>(storage: Storage | null, place: string): Record<string, T> {
  try {
    const found: unknown = JSON.parse(storage?.getItem(place) ?? "{}");
    return found !== null && typeof found === "object" && !Array.isArray(found) ? (found as Record<string, T>) : {};
  } catch {
    return {};
  }
}

export function remember(storage: Storage | null, place: string, map: Record<string, unknown>): void {
  try {
    storage?.setItem(place, JSON.stringify(map));
  } catch {
    // Storage full or blocked: the page itself still holds it and goes on sending.
  }
}
