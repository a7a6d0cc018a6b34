// A new trial: one sentence with gaps, and what follows from what is said in it.
import { eventually, flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import QuestionForm from "../src/components/trial/QuestionForm.vue";
import { partsOf } from "../src/question";
import NewTrialView from "../src/views/trial/NewTrialView.vue";
import { numbers, usualSetup } from "./usual";

enableAutoUnmount(afterEach);
const went = vi.hoisted(() => ({ to: [] as unknown[], query: {} as Record<string, string> }));
vi.mock("vue-router", () => ({
  useRoute: () => ({ query: went.query }),
  useRouter: () => ({ push: (to: unknown) => Promise.resolve(went.to.push(to)), replace: (to: unknown) => Promise.resolve(went.to.push(["instead", to])) }),
  RouterLink: { template: "<a><slot /></a>" },
}));

const usual = { synonyms: [], signs: {}, stages: [], measures: ["live"], count_what: "", where: "" };
const pests = [
  { ...usual, key: "aphids", name: "Aphids", measure: "live", look_days: [2, 5, 9], round_days: [0, 5] },
  { ...usual, key: "rust", name: "Rust", measure: "cover", look_days: [7, 14], round_days: [0, 7] },
];
const lupins = {
  key: "lupins",
  name: "lupins",
  other_names: ["lupin"],
  habit: "rosette",
  delicate: true,
  eaten: false,
  in_bloom: true,
  ml: 40,
  said: "Waxy leaves; in bloom from May to July.",
};
const listed = (key: string, acts: boolean, reasons: string[] = []): object => ({
  key,
  name: key,
  role: "remedy",
  way: "spray",
  acts: "",
  recipe: "",
  ingredients: [{ key, name: key, low: 1, high: 2, unit: "ml/l" }],
  schools: [],
  usual_ladder: key === "soap" ? [5, 10] : [],
  reasons,
  acts_on_it: acts,
  missing: [],
});
const remark = { code: "unsuited_1", harm: "It marks waxy leaves.", about: "remedies", remedy: "soap", mend: "Look later" };
let played: object[];
let sent: { path: string; body: Record<string, unknown> }[];

beforeEach(() => {
  localStorage.clear();
  Object.assign(went, { to: [], query: {} });
  sent = [];
  played = [];
  wire.answer = async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (path === "/api/knowledge") return Response.json({ numbers, ways: [], pests, measures: [], signs: [] });
    if (path === "/api/crops") return Response.json([lupins]);
    if (path === "/api/queries/remedies") return Response.json([listed("soda", false), listed("soap", true, ["It marks waxy leaves."]), listed("dust", true)]);
    if (path === "/api/queries/proposal") {
      const { keys, strengths } = (await request.json()) as { keys: string[]; strengths?: number[] };
      const named = strengths ? strengths.map((strength) => `${String(keys[0])} ${strength}`) : keys;
      return Response.json({ remedies: named.map((key) => ({ id: null, name: key, role: "remedy", recipe: "", traits: { catalogue: key } })) });
    }
    if (path === "/api/queries/taking") return Response.json({ bottle: 500, fills: 1, cost: 1.234, currency: "€", unpriced: ["oil"], unread: [] });
    if (path === "/api/queries/remarks") {
      const { question } = (await request.json()) as { question: { remedies: { name: string }[] } };
      const soap = question.remedies.some((r) => r.name === "soap");
      return Response.json(soap ? [{ ...remark, mended: { ...question, look_days: [4, 8] } }] : []);
    }
    if (path === "/api/queries/glance") {
      const asked = (await request.json()) as { plants: number };
      played.push(asked);
      if (asked.plants === 3) return Response.json({ blocks: 1, over: 1, says: "3 plants tell nothing.", chances: [], assumed: "" });
      return Response.json({
        blocks: 7,
        over: 1,
        says: "7 plants for each.",
        chances: [{ says: "A remedy that takes away 80% is shown to work", share: 0.946 }],
      });
    }
    if (path === "/api/queries/surer")
      return Response.json([
        { says: "One remedy on halves of each of the 3 plants", unit: "half", each: 2, remedies: 2, share: 0.42, two_looks: false },
        { says: "All as it is, the last two looks judged together", unit: "plant", each: 1, remedies: 3, share: 0.4, two_looks: true },
      ]);
    if (request.method === "GET") return Response.json([]);
    sent.push({ path, body: (await request.json()) as Record<string, unknown> });
    if (path.endsWith("/plants"))
      return Response.json([1, 2, 3].map((id) => ({ id, name: `P${id}`, row: 1, place: id, set_aside: null, size: null, host: null, died_on: null })));
    return Response.json({ id: 12 });
  };
});

