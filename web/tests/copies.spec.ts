// The copies of the garden: made, put back after a second thought, and where the data is damaged.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount, type VueWrapper } from "@vue/test-utils";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Fault } from "../src/api/client";
import CopiesPanel from "../src/components/door/CopiesPanel.vue";
import FaultNote from "../src/components/FaultNote.vue";

enableAutoUnmount(afterEach);
const stubs = { ElButton: { template: "<button><slot /></button>" }, RouterLink: { template: "<a><slot /></a>" } };
const copy = { name: "20260510T080000000000Z-daily.sqlite", made_at: "2026-05-10T08:00:00Z", reason: "daily", size: 774_000 };
let list: { folder: string; items: object[]; damage: string | null };
let asked: string[];
const restored = vi.fn(() => Promise.resolve());

beforeEach(() => {
  list = { folder: "garden/backups", items: [copy], damage: null };
  asked = [];
  restored.mockClear();
  wire.answer = (request) => {
    const path = new URL(request.url).pathname;
    asked.push(`${request.method} ${path}`);
    const say = (body: unknown, status = 200): Response => new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
    if (request.method === "DELETE") list.items = [];
    if (path.endsWith("/restore")) {
      list.damage = null;
      return Promise.resolve(say({ kept: null, set_aside: "orthocris.sqlite.damaged-1", pictures_missing: 1 }));
    }
    return Promise.resolve(request.method === "GET" ? say(list) : request.method === "DELETE" ? new Response(null, { status: 204 }) : say(copy, 201));
  };
});

async function panel(): Promise<VueWrapper> {
  const page = mount(CopiesPanel, { props: { restored }, global: { stubs } });
  await flushPromises();
  return page;
}

async function press(page: VueWrapper, word: string): Promise<void> {
  await page
    .findAll("button")
    .find((one) => one.text() === word)
    ?.trigger("click");
  await flushPromises();
}

it("puts a copy back after a second thought, and says what became of the damaged data", async () => {
  list.damage = "the file is damaged";
  const page = await panel();
  expect(page.text()).toContain("cannot be used");
  expect(page.text()).not.toContain("Make a copy now");
  await press(page, "Put back …");
  await press(page, "Leave it");
  expect(asked.filter((one) => one.startsWith("POST"))).toEqual([]);
  await press(page, "Put back …");
  await press(page, "Put it back");
  expect(restored).toHaveBeenCalledOnce();
  expect(page.text()).toContain("kept as orthocris.sqlite.damaged-1");
  expect(page.text()).toContain("1 picture of notes");
  expect(page.text()).toContain("Make a copy now");
});

it("removes the one that was asked for, and no other act", async () => {
  const page = await panel();
  await press(page, "Remove …");
  await press(page, "Remove it");
  expect(asked).toContain(`DELETE /api/backups/${copy.name}`);
  expect(page.text()).toContain("There is none yet");
});

it("is not shown on a phone that was let in", async () => {
  wire.answer = () => Promise.resolve(new Response(JSON.stringify({ error: { code: "only_here", message: "here", field: null, fix: "" } }), { status: 403 }));
  expect((await panel()).text()).toBe("");
});

it("is where every page leads to that finds the data damaged", () => {
  const note = mount(FaultNote, { props: { fault: new Fault("data_damaged", "btree error 11", null, "", 503) }, global: { stubs } });
  expect(note.text()).toContain("A copy can be put back: go to the copies");
  expect(note.text()).not.toContain("btree");
});
