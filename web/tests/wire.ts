// The program's answers, played from a test. To be imported before anything that imports the
// client: it takes the page's fetch when it is made.
import { flushPromises as once } from "@vue/test-utils";
import { vi } from "vitest";

export const wire: { answer: (request: Request) => Promise<Response> } = {
  answer: () => Promise.reject(new Error("no answer")),
};

let open = 0;
const later = setTimeout; // also where a test sets the clock

globalThis.fetch = (async (request: Request) => {
  open++;
  try {
    return await wire.answer(request);
  } finally {
    open--;
  }
}) as typeof fetch;

/**
 * Waits until the page has what it asked for. One turn is not enough: reading a body takes some, and
 * more on a busy machine. An answer that a test holds back is waited for only so long.
 */
export async function flushPromises(): Promise<void> {
  for (let turn = 0, quiet = 0; turn < 60 && quiet < 3; turn++) {
    await once();
    await new Promise((done) => later(done, 0));
    quiet = open === 0 ? quiet + 1 : 0;
  }
}

/** Waits until it is so, on a busy machine too. */
export function eventually(check: () => void): Promise<void> {
  return vi.waitFor(check, 20_000);
}
