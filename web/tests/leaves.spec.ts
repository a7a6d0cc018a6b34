// The counting screens beside the number: notes at a plant, a second person, eggs, practice leaves, drawings on the pad.
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { eventually, flushPromises, wire } from "./wire";
import { bench } from "./countingWorld";
import type { Course, Plant, Schemas, Trial } from "../src/api/client";
import CountPad from "../src/components/counting/CountPad.vue";
import DamageScale from "../src/components/counting/DamageScale.vue";
import EggWatch from "../src/components/counting/EggWatch.vue";
import LeafNotes from "../src/components/counting/LeafNotes.vue";
import SecondPerson from "../src/components/counting/SecondPerson.vue";
import { usePots } from "../src/composables/usePots";
import PracticeLeaves from "../src/views/counting/PracticeLeaves.vue";

enableAutoUnmount(afterEach);
const pushed: unknown[] = [];
vi.mock("vue-router", () => ({
  RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" },
  useRouter: () => ({ push: (to: unknown) => pushed.push(to) }),
}));

interface Sent {
  method: string;
  path: string;
  body: Record<string, unknown> | null;
}
const sent: Sent[] = [];
let answers: Record<string, (request: Sent) => unknown>;
beforeEach(() => {
  vi.useRealTimers();
  sent.length = 0;
  pushed.length = 0;
  answers = {};
  wire.answer = async (request) => {
    const { pathname } = new URL(request.url);
    const text = request.method === "GET" ? "" : await request.text();
    const one = { method: request.method, path: pathname, body: text ? (JSON.parse(text) as Record<string, unknown>) : null };
    sent.push(one);
    const answer = answers[`${one.method} ${pathname}`];
    if (!answer) return Response.json({ error: { code: "not_found", message: "nothing there", field: null, fix: "Look again." } }, { status: 404 });
    const body = answer(one);
    return body === null ? new Response(null, { status: 204 }) : Response.json(body);
  };
});

const note = (id: number, changes: Partial<Schemas["NoteOut"]>): Schemas["NoteOut"] => ({
  id,
  key: `note-${id}`,
  plant_id: 1,
  look: 0,
  sample: 0,
  said: "",
  noted_at: "2026-05-10T08:00:00Z",
  seen: null,
  picture: null,
  ...changes,
});
const plant = { id: 1, name: "S1" } as Plant;

describe("notes at a plant", () => {
  let kept: Schemas["NoteOut"][];

  async function shown(trial: Trial = bench()) {
    answers["GET /api/trials/9/notes"] = () => kept;
    answers["POST /api/trials/9/looks/0/notes"] = ({ body }) => {
      const made = note(100 + kept.length, body as never);
      kept = [...kept, made];
      return made;
    };
    const found = mount(LeafNotes, { props: { trial, number: 0, plant, sample: 2, unit: "leaf" }, global: { stubs: { PictureCount: true } } });
    await flushPromises();
    return found;
  }
  const button = (found: Awaited<ReturnType<typeof shown>>, word: string) => found.findAll("button").find((b) => b.text() === word);

  it("begin with what was seen last, and a tap changes that", async () => {
    kept = [note(1, { seen: ["ants"] }), note(2, { seen: ["ants", "sticky"] }), note(3, { plant_id: 2, seen: ["fruit"] })];
    const found = await shown();
    expect(found.findAll("[aria-pressed=true]").map((b) => b.text())).toEqual(["Sticky", "Ants"]);
    await button(found, "Ants")?.trigger("click");
    await eventually(() => {
      expect(sent.find((s) => s.method === "POST")?.body).toMatchObject({ plant_id: 1, sample: 0, seen: ["sticky"] });
    });
    // Each tap is a note; the newest of them is enough.
    await eventually(() => {
      expect(
        found
          .findAll("li")
          .map((li) => li.text())
          .filter((t) => t.includes("Seen")).length,
      ).toBe(1);
    });
  });

  it("are told of their leaf, the newest first, and can be taken away and put back", async () => {
    kept = [note(1, { said: "Tips curl", sample: 2 }), note(2, { said: "Sprayed by rain" })];
    answers["DELETE /api/notes/2"] = () => {
      kept = kept.filter((n) => n.id !== 2);
      return null;
    };
    answers["POST /api/notes/2/restore"] = () => {
      kept = [...kept, note(2, { said: "Sprayed by rain" })];
      return null;
    };
    const found = await shown();
    expect(found.findAll("li").map((li) => li.text().slice(0, 9))).toEqual(["Sprayed b", "Tips curl"]);
    expect(found.text()).toContain("leaf 2");
    await found.get('[aria-label="Take away: Sprayed by rain"]').trigger("click");
    await eventually(() => {
      expect(found.text()).toContain("Taken away.");
    });
    expect(found.findAll("li")).toHaveLength(1);
    await button(found, "Put it back")?.trigger("click");
    await eventually(() => {
      expect(found.findAll("li")).toHaveLength(2);
    });
  });

  it("written down belong to the leaf that is counted", async () => {
    kept = [];
    const found = await shown();
    await found.get("textarea").setValue("  Sticky underneath ");
    await found.get("form").trigger("submit");
    await eventually(() => {
      expect(sent.find((s) => s.method === "POST")?.body).toMatchObject({ said: "Sticky underneath", sample: 2, seen: null });
    });
    expect(found.get("textarea").element.value).toBe("");
  });

  it("ask for the fate of eggs where eggs are watched alone", async () => {
    kept = [];
    expect((await shown()).text()).not.toContain("Eggs dropped");
    expect((await shown(bench("eggs"))).text()).toContain("Eggs dropped");
  });

  it("say why the lens gave nothing", async () => {
    kept = [];
    const found = await shown();
    await button(found, "Leaf camera")?.trigger("click");
    await eventually(() => {
      expect(found.text()).toContain("Nothing there. Look again.");
    });
  });
});

