"""A whole round on a phone: bottles, checks, walk, skip, drift, a refused second spray, undo."""

from __future__ import annotations

import unittest

from playwright.sync_api import Page, expect

from tests.browser.support import Server, settle
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import mix_as_helper, send, start_round

ROUND = "/api/trials/3/rounds/2"


class SprayRound(BrowserCase):
    def test_a_round_from_the_bottle_to_the_last_plant(self) -> None:
        server = self.serve("--demo")
        page = self.page(small=True)
        page.goto(f"{server.address}/trial/3/mix")
        mix_as_helper(page, bottles=3)
        self.assert_accessible(page)
        page.goto(f"{server.address}/trial/3/round/2")
        settle(page)
        expect(page.get_by_role("button", name="Start round 2")).to_be_disabled()
        self.assert_accessible(page)
        start_round(page)
        self.assert_accessible(page)
        self.first_plants(page)
        self.interrupted(page)
        self.to_the_end(page)
        self.twice(page, server)
        self.assertEqual(server.get("/api/trials/3")["batches"], [])
        send(server, "POST", "/api/trials/3/key")
        found = server.get("/api/trials/3")["rounds"][1]
        self.assertEqual((len(found["sprayed"]), len(found["skipped"])), (25, 1))
        said = " ".join(found["notes"])
        self.assertIn("A bee on the flowers", said)
        self.assertIn("got another volume than the usual 40 ml", said)
        self.assertIn("hit", said)
        self.assertIn("sprayed twice against the plan: by mistake", said)
        batches = {b["id"]: b["rounds"] for b in server.get("/api/trials/3")["batches"]}
        self.assertEqual([batches[b] for b in found["batches"].values()], [[2], [2], [2]])

    def progress(self, page: Page, text: str) -> None:
        """What the head of the page says."""
        expect(page.locator("header [role=status]")).to_have_text(text)

    def first_plants(self, page: Page) -> None:
        """One with more ml and drift onto a neighbour, one skipped for a bee."""
        page.get_by_role("button", name="5 ml more").tap()
        page.get_by_role("button", name="Drifted").tap()
        page.get_by_label("Neighbour hit").select_option(index=1)
        page.get_by_role("button", name="Sprayed", exact=True).tap()
        self.progress(page, "1 of 26")
        page.get_by_role("button", name="Skip", exact=True).tap()
        page.get_by_role("button", name="A bee on the flowers").tap()
        self.progress(page, "2 of 26")

    def interrupted(self, page: Page) -> None:
        """A reload in the middle goes on at the next open plant."""
        expect(page.get_by_role("button", name="Skip", exact=True)).to_be_visible()
        here = page.locator(".name").inner_text()
        page.reload()
        settle(page)
        self.progress(page, "2 of 26")
        expect(page.locator(".name")).to_have_text(here)

    def to_the_end(self, page: Page) -> None:
        """The rest, with one taken back and done again."""
        for k in range(3, 27):
            page.get_by_role("button", name="Sprayed", exact=True).tap()
            self.progress(page, f"{k} of 26")
            if k == 5:
                page.get_by_role("button", name="Undo").tap()
                self.progress(page, "4 of 26")
                page.get_by_role("button", name="Sprayed", exact=True).tap()
                self.progress(page, "5 of 26")
        expect(page.get_by_text("All 26 plants are recorded")).to_be_visible()

    def twice(self, page: Page, server: Server) -> None:
        """A second spray is refused by the program, or recorded as a deviation."""
        plant = server.get("/api/trials/3")["rounds"][1]["sprayed"][3]
        again = page.request.post(f"{server.address}{ROUND}/sprays", data={"plant_id": plant})
        self.assertEqual(again.json()["error"]["code"], "already_sprayed")
        told = {"plant_id": plant, "deviation": "by mistake"}
        self.assertEqual(
            page.request.post(f"{server.address}{ROUND}/sprays", data=told).status, 200
        )


class PatchTests(BrowserCase):
    def test_a_patch_test_of_a_new_kind_is_put_on_and_taken_back(self) -> None:
        server = self.serve("--demo")
        page = self.page()
        page.goto(f"{server.address}/trial/4/patch")
        page.get_by_text("Kinds of leaf, and how long to wait").click()
        kinds = page.get_by_label("Kinds of leaf", exact=True)
        kinds.fill("plain green leaves, plain green leaves, young reddish leaves")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("one name")
        kinds.fill("plain green leaves, young reddish leaves, hairy buds")
        page.get_by_role("button", name="Keep", exact=True).click()
        cell = page.get_by_role("region", name="hairy buds").locator("article").first
        cell.get_by_role("button", name="Put it on").click()
        cell.get_by_role("group", name="Damage on those leaves now").get_by_role(
            "button", name="1,"
        ).click()
        cell.get_by_role("button", name="It is on, from now").click()
        expect(cell).to_contain_text("next look after 24 hours")
        self.assert_accessible(page)
        cell.get_by_role("button", name="take it back").click()
        expect(cell.get_by_role("button", name="Put it on")).to_be_visible()


class NextRound(BrowserCase):
    def test_the_next_round_is_moved_by_the_egg_cycle_with_a_look_behind_it(self) -> None:
        server = self.serve("--demo")
        page = self.page()
        page.goto(f"{server.address}/trial/3/rounds")
        expect(page.get_by_text("go on with the next round").first).to_be_visible()
        page.get_by_text("What each rhythm would do").click()
        twice = page.get_by_role("row", name="Twice a week")
        twice.get_by_role("button", name="Choose").click()
        expect(twice).to_contain_text("chosen")
        cycle = page.get_by_role("row", name="By the egg cycle")
        cycle.get_by_role("button", name="Choose").click()
        expect(cycle).to_contain_text("chosen")
        page.get_by_role("button", name="Move round 2 to").click()
        expect(page.get_by_text("Round 2 was moved from day 5")).to_be_visible()
        self.assert_accessible(page)
        after = server.get("/api/trials/3")
        self.assertGreater(after["rounds"][1]["day"], 5)
        self.assertGreater(after["looks"][-1]["day"], after["rounds"][1]["day"])


class Yard(BrowserCase):
    def test_the_weather_is_entered_by_hand_on_a_fresh_yard(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/yard")
        expect(page.get_by_text("Nothing is known of today")).to_be_visible()
        page.get_by_label("Coolest (°C)").fill("21")
        page.get_by_label("Warmest (°C)").fill("12")
        page.get_by_label("Wind (km/h)").fill("4")
        page.get_by_role("button", name="Keep the day").click()
        expect(page.get_by_role("alert")).to_contain_text("lies above the warmest")
        page.get_by_label("Coolest (°C)").fill("8")
        page.get_by_role("button", name="Keep the day").click()
        expect(page.get_by_text("entered by hand", exact=False)).to_be_visible()
        page.get_by_label("Latitude").fill("95")
        page.get_by_role("button", name="Keep the yard").click()
        expect(page.get_by_role("alert")).to_contain_text("not on the globe")
        self.assert_accessible(page)
        feed = page.request.get(f"{server.address}/api/calendar.ics")
        self.assertIn("text/calendar", feed.headers["content-type"])


if __name__ == "__main__":
    unittest.main()
