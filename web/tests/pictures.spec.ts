// Notes, photos and marks; drawings with known shares; practice on leaves.
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { eventually, flushPromises, wire } from "./wire";
import { effectScope } from "vue";
import { bench, count, device, nothing, outbox } from "./countingWorld";
import { Fault, type Schemas, type Trial } from "../src/api/client";
import { coverPicture } from "../src/charts/coverage";
import { drawCreature, isPractised, thingsOf } from "../src/charts/creature";
import { biasTicks, biasX } from "../src/charts/practice";
import BenchAir from "../src/components/BenchAir.vue";
import MessPanel from "../src/components/field/MessPanel.vue";
import LiveOrDead from "../src/components/counting/LiveOrDead.vue";
import PictureCount from "../src/components/counting/PictureCount.vue";
import PictureMarks from "../src/components/counting/PictureMarks.vue";
import PracticeReport from "../src/components/counting/PracticeReport.vue";
import SeenTable from "../src/components/verdict/SeenTable.vue";
import { createNoteBox, type KeptNote, type Note } from "../src/composables/useNoteBox";
import { useCounting } from "../src/composables/useCounting";
import { partsOf, partWords } from "../src/counting";
import { pageBox } from "../src/deviceBox";
import { fromDataUrl } from "../src/photo";

enableAutoUnmount(afterEach);
beforeEach(() => {
  vi.useRealTimers();
});
vi.mock("vue-router", () => ({ RouterLink: { props: ["to"], template: "<a :href='to'><slot /></a>" } }));

const mark = (x: number, y: number, stage: Schemas["MarkOut"]["stage"] = "live"): Schemas["MarkOut"] => ({ x, y, stage });
const picture = {
  url: "/api/notes/4/picture.jpg?of=abc",
  width: 1200,
  height: 900,
  source: "lens",
  marks: [mark(0.5, 0.4), mark(0.2, 0.3, "young")],
  tallied: {},
};
const note = { id: 4, key: "note-4", plant_id: 1, look: 0, sample: 2, said: "", noted_at: "", seen: null, picture } as unknown as Note;

describe("reference pictures", () => {
  it.each([0, 1, 2, 5, 10, 20, 30, 40, 50, 60, 80, 100])("have %i% of their area covered, as they say", (percent) => {
    expect(Math.abs(coverPicture(percent).share - percent)).toBeLessThan(0.5);
  });

  it("tell live from dead, young and empty by shape alone, for every pest that is drawn", () => {
    for (const pest of [
      "aphids",
      "whiteflies",
      "spider_mites",
      "mealybugs",
      "scale_insects",
      "thrips",
      "fungus_gnats",
      "beetles",
      "caterpillars",
      "true_bugs",
      "slugs_snails",
    ]) {
      const shapes = thingsOf(pest).map((thing) =>
        drawCreature(pest, thing)
          .map((s) => s.as + s.d)
          .join(),
      );
      expect(new Set(shapes).size).toBe(shapes.length);
      expect(shapes.length).toBeGreaterThanOrEqual(4);
    }
    for (const disease of ["powdery_mildew", "leaf_spot", "rust", "sooty_mould"]) {
      const [fresh, old, ...more] = thingsOf(disease).map((thing) => drawCreature(disease, thing));
      expect(fresh?.map((s) => s.as).join()).not.toBe(old?.map((s) => s.as).join());
      expect(more).toEqual([]);
    }
    expect(isPractised("slugs_snails")).toBe(false);
    const shown = mount(LiveOrDead, { props: { pest: "slugs_snails", tell: "A live one draws in." } });
    expect([shown.findAll("svg").length, shown.text()]).toEqual([4, expect.stringContaining("A live one draws in.")]); // a slug leaves no skin
  });

  it("lay equal factors equally far apart on the line of what was counted", () => {
    expect(biasX(1) - biasX(0.5)).toBe(biasX(2) - biasX(1));
    expect(biasTicks.map(biasX)).toEqual([...biasTicks.map(biasX)].sort((a, b) => a - b));
  });
});

