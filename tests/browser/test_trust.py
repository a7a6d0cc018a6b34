"""Nothing that the screen has confirmed is lost when the program dies."""

from __future__ import annotations

import json
import tempfile
import unittest
import urllib.request
from typing import Any

from playwright.sync_api import expect

from tests.api.trial.test_routes import QUESTION
from tests.browser.support import Server, phone, settle, tallies
from tests.browser.test_whole_job import BrowserCase


def post(server: Server, path: str, body: dict[str, Any]) -> Any:
    """Send JSON and return the answer's."""
    request = urllib.request.Request(
        server.address + path, json.dumps(body).encode(), {"Content-Type": "application/json"}
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer)


def drawn_trial(server: Server) -> int:
    """A trial with eight plants and a layout; its id."""
    number: int = post(server, "/api/trials", QUESTION)["id"]
    post(server, f"/api/trials/{number}/plants", {"prefix": "S", "rows": 1, "per_row": 8})
    post(server, f"/api/trials/{number}/layout", {})
    return number


class Killed(BrowserCase):
    def test_confirmed_counts_outlive_a_kill_between_any_two(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            server = Server("--data", folder)
            trial = drawn_trial(server)
            plants = [p["id"] for p in server.get(f"/api/trials/{trial}")["plants"]]
            for k, plant in enumerate(plants):
                body = {
                    "plant_id": plant,
                    "measure": "live",
                    "value": 10 + k,
                    "finished": True,
                    "session": f"session-{plant}",
                    "step": 1,
                }
                post(server, f"/api/trials/{trial}/looks/0/tallies", body)
                if k % 3 == 0:
                    server.kill()
                    server = Server("--data", folder)
                    kept = tallies(server, trial)
                    self.assertEqual([t["value"] for t in kept], [10 + n for n in range(k + 1)])
            server.stop()

    def test_a_round_goes_on_where_a_kill_stopped_it(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            server = Server("--data", folder)
            base = f"/api/trials/{drawn_trial(server)}"
            trial = server.get(base)
            soap = next(r["id"] for r in trial["remedies"] if r["role"] == "remedy")
            mixed = post(server, f"{base}/remedies/{soap}/batches", {})
            ticks = dict.fromkeys(("shaken", "cautions_read", "bees_looked", "fruit_looked"), True)
            why = dict.fromkeys(("patch_tests", "window_closed", "before_missing"), "a test")
            batches = {mixed["letter"]: mixed["id"]}
            checks = {**ticks, "batches": batches, "reasons": why}
            post(server, f"{base}/rounds/1/start", checks)
            for k, plant in enumerate(trial["plants"][:4]):
                body = {"plant_id": plant["id"], "key": f"one-tap-{k}"}
                post(server, f"{base}/rounds/1/sprays", body)
                server.kill()
                server = Server("--data", folder)
                found = post(server, f"{base}/rounds/1/sprays", body)  # sent again
                self.assertEqual(len(found["sprayed"]), k + 1)
                self.assertTrue(found["running"])
            server.stop()

    def test_taps_made_while_it_is_down_arrive_when_it_is_back(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            server = Server("--data", folder)
            trial = drawn_trial(server)
            context = phone(self.browser)
            self.addCleanup(context.close)
            page = context.new_page()
            page.goto(f"{server.address}/trial/{trial}/look/0")
            settle(page)
            more = page.get_by_role("button", name="Five more")
            more.tap()
            expect(page.get_by_text("✓ all kept")).to_be_visible()
            server.kill()
            more.tap()
            page.locator(".keep").tap()
            more.tap()
            expect(page.get_by_text("kept here, waiting")).to_be_visible()
            server = Server("--data", folder, port=server.port)
            expect(page.get_by_text("✓ all kept")).to_be_visible()
            kept = tallies(server, trial)
            self.assertEqual([(t["value"], t["finished"]) for t in kept], [(10, True), (5, False)])
            server.stop()


if __name__ == "__main__":
    unittest.main()
