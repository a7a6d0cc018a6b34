"""Trials as people have them, each from an empty garden to a verdict on counts of a known truth."""

from __future__ import annotations

import re
import unittest
from collections.abc import Callable, Mapping
from datetime import date, timedelta
from typing import Any

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.support import Server, choose, choose_from_open, settle
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import send

BEGUN = date.today() - timedelta(days=40)
KEPT = 0.1  # of what untreated plants have


class Situations(BrowserCase):
    """The counts come as from paper, of the very plants that the lot gave each remedy."""

    def told(
        self,
        server: Server,
        left: Mapping[str, float],
        beside: Mapping[str, float] | None = None,
        picked: str = "",
    ) -> str:
        """Count what each remedy has left of 40 (or 24 eggs), and read the verdict in its page.

        Of `picked` half as much is picked as of the others.
        """
        send(server, "POST", "/api/trials/1/key")
        trial = server.get("/api/trials/1")
        measure, shares = trial["measure"]["key"], trial["measure"]["key"] == "hatched"
        rng = np.random.default_rng(7)
        names = {r["letter"]: r["name"] for r in trial["remedies"]}
        control = next(r["name"] for r in trial["remedies"] if r["role"] == "control")
        counts: list[dict[str, Any]] = []
        for plant in trial["plants"]:
            for look in trial["looks"]:
                if shares and not look["number"]:
                    continue
                at = {"plant": plant["name"], "look": look["number"]}
                if picked and look["number"]:
                    grams = 60 * rng.gamma(40, 1 / 40) / (1 + (names[plant["letter"]] == picked))
                    counts.append({**at, "measure": "picked", "value": round(grams, 1)})
                for key, course in ((measure, left), ("other", beside)):
                    if course is None:
                        continue
                    share = course.get(names[plant["letter"]], 1.0) if look["number"] else 1.0
                    drawn = rng.binomial(24, 0.8 * share) if shares else rng.poisson(40 * share)
                    one = {**at, "measure": key, "of": 24 if shares else None}
                    counts.append({**one, "value": int(drawn)})
        days = {
            kind: [
                {"number": x["number"], "on": (BEGUN + timedelta(days=x["day"])).isoformat()}
                for x in trial[kind]
            ]
            for kind in ("rounds", "looks")
        }
        send(server, "POST", "/api/trials/1/paper", {**days, "counts": counts})
        page = self.pages[server]
        page.goto(f"{server.address}/trial/1/verdict")
        settle(page)
        found = server.get("/api/trials/1/verdict")
        self.assertTrue(found["final"])
        for result in found["verdict"]["remedies"]:
            if result["name"] != control:
                self.assertLess(result["efficacy_low"], 1 - left[result["name"]] + 0.06)
                self.assertGreater(result["efficacy_high"], 1 - left[result["name"]] - 0.06)
        sentence = str(found["verdict"]["sentence"])
        expect(page.get_by_text(sentence[:40]).first).to_be_visible()
        return sentence + " " + " ".join(found["answers"])

    def planned(
        self,
        pest: str,
        crop: str,
        plants: int,
        more: Callable[[Page], None] = lambda _: None,
        begin: str = "compare",
    ) -> Server:
        """Say the sentence in the browser, and let the lot draw."""
        server = self.fresh()
        page = self.page()
        self.pages = {server: page}
        page.goto(f"{server.address}/new?pest={pest}")
        settle(page)
        page.get_by_label("What you want to know").select_option(begin)
        page.get_by_label("How many plants").fill(str(plants))
        page.get_by_label("What they are").fill(crop)
        page.get_by_label("First spray").fill(BEGUN.isoformat())
        expect(page.locator(".chip").first).to_be_visible()
        more(page)
        expect(page.locator(".glance .chance").first).to_be_visible()
        page.get_by_role("button", name="Let the lot draw").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        return server

    def test_one_plant_with_eight_leaves(self) -> None:
        server = self.planned(
            "aphids", "strawberry", 1, lambda p: p.get_by_label("Leaves on each").fill("8"), "few"
        )
        expect(self.pages[server].get_by_text("Tie a thread to each leaf")).to_be_visible()
        self.assertIn("this one plant alone", self.told(server, {"Mild soap": KEPT}))

    def test_three_pots_are_offered_halves(self) -> None:
        def halves(page: Page) -> None:
            page.get_by_label("In how many rows").fill("1")
            page.get_by_role("button", name=re.compile("Take it.*halves")).click()

        server = self.planned("aphids", "basil", 3, halves)
        self.assertIn("Mild soap works", self.told(server, {"Mild soap": 0.05}))

    def test_nobody_is_left_untreated(self) -> None:
        server = self.planned("aphids", "lupins", 12, begin="usual")
        usual, other = (r["name"] for r in server.get("/api/trials/1")["remedies"])
        self.assertIn(f"{other} does better than {usual}", self.told(server, {other: KEPT}))

    def test_gnats_in_trays_whose_control_is_poured_too(self) -> None:
        server = self.planned("fungus_gnats", "herbs", 12)
        control, other = server.get("/api/trials/1")["remedies"]
        self.assertEqual((control["traits"]["way"], other["traits"]["way"]), ("drench", "drench"))
        self.assertIn("150 ml for a pot", control["recipe"])
        expect(self.pages[server].get_by_text("move about the whole bench")).to_be_visible()
        self.assertIn(f"{other['name']} works", self.told(server, {other["name"]: KEPT}))

    def test_a_drench_beside_cards_and_what_it_costs_in_herbs_picked(self) -> None:
        def more(page: Page) -> None:
            page.get_by_role("button", name="Choose remedies").click()
            page.locator("button.remedy").filter(has_text="Yellow sticky cards").click()
            page.get_by_role("button", name="Count what lives on the plants").click()
            page.locator(".sentence button").filter(has_text="live pests").click()
            page.get_by_text("What is picked, weighed").click()
            expect(page.locator(".sentence")).to_contain_text("some: handled alike")

        server = self.planned("fungus_gnats", "herbs", 18, more)
        control, drench, _ = server.get("/api/trials/1")["remedies"]
        for words in ("150 ml for a pot", "made to catch nothing"):
            self.assertIn(words, control["recipe"])
        left = {drench["name"]: KEPT, "Yellow sticky cards": 1.0}
        self.assertIn(f"{drench['name']} works", self.told(server, left, picked=drench["name"]))
        page = self.pages[server]
        expect(page.get_by_text("· shown").first).to_be_visible()
        expect(
            page.get_by_text(f"less weight picked on plants of {drench['name']}")
        ).to_be_visible()

    def test_two_pests_on_the_same_plants(self) -> None:
        def also(page: Page) -> None:
            page.locator(".more").first.click()
            choose(page, "A second pest on the same plants", "Whiteflies")

        server = self.planned("aphids", "fuchsia", 12, also)
        said = self.told(server, {"Mild soap": KEPT}, {"Mild soap": 1.0})
        self.assertIn("against whiteflies nothing here is shown to work", said)

    def test_indoors_by_lamplight_with_the_rooms_air(self) -> None:
        server = self.planned("spider_mites", "ficus", 12)
        page = self.pages[server]
        page.goto(f"{server.address}/trial/1/rounds")
        page.get_by_text("How this bench is cared for").click()
        page.get_by_text("in a room").click()
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_text("only the lamp counts")).to_be_visible()
        page.goto(f"{server.address}/year")
        page.get_by_role("button", name="Room air").click()
        page.get_by_label("Where").fill("the study")
        page.get_by_label("Humidity, %").fill("38")
        page.get_by_role("button", name="Write it down").click()
        expect(page.get_by_text("Room air: 38% humidity").first).to_be_visible()
        self.assertIn("Mild soap works", self.told(server, {"Mild soap": KEPT}))

    def test_herbs_that_are_picked_all_the_time(self) -> None:
        server = self.planned(
            "aphids", "basil", 12, lambda p: p.get_by_text("I pick of them all the time").click()
        )
        self.assertIn("Mild soap works", self.told(server, {"Mild soap": KEPT}))
        expect(self.pages[server].get_by_text("is eaten before").first).to_be_visible()

    def test_remedies_tried_in_turn_become_a_plan(self) -> None:
        server = self.fresh()
        page = self.page()
        self.pages = {server: page}
        page.goto(f"{server.address}/year")
        for what in ("garlic water", "soap"):
            page.get_by_role("button", name="I treated").click()
            page.get_by_label("Where").fill("rose by the gate")
            choose(page, "Pest or disease", "Aphids")
            page.get_by_label("With what").fill(what)
            page.get_by_role("button", name="Write it down").click()
            expect(page.get_by_text(f"treated with {what}").first).to_be_visible()
        expect(page.get_by_text("What this cannot show")).to_be_visible()
        page.get_by_role("link", name=re.compile("side by side")).click()
        page.get_by_label("What they are").fill("roses")
        page.get_by_label("First spray").fill(BEGUN.isoformat())
        expect(page.locator(".chip")).to_have_count(2)
        expect(page.locator(".glance .chance").first).to_be_visible()
        page.get_by_role("button", name="Let the lot draw").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        self.assertIn("soap works best", self.told(server, {"garlic water": 0.6, "soap": KEPT}))

    def test_eggs_in_jars(self) -> None:
        server = self.fresh()
        page = self.page()
        self.pages = {server: page}
        page.goto(f"{server.address}/new?pest=true_bugs")
        page.get_by_label("What you want to know").select_option("eggs")
        page.get_by_label("First spray").fill(BEGUN.isoformat())
        page.get_by_role("button", name="More of the plants").click()
        page.locator("[data-part=plants] .el-select").first.click()
        choose_from_open(page, "Jars, eggs taken off")
        page.get_by_role("button", name="Choose remedies").click()
        for drop in page.get_by_role("button", name=re.compile("^Leave out")).all():
            drop.click()
        page.locator("button.remedy").filter(has_text="Eggs in soapy water").click()
        expect(page.get_by_label("Compared with").locator("option:checked")).to_have_text(
            "some: dry in a jar"
        )
        page.get_by_role("button", name="Next: the plants").click()
        page.get_by_label("Plants in a row").fill("8")
        page.get_by_label("Rows").fill("1")
        page.get_by_role("button", name="Add the plants").click()
        expect(page.get_by_text("8 jars").first).to_be_visible()
        send(server, "POST", "/api/trials/1/layout", {})
        said = self.told(server, {"Eggs in soapy water": KEPT})
        self.assertIn("Eggs in soapy water works", said)


if __name__ == "__main__":
    unittest.main()
