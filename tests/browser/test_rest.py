"""From a verdict to the rest of the garden: planned, followed on Today and the phone, ended."""

from __future__ import annotations

import unittest

from playwright.sync_api import Page, expect

from tests.browser.support import demo_server, settle
from tests.browser.test_whole_job import BrowserCase

READ_ALREADY = 5  # the trial of the demo whose verdict is on record


class TheRest(BrowserCase):
    def test_planned_at_the_verdict_counted_on_a_phone_and_over_by_its_rule(self) -> None:
        server = self.enterContext(demo_server())
        page = self.page()
        page.goto(f"{server.address}/trial/{READ_ALREADY}/verdict")
        page.get_by_role("button", name="Plan it for the rest").click()
        page.get_by_label("How many plants").fill("60")
        page.get_by_label("Where they stand").fill("the bed by the wall")
        expect(page.get_by_text("one bottle of 5 litres")).to_be_visible()
        self.assert_accessible(page)
        page.get_by_role("button", name="Begin", exact=True).click()
        expect(page.get_by_role("heading", name="the bed by the wall")).to_be_visible()
        self.assert_accessible(page)
        self.count(page, "30 25 41 12,5 33")
        expect(page.get_by_text("28.3 a plant on 5 plants")).to_be_visible()

        page.goto(server.address)
        settle(page)
        row = page.get_by_role("link", name="Treat the rest")
        expect(row).to_contain_text("60 plants")
        row.click()
        phone = self.page(small=True)
        phone.goto(page.url)
        phone.get_by_role("button", name="I have read the cautions").click()
        phone.get_by_role("button", name="I looked: no bees").click()
        reason = phone.get_by_label("Why you go on")  # by night, or when the sun is on them
        if reason.count():
            reason.fill("a test")
        phone.get_by_role("button", name="They are treated").click()
        self.count(phone, "1 0 2 0 1")
        expect(phone.get_by_text("97% fewer")).to_be_visible()
        self.assert_accessible(phone)
        self.count(phone, "9 8 10 7 12")  # the same day: the later number holds
        expect(phone.get_by_text("67% fewer")).to_be_visible()
        phone.get_by_role("button", name="Take the last back").click()
        expect(phone.get_by_text("97% fewer")).to_be_visible()
        expect(phone.get_by_text("eggs and survivors show by then")).to_be_visible()
        phone.get_by_role("button", name="End it").click()
        expect(phone.get_by_text("You ended it")).to_be_visible()
        page.goto(server.address)
        settle(page)
        expect(page.get_by_text("of the rest")).to_have_count(0)

    def count(self, page: Page, numbers: str) -> None:
        """Keep what was counted on a few plants."""
        page.get_by_label("Numbers counted").fill(numbers)
        page.get_by_role("button", name="Keep the count").click()
        settle(page)


if __name__ == "__main__":
    unittest.main()
