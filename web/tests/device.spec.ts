// What a device keeps while the program is out of reach: sprays, pages; and how it comes in.
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { defineComponent } from "vue";
import { flushPromises, wire } from "./wire";
import { Fault, type Round, type Schemas } from "../src/api/client";
import KeptSprays from "../src/components/field/KeptSprays.vue";
import ContestList from "../src/components/counting/ContestList.vue";
import DoorPanel from "../src/components/door/DoorPanel.vue";
import OutOfReach from "../src/components/OutOfReach.vue";
import { createSprayBox, type KeptSpray, type SprayBox } from "../src/composables/useSprayBox";
import { useSwipe } from "../src/composables/useSwipe";
import { pageBox, type Box } from "../src/deviceBox";
import { vPress } from "../src/press";
import EnterView from "../src/views/door/EnterView.vue";

enableAutoUnmount(afterEach);

const went = { query: {} as Record<string, string> };
vi.mock("vue-router", () => ({ useRoute: () => went }));

const offline = new Fault("offline", "no answer", null, "", 0);
const stubs = {
  ElButton: { props: ["nativeType"], template: "<button :type=\"nativeType ?? 'button'\"><slot /></button>" },
  ElInput: {
    props: ["modelValue"],
    emits: ["update:modelValue"],
    template: "<input v-bind='$attrs' :value='modelValue' @input=\"$emit('update:modelValue', $event.target.value)\" />",
  },
};

describe("sprays out of reach", () => {
  let box: Box;
  let sent: string[];
  let answer: (spray: KeptSpray) => Promise<Round>;
  const round = { number: 1, sprayed: [1] } as unknown as Round;

  beforeEach(() => {
    box = pageBox();
    sent = [];
    answer = () => Promise.resolve(round);
  });

  function sprays(): SprayBox {
    return createSprayBox((spray) => {
      sent.push(spray.key);
      return answer(spray);
    }, Promise.resolve(box));
  }

  function put(into: SprayBox, plant: number): void {
    into.put({ trial: 9, round: 1, plant: `S${plant}`, body: { plant_id: plant, key: `spray-of-${plant}` } as Schemas["SprayIn"] });
  }

  it("put before the device's box is open are in it all the same", async () => {
    answer = () => Promise.reject(offline);
    const early = sprays();
    put(early, 3); // at once, before the box is there
    await early.ready;
    await flushPromises();
    const anew = sprays();
    await anew.ready;
    expect(anew.of(9, 1).map((s) => s.plant)).toEqual(["S3"]);
  });

  it("are kept over a reload and sent in their order", async () => {
    answer = () => Promise.reject(offline);
    const first = sprays();
    await first.ready;
    put(first, 2);
    put(first, 1);
    expect(await first.flush()).toBeNull();
    expect(first.waiting.value).toBe(2);
    const again = sprays();
    await again.ready;
    expect(again.of(9, 1).map((s) => s.plant)).toEqual(["S2", "S1"]);
    answer = () => Promise.resolve(round);
    sent = [];
    expect(await again.flush()).toEqual(round);
    expect([sent, again.waiting.value, again.of(9, 1)]).toEqual([["spray-of-2", "spray-of-1"], 0, []]);
    expect(await box.load("sprays")).toEqual([]);
  });

  it("stay with their reason when the program refuses one, and the others go on", async () => {
    answer = (spray) => (spray.body.plant_id === 1 ? Promise.reject(new Fault("too_soon", "too soon", null, "wait", 409)) : Promise.resolve(round));
    const held = sprays();
    await held.ready;
    put(held, 1);
    put(held, 2);
    await held.flush();
    expect(held.refused.value.map((s) => [s.plant, s.fault?.code])).toEqual([["S1", "too_soon"]]);
    expect(held.waiting.value).toBe(0);
    await held.flush();
    expect(sent.filter((key) => key === "spray-of-1")).toHaveLength(1);
    const shown = mount(KeptSprays, { props: { sprays: held.of(9, 1), trouble: "" }, global: { stubs } });
    expect(shown.text()).toContain("S1 is not on record: too soon");
    await shown
      .findAll("button")
      .find((b) => b.text() === "It did not happen")
      ?.trigger("click");
    held.drop((shown.emitted("drop")?.[0] as [KeptSpray])[0]);
    expect(held.of(9, 1)).toEqual([]);
  });

  it("say so where the device keeps nothing, and are still sent", async () => {
    const held = createSprayBox(() => Promise.resolve(round), Promise.reject(new Error("private")));
    await held.ready;
    expect(held.trouble.value).toContain("keeps nothing");
    put(held, 1);
    expect(await held.flush()).toEqual(round);
  });
});