const field = {
  props: ["modelValue"],
  emits: ["update:modelValue"],
  template: "<input v-bind='$attrs' :value='modelValue' @input='$emit(`update:modelValue`, $event.target.value)' />",
};
const tick = {
  props: ["modelValue"],
  emits: ["update:modelValue"],
  template: "<label><input type='checkbox' :checked='modelValue' @change='$emit(`update:modelValue`, $event.target.checked)' /><slot /></label>",
};
const stubs = {
  ElInput: field,
  ElSelect: true,
  ElOption: true,
  ElCheckbox: tick,
  ElButton: { template: "<button type='button'><slot /></button>" },
  PestPicker: field,
  RemedyPicker: true,
  CountingPlan: true,
};

async function opened(): Promise<VueWrapper> {
  const page = mount(NewTrialView, { global: { stubs }, attachTo: document.body });
  await flushPromises();
  return page;
}

async function send(page: VueWrapper): Promise<void> {
  await page.get("form").trigger("submit");
  await page.get("form").trigger("submit"); // a second click on its way is the same wish
  await flushPromises();
}

it("makes trial and bench of one sentence, named by what stands in it", async () => {
  const page = await opened();
  await page.get('[aria-label="How many plants"]').setValue("15");
  await page.get('[aria-label="What they are"]').setValue("Lupin");
  await page.get(".pest").setValue("aphids");
  await flushPromises();
  expect(page.text()).toContain("Waxy leaves; in bloom from May to July.");
  await eventually(() => expect(page.text()).toContain("soap: It marks waxy leaves.")); // the first guess, with what speaks against it
  expect(page.get(".chip").classes()).toContain("flag"); // the remark hangs on its word
  await page
    .findAll("button")
    .find((b) => b.text() === "Look later")
    ?.trigger("click");
  expect(page.getComponent(QuestionForm).props("modelValue")).toMatchObject({ look_days: "4, 8", threshold: "60" });
  await send(page);
  expect(sent.map((one) => one.path)).toEqual(["/api/trials", "/api/trials/12/plants", "/api/trials/12/plants"]);
  expect(sent[0]?.body).toMatchObject({
    name: "Lupin, aphids",
    pest: "aphids",
    look_days: [4, 8],
    setup: { crop: "Lupin", delicate: true, in_bloom: true, eaten: false },
  });
  expect((sent[0]?.body["remedies"] as { name: string }[]).map((r) => r.name)).toEqual(["Water only", "soap"]);
  expect(sent.slice(1).map((one) => one.body)).toMatchObject([
    { prefix: "L", rows: 1, per_row: 8 },
    { prefix: "L", rows: 1, per_row: 7 },
  ]);
  expect(went.to).toEqual([["instead", "/trial/12/question"], "/trial/12/plants"]);
});

