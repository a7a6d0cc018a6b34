"""Refreshes the pictures in docs/screenshots from the demo world: python -m tests.browser.shots."""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from tests.browser.support import ROOT, choose, demo_server, desk, launch, phone, settle
from tests.browser.walks import mix_as_helper, start_round

FOLDER = ROOT / "docs" / "screenshots"
PHLOX, LUPINS, STRAWBERRIES, FUCHSIAS = 1, 2, 3, 4
DESK = {
    "today": "/",
    "find-out": "/look",
    "mixing-bench": "/mix",
    "patch-test": f"/trial/{FUCHSIAS}/patch",
    "new-trial": "/new",
    "played": "/play?usual=1",
    "how-many-plants": f"/trial/{FUCHSIAS}/layout",
    "from-paper": f"/trial/{FUCHSIAS}/paper",
    "layout": f"/trial/{STRAWBERRIES}/layout",
    "rounds": f"/trial/{STRAWBERRIES}/rounds",
    "verdict-clear": f"/trial/{LUPINS}/verdict",
    "verdict-not-settled": f"/trial/{PHLOX}/verdict",
    "known": "/known",
    "year": "/year",
}
# Pages of which no picture is kept; tests look at them all the same.
ALSO = ("/yard", f"/trial/{FUCHSIAS}/plants")
PHONE = {
    "phone-count": f"/trial/{STRAWBERRIES}/look/2",
    "phone-leaf": f"/trial/{STRAWBERRIES}/look/2",
    "phone-practice": "/practice?pest=aphids",
    "phone-today": "/",
    "phone-spray": f"/trial/{STRAWBERRIES}/round/2",
}


PAPER = [
    (f"F{k + 1}", k // 3 + 1, remedy, 20 + (7 * k) % 17, 0, left + (5 * k) % 6, 0)
    for k, (remedy, left) in enumerate(
        [("Water only", 24), ("Soap 5 ml/L", 6), ("Soap 20 ml/L", 3)] * 3
    )
]


PLAYED = ["count", "spray", "count", "count", "spray", "count", "read", "open"]


def prepare(page: Page, name: str) -> None:
    """Bring a page to where its picture shows it at work."""
    if name in PHONE:
        prepare_phone(page, name)
    elif name == "from-paper":
        for row, line in enumerate(PAPER):
            for column, cell in enumerate(line):
                page.locator(f"#cell-{row}-{column}").fill(str(cell))
        page.locator(".days").evaluate("days => days.scrollIntoView()")
    elif name == "new-trial":
        page.get_by_label("How many plants").fill("14")
        page.get_by_label("What they are").fill("lupins")
        choose(page, "Pest or disease", "Aphids")
        page.get_by_role("button", name="Leave out").wait_for()  # the first guess is there
        page.get_by_role("button", name="Choose remedies").click()
        # Beside the first guess another, whatever suits now.
        page.locator("button.remedy[aria-pressed=false]").first.click()
        page.get_by_role("button", name="Choose remedies").click()  # folds them again
        page.get_by_text("played just now").wait_for()
        page.evaluate("scrollTo(0, 0)")
    elif name == "find-out":
        for sign in ("Fine pale dots", "Fine webbing"):
            page.get_by_role("button", name=sign).click()
        page.get_by_role("button", name="Spider mites").click()
    elif name == "mixing-bench":
        page.get_by_label("The recipe").fill(
            "a heaped dessert spoon of baking soda to a 5-litre can, 30 ml oil and a dash of soap"
        )
        page.get_by_text("heaped is taken").first.wait_for()
        page.evaluate("window.scrollTo(0, 0)")
    elif name == "played":
        page.evaluate(
            """moves => {
                const kept = JSON.parse(localStorage.getItem("orthocris.draft.play"));
                const played = JSON.stringify({ ...kept, seed: 4, moves });
                localStorage.setItem("orthocris.draft.play", played);
            }""",
            PLAYED,
        )
        page.reload()
        page.get_by_role("region", name="The truth").wait_for()
        page.evaluate("window.scrollTo(0, 150)")
    elif name == "how-many-plants":
        folded = page.locator("summary", has_text="how many plants")
        if folded.count():
            folded.click()
        page.get_by_role("button", name="Simulate it").click()
        page.get_by_text("With your").wait_for()
        page.get_by_role("button", name="Cancel").wait_for(state="detached")
        page.get_by_role("heading", name="How many plants?").evaluate(
            "heading => heading.scrollIntoView()"
        )
    settle(page)


def prepare_phone(page: Page, name: str) -> None:
    """Bring a screen of the garden to where its picture shows it at work."""
    if name == "phone-count":
        page.get_by_role("button", name="Today").tap()  # its look is two days ahead
        for _ in range(7):
            page.get_by_role("button", name="One more", exact=True).tap()
        page.get_by_text("✓ all kept").wait_for()
    elif name == "phone-leaf":
        page.get_by_role("button", name="Today").tap()
        page.get_by_role("button", name="Note, photo").tap()
        page.get_by_role("button", name="Leaf camera").tap()
        page.get_by_role("button", name="Propose marks").tap()
        page.get_by_text("proposed: look at each").wait_for()
        page.get_by_role("button", name="Back to counting").evaluate("b => b.scrollIntoView()")
    elif name == "phone-practice":
        page.get_by_role("button", name="Begin with the first leaf").tap()
        page.locator(".shown img").evaluate("img => img.decode()")
        page.get_by_role("button", name="Ten more").tap()
        page.get_by_role("button", name="Keep 10").tap()
        page.get_by_role("row", name="Truth").wait_for()
    elif name == "phone-spray":
        spray_some(page)


def spray_some(page: Page) -> None:
    """Mix the bottles, start the round and walk to its fifth plant."""
    address = page.url.rsplit("/trial", 1)[0]
    page.goto(f"{address}/trial/{STRAWBERRIES}/mix")
    mix_as_helper(page, bottles=3)
    page.goto(f"{address}/trial/{STRAWBERRIES}/round/2")
    settle(page)
    start_round(page)
    for k in range(4):
        page.get_by_role("button", name="Sprayed", exact=True).tap()
        page.get_by_text(f"{k + 1} of 26", exact=True).wait_for()
    page.wait_for_timeout(600)  # the mark of the last tap fades


def take_all(address: str, browser: Browser, folder: Path, wanted: set[str]) -> None:
    """Take every picture (or those wanted) into a folder."""
    for context, pages in ((desk(browser), DESK), (phone(browser), PHONE)):
        page = context.new_page()
        for name, path in pages.items():
            if wanted and name not in wanted:
                continue
            page.goto(address + path)
            settle(page)
            prepare(page, name)
            page.screenshot(path=folder / f"{name}.png", scale="css")
        context.close()


def main() -> None:
    """Serve the demo and take the pictures."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with demo_server() as server, sync_playwright() as playwright:
        browser = launch(playwright)
        take_all(server.address, browser, FOLDER, set(sys.argv[1:]))
        browser.close()


if __name__ == "__main__":
    main()