describe("marks on a picture", () => {
  function shown(adds: "dead" | undefined) {
    const found = mount(PictureMarks, { props: { src: "x.jpg", width: 1200, height: 900, marks: picture.marks, alt: "The leaf", adds } });
    vi.spyOn(found.get("svg").element, "getBoundingClientRect").mockReturnValue({ left: 0, top: 0, width: 400, height: 300 } as DOMRect);
    return found;
  }

  it("are added by a tap beside them and taken away by a tap on one", async () => {
    const found = shown("dead");
    await found.get("svg").trigger("click", { clientX: 100, clientY: 240 });
    expect(found.emitted("change")?.[0]).toEqual([[...picture.marks, mark(0.25, expect.closeTo(0.6) as number, "dead")]]);
    await found.get("svg").trigger("click", { clientX: 202, clientY: 161 });
    expect(found.emitted("change")?.[1]).toEqual([[mark(0.2, 0.3, "young")]]);
  });

  it("wait for the picture, and say when it cannot be reached", async () => {
    const found = shown("dead");
    expect(found.text()).toContain("The picture comes");
    await found.get("img").trigger("error");
    expect(found.text()).toContain("cannot be reached now");
    await found.get("img").trigger("load");
    expect([found.find("p").exists(), found.emitted("shown")?.length]).toEqual([false, 1]);
  });

  it("that are only shown are not changed by a tap", async () => {
    const found = shown(undefined);
    await found.get("svg").trigger("click", { clientX: 100, clientY: 240 });
    expect(found.emitted("change")).toBeUndefined();
  });
});

describe("counting on a picture", () => {
  const sent: { url: string; body: unknown }[] = [];
  beforeEach(() => {
    sent.length = 0;
    wire.answer = async (request) => {
      sent.push({ url: request.url, body: request.method === "PUT" ? await request.json() : null });
      if (request.url.includes("/proposed")) return Response.json([mark(0.1, 0.1), mark(0.3, 0.2, "dead")]);
      if (request.url.includes("/cover")) return Response.json({ percent: 22.6, threshold: 0.5, leaf_percent: 40 });
      return Response.json(note);
    };
  });

  it("takes over what the marks come to, the young among the live", async () => {
    const found = mount(PictureCount, { props: { note, trial: bench() } });
    await found.get(".use").trigger("click");
    expect(found.emitted("count")?.[0]).toEqual([{ live: 2, young: 1, eggs: 0, dead: 0 }]);
  });

  it("keeps proposed marks as marks that a person can change", async () => {
    const found = mount(PictureCount, { props: { note, trial: bench() } });
    await found
      .findAll("button")
      .find((b) => b.text().startsWith("Propose"))
      ?.trigger("click");
    await eventually(() => {
      expect(sent.at(-1)?.body).toEqual({ marks: [mark(0.1, 0.1), mark(0.3, 0.2, "dead")] });
    });
    await eventually(() => {
      expect(found.text()).toContain("2 marks proposed");
    });
    expect(found.get(".use").text()).toBe("Count 1 live");
  });

  it("measures the covered share where that is the question", async () => {
    const found = mount(PictureCount, { props: { note, trial: bench("percent") } });
    await eventually(() => {
      expect(found.text()).toContain("22.6% of the leaf");
    });
    await found.get(".use").trigger("click");
    expect(found.emitted("count")?.[0]).toEqual([{ cover: 23 }]);
  });
});

describe("what a picture came to", () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });

  it("stands in the count and can be undone in one", () => {
    const counting = count(outbox(), bench("count", { samples: 3, beside: ["young", "dead"] }), nothing);
    counting.add(2);
    counting.takeOver({ live: 9, young: 4, eggs: 7, dead: 3 });
    expect([counting.tally("live"), counting.tally("young"), counting.tally("dead"), counting.tally("eggs")]).toEqual([9, 4, 3, null]);
    counting.undo();
    expect([counting.tally("live"), counting.tally("young")]).toEqual([2, null]);
  });
});

