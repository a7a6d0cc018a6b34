"""A running application and a browser, for the browser tests and the pictures."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect

ROOT = Path(__file__).resolve().parent.parent.parent
CHROMIUM = os.environ.get("CHROMIUM", "/usr/bin/chromium")
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]

WAIT = 90_000  # ms; three browsers share two cores, and a busy machine is no fault
expect.set_options(timeout=WAIT)


class Server:
    """The application as its own process on a free port."""

    def __init__(self, *arguments: str, port: int = 0) -> None:
        self._process = subprocess.Popen(
            [sys.executable, "-m", "orthocris", "serve", "--port", str(port), *arguments],
            cwd=ROOT,
            stdout=subprocess.PIPE,
            text=True,
        )
        self.address = self._ready()
        self.port = int(self.address.rsplit(":", 1)[1])

    def _ready(self) -> str:
        assert self._process.stdout is not None
        for line in self._process.stdout:
            found = re.search(r"ready at (http://\S+)", line)
            if found:
                address = found.group(1)
                break
        else:
            raise RuntimeError(f"the server ended with {self._process.wait()}")
        for _ in range(1000):
            try:
                with urllib.request.urlopen(f"{address}/api/health", timeout=10) as answer:
                    if json.load(answer)["status"] == "ok":
                        return address
            except OSError:
                time.sleep(0.05)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        """End it at once, as a power cut would."""
        self._process.kill()
        self._wait()

    def stop(self) -> None:
        """End it in good order."""
        self._process.terminate()
        self._wait()

    def _wait(self) -> None:
        self._process.wait(timeout=60)
        if self._process.stdout is not None:
            self._process.stdout.close()

    def get(self, path: str) -> Any:
        """Return the JSON at a path."""
        with urllib.request.urlopen(self.address + path, timeout=60) as answer:
            return json.load(answer)


def treated(server: Server, trial: dict[str, Any]) -> list[dict[str, Any]]:
    """The plants that get the first bottle, as whoever mixes it is told; the key stays sealed."""
    letter = server.get(f"/api/trials/{trial['id']}/bottles?helper=true")[0]["letter"]
    return [plant for plant in trial["plants"] if plant["letter"] == letter]


def tallies(server: Server, trial: int, look: int = 0) -> Any:
    """What was counted at a look."""
    return server.get(f"/api/trials/{trial}/looks/{look}/sheet")["tallies"]


def launch(playwright: Playwright) -> Browser:
    """Start Debian's Chromium without a window."""
    return playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)


def desk(browser: Browser) -> BrowserContext:
    """A laptop's screen."""
    return _patient(
        browser.new_context(
            viewport={"width": 1280, "height": 800}, locale="en-GB", service_workers="block"
        )
    )


def phone(browser: Browser, *, workers: bool = False, trusting: bool = False) -> BrowserContext:
    """A phone's screen, touched.

    With `workers` it may open pages without a network; `trusting` it takes any certificate.
    """
    return _patient(
        browser.new_context(
            viewport={"width": 390, "height": 844},
            has_touch=True,
            is_mobile=True,
            device_scale_factor=2,
            locale="en-GB",
            service_workers="allow" if workers else "block",
            ignore_https_errors=trusting,
        )
    )


def _patient(context: BrowserContext) -> BrowserContext:
    context.set_default_timeout(WAIT)
    return context


def settle(page: Page) -> None:
    """Wait until the page has its data and its fonts."""
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")


def choose(page: Page, field: str, option: str) -> None:
    """Choose from a list that opens below a field, as a person does: when it stands still.

    The list slides open and follows its field; a press that begins on one row and ends beside it
    chooses nothing.
    """
    settle(page)
    page.get_by_role("combobox", name=field).click()
    choose_from_open(page, option)


def choose_from_open(page: Page, option: str) -> None:
    """Choose from the list that is open."""
    row = page.get_by_role("option", name=option).locator("visible=true")
    expect(row).to_be_visible()
    page.evaluate(
        "Promise.allSettled(document.getAnimations().map(one =>"
        " one.effect.getComputedTiming().iterations === Infinity || one.finished))"
        ".then(() => true)"
    )
    row.click()
    expect(row).to_be_hidden()


@contextmanager
def demo_server() -> Iterator[Server]:
    """The demo world, served."""
    server = Server("--demo")
    try:
        yield server
    finally:
        server.stop()
