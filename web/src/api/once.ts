// A creation that is sent twice (a double click, a lost answer) is made once: it carries a key.

/** A key for one form and one content: the same content has the same key, another has its own. */
export function onceKey(form: string, content: unknown): string {
  let hash = 5381;
  for (const sign of JSON.stringify(content)) hash = ((hash * 33) ^ (sign.codePointAt(0) ?? 0)) >>> 0;
  return `${form}-${hash.toString(16)}`;
}

/** A name for a form from the moment it is opened until what it asked for is made. */
export function formName(): string {
  return crypto.randomUUID();
}

/** Headers of a creation. */
export function once(form: string, content: unknown): { "Idempotency-Key": string } {
  return { "Idempotency-Key": onceKey(form, content) };
}

/** Headers of a change to something that was read in this state. */
export function ifStill(revision: string | null | undefined): { "If-Match"?: string } {
  return revision ? { "If-Match": `"${revision}"` } : {};
}