describe("a second person", () => {
  it("is asked for by name and counts on a page of their own", async () => {
    const found = mount(SecondPerson, { props: { trialId: 9, number: 1, person: "" } });
    await found.get("button").trigger("click");
    await found.get("input").setValue(" Ilse ");
    await found.get("form").trigger("submit");
    expect(pushed).toEqual([{ query: { second: "Ilse" } }]);
  });

  it("is compared with the first in words, once there is something to compare", async () => {
    const one = { person: "Ilse", pairs: 12, ratio: 0.9, ratio_low: 0.8, ratio_high: 1.0, spread: 0.2, apart: [], says: "Ilse counted 12 of the same." };
    answers["GET /api/trials/9/looks/1/agreement"] = () => [one, { ...one, person: "Bo", pairs: 1, says: "" }];
    const found = mount(SecondPerson, { props: { trialId: 9, number: 1, person: "Ilse" } });
    await found.get("button").trigger("click");
    await eventually(() => {
      expect(found.findAll(".notice").map((n) => n.text())).toEqual([
        "Ilse counted 12 of the same.",
        "Bo: 1 counted twice so far; from three on it is compared.",
      ]);
    });
    expect(found.get("a").attributes("href")).toBe("/trial/9/look/1");
  });
});

describe("eggs", () => {
  it("are told cluster by cluster, with the days between which the first hatched", async () => {
    const row = {
      plant_id: 1,
      total: 20,
      hatched: 12,
      vanished: 3,
      left: 5,
      first_hatch_after: "2026-05-11",
      first_hatch_on: "2026-05-12",
      ended_on: null,
      shrank: false,
    };
    answers["GET /api/trials/9/eggs"] = () => [row, { ...row, plant_id: 2, hatched: 0, first_hatch_after: null, first_hatch_on: null, shrank: true }];
    const found = mount(EggWatch, { props: { trial: bench("eggs") } });
    await eventually(() => {
      expect(found.findAll("tbody tr")).toHaveLength(2);
    });
    const [first, second] = found.findAll("tbody tr").map((tr) => tr.text());
    expect(first).toMatch(/after Mon,? 11 May, by Tue,? 12 May/);
    expect(first).toMatch(/S1.*20.*12.*3.*5/);
    expect(second).toMatch(/none yet.*count again/);
  });
});

describe("what the pots of a bench show", () => {
  const trial = {
    ...bench(),
    today: "2026-05-18",
    plants: [
      { id: 1, size: 30, match_count: 7 },
      { id: 2, size: 10, match_count: null },
      { id: 3, size: null, match_count: 4 },
    ],
    rounds: [
      { number: 1, on: "2026-05-10", sprayed: [1, 2] },
      { number: 2, on: "2026-05-17", sprayed: [2] },
    ],
  } as unknown as Trial;
  const plant = (id: number): Plant => trial.plants.find((p) => p.id === id) as Plant;
  const counts = (shown: ReturnType<typeof usePots>): (number | null)[] => trial.plants.map((p) => shown.stateOf(p).count);
  const course = { looks: [0, 1], values: { 1: [40, 5], 2: [30, null] }, damage: { 1: [0, 2] } } as unknown as Course;

  it("is the newest look until another is chosen, with its damage, and drops where it was just sprayed", () => {
    const shown = usePots({ trial, figure: "course", course });
    expect(shown.stateOf(plant(1))).toMatchObject({ count: 5, damage: 2, fresh: false, size: 1.3 });
    expect(shown.stateOf(plant(2))).toMatchObject({ count: null, fresh: true, size: 0.7 });
    expect(shown.stateOf(plant(3))).toMatchObject({ count: null, damage: null, size: 1 });
    shown.chosen.value = 0; // the look before: nothing was wet then
    expect(shown.stateOf(plant(2))).toMatchObject({ count: 30, fresh: false });
  });

  it("is the match count while planning, and what is counted now while counting", () => {
    expect(counts(usePots({ trial, figure: "match" }))).toEqual([7, null, 4]);
    const now = new Map([[2, 9]]);
    expect(counts(usePots({ trial, figure: "done", now }))).toEqual([null, 9, null]);
  });

  it("is a share of the leaf for a disease, and no dots", () => {
    const ill = { ...trial, measure: { ...trial.measure, scale: "percent" } } as Trial;
    expect(usePots({ trial: ill, figure: "course", course }).stateOf(plant(1))).toMatchObject({ count: null, cover: 0.05 });
  });
});

