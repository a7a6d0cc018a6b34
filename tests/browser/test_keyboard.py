"""Work by the keyboard alone: a plan, counts, eggs, and a count that is refused."""

from __future__ import annotations

import json

from playwright.sync_api import Page, Route, expect

from tests.browser.support import settle, tallies
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import small_trial


class ByKeyboard(BrowserCase):
    def press(self, page: Page, *keys: str) -> None:
        """Press keys one after the other."""
        for key in keys:
            page.keyboard.press(key)

    def tab_to(self, page: Page, name: str, most: int) -> None:
        """Tab until the focus is on what has this name, within so many stops."""
        for _ in range(most):
            page.keyboard.press("Tab")
            label = page.evaluate(
                "(() => { const e = document.activeElement; if (e === document.body) return '';"
                " return e.ariaLabel ||"
                " (e.labels && e.labels[0] ? e.labels[0].innerText : e.innerText) || ''; })()"
            )
            if name in label:
                return
        self.fail(f"{name} was not reached in {most} stops")

    def test_from_an_empty_garden_to_a_drawn_plan(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(server.address)
        settle(page)
        page.keyboard.press("n")
        expect(page.get_by_role("heading", name="A new trial")).to_be_visible()
        self.tab_to(page, "How many plants", 25)
        page.keyboard.press("Control+A")
        page.keyboard.type("8")
        self.tab_to(page, "What they are", 1)
        page.keyboard.type("lupins")
        self.tab_to(page, "Pest or disease", 3)
        page.keyboard.type("greenfly")
        expect(page.get_by_role("option", name="Aphids greenfly")).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.get_by_label("Count again on days")).to_have_value("2, 5, 9")
        expect(page.get_by_role("button", name="Leave out Mild soap")).to_be_visible()
        self.tab_to(page, "Choose remedies", 4)
        page.keyboard.press("Enter")
        self.tab_to(page, "contact", 20)  # the list is one stop; arrows go on in it
        self.press(page, "ArrowRight", "ArrowDown", "End", "Enter")
        expect(page.get_by_role("button", name="Leave out Water jet")).to_be_visible()
        page.keyboard.press("Control+Enter")
        expect(page.get_by_text("8 plants take part")).to_be_visible()
        self.tab_to(page, "Match count of L1", 60)
        for k in range(8):
            page.keyboard.type(str(20 + k))
            page.keyboard.press("Enter")
        expect(page.get_by_role("link", name="Next: the layout")).to_be_focused()
        page.keyboard.press("Enter")
        self.tab_to(page, "Draw at random", 25)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="What stands where")).to_be_focused()
        page.keyboard.press("x")
        expect(page.get_by_text("The first spray waits until")).to_be_visible()
        self.assertEqual(len(server.get("/api/trials/1")["layout_events"]), 1)

    def test_counting_by_keys_after_a_click(self) -> None:
        server = self.fresh()
        trial = small_trial(server)
        page = self.page()
        page.goto(f"{server.address}/trial/{trial['id']}/look/0")
        number = page.locator("output")
        page.get_by_role("button", name="One more", exact=True).click()
        page.keyboard.press("Enter")  # keeps 1, and adds no more
        expect(page.get_by_role("img", name="1 of 6 plants counted")).to_be_visible()
        page.keyboard.type("7")
        self.press(page, "d", "3")
        expect(page.get_by_text("moderate, 15–30%")).to_be_visible()
        expect(number).to_have_text("7")
        page.get_by_role("button", name="Damage 2, slight").click()
        page.keyboard.press("Enter")
        expect(page.get_by_role("img", name="2 of 6 plants counted")).to_be_visible()
        for _ in range(4):
            page.keyboard.type("33")
            page.keyboard.press("Enter")
        page.keyboard.type("33")  # on the last plant, after it was kept: it replaces
        expect(number).to_have_text("33")
        expect(page.get_by_text("✓ all kept")).to_be_visible()
        kept = {(t["plant_id"], t["measure"]): t["value"] for t in tallies(server, trial["id"])}
        walk = trial["walk"]
        self.assertEqual([kept[p, "live"] for p in walk], [1, 7, 33, 33, 33, 33])
        self.assertEqual(kept[walk[1], "damage"], 2)
        # Leaving at once after a tap: the page that follows shows it.
        page.keyboard.type("4")
        page.get_by_role("link", name="Back to rounds").click()
        expect(page.get_by_text("6 of 6 counted").first).to_be_visible()

    def test_eggs_are_kept_out_of_their_total(self) -> None:
        server = self.fresh()
        trial = small_trial(
            server, measure="hatched", setup={"kind": "eggs", "unit": "cluster"}, look_days=[1]
        )
        page = self.page(small=True)
        page.goto(f"{server.address}/trial/{trial['id']}/look/0")
        keep = page.locator(".keep")
        expect(keep).to_contain_text("Out of how many?")
        page.get_by_role("button", name="Type the number").tap()
        page.keyboard.type("25")
        page.keyboard.press("Enter")
        expect(keep).to_contain_text("Out of how many?")
        keep.tap()
        page.keyboard.type("340")
        page.keyboard.press("Enter")
        keep.tap()
        expect(page.get_by_role("img", name="1 of 6 plants counted")).to_be_visible()
        expect(page.get_by_text("✓ all kept")).to_be_visible()
        (kept,) = tallies(server, trial["id"])
        self.assertEqual((kept["value"], kept["of"]), (25, 340))

    def test_a_refused_count_stays_in_sight(self) -> None:
        server = self.fresh()
        trial = small_trial(server)
        page = self.page(small=True)
        told = json.dumps(
            {"error": {"code": "no", "message": "that cannot be", "field": None, "fix": "Ask."}}
        )

        def refuse(route: Route) -> None:
            route.fulfill(status=409, content_type="application/json", body=told)

        page.route("**/api/taps", refuse)
        page.goto(f"{server.address}/trial/{trial['id']}/look/0")
        page.get_by_role("button", name="Five more").tap()
        expect(page.get_by_text("One number is not kept by the program")).to_be_visible()
        expect(page.get_by_text("all kept")).to_have_count(0)
        page.reload()
        expect(page.get_by_text("that cannot be")).to_be_visible()
        self.assert_accessible(page)
        page.unroute("**/api/taps")
        page.get_by_role("button", name="Send it again").tap()
        expect(page.get_by_text("✓ all kept")).to_be_visible()
        self.assertEqual(tallies(server, trial["id"])[0]["value"], 5)
