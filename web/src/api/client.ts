// One wrapper round the generated client: an answer, or a Fault that says what to do.
import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Trial = Schemas["TrialOut"];
export type Remedy = Schemas["RemedyOut"];
export type Plant = Schemas["PlantOut"];
export type Round = Schemas["RoundOut"];
export type Tag = Schemas["TagOut"];
export type Tally = Schemas["TallyOut"];
export type CountSheet = Schemas["CountSheetOut"];
export type Course = Schemas["CourseOut"];
export type Station = Schemas["StationOut"];
export type Job = Schemas["JobOut"];
export type Verdict = Schemas["VerdictOut"];
export type RemedyVerdict = Schemas["RemedyVerdict"];
export type Knowledge = Schemas["Knowledge"];
export type Pest = Schemas["PestOut"];
export type Measure = Schemas["MeasureOut"];
export type QuestionIn = Schemas["QuestionIn"];

export class Fault extends Error {
  /** What else is at fault in the same form. */
  more: readonly Fault[] = [];

  constructor(
    readonly code: string,
    message: string,
    readonly field: string | null,
    readonly fix: string,
    readonly status: number,
  ) {
    super(message);
  }

  /** The fault of one of these fields, of all that there are. */
  at(...fields: string[]): Fault | null {
    return [this, ...this.more].find((one) => one.field !== null && fields.includes(one.field)) ?? null;
  }

  /** The data itself is at fault: a copy mends it, and nothing else. */
  get ofData(): boolean {
    return ["data_damaged", "data_empty", "data_missing", "journal_gone"].includes(this.code);
  }

  get offline(): boolean {
    return this.status === 0;
  }
}

export const client = createClient<paths>({ baseUrl: window.location.origin });

// A device that is not let in (any more) is asked for the passcode when it next reads something;
// what it keeps waits meanwhile.
client.use({
  onResponse({ request, response }) {
    const { pathname, search } = window.location;
    if (response.status === 401 && request.method === "GET" && pathname !== "/enter")
      window.location.assign(`/enter?then=${encodeURIComponent(pathname + search)}`);
  },
});

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Waits for a call and returns its data; every failure becomes a Fault. */
export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Fault("offline", "Orthocris does not answer", null, "Check that the program is still running and in reach, then try again.", 0);
  }
  if (answer.response.ok) return answer.data as T;
  throw faultOf(answer.error, answer.response.status);
}

/** As `take`, and notes the state in which it was read, so that a change made elsewhere is not overwritten. */
export async function takeNoted<T>(call: Promise<Answer<T>>, note: (revision: string) => void): Promise<T> {
  const data = await take(call);
  note(((await call).response.headers.get("etag") ?? "").replaceAll('"', ""));
  return data;
}

function faultOf(body: unknown, status: number): Fault {
  const said = body as Partial<Schemas["ErrorOut"]> | undefined;
  const one = (error: Partial<Schemas["ErrorBody"]>): Fault =>
    new Fault(error.code ?? "unknown", error.message ?? `the program answered with ${status}`, error.field ?? null, error.fix ?? "Try again.", status);
  const fault = one(said?.error ?? {});
  fault.more = (said?.more ?? []).map(one);
  return fault;
}

/** A fault for anything thrown, so that a screen never shows a bare exception. */
export function asFault(thrown: unknown): Fault {
  if (thrown instanceof Fault) return thrown;
  return new Fault("unknown", String(thrown), null, "Reload the page.", -1);
}
