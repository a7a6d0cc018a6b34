"""The whole job in a browser, from question to verdict, at a desk and on a phone."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, Page, Playwright, expect, sync_playwright

from tests.browser.shots import ALSO, DESK, PHONE, take_all
from tests.browser.support import ROOT, Server, choose, desk, launch, phone, settle, treated
from tests.browser.walks import mix_as_helper, start_round, unfold

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"


class BrowserCase(unittest.TestCase):
    """A browser, and pages whose console stays clean."""

    playwright: Playwright
    browser: Browser

    @classmethod
    def setUpClass(cls) -> None:
        cls.playwright = sync_playwright().start()
        cls.addClassCleanup(cls.playwright.stop)
        cls.browser = launch(cls.playwright)
        cls.addClassCleanup(cls.browser.close)

    def serve(self, *arguments: str) -> Server:
        """A server that ends with the test."""
        server = Server(*arguments)
        self.addCleanup(server.stop)
        return server

    def fresh(self) -> Server:
        """A server on empty data."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        return self.serve("--data", folder.name)

    def page(self, *, small: bool = False) -> Page:
        """A page on a desk's or a phone's screen; its faults fail the test."""
        context = (phone if small else desk)(self.browser)
        self.addCleanup(context.close)
        page = context.new_page()
        page.on("pageerror", lambda error: self.fail(f"the page threw {error}"))
        return page

    def assert_accessible(self, page: Page, *, names: bool = False, colours: bool = False) -> None:
        """No finding of the automatic accessibility checks (WCAG 2.2 A and AA, good practice).

        With `names` also that what is seen of a button is in its spoken name; with `colours` that
        all can be told from its ground, and nothing else.
        """
        page.evaluate(AXE.read_text("utf-8"))
        found: list[dict[str, Any]] = page.evaluate(
            "([names, colours]) => axe.run(colours ? {runOnly: ['color-contrast']} :"
            " {rules: {'label-content-name-mismatch': {enabled: names}}, runOnly:"
            " {type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa',"
            " 'best-practice']}}).then(result => result.violations)",
            [names, colours],
        )
        told = [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found]
        self.assertEqual(told, [], page.url)