it("holds the others against what is done anyway, and says what that cannot show", async () => {
  const page = await opened();
  await page.get('[aria-label="How many plants"]').setValue("14");
  await page.get('[aria-label="What they are"]').setValue("lupins");
  await page.get(".pest").setValue("aphids");
  await flushPromises();
  const compared = page.get('[aria-label="Compared with"]');
  expect(compared.findAll("optgroup option").map((o) => o.text())).toEqual(["dust"]); // what is compared is not done anyway
  await compared.setValue("dust");
  await flushPromises();
  expect(page.text()).toContain("Nobody is left untreated: this tells whether another does better than dust");
  await eventually(() => expect(played.at(-1)).toMatchObject({ threshold: 0.3, usual: true }));
  await send(page);
  expect((sent[0]?.body["remedies"] as { name: string; role: string }[]).map((r) => [r.name, r.role])).toEqual([
    ["dust", "control"],
    ["soap", "remedy"],
  ]);
});

it("takes over the pest that was found out; an empty number leaves the bench for later", async () => {
  went.query = { pest: "rust" };
  const page = await opened();
  await page.get('[aria-label="How many plants"]').setValue("");
  await send(page);
  expect(sent.map((one) => one.path)).toEqual(["/api/trials"]);
  expect(sent[0]?.body).toMatchObject({ name: "Rust", measure: "cover", look_days: [7, 14], round_days: [0, 7] });
});

it("says what is no number of plants or rows, and keeps nothing", async () => {
  went.query = { pest: "rust" };
  const page = await opened();
  for (const [label, wrong, said] of [
    ["How many plants", "a few", "“a few” is no number of plants"],
    ["How many plants", "900", "1 to 240"],
    ["In how many rows", "0", "“0” is no number of rows"],
  ] as const) {
    await page.get('[aria-label="How many plants"]').setValue("12");
    await page.get(`[aria-label="${label}"]`).setValue(wrong);
    await send(page);
    expect(page.get("[role=alert]").text()).toContain(said);
  }
  expect(sent).toEqual([]);
});

it("draws at once with the counts typed beneath the plants, and asks for those that are missing", async () => {
  went.query = { pest: "aphids" };
  const page = await opened();
  for (const [label, value] of [
    ["How many plants", "3"],
    ["In how many rows", "1"],
    ["Count of P1", "12"],
    ["Count of P2", "7,5"],
  ] as const)
    await page.get(`[aria-label="${label}"]`).setValue(value);
  const draw = () =>
    page
      .findAll("button")
      .find((b) => b.text() === "Let the lot draw")
      ?.trigger("click");
  await draw();
  await flushPromises();
  expect(page.get("[role=alert]").text()).toContain("Plant 3 has no count, and others have");
  await page.get('[aria-label="Count of P3"]').setValue("9");
  await draw();
  await flushPromises();
  expect(sent.map((one) => one.path)).toEqual([
    "/api/trials",
    "/api/trials/12/plants",
    ...[1, 2, 3].map((k) => `/api/trials/12/plants/${k}`),
    "/api/trials/12/layout",
  ]);
  expect(sent.slice(2, 5).map((one) => one.body["match_count"])).toEqual([12, 7.5, 9]);
  expect(went.to.at(-1)).toBe("/trial/12/layout");
});

it("begins in other ways: leaves of one plant, another kind, what I do now, paper", async () => {
  went.query = { pest: "aphids" };
  const page = await opened();
  const begin = async (key: string): Promise<void> => {
    await page.get('[aria-label="What you want to know"]').setValue(key);
    await flushPromises();
  };
  const setup = (): Record<string, unknown> => page.getComponent(QuestionForm).props("modelValue").setup;
  await begin("usual");
  expect(page.text()).toContain("Nobody is left untreated");
  await begin("ladder");
  expect(setup()["kind"]).toBe("ladder");
  expect(page.text()).not.toContain("Nobody is left untreated");
  expect(page.text()).toContain("How weak may it be, of");
  await begin("eggs");
  expect(setup()).toMatchObject({ kind: "eggs", unit: "cluster" });
  await begin("paper");
  expect(page.find('[aria-label="How many plants"]').exists()).toBe(false);
  expect(page.text()).toContain("Next: the table");
  await page.get('[aria-label="What you want to know"]').setValue("compare");
  await flushPromises();
  await page.get('[aria-label="Count of P1"]').setValue("many"); // of whole plants, and of no matter for leaves
  await begin("few");
  expect(setup()).toMatchObject({ kind: "compare", unit: "leaf" });
  await page.get('[aria-label="Leaves on each"]').setValue("8");
  await send(page);
  expect(sent[1]?.body).toEqual({ prefix: "P", rows: 1, per_row: 8, row_is_plant: true }); // one plant, without a word
});

