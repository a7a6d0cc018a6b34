"""A trial of last month, on paper: twenty plants and three looks entered in one sitting."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from playwright.sync_api import expect

from tests.browser.support import settle
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import TRIAL, send


class OnPaper(BrowserCase):
    def test_pasted_and_typed_it_becomes_a_verdict(self) -> None:
        server = self.fresh()
        first = date.today() - timedelta(days=40)
        body = {**TRIAL, "start_on": first.isoformat(), "setup": {"beside": ["damage"]}}
        trial = send(server, "POST", "/api/trials", body)["id"]
        page = self.page()
        page.goto(f"{server.address}/trial/{trial}/plants")
        page.get_by_role("link", name="Enter it as a table").click()
        settle(page)
        self.assert_accessible(page)
        lines = ["Pot\tbench\tTreatment\tlive before\tdamage before\tlive day 3"]
        for k in range(20):
            soap = k % 2
            after = 3 + k % 4 if soap else 40 + k
            lines.append(
                f"P{k + 1}\t{k // 2 + 1}\t{'Soap' if soap else 'Water'}\t{38 + k}\t0\t{after}"
            )
        page.locator("#cell-0-0").focus()
        page.evaluate(
            "(text) => { const data = new DataTransfer(); data.setData('text/plain', text);"
            " document.activeElement.dispatchEvent(new ClipboardEvent('paste',"
            " { clipboardData: data, bubbles: true, cancelable: true })); }",
            "\n".join(lines),
        )
        expect(page.get_by_text("20 lines pasted")).to_be_visible()
        # The last look is typed down its column, then a slip is made and mended.
        page.locator("#cell-0-7").focus()
        for k in range(20):
            page.keyboard.type("o" if k == 4 else str(2 + k % 3 if k % 2 else 50 + k))
            page.keyboard.press("Enter")
        page.reload()
        settle(page)
        page.get_by_role("button", name="Keep 20 plants").click()
        expect(page.get_by_text("line 5, Live pests, day 7: “o” is not a number")).to_be_visible()
        page.locator("#cell-4-7").fill("54")
        page.get_by_role("button", name="Keep 20 plants").click()
        page.wait_for_url("**/rounds")
        found = send(server, "GET", f"/api/trials/{trial}")
        self.assertEqual(found["sprayed_on"], first.isoformat())
        verdict = send(server, "GET", f"/api/trials/{trial}/verdict")
        self.assertEqual(verdict["verdict"]["outcome"], "winner")
        self.assertEqual([look["counted"] for look in found["looks"]], [20, 20, 20])


if __name__ == "__main__":
    unittest.main()