class WholeJob(BrowserCase):
    def test_from_question_to_verdict(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(server.address)
        page.get_by_role("link", name="Plan a trial").click()
        self.ask(page)
        self.plants(page)
        page.get_by_role("link", name="Next: the layout").click()
        page.get_by_role("button", name="Draw at random").click()
        expect(page.get_by_text("What stands where")).to_be_visible()
        expect(page.get_by_role("heading", name="What stands where")).to_be_focused()
        expect(page.get_by_role("link", name="Next: patch test")).to_be_visible()
        page.keyboard.press("6")
        trial = server.get("/api/trials/1")
        soaped = {p["name"] for p in treated(server, trial)}
        page.get_by_role("link", name="Count before the first spray").click()
        self.count_by_keys(page, lambda name: 20)
        self.spray(page, server)
        small = self.page(small=True)
        small.goto(f"{server.address}/trial/1/look/1")
        # The look is planned for the day after tomorrow but one: the screen asks before it counts.
        expect(small.get_by_role("heading", name="Which day was it?")).to_be_visible()
        self.assert_accessible(small)
        small.get_by_role("button", name="Today").tap()
        self.count_by_taps(small, soaped)
        page.goto(f"{server.address}/trial/1/verdict")
        expect(page.get_by_text("is told when the key is open")).to_be_visible()
        self.assert_accessible(page)
        page.goto(f"{server.address}/trial/1/layout")
        page.get_by_role("button", name="Open the key").click()
        expect(page.get_by_role("button", name="Open the key")).to_have_count(0)
        page.goto(f"{server.address}/trial/1/verdict")
        expect(page.get_by_text("Soap works:")).to_be_visible()
        expect(page.get_by_text("Not settled: counted before its day")).to_be_visible()
        page.get_by_text("Would the answer change?").click()
        expect(page.get_by_text("By the classical formula (Henderson–Tilton)")).to_be_visible()
        page.get_by_text("The arithmetic").click()
        expect(page.get_by_role("columnheader", name="Henderson–Tilton")).to_be_visible()
        self.assert_accessible(page)
        verdict = server.get("/api/trials/1/verdict")
        self.assertEqual(verdict["verdict"]["recommended"], "Soap")

    def ask(self, page: Page) -> None:
        """Fill in the question, with a slip that is told beside its field and a reload between."""
        unfold(page)
        page.get_by_label("Name of the trial").fill("Gutters <i>left</i>")
        choose(page, "Pest or disease", "Spider mites")
        remedy = page.get_by_role("group", name="Remedy 1")
        remedy.get_by_label("Name").fill("Soap")
        remedy.get_by_label("Recipe, and how it is applied").fill("10 ml soap in 1 litre")
        page.get_by_label("Count again on days").fill("0, soon")
        page.get_by_role("button", name="Next: the plants").click()
        expect(page.get_by_role("alert")).to_contain_text("not days or whole hours")
        page.get_by_label("Count again on days").fill("3")
        page.get_by_label("Spray on days").fill("0")
        page.reload()
        expect(page.get_by_label("Name of the trial")).to_have_value("Gutters <i>left</i>")
        self.assert_accessible(page)
        page.get_by_role("button", name="Next: the plants").click()

    def plants(self, page: Page) -> None:
        """Lay out a bench and type the match counts down the column."""
        page.get_by_label("Names begin with").fill("S")
        page.get_by_label("Rows").fill("1000")
        page.get_by_role("button", name="Add the plants").click()
        expect(page.get_by_role("alert")).to_contain_text("1000 rows")
        page.get_by_label("Rows").fill("2")
        page.get_by_label("Plants in a row").fill("5")
        page.get_by_role("button", name="Add the plants").click()
        first = page.get_by_label("Match count of S1", exact=True)
        first.fill("2.5")
        first.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("fraction of an insect")
        first.fill("12")
        first.press("Enter")
        for k in range(2, 11):
            page.keyboard.type(str(10 + k))
            page.keyboard.press("Enter")
        settle(page)
        expect(page.get_by_text("10 plants take part")).to_be_visible()
        self.assert_accessible(page)

    def count_by_keys(self, page: Page, number: Any) -> None:
        """Count with the keyboard alone: type, Enter, next plant; a reload loses nothing."""
        expect(page.locator("output")).to_be_visible()
        for k in range(10):
            page.keyboard.type(str(number(k)))
            expect(page.locator("output")).to_have_text(str(number(k)))
            if k == 4:
                expect(page.get_by_text("✓ all kept")).to_be_visible()
                page.reload()
                expect(page.locator("output")).to_have_text(str(number(k)))
            page.keyboard.press("Enter")
        expect(page.get_by_text("All 10 plants are counted")).to_be_visible()
        expect(page.get_by_text("✓ all kept")).to_be_visible()

    def spray(self, page: Page, server: Server) -> None:
        """A helper mixes; then every plant is sprayed by keyboard, one undone and done again."""
        page.goto(f"{server.address}/trial/1/mix")
        mix_as_helper(page, bottles=1)
        self.assert_accessible(page)
        page.goto(f"{server.address}/trial/1/round/1")
        expect(page.get_by_text("Soap burns leaves")).to_be_visible()
        expect(page.get_by_text("1 patch test not passed").first).to_be_visible()
        start_round(page)
        expect(page.get_by_role("status").first).to_have_text("0 of 10")
        for k in range(10):
            page.keyboard.press("Enter")
            expect(page.get_by_role("status").first).to_have_text(f"{k + 1} of 10")
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("status").first).to_have_text("9 of 10")
        page.keyboard.press("Enter")
        expect(page.get_by_text("All 10 plants are recorded")).to_be_visible()
        self.assert_accessible(page)

    def count_by_taps(self, page: Page, treated: set[str]) -> None:
        """Count on the phone: few on the treated plants, many on the others."""
        self.assert_accessible(page)
        for k in range(10):
            name = page.locator(".name > span").first.inner_text()
            for _ in range(1 + k % 2 if name in treated else 4):
                button = "One more" if name in treated else "Five more"
                page.get_by_role("button", name=button, exact=True).tap()
            page.get_by_role("button", name="Damage 0, none").tap()
            page.locator(".keep").tap()
        expect(page.get_by_text("✓ all kept")).to_be_visible()

    def test_touch_targets_are_large_and_nothing_runs_off_a_phone(self) -> None:
        server = self.serve("--demo")
        page = self.page(small=True)
        for path in (*ALSO, *PHONE.values(), *DESK.values()):
            page.goto(server.address + path)
            settle(page)
            wide = page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, path)
        for path in ("/trial/3/look/2", "/trial/3/round/2"):
            page.goto(server.address + path)
            settle(page)
            small = page.eval_on_selector_all(
                ".field button:not(.plain), .field a",
                "all => all.map(e => [e.getBoundingClientRect(), e.textContent])"
                ".filter(([r]) => r.width < 47.5 || r.height < 47.5).map(([, t]) => t)",
            )
            self.assertEqual(small, [], path)

    def test_pictures_can_be_taken(self) -> None:
        server = self.serve("--demo")
        with tempfile.TemporaryDirectory() as folder:
            take_all(server.address, self.browser, Path(folder), set())
            taken = {path.stem for path in Path(folder).glob("*.png")}
        self.assertEqual(taken, {*DESK, *PHONE})

    def test_every_view_is_accessible_in_every_theme_and_width(self) -> None:
        """With all that folds unfolded; colours do not hang on the width, nor sizes on colours."""
        server = self.serve("--demo")
        page = self.page()
        for theme in ("day", "evening", "sun"):
            page.goto(server.address)
            page.evaluate(f"localStorage.setItem('orthocris.theme', '{theme}')")
            for path in dict.fromkeys((*ALSO, *DESK.values(), *PHONE.values())):
                page.goto(server.address + path)
                settle(page)
                page.evaluate("for (const d of document.querySelectorAll('details')) d.open = true")
                for width in (1280, 640, 390, 320) if theme == "day" else (1280,):
                    page.set_viewport_size({"width": width, "height": 800})
                    settle(page)
                    self.assert_accessible(page, names=True, colours=theme != "day")

    def test_keys_are_listed_and_work(self) -> None:
        server = self.serve("--demo")
        page = self.page()
        page.goto(f"{server.address}/trial/2/question")
        settle(page)
        page.keyboard.press("7")
        expect(page.get_by_text("Mild soap works best")).to_be_visible()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("Station 3: layout")
        page.keyboard.press("Escape")
        page.keyboard.press("t")
        expect(page.get_by_role("heading", name="Due now")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
