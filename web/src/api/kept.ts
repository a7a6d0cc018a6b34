// What was read last is kept on this device: out of reach it is shown again, with its age.
import { deviceBox, type Kept } from "../deviceBox";
import { asFault } from "./client";

interface Page extends Kept {
  body: unknown;
}

export interface Read<T> {
  data: T;
  /** When this device read it (ms), where the program is out of reach now; else null. */
  keptAt: number | null;
}

/** Asks, and keeps the answer; where nothing answers, the answer before. */
export async function takeKept<T>(name: string, call: () => Promise<T>): Promise<Read<T>> {
  try {
    const data = await call();
    keep(name, data);
    return { data, keptAt: null };
  } catch (thrown) {
    if (!asFault(thrown).offline) throw thrown;
    const page = await before(name);
    if (!page) throw thrown;
    return { data: page.body as T, keptAt: page.order };
  }
}

/** Keeps what a change answered with, as if it had been read. */
export function keep(name: string, data: unknown): void {
  const page: Page = { key: name, order: Date.now(), body: data };
  void deviceBox()
    .then((box) => box.put("pages", [page]))
    .catch(() => undefined);
}

/** Changes what is kept under a name, one change after another; nothing where nothing is kept. */
export function amend<T>(name: string, change: (body: T) => T): Promise<void> {
  amending = amending
    .then(async () => {
      const page = await before(name);
      if (page) await (await deviceBox()).put("pages", [{ ...page, body: change(page.body as T) } as Page]);
    })
    .catch(() => undefined);
  return amending;
}

let amending: Promise<void> = Promise.resolve();

async function before(name: string): Promise<Page | undefined> {
  try {
    return (await (await deviceBox()).load<Page>("pages")).find((page) => page.key === name);
  } catch {
    return undefined;
  }
}
