"""Counting and spraying with no network, on two devices, with the program killed in between."""

from __future__ import annotations

import sqlite3
import tempfile
import time
import unittest
from datetime import date
from typing import Any

from playwright.sync_api import BrowserContext, Page, expect

from tests.browser.support import Server, phone, settle, tallies
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import TRIAL, mix_as_helper, send, small_trial, start_round

LEAVES = {"samples": 6, "beside": ["young", "damage"]}


class NoSignal(BrowserCase):
    def garden(self, **setup: Any) -> tuple[Server, int]:
        """A small trial on data of its own."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = folder.name
        self.server = Server("--data", folder.name)
        self.addCleanup(self.stop)
        return self.server, small_trial(self.server, setup=setup)["id"]

    def stop(self) -> None:
        """End the program that runs now."""
        self.server.stop()

    def device(self) -> BrowserContext:
        """A phone that may keep the pages."""
        context = phone(self.browser, workers=True)
        self.addCleanup(context.close)
        return context

    def at_look(self, context: BrowserContext, trial: int) -> Page:
        """The counting screen, with the worker that opens it without a network in place."""
        page = context.new_page()
        page.goto(f"{self.server.address}/trial/{trial}/look/0")
        settle(page)
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        page.wait_for_function(
            "async () => (await Promise.all((await caches.keys()).map(async (name) =>"
            " (await (await caches.open(name)).keys()).length))).reduce((a, b) => a + b, 0) > 50"
        )
        return page

    def test_two_thousand_taps_without_signal_arrive_once_each_though_the_program_dies(
        self,
    ) -> None:
        server, trial = self.garden(**LEAVES)
        context = self.device()
        page = self.at_look(context, trial)
        context.set_offline(True)
        page.evaluate(
            "() => { const one = document.querySelector('.one');"
            " for (let k = 0; k < 1200; k++) one.click(); }"
        )
        expect(page.get_by_text("1200 taps kept here, waiting")).to_be_visible()
        # The page is closed and opened again, still without a network.
        page.close()
        page = context.new_page()
        page.goto(f"{server.address}/trial/{trial}/look/0")
        expect(page.get_by_text("Out of reach: this is as of")).to_be_visible()
        expect(page.get_by_role("button", name="1200 so far")).to_be_visible()
        page.evaluate(
            "() => { const one = document.querySelector('.one');"
            " for (let k = 0; k < 800; k++) one.click(); }"
        )
        expect(page.get_by_text("2000 taps kept here, waiting")).to_be_visible()
        # It is back for a moment, dies while it takes them, and comes back.
        context.set_offline(False)
        page.get_by_role("button", name="One more", exact=True).tap()
        time.sleep(0.05)
        server.kill()
        self.server = Server("--data", self.folder, port=server.port)
        expect(page.get_by_text("✓ all kept")).to_be_visible()
        (kept,) = [t for t in tallies(self.server, trial) if t["measure"] == "live"]
        self.assertEqual((kept["value"], kept["sample"]), (2001, 1))
        self.assertEqual(self.taps(), [(2001, 1, 1200)])  # 1,200 of one page, 801 of the next

    def taps(self) -> list[tuple[int, int, int]]:
        """How many taps are in the file, and the steps of the first and the last."""
        with sqlite3.connect(f"{self.folder}/orthocris.sqlite") as connection:
            rows = connection.execute("SELECT count(DISTINCT key), min(step), max(step) FROM tap")
            return rows.fetchall()

    def test_two_phones_share_a_plant_and_settle_a_leaf_both_counted(self) -> None:
        server, trial = self.garden(**LEAVES)
        first, second = self.device(), self.device()
        one, other = self.at_look(first, trial), self.at_look(second, trial)
        first.set_offline(True)
        second.set_offline(True)
        self.leaf(one, 1, fives=2)
        self.leaf(one, 2, fives=1)
        self.leaf(other, 2, fives=3)
        self.leaf(other, 4, fives=1)
        first.set_offline(False)
        expect(one.get_by_text("✓ all kept")).to_be_visible()
        second.set_offline(False)
        expect(other.get_by_text("One count was made twice")).to_be_visible()
        self.assert_accessible(other)
        plant = send(server, "GET", f"/api/trials/{trial}")["walk"][0]
        held = {t["sample"]: t["value"] for t in tallies(server, trial) if t["measure"] == "live"}
        self.assertEqual(held, {1: 10, 2: 5, 4: 5})
        other.get_by_role("button", name="15 live").tap()
        expect(other.get_by_text("One count was made twice")).to_have_count(0)
        held = {t["sample"]: t["value"] for t in tallies(server, trial) if t["measure"] == "live"}
        self.assertEqual(held, {1: 10, 2: 15, 4: 5})
        history = server.get(f"/api/trials/{trial}/looks/0/tallies/{plant}?measure=live")
        self.assertIn(5, [t["value"] for t in history if t["sample"] == 2])

    def leaf(self, page: Page, leaf: int, fives: int) -> None:
        """Count one leaf in fives and keep it."""
        page.get_by_role("button", name=f"leaf {leaf},").or_(
            page.get_by_role("button", name=f"shoot {leaf},")
        ).tap()
        for _ in range(fives):
            page.get_by_role("button", name="Five more").tap()
        page.locator(".keep").tap()

    def test_a_look_counted_by_a_phone_of_the_home_network_that_loses_the_signal(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.server = Server("--data", folder.name, "--lan", "--lan-port", "0")
        self.addCleanup(self.stop)
        trial = self.wide_trial()
        code = send(self.server, "POST", "/api/door/passcode", {"passcode": None})["passcode"]
        address = self.server.get("/api/door")["address"]
        context = phone(self.browser, trusting=True)
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(f"{address}/trial/{trial}/look/0")
        page.get_by_label("Passcode").fill("0000-0000")
        page.get_by_role("button", name="Come in").tap()
        expect(page.get_by_text("That is not the passcode")).to_be_visible()
        page.get_by_label("Passcode").fill(code)
        page.get_by_role("button", name="Come in").tap()
        settle(page)
        page.get_by_role("img", name="0 of 24 plants counted").wait_for()
        found = [(7 * plant + 5 * leaf) % 13 for plant in range(24) for leaf in range(6)]
        for k, count in enumerate(found):
            if k in (50, 90):  # out of the signal, and back
                context.set_offline(k == 50)
            for _ in range(count):
                page.evaluate("document.querySelector('.one').click()")
            page.evaluate("document.querySelector('.keep').click()")
        expect(page.get_by_text("All 24 plants are counted")).to_be_visible()
        expect(page.get_by_text("✓ all kept")).to_be_visible()
        kept = [t for t in tallies(self.server, trial) if t["measure"] == "live"]
        self.assertEqual(len(kept), 144)
        self.assertEqual(sum(t["value"] for t in kept), sum(found))
        self.assertTrue(all(t["finished"] for t in kept))

    def wide_trial(self) -> int:
        """Twenty-four plants, six leaves of each."""
        body = {**TRIAL, "start_on": date.today().isoformat(), "setup": LEAVES}
        trial: int = send(self.server, "POST", "/api/trials", body)["id"]
        rows = {"prefix": "S", "rows": 2, "per_row": 12}
        send(self.server, "POST", f"/api/trials/{trial}/plants", rows)
        send(self.server, "POST", f"/api/trials/{trial}/layout", {})
        return trial

    def test_a_round_sprayed_without_signal_is_recorded_when_it_is_back(self) -> None:
        server, trial = self.garden()
        context = self.device()
        page = self.at_look(context, trial)
        page.goto(f"{server.address}/trial/{trial}/mix")
        mix_as_helper(page, bottles=1)
        page.goto(f"{server.address}/trial/{trial}/round/1")
        start_round(page)
        sprayed = page.get_by_role("button", name="Sprayed", exact=True).or_(
            page.get_by_role("button", name="Done", exact=True)
        )
        expect(sprayed).to_be_visible()
        context.set_offline(True)
        for k in range(3):
            sprayed.tap()
            expect(page.locator("header [role=status]")).to_have_text(f"{k + 1} of 6")
        expect(page.get_by_text("3 kept here, waiting")).to_be_visible()
        page.reload()
        expect(page.locator("header [role=status]")).to_have_text("3 of 6")
        sprayed.tap()
        page.get_by_role("button", name="Undo").tap()
        expect(page.locator("header [role=status]")).to_have_text("3 of 6")
        sprayed.tap()
        expect(page.locator("header [role=status]")).to_have_text("4 of 6")
        context.set_offline(False)
        expect(page.get_by_text("kept here, waiting")).to_have_count(0)
        found = server.get(f"/api/trials/{trial}")["rounds"][0]
        self.assertEqual(len(found["sprayed"]), 4)


if __name__ == "__main__":
    unittest.main()
