"""A year of days in four zones over HTTP, a trial a month: python -m bench.year [DAYS].

Each day the pages are read; what is due is counted. No answer may be a mistake of the program, no
number that was answered may be missing at the end, and no day may be shown twice or left out.
"""

from __future__ import annotations

import sys
import tempfile
from datetime import date, datetime, time, timedelta
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from fastapi.testclient import TestClient

from orthocris.api.app import create_app
from orthocris.services.context import Context
from orthocris.storage.database import Database
from tests.browser.walks import TRIAL

ZONES = ("Europe/Berlin", "America/New_York", "Pacific/Auckland", "Asia/Kolkata")
HOURS = (time(2, 30), time(9), time(23, 50))  # in the hour that a change of clocks skips, too


class Year:
    """A gardener in one zone."""

    def __init__(self, zone: str, folder: Path) -> None:
        self.zone = ZoneInfo(zone)
        self.now = datetime(2026, 3, 1, 9, tzinfo=self.zone)
        database = Database(folder / "data.sqlite", durable=False)
        database.migrate()
        context = Context(database, lambda: self.now.astimezone(self.zone), lambda: 77)
        self.client = TestClient(create_app(context, None), base_url="http://127.0.0.1:8747")
        self.faults: list[str] = []
        self.kept: dict[tuple[int, int, int], float] = {}
        self.trials: list[int] = []

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        """One request; whatever is no answer of the usual kind is noted."""
        answer = self.client.request(method, path, json=body)
        if answer.status_code >= 400:
            self.faults.append(f"{self.now} {method} {path}: {answer.text[:160]}")
            return {}
        return answer.json() if "json" in answer.headers.get("content-type", "") else {}

    def day(self, on: date) -> None:
        """Read the pages at three hours; begin a trial a month, and count what is due."""
        for hour in HOURS:
            self.now = datetime.combine(on, hour, self.zone)
            today = self.ask("GET", "/api/today")
            if today.get("today") != on.isoformat():
                self.faults.append(f"{self.now}: Today says {today.get('today')}")
            self.ask("GET", "/api/calendar.ics")
        self.now = datetime.combine(on, time(9), self.zone)
        if on.day == 1:
            body = {**TRIAL, "name": f"{on:%B}", "start_on": on.isoformat()}
            trial = self.ask("POST", "/api/trials", body)["id"]
            plants = {"prefix": "S", "rows": 1, "per_row": 8}
            self.ask("POST", f"/api/trials/{trial}/plants", plants)
            self.ask("POST", f"/api/trials/{trial}/layout", {})
            self.ask("POST", f"/api/trials/{trial}/key")
            self.trials.append(trial)
        for trial in self.trials[-2:]:
            found = self.ask("GET", f"/api/trials/{trial}")
            for look in found.get("looks", []):
                if look["on"] == on.isoformat():
                    self.count(found, look["number"], on)

    def count(self, found: dict[str, Any], look: int, on: date) -> None:
        """Count every plant, and after the count before enter the round as done."""
        for plant in found["plants"]:
            value = float((plant["id"] * 7 + look * 3) % 40)
            tap = {
                "key": f"year-{found['id']}-{look}-{plant['id']}", "trial_id": found["id"],
                "look": look, "tapped_at": self.now.isoformat(),
                "tally": {"plant_id": plant["id"], "measure": "live", "value": value,
                          "finished": True, "session": f"year-{on}-{plant['id']}", "step": 1},
            }  # fmt: skip
            if self.ask("POST", "/api/taps", {"taps": [tap]}).get("kept"):
                self.kept[found["id"], look, plant["id"]] = value
            else:
                self.faults.append(f"{self.now}: a count was not kept")
        if look == 0:
            days = {"rounds": [{"number": 1, "on": on.isoformat()}]}
            self.ask("POST", f"/api/trials/{found['id']}/paper", days)

    def missing(self) -> int:
        """How many of the counts answered as kept are not there."""
        held = {}
        for trial in self.trials:
            for look in range(3):
                sheet = self.ask("GET", f"/api/trials/{trial}/looks/{look}/sheet")
                for tally in sheet.get("tallies", []):
                    held[trial, look, tally["plant_id"]] = tally["value"]
        return sum(held.get(key) != value for key, value in self.kept.items())


def main(days: int) -> int:
    """Live the year in each zone; print what went wrong."""
    worst = 0
    for zone in ZONES:
        with tempfile.TemporaryDirectory() as folder:
            year = Year(zone, Path(folder))
            for k in range(days):
                year.day(date(2026, 3, 1) + timedelta(days=k))
            lost = year.missing()
            print(f"{zone}: {days} days, {len(year.kept)} counts, {lost} lost, "
                  f"{len(year.faults)} faults {year.faults[:2]}", flush=True)  # fmt: skip
            worst |= bool(lost or year.faults)
    return int(worst)


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 365))
