"""From an empty garden to a drawn plan: by thumb and by keys, with 14 plants, in few acts."""

from __future__ import annotations

import re
import unittest

from playwright.sync_api import Page, expect

from tests.browser.support import phone, settle
from tests.browser.test_whole_job import BrowserCase

MOST_ACTS = 25


class OneSentence(BrowserCase):
    def test_by_thumb(self) -> None:
        """Each tap and each filled gap is an act; the plants' own counts are fourteen of them."""
        server = self.fresh()
        context = phone(self.browser)
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(server.address)
        acts = 0
        page.get_by_role("link", name="Plan a trial").tap()
        page.get_by_label("How many plants").fill("14")
        page.get_by_label("What they are").fill("lupins")
        page.get_by_label("Pest or disease").first.tap()
        page.get_by_role("option", name="Aphids").tap()
        acts += 5
        expect(page.get_by_role("button", name="Leave out Mild soap")).to_be_visible()
        for k in range(14):
            page.get_by_label(f"Count of L{k + 1}", exact=True).fill(str(30 + (k * 7) % 11))
        acts += 14
        self.assert_accessible(page)
        page.get_by_role("button", name="Let the lot draw").tap()
        acts += 1
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        self.assertLessEqual(acts, MOST_ACTS)
        plants = server.get("/api/trials/1")["plants"]
        self.assertEqual(sorted({p["row"] for p in plants}), [1, 2])
        self.assertEqual(server.get("/api/trials/1")["care"]["ml_per_plant"], 40)
        self.assertEqual({p["match_count"] for p in plants}, set(range(30, 41)))

    def test_eight_leaves_of_one_plant(self) -> None:
        """What few plants allow is another beginning of the sentence, and drawn at once, too."""
        server = self.fresh()
        page = self.page(small=True)
        page.goto(f"{server.address}/new?pest=aphids")
        page.get_by_label("How many plants").fill("3")
        page.get_by_label("In how many rows").fill("1")
        page.get_by_role("button", name=re.compile("Take it.*on 2 leaves of each")).click()
        page.get_by_label("How many plants").fill("1")
        page.get_by_label("Leaves on each").fill("8")
        expect(
            page.get_by_text("4 leaves for each. The answer is of this one plant")
        ).to_be_visible()
        self.assert_accessible(page)
        page.get_by_role("button", name="Let the lot draw").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        expect(page.get_by_text("Tie a thread to each leaf's stalk")).to_be_visible()
        trial = server.get("/api/trials/1")
        self.assertEqual({p["host"] for p in trial["plants"]}, {"plant 1"})
        self.assertEqual(sorted(p["block"] for p in trial["plants"]), [1, 1, 2, 2, 3, 3, 4, 4])

    def test_an_empty_garden_opens_a_demo_garden_beside_it(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(server.address)
        look_round = page.get_by_role("button", name="Look round a demo garden")
        expect(look_round).to_be_visible()
        self.assert_accessible(page)
        with page.context.expect_page() as opened:
            look_round.click()
        demo = opened.value
        expect(demo.get_by_text("Strawberries in the gutters").first).to_be_visible()
        self.assertEqual(server.get("/api/today")["trials"], [])  # nothing of it came in here

    def test_by_keys(self) -> None:
        """The sentence is gone through with Enter, and sent from anywhere in it."""
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/new")
        page.get_by_label("How many plants").focus()
        for text in ("14", "lupins", "2"):
            page.keyboard.press("Control+a")
            page.keyboard.type(text)
            page.keyboard.press("Enter")
        page.keyboard.type("aphids")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Leave out Mild soap")).to_be_visible()
        page.keyboard.press("Control+Enter")
        self.assertLessEqual(6 + self.count_and_draw(page), MOST_ACTS)
        self.assertEqual(len(server.get("/api/trials/1")["plants"]), 14)

    def count_and_draw(self, page: Page) -> int:
        """Type the counts down the column and draw; return the acts."""
        page.get_by_label("Match count of L1", exact=True).click()
        for k in range(14):
            page.keyboard.type(str(30 + (k * 7) % 11))
            page.keyboard.press("Enter")
        settle(page)
        page.get_by_role("link", name="Next: the layout").click()
        page.get_by_role("button", name="Draw at random").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        return 14 + 2


if __name__ == "__main__":
    unittest.main()
