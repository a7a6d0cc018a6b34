"""A trial played through from an empty garden: by thumb, by keys, over a reload, with its truth."""

from __future__ import annotations

import unittest

from playwright.sync_api import Locator, Page, expect

from tests.browser.support import phone, settle
from tests.browser.test_whole_job import BrowserCase

MOST_TAPS = 20


class Played(BrowserCase):
    def test_by_thumb_to_the_truth(self) -> None:
        server = self.fresh()
        context = phone(self.browser)
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(server.address)
        page.get_by_role("link", name="Play one first").tap()
        taps = 0
        while taps < MOST_TAPS and not self.is_open(page):
            self.due(page).get_by_role("button").first.tap()
            taps += 1
        expect(page.get_by_role("heading", name="The verdict")).to_be_visible()
        truth = page.get_by_role("region", name="The truth")
        for other in ("With 30 plants", "Without untreated plants", "Without the lot"):
            expect(truth.get_by_text(other)).to_be_visible()
        page.get_by_role("button", name="Why let the lot decide?").tap()
        expect(page.get_by_text("places drawn by lot in")).to_be_visible()
        self.assert_accessible(page)
        self.assertEqual(server.get("/api/today")["trials"], [])

    def test_by_keys_with_the_own_question_over_a_reload(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/new")
        page.get_by_label("How many plants").fill("14")
        page.get_by_label("What they are").fill("lupins")
        page.get_by_label("Pest or disease").first.click()
        page.keyboard.type("aphids")
        page.keyboard.press("Enter")
        page.get_by_role("link", name="Play it through").click()
        expect(page.get_by_text("14 lupins: does Mild soap")).to_be_visible()
        for says in ("Count 14 plants before", "Spray round 1", "Count 14 plants on day"):
            expect(self.due(page).get_by_text(says)).to_be_visible()
            expect(self.due(page)).to_have_attribute("aria-busy", "false")
            page.keyboard.press("Enter")
        told = self.due(page).get_by_role("status")
        expect(told).not_to_contain_text("Count 14 plants on day 2")
        before = told.inner_text()
        page.reload()
        settle(page)
        expect(told).to_have_text(before)
        self.assert_accessible(page)

    def due(self, page: Page) -> Locator:
        return page.get_by_role("region", name="What is due")

    def is_open(self, page: Page) -> bool:
        expect(self.due(page)).to_have_attribute("aria-busy", "false")
        return bool(page.get_by_role("region", name="The truth").count())


if __name__ == "__main__":
    unittest.main()
