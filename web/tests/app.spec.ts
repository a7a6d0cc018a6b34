// What stands on every page, whichever it is.
import { flushPromises, wire } from "./wire";
import { enableAutoUnmount, mount } from "@vue/test-utils";
import { afterEach, describe, expect, it } from "vitest";
import { createMemoryHistory, createRouter } from "vue-router";
import App from "../src/App.vue";

enableAutoUnmount(afterEach);

const blank = { template: "<p>a page</p>" };
const stubs = { HelpDialog: true, UnsentNote: true };

describe("every page", () => {
  it("says while it is open that the door is, on the counting screen too, and no longer once it is shut", async () => {
    let open = true;
    wire.answer = (request) => {
      expect(new URL(request.url).pathname).toBe("/api/door");
      return Promise.resolve(Response.json({ open }));
    };
    const router = createRouter({
      history: createMemoryHistory(),
      routes: [
        { path: "/", component: blank },
        { path: "/count", component: blank, meta: { field: true } },
        { path: "/yard", component: blank },
        { path: "/:rest(.*)", component: blank },
      ],
    });
    const page = mount(App, { global: { plugins: [router], stubs } });
    for (const place of ["/", "/count", "/mix"]) {
      await router.push(place);
      await flushPromises();
      expect(page.text()).toContain("Open to other devices of the home network");
    }
    expect(
      page
        .findAll("a")
        .find((a) => a.text() === "Look after the door")
        ?.attributes("href"),
    ).toBe("/yard");
    open = false;
    window.dispatchEvent(new Event("focus"));
    await flushPromises();
    expect(page.text()).not.toContain("Open to other devices");
  });

  it("says nothing of a door where the program does not answer or keeps it to itself", async () => {
    const router = createRouter({ history: createMemoryHistory(), routes: [{ path: "/:rest(.*)", component: blank }] });
    wire.answer = () => Promise.resolve(Response.json({ error: { code: "only_here", message: "there", field: null, fix: "" } }, { status: 403 }));
    const page = mount(App, { global: { plugins: [router], stubs } });
    await flushPromises();
    expect(page.text()).not.toContain("Open to other");
    wire.answer = () => Promise.reject(new TypeError("no network"));
    window.dispatchEvent(new Event("focus"));
    await flushPromises();
    expect(page.text()).not.toContain("Open to other");
  });
});