describe("what bottles were like to use", () => {
  it("is said by the letter on them, and corrected by a tap", async () => {
    const bodies: unknown[] = [];
    wire.answer = async (request) => {
      const body = request.method === "PUT" ? ((await request.json()) as { letter: string; kinds: string[] }) : null;
      if (body) bodies.push(body);
      return Response.json({ B: body?.kinds ?? ["clogs"] });
    };
    const trial = {
      ...bench(),
      remedies: [
        { id: 1, traits: { way: "none" } },
        { id: 2, traits: { way: "brush" } },
      ],
      tags: [
        { letter: "A", notches: 1, remedy_id: 1 },
        { letter: "B", notches: 2, remedy_id: 2 },
      ],
      plants: [
        { id: 1, letter: "A" },
        { id: 2, letter: "B" },
      ],
    } as unknown as Trial;
    const shown = mount(MessPanel, { props: { trial, round: { number: 1, due: [1, 2], batches: {} } as never } });
    expect(shown.findAll(".bottle")).toHaveLength(1); // what is left alone is like nothing
    await eventually(() => {
      expect(shown.findAll("[aria-pressed=true]").map((b) => b.text())).toEqual(["Clogs"]);
    });
    const press = (word: string) =>
      shown
        .findAll("button")
        .find((b) => b.text() === word)
        ?.trigger("click");
    await press("Stains");
    await eventually(() => {
      expect(bodies).toEqual([{ letter: "B", kinds: ["clogs", "stains"] }]);
    });
    await press("Fine");
    await eventually(() => {
      expect(shown.findAll("[aria-pressed=true]").map((b) => b.text())).toEqual(["Fine"]);
    });
    void press("Smells");
    void press("Spills"); // before the first is answered
    await eventually(() => {
      expect(bodies.at(-1)).toEqual({ letter: "B", kinds: ["smells", "spills"] });
    });
  });
});

describe("sun and wind", () => {
  it("are drawn as arrows into the bench, and told", () => {
    const shown = mount(BenchAir, { props: { what: "wind", side: "right" } });
    expect([shown.text(), shown.get("g").attributes("transform")]).toEqual(["Wind from the right", "rotate(180)"]);
  });
});

describe("very many, and a second person", () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });

  it("are told as a class until somebody counts on", async () => {
    const box = outbox();
    const counting = count(box);
    counting.setClass(56);
    counting.add(1);
    await box.ready;
    await vi.advanceTimersByTimeAsync(5000);
    expect(device.sent.map(({ tally }) => [tally.value, tally.classed])).toEqual([
      [56, true],
      [57, false],
    ]);
  });

  it("with a leaf's area can be counted in a window of 1 cm²", () => {
    expect([partsOf(null), partsOf(25).at(-1)]).toEqual([[1, 0.5, 0.25, 0.1], 0.04]);
    expect([0.25, 0.04].map(partWords)).toEqual(["¼", "1 cm²"]);
    const counting = count(outbox(), bench("count", { samples: 2, leaf_cm2: 25 }));
    counting.add(3);
    counting.setPart(0.04);
    expect(counting.whole.value).toBe(75);
  });

  it("count a trap for the days it was out, since the look before until somebody says otherwise", async () => {
    const traps = { ...bench(), measure: { key: "catch", scale: "count", upper: 1_000_000 } } as unknown as Trial;
    const box = outbox();
    const counting = effectScope().run(() => useCounting(traps, 1, nothing, box, device.storage, () => "trap-session"));
    expect(counting?.days.value).toBe(7);
    counting?.add(5);
    counting?.setDays(4);
    counting?.finish();
    counting?.add(2); // the next trap, out as long
    await box.ready;
    await vi.advanceTimersByTimeAsync(5000);
    expect(device.sent.filter(({ tally }) => tally.measure === "catch").map(({ tally }) => tally.effort)).toEqual([7, 4, 4, 4]);
  });

  it("do not mix their taps with the first's on one device", async () => {
    const box = outbox();
    count(box).add(3);
    const theirs = effectScope().run(() =>
      useCounting(
        bench(),
        0,
        nothing,
        box,
        device.storage,
        () => "of-ilse-1",
        () => null,
        "Ilse",
      ),
    );
    expect(theirs?.tally("live")).toBeNull();
    theirs?.add(1);
    expect([box.pending(9, 0, 2, 0, "live")?.value, box.pending(9, 0, 2, 0, "live", "Ilse")?.value]).toEqual([3, 1]);
    await box.ready;
    await vi.advanceTimersByTimeAsync(5000);
    expect(device.sent.map(({ tally }) => tally.person)).toEqual(["", "Ilse"]);
  });
});

