"""The garden's year in a browser: from Today to the journal, the band, and a fair trial."""

from __future__ import annotations

import unittest

from playwright.sync_api import expect

from tests.browser.support import demo_server, settle
from tests.browser.test_whole_job import BrowserCase


class Year(BrowserCase):
    def test_a_look_that_was_due_is_written_on_a_phone_and_taken_back(self) -> None:
        server = self.enterContext(demo_server())
        phone = self.page(small=True)
        phone.goto(server.address)
        settle(phone)
        phone.get_by_role("link", name="Look for thrips at the stairs").click()
        expect(phone.get_by_label("Where", exact=True)).to_have_value("the stairs")
        phone.get_by_role("button", name="Write it down").click()
        expect(phone.get_by_text("Say none, few, some or many")).to_be_visible()
        phone.get_by_role("button", name="Few", exact=True).click()
        phone.get_by_label("A note").fill("on the youngest leaves")
        phone.get_by_role("button", name="Write it down").click()
        expect(phone.get_by_text("Written down.")).to_be_visible()
        expect(phone.get_by_text("on the youngest leaves")).to_be_visible()
        self.assert_accessible(phone)
        phone.goto(server.address)
        settle(phone)
        expect(phone.get_by_role("link", name="Look for thrips")).to_have_count(0)  # it is here

        page = self.page()
        page.goto(f"{server.address}/year")
        settle(page)
        self.assert_accessible(page)
        page.get_by_role("button", name="Take back: Thrips: few").click()
        expect(page.get_by_text("Thrips. It is expected")).to_be_visible()
        page.get_by_text("The same as a table").click()
        expect(page.get_by_role("region", name="First seen by year")).to_contain_text("degree-days")
        page.get_by_role("link", name="the rail", exact=True).click()
        expect(page.get_by_role("heading", name="the rail,")).to_be_visible()
        page.get_by_role("link", name="Try them side by side on aphids").click()
        expect(page.get_by_role("button", name="Leave out Garlic water")).to_be_visible()
        expect(
            page.get_by_role("button", name="Leave out A jet of water each morning")
        ).to_be_visible()
        self.assert_accessible(page)


if __name__ == "__main__":
    unittest.main()
