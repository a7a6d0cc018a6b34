"""Edges of the browser: two windows, Back, reload, paper, every width and theme."""

from __future__ import annotations

import re
import unittest
import urllib.error
import urllib.request
from datetime import date, timedelta

from playwright.sync_api import expect

from tests.browser.shots import ALSO, DESK, PHONE
from tests.browser.support import settle, treated
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import send, small_trial, start_round, unfold


class Windows(BrowserCase):
    def test_two_windows_on_one_question(self) -> None:
        server = self.fresh()
        trial = small_trial(server)
        pages = [self.page(), self.page()]
        for page in pages:
            page.goto(f"{server.address}/trial/{trial['id']}/question")
            expect(page.get_by_label("Name of the trial")).to_have_value("Balcony")
        for page, name in zip(pages, ("First", "Second"), strict=True):
            page.get_by_label("Name of the trial").fill(name)
            page.get_by_role("button", name="Keep the question").click()
        expect(pages[0].get_by_text("Kept.")).to_be_visible()
        expect(pages[1].get_by_text("changed in another window")).to_be_visible()
        expect(pages[1].get_by_label("Name of the trial")).to_have_value("Second")
        self.assertEqual(server.get(f"/api/trials/{trial['id']}")["name"], "First")
        pages[1].get_by_role("button", name="Keep mine").click()
        pages[1].get_by_role("button", name="Keep the question").click()
        expect(pages[1].get_by_text("Kept.")).to_be_visible()
        self.assertEqual(server.get(f"/api/trials/{trial['id']}")["name"], "Second")

    def test_back_between_two_trials_and_from_a_new_one(self) -> None:
        server = self.fresh()
        one, two = (small_trial(server, name=name)["id"] for name in ("One", "Two"))
        page = self.page()
        page.goto(f"{server.address}/trial/{one}/plants")
        expect(page.get_by_role("heading", name="One")).to_be_visible()
        self.assertIn("One: Plants", page.title())
        page.keyboard.press("t")
        page.get_by_role("link", name=re.compile("^Two")).click()
        expect(page.get_by_role("heading", name="Two")).to_be_visible()
        page.go_back()
        page.go_back()
        expect(page.get_by_role("heading", name="One")).to_be_visible()
        self.assertNotEqual(one, two)
        page.goto(f"{server.address}/new?pest=spider_mites")
        unfold(page)
        expect(page.get_by_label("Count again on days")).to_have_value("3, 7, 12")
        page.get_by_label("Name of the trial").fill("Three")
        page.get_by_role("group", name="Remedy 1").get_by_label("Name").fill("Soap")
        page.get_by_label("First spray").fill("2027-03-04")
        page.get_by_label("Spray on days").fill("0,5, 7")
        page.get_by_role("button", name="Next: the plants").click()
        expect(page.get_by_role("alert")).to_contain_text("not whole days")
        page.get_by_label("Spray on days").fill("0; 5; 7")
        page.get_by_role("button", name="Next: the plants").dblclick()
        expect(page.get_by_role("heading", name="Lay out the bench")).to_be_visible()
        page.go_back()
        expect(page.get_by_label("Name of the trial")).to_have_value("Three")
        found = [t["name"] for t in server.get("/api/today")["trials"]]
        self.assertEqual(sorted(found), ["One", "Three", "Two"])  # a double click made one
        self.assertEqual(server.get("/api/trials/3")["start_on"], "2027-03-04")
        page.goto(f"{server.address}/new")
        unfold(page)
        page.get_by_label("Name of the trial").fill("A draft")
        page.get_by_role("button", name="Start afresh").click()
        expect(page.get_by_label("Name of the trial")).to_have_value("")

    def test_find_out_outlives_a_reload(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/look")
        page.get_by_role("button", name="Sticky shiny leaves").click()
        page.get_by_role("button", name=re.compile("^Aphids")).click()
        page.get_by_label("Of these affected").fill("3")
        page.reload()
        expect(page.get_by_label("Of these affected")).to_have_value("3")
        expect(page.get_by_role("button", name="Sticky shiny leaves")).to_have_attribute(
            "aria-pressed", "true"
        )
        page.get_by_role("button", name="Start afresh").click()
        expect(page.get_by_text("Tick a sign")).to_be_visible()

    def test_a_column_of_counts_is_pasted_down_the_column(self) -> None:
        server = self.fresh()
        trial = small_trial(server)
        page = self.page()
        page.goto(f"{server.address}/trial/{trial['id']}/plants")
        first = page.get_by_label("Match count of S1", exact=True)
        first.focus()
        page.evaluate(
            "text => { const data = new DataTransfer(); data.setData('text', text);"
            " document.activeElement.dispatchEvent(new ClipboardEvent('paste',"
            " {clipboardData: data, bubbles: true, cancelable: true})); }",
            "11\r\n12\r\n13,5\r\n14\n15\n16\n17",
        )
        expect(page.get_by_text("1 more numbers were pasted")).to_be_visible()
        expect(page.get_by_role("alert")).to_contain_text("fraction of an insect")
        settle(page)
        for _ in range(50):  # they are saved one after the other
            bench = server.get(f"/api/trials/{trial['id']}")["plants"]
            counts = [plant["match_count"] for plant in bench]
            if counts[-1] is not None:
                break
            page.wait_for_timeout(200)
        self.assertEqual(counts, [11, 12, None, 14, 15, 16])

    def test_a_trial_is_put_away_and_brought_back(self) -> None:
        server = self.fresh()
        trial = small_trial(server)
        page = self.page()
        page.goto(f"{server.address}/trial/{trial['id']}/question")
        page.get_by_role("button", name="Put this trial away").click()
        page.get_by_role("button", name="Put it away").click()
        page.get_by_text("Put away (1)").click()
        page.get_by_role("button", name="Bring it back").click()
        expect(page.get_by_role("link", name=re.compile("^Balcony"))).to_be_visible()

    def test_limits_that_are_no_numbers_are_named_as_they_were_typed(self) -> None:
        server = self.serve("--demo")
        page = self.page()
        page.goto(f"{server.address}/trial/3/rounds")
        page.get_by_text("How this bench is cared for").click()
        page.get_by_label("Not above (°C)").fill("warm")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("“warm” is not a number")
        page.get_by_label("Not above (°C)").fill("26,5")
        page.get_by_label("Degree-days of").first.fill("-1")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_text("Give 1 to 5000 degree-days")).to_be_visible()
        with self.assertRaises(urllib.error.HTTPError):
            bad = server.get("/api/trials/3")["care"]
            stage = {"name": "eggs", "part": "egg", "k": -1, "t0": 9}
            send(server, "PUT", "/api/trials/3/care", {**bad, "stages": [stage]})


