"""Steps that browser tests and pictures share: a small trial, mixing, starting a round."""

from __future__ import annotations

import json
import urllib.request
from collections.abc import Sequence
from datetime import date
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.support import Server, settle

TRIAL: dict[str, Any] = {
    "name": "Balcony",
    "pest": "aphids",
    "measure": "live",
    "threshold": 0.6,
    "remedies": [
        {"name": "Water", "role": "control", "recipe": "Plain water"},
        {"name": "Soap", "role": "remedy", "recipe": "10 ml soap in 1 litre"},
    ],
    "look_days": [3, 7],
    "round_days": [0],
}


def send(server: Server, method: str, path: str, body: Any = None) -> Any:
    """A call to the program beside the browser."""
    request = urllib.request.Request(
        server.address + path,
        data=None if body is None else json.dumps(body).encode(),
        headers={"Content-Type": "application/json"},
        method=method,
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        text = answer.read()
    return json.loads(text) if text else None


def small_trial(server: Server, **changes: Any) -> dict[str, Any]:
    """A trial of six plants, laid out; returns it."""
    body = {**TRIAL, "start_on": date.today().isoformat(), **changes}
    trial_id = send(server, "POST", "/api/trials", body)["id"]
    send(
        server,
        "POST",
        f"/api/trials/{trial_id}/plants",
        {"prefix": "S", "rows": 1, "per_row": 6},
    )
    found: dict[str, Any] = send(server, "POST", f"/api/trials/{trial_id}/layout", {})
    return found


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


def unfold(page: Page) -> None:
    """Unfold every field of a new question; its bench is laid out later."""
    page.get_by_label("How many plants").fill("")
    page.get_by_role("button", name="All of it").click()


def add_counted_plants(page: Page, prefix: str, rows: int, counts: Sequence[int]) -> None:
    """Add plants in rows, each with its match count, by the keyboard."""
    page.get_by_label("Names begin with").fill(prefix)
    page.get_by_label("Rows").fill(str(rows))
    page.get_by_label("Plants in a row").fill(str(len(counts) // rows))
    page.get_by_role("button", name="Add the plants").click()
    page.get_by_label(f"Match count of {prefix}1", exact=True).click()
    for count in counts:
        page.keyboard.type(str(count))
        page.keyboard.press("Enter")
    settle(page)
