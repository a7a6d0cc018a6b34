"""The counting screen, measured in a browser: python -m bench.counting_speed.

Bytes on the wire, a tap until it is seen on a page slowed down six times, two hundred pots drawn
anew, and a round of 24 plants by 6 leaves walked as a thumb does it: taps a leaf, seconds a plant.
"""

from __future__ import annotations

import statistics
import tempfile
import time
from datetime import date, timedelta
from typing import Any

import numpy as np
from playwright.sync_api import BrowserContext, CDPSession, Page, sync_playwright

from tests.browser.support import Server, desk, launch, phone, settle, tallies
from tests.browser.walks import TRIAL, send, small_trial

SLOWER = 6
TAPS = 100
PAUSE_MS = 150  # six taps a second, which no thumb keeps up for long
# From the touch to the picture that shows it, by the browser's own clock of events and paints
# (rounded to 8 ms): a timer after the frame would wait behind the events of the same finger.
WATCH = """() => {
  const changed = [];
  const events = [];
  document.querySelector('.one').addEventListener('pointerdown', (event) => {
    changed.push({ touched: event.timeStamp, at: 0 });
  }, { capture: true });
  new MutationObserver(() => {
    const last = changed[changed.length - 1];
    if (last && !last.at) last.at = performance.now();
  }).observe(document.querySelector('output'), {
    childList: true, characterData: true, subtree: true });
  new PerformanceObserver((list) => events.push(...list.getEntries()))
    .observe({ type: 'event', durationThreshold: 16 });
  window.told = () => changed.flatMap(({ touched, at }) => {
    const shown = events.filter((e) => ['pointerdown', 'click'].includes(e.name)
      && e.startTime >= touched && e.processingStart <= at);
    const last = shown[shown.length - 1];
    return last ? [last.startTime + last.duration - touched] : [];
  });
}"""
BARE = """() => {
  document.body.innerHTML = '<output>0</output><button class="one">+1</button>';
  const figure = document.querySelector('output');
  document.querySelector('.one').addEventListener('click', () => {
    figure.textContent = String(Number(figure.textContent) + 1);
  });
}"""
IN_VIEW = """() => [...document.querySelectorAll('.pot')].filter((pot) => {
  const box = pot.getBoundingClientRect();
  return box.bottom > 0 && box.top < innerHeight && box.right > 0 && box.left < innerWidth;
}).length"""
SLIDE = """async () => {
  const slider = document.querySelector('input[type=range]');
  const times = [];
  for (let k = 0; k < 20; k++) {
    const begun = performance.now();
    slider.value = String(k % 2);
    slider.dispatchEvent(new Event('input', { bubbles: true }));
    await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
    times.push(performance.now() - begun);
  }
  return times;
}"""