describe("notes out of reach", () => {
  const kept = (key: string, photo = ""): Omit<KeptNote, "key" | "order"> => ({
    trial: 9,
    look: 0,
    photo,
    body: { key, plant_id: 1, sample: 0, said: "Curled", noted_at: "2026-05-10T08:00:00Z", seen: null },
  });

  it("wait on the device in their order, with their photos, and go once each", async () => {
    const box = pageBox();
    const went: string[] = [];
    let reach = false;
    const open = () =>
      createNoteBox(
        (n) => (reach ? (went.push(`${n.body.key}${n.photo}`), Promise.resolve(note)) : Promise.reject(new Fault("offline", "", null, "", 0))),
        Promise.resolve(box),
      );
    const first = open();
    first.put(kept("note-a", "data:image/jpeg;base64,AAAA"));
    first.put(kept("note-b"));
    await first.flush();
    expect([first.waiting.value, first.of(9, 0).length, first.of(9, 1).length]).toEqual([2, 2, 0]);
    const later = open(); // the page is opened anew
    await later.ready;
    reach = true;
    await later.flush();
    await later.flush();
    expect(went).toEqual(["note-adata:image/jpeg;base64,AAAA", "note-b"]);
    expect(later.waiting.value).toBe(0);
  });

  it("that the program refuses stay with its reason", async () => {
    const refusing = createNoteBox(
      () => Promise.reject(new Fault("no_picture", "this is no picture", "picture", "Send a JPEG.", 422)),
      Promise.resolve(pageBox()),
    );
    refusing.put(kept("note-a"));
    await refusing.flush();
    expect(refusing.refused.value[0]?.fault).toMatchObject({ message: "this is no picture", fix: "Send a JPEG." });
  });

  it("carry a photo as bytes of its own kind", async () => {
    const photo = fromDataUrl("data:image/png;base64,aGVsbG8=");
    expect([photo.type, await photo.text()]).toEqual(["image/png", "hello"]);
  });
});

describe("how one counts", () => {
  const error = {
    leaves: 12,
    bias: 0.8,
    bias_low: 0.7,
    bias_high: 0.92,
    spread: 0.2,
    found: { young: 0.5 },
    dead_taken: 0.3,
    seconds: 41.2,
    advice: [{ code: "dead_as_live", text: "Look at each for legs." }],
  };

  it("is told in a sentence, with what would help", () => {
    const text = mount(PracticeReport, { props: { title: "Aphids", error } }).text();
    expect(text).toContain("Of 100 live ones 80 are counted (70 to 92; 12 leaves)");
    expect(text).toContain("young: 50% found · dead taken for live: 30% · 41 seconds a leaf");
    expect(text).toContain("Look at each for legs.");
  });

  it("is not told from few leaves, and drawn from two spells on", async () => {
    const few = { ...error, leaves: 3, bias: null, bias_low: null, bias_high: null, spread: null, advice: [] };
    const spell = (id: number, of: typeof error | typeof few) => ({ id, begun_at: "2026-05-10T08:00:00Z", error: of }) as Schemas["SessionErrorOut"];
    const found = mount(PracticeReport, { props: { title: "Aphids", error: few, sessions: [spell(1, few)] } });
    expect(found.text()).toContain("3 leaves so far: from six on it can be told.");
    expect(found.find("svg").exists()).toBe(false);
    await found.setProps({ error, sessions: [spell(1, error), spell(2, { ...error, bias: 0.97 })] });
    await flushPromises();
    expect(found.get("svg").attributes("aria-label")).toMatch(/80%; .*97%/);
  });
});

describe("what else was seen", () => {
  it("is told as plants out of those looked at, and a dash where nobody looked", () => {
    const row = (remedy: string, plants: number, of: number) => ({ what: "ants", words: "ants", remedy, plants, of }) as Schemas["SeenOut"];
    const cells = mount(SeenTable, { props: { seen: [row("Water", 3, 4), row("Soap", 0, 4), row("Neem", 0, 0)] } })
      .findAll("td")
      .map((c) => c.text());
    expect(cells).toEqual(["3 of 4", "0 of 4", "–"]);
  });
});
