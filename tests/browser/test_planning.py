"""A new user plans a trial: find out, ask, match, review, simulate, draw, move, print."""

from __future__ import annotations

import time
import unittest

from playwright.sync_api import Page, expect

from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import add_counted_plants, unfold


class FirstPlan(BrowserCase):
    def test_from_a_sign_to_a_printed_plan_in_minutes(self) -> None:
        server = self.fresh()
        page = self.page()
        start = time.monotonic()
        page.goto(server.address)
        page.get_by_role("link", name="Find out what it is").click()
        self.find_out(page)
        self.ask(page)
        self.plants(page)
        page.get_by_role("link", name="Next: the layout").click()
        expect(page.get_by_text("The verdict will say at which strength")).to_be_visible()
        self.review(page)
        self.simulate(page)
        page.get_by_role("button", name="Draw at random").click()
        expect(page.get_by_role("heading", name="To print")).to_be_visible()
        self.assertLess(time.monotonic() - start, 300)
        self.assert_accessible(page)
        self.move(page)
        letter = page.get_by_role("listitem").filter(has_text="Letter")
        href = letter.get_by_role("link", name="Tags, page 1").get_attribute("href") or ""
        self.assertEqual(page.request.get(server.address + href).status, 200)
        trial = server.get("/api/trials/1")
        plant = trial["plants"][4]
        page.goto(f"{server.address}/p/1/{plant['id']}")
        expect(page.locator(".name > span").first).to_have_text(plant["name"])
        self.assertEqual(server.get("/api/inspections")[0]["action"], "trial")

    def find_out(self, page: Page) -> None:
        """Tick signs, take the first candidate, count, keep the look."""
        page.get_by_role("button", name="Soft pear-shaped insects").click()
        page.get_by_role("button", name="Sticky shiny leaves").click()
        page.get_by_role("button", name="Aphids To be sure").click()
        page.get_by_label("Of these affected").fill("seven")
        page.get_by_role("button", name="What to do?").click()
        expect(page.get_by_role("alert")).to_contain_text("not a number")
        page.get_by_label("Of these affected").fill("7")
        page.get_by_role("button", name="What to do?").click()
        expect(page.get_by_text("Worth a trial", exact=True)).to_be_visible()
        self.assert_accessible(page)
        page.get_by_role("button", name="Keep this look").click()
        expect(page.get_by_text("Kept.")).to_be_visible()
        page.get_by_role("button", name="Plan a trial").click()

    def ask(self, page: Page) -> None:
        """A ladder of soap strengths; what does not suit is shown with its reason."""
        unfold(page)
        page.get_by_label("Name of the trial").fill("Soap on the lupins")
        expect(page.get_by_text("aphids suck sap and never swallow it")).to_be_visible()
        page.get_by_role("button", name="How weak may it be?").click()
        page.locator("button.remedy").filter(has_text="Mild soap").first.click()
        expect(page.get_by_role("group", name="Remedy 3").get_by_label("Name")).to_have_value(
            "Mild soap 20 ml/L"
        )
        page.reload()
        expect(page.get_by_role("group", name="Remedy 3").get_by_label("Name")).to_have_value(
            "Mild soap 20 ml/L"
        )
        self.assert_accessible(page)
        page.get_by_role("button", name="Next: the plants").click()

    def plants(self, page: Page) -> None:
        """Twelve plants, one of them odd and set aside with one click."""
        add_counted_plants(page, "L", 3, [*(30 + (k * 7) % 11 for k in range(14)), 900])
        page.get_by_role("button", name="Set it aside").click()
        expect(page.get_by_text("14 plants take part")).to_be_visible()

    def review(self, page: Page) -> None:
        """Mend one finding by a click, overrule another with a reason."""
        page.get_by_label("Between plants in a row (cm)").fill("15")
        page.get_by_label("Between plants in a row (cm)").press("Tab")
        page.get_by_role("button", name="Hold a shield between pots").click()
        expect(page.get_by_text("Neighbours stand too close")).to_be_hidden()
        page.get_by_role("button", name="It does not matter here").first.click()
        page.get_by_role("button", name="Overrule it").click()
        expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("with a reason")
        page.get_by_label("Why it does not matter here").fill("No more plants here")
        page.get_by_role("button", name="Overrule it").click()
        expect(page.get_by_text("Overruled (1)")).to_be_visible()

    def simulate(self, page: Page) -> None:
        """The plan is simulated and answers in a sentence."""
        page.get_by_role("button", name="Simulate it").click()
        expect(page.get_by_text("With your 14 plants you")).to_be_visible()

    def move(self, page: Page) -> None:
        """Move a plant by keyboard and another by dragging; tags go along."""
        page.locator(".pot", has_text="L1").first.focus()
        page.keyboard.press("Alt+ArrowDown")
        shelves = page.locator(".shelf")
        expect(shelves.nth(1).locator(".pot").first).to_contain_text("L1")
        expect(shelves.nth(0).locator(".pot").first).to_contain_text("L6")
        shelves.nth(0).locator(".pot").nth(1).drag_to(shelves.nth(2).locator(".pot").nth(2))
        expect(shelves.nth(2).locator(".pot").nth(2)).to_contain_text("L2")
        page.reload()
        expect(page.locator(".shelf").nth(2).locator(".pot").nth(2)).to_contain_text("L2")

    def test_the_key_stays_sealed_until_opened(self) -> None:
        server = self.serve("--demo")
        page = self.page(small=True)
        page.goto(f"{server.address}/trial/3/round/2")
        expect(page.get_by_role("heading", name="Bottles")).to_be_visible()
        expect(page.get_by_text("Sunflower oil")).to_have_count(0)
        page.get_by_role("button", name="Open the key").tap()
        expect(page.get_by_text("Sunflower oil", exact=True)).to_be_visible()
        self.assertIsNotNone(server.get("/api/trials/3")["key_opened_at"])


class Mixing(BrowserCase):
    def test_a_recipe_as_said_becomes_a_bottle(self) -> None:
        server = self.serve("--demo")
        page = self.page(small=True)
        page.goto(f"{server.address}/mix")
        recipe = page.get_by_label("The recipe")
        recipe.fill("some soap")
        said = page.get_by_role("region", name="How it was read")
        expect(said).to_contain_text("how much of it?")
        recipe.fill("5 ml bleach and 5 ml soap in 1 litre")
        expect(page.get_by_role("alert")).to_contain_text("poisonous gas")
        recipe.fill("a teaspoon of soap in half a litre, 😀 and some vinegar")
        expect(said).to_contain_text("soap, 10 ml a litre")
        expect(said).to_contain_text("Settle “vinegar” first")
        self.assert_accessible(page)
        said.get_by_role("button", name="vinegar").tap()
        page.get_by_role("button", name="it is only a note").tap()
        expect(recipe).to_have_value("a teaspoon of soap in half a litre, 😀 and some [vinegar]")
        expect(page.get_by_role("heading", name="750 ml in a bottle of 1 litre")).to_be_visible()
        expect(page.get_by_text("soap: 7.5 ml with the 10 ml syringe")).to_be_visible()
        self.assert_accessible(page)


if __name__ == "__main__":
    unittest.main()