it("keeps what was said otherwise of a crop when the draft comes back; egg clusters get their bench later", async () => {
  const page = await opened();
  await page.get('[aria-label="What they are"]').setValue("lupins");
  await page.get(".pest").setValue("aphids");
  await page
    .findAll("button")
    .find((b) => b.text().includes("Mine are otherwise"))
    ?.trigger("click");
  await page
    .findAll("label")
    .find((l) => l.text().includes("They bloom then"))
    ?.get("input")
    .setValue(false);
  page.unmount();
  const again = await opened();
  const { setup } = again.getComponent(QuestionForm).props("modelValue");
  expect(setup).toMatchObject({ crop: "lupins", delicate: true, in_bloom: false });
  setup.unit = "cluster";
  await send(again);
  expect(sent.map((one) => one.path)).toEqual(["/api/trials"]);
});

it("asks three things of plants that nobody knows here, and goes on at Enter", async () => {
  const page = await opened();
  const crop = page.get('[aria-label="What they are"]');
  expect(page.text()).toContain("Name them, or say what holds of them"); // food is asked of plants without a name, too
  await crop.setValue("quillworts");
  expect(page.text()).toContain("These are not known here");
  await page
    .findAll("label")
    .find((l) => l.text().includes("leaves are hairy"))
    ?.get("input")
    .setValue(true);
  expect(page.getComponent(QuestionForm).props("modelValue").setup).toMatchObject({ crop: "quillworts", delicate: true, eaten: false });
  (crop.element as HTMLElement).focus();
  await crop.trigger("keydown", { key: "Enter" });
  expect(document.activeElement?.getAttribute("aria-label")).toBe("In how many rows");
});

it("unfolds all fields on a wish, and where something in them is wrong; starts afresh as usual", async () => {
  went.query = { pest: "rust" };
  const page = await opened();
  const button = (text: string) => page.findAll("button").find((b) => b.text().includes(text));
  const label = (text: string) => page.findAll("label").find((l) => l.text().includes(text));
  expect(label("Count again on days")?.element.closest<HTMLElement>("div.form")?.style.display).toBe("none");
  const part = (name: string) => page.get<HTMLElement>(`[data-part="${name}"]`).element.style.display;
  await button("0, 7")?.trigger("click");
  expect([part("days"), part("plants")]).toEqual(["", "none"]); // beside the word it concerns, not all of it
  await button("All of it")?.trigger("click");
  expect(part("plants")).toBe("");
  await label("Something of them is eaten")?.get("input").setValue(true);
  const picked = page.get('input[type="date"].date');
  await picked.setValue("2026-07-01");
  await send(page);
  expect(sent[0]?.body).toMatchObject({ setup: { ...usualSetup, eaten: true, harvest_on: "2026-07-01" } });
  await button("Start afresh")?.trigger("click");
  expect(page.getComponent(QuestionForm).props("modelValue").setup).toEqual(usualSetup);
});

