"""Kills the program in the middle of counting, again and again: python -m bench.kills [KILLS].

Two devices send taps while the program is ended as by a power cut. Each sends again what was not
answered, as the pages do. In the end every number that was answered "kept" must be there, once.
"""

from __future__ import annotations

import http.client
import json
import random
import sqlite3
import sys
import tempfile
import threading
import time
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any

from tests.browser.support import Server
from tests.browser.walks import small_trial

KILLS = 150
HELD = "SELECT plant_id, value FROM tally_now WHERE measure = 'live'"


class Device:
    """Counts plants of its own, one tap after the other, and sends again until it is answered."""

    def __init__(self, name: str, port: int, trial: int, plants: list[int]) -> None:
        self.name, self.port, self.trial, self.plants = name, port, trial, plants
        self.kept: dict[str, tuple[int, int]] = {}  # the plant and value of each tap, by its name
        self.last: dict[int, int] = {}
        self.sessions: dict[int, list[str]] = {}
        self.failed: list[str] = []
        self.told = threading.Event()
        self.thread = threading.Thread(target=self.run)

    def run(self) -> None:
        """Tap until told to end."""
        chance = random.Random(self.name)
        turn = 0
        while not self.told.is_set():
            turn += 1
            plant = self.plants[turn % len(self.plants)]
            session = f"{self.name}-{plant:04d}-{turn:06d}"
            for step in (1, 2):
                value = chance.randrange(400)
                tally = {
                    "plant_id": plant, "measure": "live", "session": session, "step": step,
                    "value": value, "finished": step == 2,
                    "knows": [*self.sessions.setdefault(plant, [])[-40:], session],
                }  # fmt: skip
                key = f"{session}-{step}"
                now = datetime.now(UTC).isoformat()
                self.send({"key": key, "trial_id": self.trial, "look": 0, "tapped_at": now,
                           "tally": tally})  # fmt: skip
                self.kept[key] = plant, value
                self.last[plant] = value
            self.sessions[plant].append(session)

    def send(self, tap: dict[str, Any]) -> None:
        """Send one tap until it is answered."""
        while True:
            try:
                connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=10)
                body = json.dumps({"taps": [tap]})
                connection.request("POST", "/api/taps", body, {"Content-Type": "application/json"})
                answer = connection.getresponse()
                said = answer.read().decode()
                connection.close()
            except (OSError, http.client.HTTPException):
                time.sleep(0.02)
                continue
            if answer.status != 200 or json.loads(said)["refused"]:
                self.failed.append(f"{answer.status} {said[:200]}")
            return


def main(kills: int) -> int:
    """Kill so often; print what was lost."""
    chance = random.Random(kills)
    with tempfile.TemporaryDirectory() as folder:
        server = Server("--data", folder)
        trial = small_trial(server, start_on=date.today().isoformat())
        ids = [p["id"] for p in trial["plants"]]
        devices = [
            Device(name, server.port, trial["id"], plants)
            for name, plants in (("first", ids[:3]), ("second", ids[3:]))
        ]
        for device in devices:
            device.thread.start()
        for done in range(kills):
            time.sleep(chance.uniform(0.05, 0.4))
            server.kill()
            server = Server("--data", folder, port=server.port)
            if done % 25 == 24:
                print(f"{done + 1} kills, {sum(len(d.kept) for d in devices)} counts", flush=True)
        for device in devices:
            device.told.set()
            device.thread.join()
        server.stop()
        kept = {k: v for device in devices for k, v in device.kept.items()}
        with sqlite3.connect(Path(folder) / "orthocris.sqlite") as connection:
            names = [row[0] for row in connection.execute("SELECT key FROM tap")]
            whole = connection.execute("PRAGMA integrity_check").fetchone()[0]
            held = dict(connection.execute(HELD).fetchall())
        lost = sorted(set(kept) - set(names))
        lost += [
            f"plant {p}" for d in devices for p, value in d.last.items() if held.get(p) != value
        ]
        twice = len(names) - len(set(names))
        failed = [said for device in devices for said in device.failed]
        print(
            f"{kills} kills, {len(kept)} counts kept, {len(lost)} lost, {twice} twice, file {whole}"
        )
        print(f"{len(failed)} answers that were no answer: {failed[:3]}")
    return 1 if lost or twice or failed or whole != "ok" else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else KILLS))