def main() -> None:
    """Print what was measured."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        server = Server("--data", folder)
        browser = launch(playwright)
        try:
            trial = leaves_trial(server, plants=24)
            context = phone(browser)
            wire(context, server, trial)
            page = context.new_page()
            page.goto(f"{server.address}/trial/{trial}/look/0")
            settle(page)
            throttled_taps(context.new_cdp_session(page), page)
            context.close()
            context = phone(browser)
            round_walked(context.new_page(), server, leaves_trial(server, plants=24))
            context.close()
            pots(desk(browser), server)
        finally:
            browser.close()
            server.stop()


def leaves_trial(server: Server, plants: int) -> int:
    """A trial whose plants are counted on six leaves each."""
    setup = {"samples": 6, "beside": ["damage"]}
    body = {**TRIAL, "start_on": date.today().isoformat(), "setup": setup}
    trial: int = send(server, "POST", "/api/trials", body)["id"]
    rows = {"prefix": "S", "rows": 2, "per_row": plants // 2}
    send(server, "POST", f"/api/trials/{trial}/plants", rows)
    send(server, "POST", f"/api/trials/{trial}/layout", {})
    return trial


def wire(context: BrowserContext, server: Server, trial: int) -> None:
    """Add up what comes over the wire until the page is all in."""
    page = context.new_page()
    cdp = context.new_cdp_session(page)
    got: list[float] = []
    cdp.send("Network.enable")
    cdp.on("Network.loadingFinished", lambda event: got.append(event["encodedDataLength"]))
    page.goto(f"{server.address}/trial/{trial}/look/0")
    settle(page)
    page.close()
    print(f"counting page, all in: {sum(got) / 1000:.0f} kB in {len(got)} requests")


def throttled_taps(cdp: CDPSession, page: Page) -> None:
    """Time taps until their number is on the screen, on a processor six times slower.

    Beside it the same taps on a page with nothing but a number and a button, which is what the
    browser and the machine need by themselves in this run.
    """
    for what in ("tap to seen", "the same on a bare page"):
        if what != "tap to seen":
            page.evaluate(BARE)
        seen = taps_seen(cdp, page)
        p95 = statistics.quantiles(seen, n=20)[-1]
        print(
            f"{what}, {SLOWER} times slower: median {statistics.median(seen):.0f} ms, "
            f"p95 {p95:.0f} ({len(seen)} taps)"
        )


def taps_seen(cdp: CDPSession, page: Page) -> list[float]:
    """Milliseconds from the touch to the painted number, tap by tap."""
    page.evaluate(WATCH)
    box = page.locator(".one").bounding_box()
    if box is None:
        raise AssertionError("there is no button to tap")
    cdp.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    for _ in range(TAPS):
        # By coordinates: a locator would look up what it hits inside the time that is measured.
        page.touchscreen.tap(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.wait_for_timeout(PAUSE_MS)
    cdp.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    seen: list[float] = page.evaluate("window.told()")
    return seen


def round_walked(page: Page, server: Server, trial: int) -> None:
    """Count 24 plants by 6 leaves as a thumb does it, and see that all of it arrived."""
    page.goto(f"{server.address}/trial/{trial}/look/0")
    settle(page)
    rng = np.random.default_rng(8)
    found = rng.negative_binomial(1, 1 / 9, (24, 6))
    steps = (("Ten more", 10), ("Five more", 5), ("One more", 1))
    taps = 0
    begun = time.perf_counter()
    for plant in found:
        for count in plant:
            left = int(count)
            for name, size in steps:
                button = page.get_by_role("button", name=name, exact=True)
                for _ in range(left // size):
                    button.tap()
                    taps += 1
                left %= size
            page.locator(".keep").tap()
            taps += 1
        taps += 1  # the damage, scored once a plant, counts as one more
    took = time.perf_counter() - begun
    page.get_by_text("✓ all kept").wait_for()
    kept = sum(t["value"] for t in tallies(server, trial) if t["measure"] == "live")
    if kept != found.sum():
        raise AssertionError(f"{kept} arrived of {found.sum()}")
    print(
        f"24 plants by 6 leaves, {found.sum()} pests: {taps / 144:.1f} taps a leaf; walked by the "
        f"browser in {took / 24:.1f} s a plant; all {kept:.0f} arrived"
    )


def pots(context: BrowserContext, server: Server) -> None:
    """Time two hundred pots drawn anew by the slider over the looks."""
    first = date.today() - timedelta(days=30)
    trial = small_trial(server, start_on=first.isoformat())["id"]
    rows: dict[str, Any] = {"prefix": "T", "rows": 10, "per_row": 20}
    trial = send(server, "POST", "/api/trials", {**TRIAL, "start_on": first.isoformat()})["id"]
    send(server, "POST", f"/api/trials/{trial}/plants", rows)
    names = [p["name"] for p in send(server, "GET", f"/api/trials/{trial}")["plants"]]
    paper = {
        "plants": [
            {"name": n, "block": str(k // 2), "remedy": "Soap" if k % 2 else "Water"}
            for k, n in enumerate(names)
        ],
        "rounds": [{"number": 1, "on": first.isoformat()}],
        "looks": [
            {"number": 0, "on": first.isoformat()},
            {"number": 1, "on": (first + timedelta(days=3)).isoformat()},
        ],
        "counts": [
            {"plant": n, "look": look, "measure": "live", "value": 40 + k if look == 0 else k % 50}
            for k, n in enumerate(names)
            for look in (0, 1)
        ],
    }
    send(server, "POST", f"/api/trials/{trial}/paper", paper)
    page = context.new_page()
    page.goto(f"{server.address}/trial/{trial}/rounds")
    settle(page)
    page.locator("input[type=range]").scroll_into_view_if_needed()
    times: list[float] = page.evaluate(SLIDE)[2:]
    seen: int = page.evaluate(IN_VIEW)
    print(
        f"{len(names)} pots, {seen} of them in view, drawn anew: "
        f"median {statistics.median(times):.0f} ms, "
        f"worst {max(times):.0f}"
    )


if __name__ == "__main__":
    main()