describe("another device", () => {
  const door = {
    possible: true,
    open: true,
    address: "https://192.0.2.7:8748",
    others: [],
    fingerprint: "AB:CD",
    has_passcode: true,
    sessions: [{ id: 3, device: "a phone", made_at: "2026-05-10T08:00:00Z", seen_at: "2026-05-10T09:00:00Z" }],
    passcode: null,
  };
  let calls: { method: string; path: string; body: unknown }[];
  let say: (path: string, method: string) => [number, unknown];

  beforeEach(() => {
    calls = [];
    say = () => [200, door];
    wire.answer = async (request: Request) => {
      const text = await request.text();
      const path = new URL(request.url).pathname;
      calls.push({ method: request.method, path, body: text ? JSON.parse(text) : null });
      const [status, body] = say(path, request.method);
      return new Response(status === 204 ? null : JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
    };
  });

  it("comes in by the passcode and goes on where it was going, never to another site", async () => {
    const assign = vi.spyOn(window.location, "assign").mockImplementation(() => undefined);
    say = () => [204, null];
    for (const [then, goes] of [
      ["/trial/3/look/1", "/trial/3/look/1"],
      ["https://evil.example/", "/"],
      ["//evil.example", "/"],
      ["/\\evil.example", "/"],
    ]) {
      went.query = { then: then ?? "" };
      const page = mount(EnterView, { global: { stubs } });
      await page.get("input").setValue("4271-5190");
      await page.get("form").trigger("submit");
      await flushPromises();
      expect(assign).toHaveBeenLastCalledWith(goes);
    }
    expect(calls[0]).toMatchObject({ path: "/api/door/enter", body: { passcode: "4271-5190" } });
    assign.mockRestore();
  });

  it("is told in words when nothing was given, and nothing is sent", async () => {
    const page = mount(EnterView, { global: { stubs } });
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(page.text()).toContain("No passcode was given");
    expect(calls).toEqual([]);
  });

  it("shows on such a device how to trust the machine, and lets it go", async () => {
    const assign = vi.spyOn(window.location, "assign").mockImplementation(() => undefined);
    say = (path) =>
      path === "/api/door" ? [403, { error: { code: "only_here", message: "the door is looked after there", field: null, fix: "" } }] : [204, null];
    const page = mount(DoorPanel, { global: { stubs } });
    await flushPromises();
    expect(page.get("a[download]").attributes("href")).toBe("/api/door/authority");
    await page
      .findAll("button")
      .find((b) => b.text() === "Remove this device")
      ?.trigger("click");
    await flushPromises();
    expect(calls.at(-1)).toMatchObject({ method: "POST", path: "/api/door/leave" });
    expect(assign).toHaveBeenLastCalledWith("/");
    assign.mockRestore();
  });

  it("is told what is wrong, and may try again", async () => {
    say = () => [401, { error: { code: "wrong_passcode", message: "that is not the passcode", field: "passcode", fix: "It is shown there." } }];
    const page = mount(EnterView, { global: { stubs } });
    await page.get("input").setValue("0000-0000");
    await page.get("form").trigger("submit");
    await flushPromises();
    expect(page.text()).toContain("That is not the passcode");
    expect(page.get("input").element.value).toBe("");
  });

  it("is let in and sent out in the yard, where a new passcode is told once", async () => {
    const page = mount(DoorPanel, { global: { stubs } });
    await flushPromises();
    expect(page.text()).toContain("https://192.0.2.7:8748");
    expect(page.find(".code").exists()).toBe(false);
    say = () => [200, { ...door, sessions: [], passcode: "7572-4660" }];
    await page
      .findAll("button")
      .find((b) => b.text() === "Make a new one")
      ?.trigger("click");
    await flushPromises();
    expect(page.get(".code").text()).toBe("7572-4660");
    expect(calls.at(-1)).toMatchObject({ path: "/api/door/passcode", body: { passcode: null } });
    say = () => [200, { ...door, open: false, address: null }];
    await page
      .findAll("button")
      .find((b) => b.text() === "Shut the door")
      ?.trigger("click");
    await flushPromises();
    expect(calls.at(-1)).toMatchObject({ method: "PUT", path: "/api/door", body: { open: false } });
    expect(page.text()).toContain("Let other devices in");
  });
});

describe("signs of what is elsewhere", () => {
  it("say how old a page is that is shown without the program", () => {
    expect(
      mount(OutOfReach, { props: { keptAt: null } })
        .find("p")
        .exists(),
    ).toBe(false);
    expect(mount(OutOfReach, { props: { keptAt: Date.UTC(2026, 4, 10, 8) } }).text()).toContain("Out of reach: this is as of");
  });

  it("let whoever counted choose between two counts of a leaf", async () => {
    const sides: Schemas["SideOut"][] = [
      { session: "the-phone", values: { live: 12, young: 2 }, counted_at: "2026-05-10T08:00:00Z", held: true, device: "" },
      { session: "the-tablet", values: { live: 9 }, counted_at: "2026-05-10T08:05:00Z", held: false, device: "Linux, Android 15" },
    ];
    const list = mount(ContestList, {
      props: { contests: [{ plant_id: 2, sample: 3, sides }], plants: [{ id: 2, name: "S7" }] as never, unit: "leaf" },
      global: { stubs },
    });
    expect(list.text()).toContain("S7, leaf 3");
    expect(list.text()).toContain("12 live, 2 young on the program's own machine");
    expect(list.text()).toContain("9 live on Linux, Android 15");
    await list.findAll("button")[1]?.trigger("click");
    expect(list.emitted("choose")?.[0]?.[1]).toBe("the-tablet");
  });
});

describe("a stroke of the finger", () => {
  const touch = (x: number, y: number): TouchEvent =>
    ({ touches: [{ clientX: x, clientY: y }], changedTouches: [{ clientX: x, clientY: y }] }) as unknown as TouchEvent;

  it("goes on or back, and leaves scrolling and small slips alone", () => {
    const gone: string[] = [];
    const swipe = useSwipe(
      () => gone.push("on"),
      () => gone.push("back"),
    );
    for (const [x, y] of [
      [100, 210],
      [300, 190],
      [200, 500],
      [180, 200],
    ] as const) {
      swipe.start(touch(200, 200));
      swipe.end(touch(x, y));
    }
    expect(gone).toEqual(["on", "back"]);
  });
});

describe("a press", () => {
  let count: number;
  const board = defineComponent({
    directives: { press: vPress },
    setup: () => ({ press: { run: () => (count += 1), back: () => (count -= 1) } }),
    template: "<button v-press='press'>+1</button>",
  });

  function pressed(...events: [string, PointerEventInit?][]): number {
    count = 0;
    const button = mount(board, { attachTo: document.body }).get("button").element;
    button.setPointerCapture = vi.fn();
    for (const [type, init] of events) button.dispatchEvent(new PointerEvent(type, { pointerId: 4, pointerType: "touch", detail: 1, ...init }));
    return count;
  }

  it("counts when the finger lands, and its click is the same press", () => {
    expect(pressed(["pointerdown"])).toBe(1);
    expect(pressed(["pointerdown"], ["pointerup"], ["click"], ["pointerdown"], ["pointerup"], ["click"])).toBe(2);
    expect(pressed(["pointerdown"], ["pointerdown", { pointerId: 5 }], ["pointerup"], ["click"])).toBe(2); // two thumbs
  });

  it("is taken back where it slides off or scrolls", () => {
    const off = { clientX: -50, clientY: 400 };
    expect(pressed(["pointerdown"], ["pointerup", off])).toBe(0);
    expect(pressed(["pointerdown"], ["pointercancel"])).toBe(0);
    expect(pressed(["pointerdown", { pointerType: "mouse" }], ["pointerup", { pointerType: "mouse", ...off }], ["click", { pointerType: "mouse" }])).toBe(0);
    expect(pressed(["pointerup", off], ["pointercancel"])).toBe(0); // a finger that came from beside
  });

  it("counts a key's click, a helping program's, and no second button", () => {
    expect(pressed(["click", { pointerId: -1, pointerType: "", detail: 0 }])).toBe(1);
    expect(pressed(["pointerdown"], ["pointercancel"], ["click"])).toBe(1);
    expect(pressed(["pointerdown", { button: 2 }])).toBe(0);
  });
});