class Paper(BrowserCase):
    def test_a_trial_on_paper_is_entered_in_one_evening(self) -> None:
        """Sprayed four days ago, counted before it and the day before yesterday."""
        server = self.fresh()
        trial = small_trial(server, look_days=[3])
        day = (date.today() - timedelta(days=4)).isoformat()
        page = self.page()
        page.goto(f"{server.address}/trial/{trial['id']}/mix")
        page.get_by_role("button", name="A helper mixes").click()
        page.get_by_role("button", name="It is mixed: keep the batch").click()
        expect(page.get_by_text("use by")).to_be_visible()
        page.goto(f"{server.address}/trial/{trial['id']}/round/1")
        settle(page)  # what is still loading would move it from under the press
        page.get_by_text("It was done already").click()
        page.get_by_label("Done on").fill(day)
        start_round(page)
        for k in range(6):
            page.keyboard.press("Enter")
            expect(page.get_by_role("status").first).to_have_text(f"{k + 1} of 6")
        soaped = {p["id"] for p in treated(server, trial)}
        for look, values in ((0, (20, 20)), (1, (1, 22))):
            page.goto(f"{server.address}/trial/{trial['id']}/look/{look}")
            if look == 0:
                expect(page.get_by_role("heading", name="Which day was it?")).to_be_visible()
                page.get_by_role("button", name="On its day").click()
            expect(page.locator("output")).to_be_visible()
            for k, plant in enumerate(trial["walk"]):
                page.keyboard.type(str(values[plant not in soaped] + k % 2))
                page.keyboard.press("Enter")
            expect(page.get_by_text("All 6 plants are counted")).to_be_visible()
            expect(page.get_by_text("✓ all kept")).to_be_visible()
        page.goto(f"{server.address}/trial/{trial['id']}/verdict")
        expect(page.get_by_text("entered only after the first spray")).to_be_visible()
        expect(page.get_by_text("Round 1 was done on")).to_be_visible()
        self.assertTrue(server.get(f"/api/trials/{trial['id']}/verdict")["final"])
        self.assertEqual(server.get(f"/api/trials/{trial['id']}")["sprayed_on"], day)


class EveryPage(BrowserCase):
    def test_headings_titles_and_widths(self) -> None:
        server = self.serve("--demo")
        page = self.page()
        titles: dict[str, str] = {}
        for path in dict.fromkeys((*DESK.values(), *PHONE.values(), *ALSO)):
            page.goto(server.address + path)
            for width in (1280, 640, 320):
                page.set_viewport_size({"width": width, "height": 800})
                settle(page)
                wide = page.evaluate("document.documentElement.scrollWidth")
                self.assertLessEqual(wide, width, f"{path} at {width}")
            self.assertEqual(page.locator("h1").count(), 1, path)
            nested = page.locator("a a, a button, button a, button button").count()
            self.assertEqual(nested, 0, path)
            titles[path] = page.title()
        self.assertEqual(len(set(titles.values())), len(titles), titles)

    def test_the_system_s_dark_is_the_first_theme(self) -> None:
        server = self.fresh()
        context = self.browser.new_context(color_scheme="dark")
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(server.address)
        theme = "document.documentElement.dataset.theme"
        self.assertEqual(page.evaluate(theme), "evening")
        page.keyboard.press("l")
        page.reload()
        self.assertEqual(page.evaluate(theme), "sun")  # chosen by hand, it stays

    def test_the_ring_around_a_field_is_seen(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/new")
        unfold(page)
        page.get_by_label("Name of the trial").focus()
        width = page.locator(".el-input__wrapper").first.evaluate(
            "e => getComputedStyle(e).outlineWidth"
        )
        self.assertEqual(width, "3px")


if __name__ == "__main__":
    unittest.main()