it("guesses anew for another question while nothing was chosen, and never over a choice", async () => {
  const page = await opened();
  await page.get(".pest").setValue("aphids");
  const chips = (): string[] => page.findAll(".chip .named").map((chip) => chip.text());
  const begin = (key: string): Promise<void> => page.get('[aria-label="What you want to know"]').setValue(key);
  await eventually(() => expect(chips()).toEqual(["soap"]));
  await begin("ladder");
  await eventually(() => expect(chips()).toEqual(["soap 5", "soap 10"]));
  await begin("square");
  await eventually(() => expect(chips()).toEqual(["soap", "dust"]));
  await page.get('[aria-label="Leave out dust"]').trigger("click");
  await begin("compare");
  await flushPromises();
  expect(chips()).toEqual(["soap"]);
  await begin("ladder");
  await flushPromises();
  expect(chips()).toEqual(["soap"]); // left out by hand: chosen
});

it("plays the plan by itself once it is said, and tells what it takes", async () => {
  const page = await opened();
  await page.get('[aria-label="What they are"]').setValue("lupins");
  await page.get(".pest").setValue("aphids");
  for (const count of ["1", "14"]) await page.get('[aria-label="How many plants"]').setValue(count);
  await eventually(() => expect(page.text()).toContain("A remedy that takes away 80% is shown to work"));
  expect(played).toEqual([
    {
      plants: 14,
      remedies: 2,
      threshold: 0.6,
      measure: "live",
      usual: false,
      unit: "plant",
      each: 1,
      kind: "compare",
      looks: 3,
      two_looks: false,
      whole: false,
      starts: [],
    },
  ]); // what was typed on the way is not
  expect(page.text()).toContain("95%");
  expect(page.text()).toContain("2 rounds, about 310 ml of each mix a time: some 14 minutes of work a round");
  expect(page.text()).toContain("One bottle of 500 ml holds one remedy's");
  expect(page.text()).toContain("€ 1.23 of mixes in all, without oil (no price).");
  await page.get('[aria-label="How many plants"]').setValue("");
  await flushPromises();
  expect(page.text()).not.toContain("How sure it will be");
});

it("names what the same plants would tell better, and takes it: remedies that were said last go", async () => {
  const page = await opened();
  await page.get(".pest").setValue("aphids");
  await eventually(() => expect(page.findAll(".chip")).toHaveLength(1));
  page.getComponent(QuestionForm).props("modelValue").remedies.push({ id: null, name: "oil", role: "remedy", recipe: "" });
  await page.get('[aria-label="How many plants"]').setValue("3");
  await eventually(() => expect(page.text()).toContain("One remedy on halves of each of the 3 plants: 42%"));
  const take = (k: number): Promise<void> | undefined =>
    page
      .findAll("button")
      .filter((b) => b.text().startsWith("Take it"))
      [k]?.trigger("click");
  await take(1);
  expect(page.get(".sentence").text()).toContain("the last two judged together");
  expect(page.findAll(".chip")).toHaveLength(2);
  await take(0);
  const { remedies, setup } = page.getComponent(QuestionForm).props("modelValue");
  expect([remedies.map((r) => r.name), setup.unit]).toEqual([["Water only", "soap"], "half"]);
});

it("stands plants in rows as even as can be", () => {
  expect(partsOf(14, 2)).toEqual([{ rows: 2, per_row: 7 }]);
  expect(partsOf(15, 4)).toEqual([
    { rows: 3, per_row: 4 },
    { rows: 1, per_row: 3 },
  ]);
  expect(partsOf(1, 1)).toEqual([{ rows: 1, per_row: 1 }]);
});

it("marks all that is wrong at once, and puts the cursor into the first", async () => {
  const page = await opened();
  await page.get('[aria-label="Percent"]').setValue("much");
  page.getComponent(QuestionForm).props("modelValue").round_days = "often";
  await page.get("form").trigger("submit");
  await flushPromises();
  const said = page.findAll('[role="alert"]').map((one) => one.text());
  expect(said).toEqual(
    expect.arrayContaining([
      expect.stringContaining("No pest"),
      expect.stringContaining("“much” is not a number"),
      expect.stringContaining("“often” are not whole days"),
    ]),
  );
  expect(page.get('[aria-label="Percent"]').attributes("aria-invalid")).toBe("true");
  expect(sent).toEqual([]);
});
