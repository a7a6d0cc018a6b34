// What this device keeps until the program has it: shelves of records in the browser's own database.
import { openDB, type DBSchema, type IDBPDatabase } from "idb";

export interface Kept {
  /** The record's own name, which it also has with the program. */
  key: string;
  /** Rises with every record: they are sent as they were made. */
  order: number;
}

export type Shelf = "taps" | "refused" | "sprays" | "notes" | "pages";

export interface Box {
  load: <T extends Kept>(shelf: Shelf) => Promise<T[]>;
  put: (shelf: Shelf, records: readonly Kept[]) => Promise<void>;
  remove: (shelf: Shelf, keys: readonly string[]) => Promise<void>;
}

const NAME = "orthocris";
const SHELVES: readonly Shelf[] = ["taps", "refused", "sprays", "notes", "pages"];
/** Less room than this on the device is said before counting starts. */
const ROOM_NEEDED = 5_000_000;

interface Shelves extends DBSchema {
  taps: { key: string; value: Kept };
  refused: { key: string; value: Kept };
  sprays: { key: string; value: Kept };
  notes: { key: string; value: Kept };
  pages: { key: string; value: Kept };
}

let opened: Promise<Box> | undefined;

/** The one box of this device; rejects where the browser keeps nothing. */
export function deviceBox(): Promise<Box> {
  opened ??= openBox();
  return opened;
}

/** Opens the device's box; throws where the browser keeps nothing (private mode, storage full). */
async function openBox(): Promise<Box> {
  // A page of an earlier version that is still open would hold this one up for ever.
  let heldUp: (why: Error) => void = () => undefined;
  const held = new Promise<never>((_, refuse) => (heldUp = refuse));
  const opening = openDB<Shelves>(NAME, 2, {
    blocked: () => {
      heldUp(new Error("another page holds the device's box"));
    },
    blocking: (_now, _next, event) => {
      (event.target as IDBDatabase).close();
    },
    upgrade(made) {
      for (const shelf of SHELVES) {
        if (!made.objectStoreNames.contains(shelf)) made.createObjectStore(shelf, { keyPath: "key" });
      }
    },
  });
  const shelves: IDBPDatabase<Shelves> = await Promise.race([opening, held]);
  const box: Box = {
    load: async <T extends Kept>(shelf: Shelf) => (await shelves.getAll(shelf)).sort((a, b) => a.order - b.order) as T[],
    put: async (shelf, records) => {
      const writing = shelves.transaction(shelf, "readwrite", { durability: "strict" });
      for (const record of records) void writing.store.put(record);
      await writing.done;
    },
    remove: async (shelf, keys) => {
      const writing = shelves.transaction(shelf, "readwrite");
      for (const key of keys) void writing.store.delete(key);
      await writing.done;
    },
  };
  await tryOut(box);
  return box;
}

/** Writes something and takes it away: a full or forbidden store shows now, not at the fortieth leaf. */
async function tryOut(box: Box): Promise<void> {
  await box.put("taps", [{ key: "-trial-", order: 0 }]);
  await box.remove("taps", ["-trial-"]);
}

/** Says that the device has hardly any room left, or "" when it has. */
export async function roomLeft(): Promise<string> {
  try {
    const { quota = Infinity, usage = 0 } = await navigator.storage.estimate();
    if (quota - usage > ROOM_NEEDED) return "";
    return "This device has hardly any room left: free some before you count, or what you tap may be lost.";
  } catch {
    return ""; // a browser that does not tell
  }
}

/** A box that lasts as long as the page: where the browser keeps nothing, and in tests. */
export function pageBox(): Box {
  const shelves = new Map<Shelf, Map<string, Kept>>(SHELVES.map((shelf) => [shelf, new Map<string, Kept>()]));
  const on = (shelf: Shelf): Map<string, Kept> => shelves.get(shelf) ?? new Map<string, Kept>();
  return {
    load: <T extends Kept>(shelf: Shelf) => Promise.resolve([...on(shelf).values()].sort((a, b) => a.order - b.order) as T[]),
    put: (shelf, records) => {
      for (const record of records) on(shelf).set(record.key, JSON.parse(JSON.stringify(record)) as Kept);
      return Promise.resolve();
    },
    remove: (shelf, keys) => {
      for (const key of keys) on(shelf).delete(key);
      return Promise.resolve();
    },
  };
}