describe("the pad", () => {
  const count = { value: 18, total: null, finished: false, classed: true };
  const pad = (scale: string, classes?: { words: string; reads: number }[]) =>
    mount(CountPad, {
      props: {
        measure: { key: "live", scale, upper: 100, label: "Live", noun: "", judged: true } as never,
        aimed: "",
        count: () => count,
        canUndo: true,
        keepWords: () => "Keep",
        nextName: undefined,
        classes,
      },
    });

  it("offers classes in place of counting, and shows which one is taken", async () => {
    const found = pad("count", [
      { words: "4–10", reads: 6 },
      { words: "11–30", reads: 18 },
    ]);
    expect(found.get("[aria-pressed=true]").text()).toBe("11–30");
    await found.get('[aria-label="4–10, read as 6"]').trigger("click");
    expect(found.emitted("class")).toEqual([[6]]);
  });

  it("shows a leaf for each share that can be chosen, and none for counts", () => {
    expect(pad("percent").findAll(".steps svg")).toHaveLength(12);
    expect(pad("count").findAll(".steps svg")).toHaveLength(0);
    const damage = mount(DamageScale, { props: { score: 2, scoring: false, before: 1 } });
    expect([damage.findAll("svg").length, damage.text()]).toEqual([6, expect.stringContaining("slight, 5–15%, before trace")]);
  });
});

describe("a practice leaf", () => {
  const error = { leaves: 1, bias: null, bias_low: null, bias_high: null, spread: null, found: {}, dead_taken: null, seconds: 9, advice: [] };
  const spell = (told: unknown[]) => ({ id: 5, pest: "aphids", fill: "some", person: "", leaves: 2, begun_at: "2026-05-10T08:00:00Z", told, error });
  const leaf = (number: number, live: number) => ({
    number,
    counted: { live, young: 1, eggs: 0, dead: 0, seconds: 9 },
    truth: { live: 8, young: 3, eggs: 2, dead: 1 },
    figures: [{ thing: "dead", x: 0.4, y: 0.3, length: 0.03 }],
  });

  async function shown(told: unknown[] = []) {
    answers["GET /api/practice/5"] = () => spell(told);
    answers["GET /api/knowledge"] = () => ({
      pests: [{ key: "aphids", name: "Aphids", count_what: "Every live aphid.", dead_or_alive: "Plump or flat." }],
      measures: [{ key: "live", label: "Live pests", scale: "count", upper: 1_000_000 }],
    });
    const found = mount(PracticeLeaves, { props: { session: 5 } });
    await eventually(() => {
      expect(found.find("figure, .wide-table").exists()).toBe(true);
    });
    await flushPromises();
    return found;
  }

  it("is counted as in the garden: young ones are live ones, and undo takes both back", async () => {
    answers["PUT /api/practice/5/leaves/1"] = () => spell([leaf(1, 7)]);
    const found = await shown();
    const tap = (name: string) => found.get(`[aria-label^="${name}"]`).trigger("click");
    await tap("Five more");
    await tap("One more: young");
    await found
      .findAll("button")
      .find((b) => b.text() === "Undo")
      ?.trigger("click");
    await tap("One more: young");
    await found.get(".keep").trigger("click");
    await eventually(() => {
      expect(sent.at(-1)).toMatchObject({ method: "PUT", body: { live: 6, young: 1, eggs: 0, dead: 0 } });
    });
    await eventually(() => {
      expect(found.find(".truth").exists()).toBe(true);
    });
    expect(found.findAll(".truth tr").at(-1)?.text()).toMatch(/Truth.*8.*3.*2.*1/);
    expect(found.findAll("svg g.dead")).toHaveLength(1); // where it was is shown
  });

  it("goes on where one stopped, and ends with how one counted", async () => {
    const found = await shown([leaf(1, 7), leaf(2, 8)]);
    expect(found.get("h1").text()).toBe("How you counted");
    expect(found.findAll("tbody tr")).toHaveLength(2);
    expect(found.text()).toContain("7 of 8");
  });
});
