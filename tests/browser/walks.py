"""Steps that several browser tests and the pictures take: mixing, starting a round."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.browser.support import settle


def mix_as_helper(page: Page, bottles: int) -> None:
    """Mix every bottle as a helper, reading the strong cautions, and keep the batches."""
    page.get_by_role("button", name="A helper mixes").click()
    page.get_by_label("Who mixes (a helper)").fill("Bram")
    keep = page.get_by_role("button", name="It is mixed: keep the batch")
    expect(keep).to_have_count(bottles)
    kept = page.get_by_text("by Bram")
    before = kept.count()
    for k in range(bottles):
        bottle = page.locator("section.bottle").nth(k)
        for caution in bottle.get_by_text("I have read").all():
            caution.click()
        keep.nth(k).click()
        expect(kept).to_have_count(before + k + 1)


def start_round(page: Page) -> None:
    """Tick every check; whatever still speaks against the round is overruled with a reason."""
    settle(page)
    for tick in page.locator(".ticks button").all():
        tick.click()
    settle(page)
    for why in page.get_by_placeholder("Why you go on").all():
        why.fill("A test goes on.")
    page.get_by_role("button", name="Start round").click()
    expect(page.locator(".here")).to_be_visible()
    page.wait_for_function("window.scrollY === 0")
