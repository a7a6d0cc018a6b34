"""Speed after ten years: python -m bench.scale [--code DIR] [--times N].

Writes sixty trials with a quarter of a million tallies (`scale_world`), serves them, and times
requests over one kept connection. `--code` serves another checkout on the same garden, so that
an older program can be put beside this one.
"""

from __future__ import annotations

import argparse
import http.client
import json
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from functools import partial
from pathlib import Path
from typing import Any

from bench.scale_world import write_world

ROOT = Path(__file__).resolve().parents[1]
USUAL, LARGE = 2, 1  # ids of a usual trial and of the one with 15,000 tallies


class Client:
    """One kept connection that sends at once."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
        self.connection.connect()
        self.connection.sock.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)

    def ask(self, method: str, path: str, body: object = None) -> tuple[int, bytes]:
        """Send a request and read the whole answer."""
        headers = {"Content-Type": "application/json"} if body is not None else {}
        sent = json.dumps(body).encode() if body is not None else None
        self.connection.request(method, path, sent, headers)
        answer = self.connection.getresponse()
        return answer.status, answer.read()

    def get(self, path: str) -> bytes:
        """Return an answer that must be good."""
        status, body = self.ask("GET", path)
        if status != 200:
            raise AssertionError(f"{path} answered {status}: {body[:300]!r}")
        return body


def main() -> None:
    """Print one line a request: median, p95, and size where it matters."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--code", type=Path, default=ROOT)
    parser.add_argument("--times", type=int, default=40)
    parser.add_argument("--trials", type=int, default=60)
    parser.add_argument("--loop", type=int, help="ask this port for Today without a pause")
    options = parser.parse_args()
    if options.loop:
        loop_todays(options.loop)
        return
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        tallies = write_world(folder / "orthocris.sqlite", datetime.now(UTC), options.trials)
        print(f"{options.trials} trials, {tallies} tallies")
        with serving(options.code, folder) as (port, memory):
            print(f"memory at rest {memory():.0f} MB")
            measure(port, options.times)
            print(f"memory after that {memory():.0f} MB")


@contextmanager
def serving(code: Path, folder: Path) -> Iterator[tuple[int, Callable[[], float]]]:
    """Start a program twice (the first start brings the file up to date) and time the second."""
    for last in (False, True):
        begun = time.perf_counter()
        process = subprocess.Popen(
            [sys.executable, "-m", "orthocris", "serve", "--port", "0", "--data", str(folder)],
            cwd=code,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            text=True,
        )
        assert process.stdout is not None
        line = next(said for said in process.stdout if "http://" in said)
        port = int(line.rsplit(":", 1)[1])
        Client(port).get("/api/health")
        taken = time.perf_counter() - begun
        if last:
            print(f"start to first answer {taken:.2f} s")
            try:
                yield port, partial(_memory, process.pid)
            finally:
                process.terminate()
                process.wait(20)
        else:
            process.terminate()
            process.wait(60)


def _memory(process_id: int) -> float:
    lines = Path(f"/proc/{process_id}/status").read_text("utf-8").splitlines()
    return float(next(x for x in lines if x.startswith("VmRSS")).split()[1]) / 1024


def measure(port: int, times: int) -> None:
    """Time each screen's request, then taps alone and beside five looping Todays."""
    client = Client(port)
    for name, path in (
        ("today", "/api/today"),
        ("calendar", "/api/calendar.ics"),
        ("trial", f"/api/trials/{USUAL}"),
        ("trial of 15,000 tallies", f"/api/trials/{LARGE}"),
        ("schedule", f"/api/trials/{USUAL}/schedule"),
        ("ribbon", f"/api/trials/{USUAL}/ribbon"),
        ("verdict", f"/api/trials/{USUAL}/verdict?look=3"),
        ("verdict of 15,000 tallies", f"/api/trials/{LARGE}/verdict?look=8"),
    ):
        size = len(client.get(path))
        taken = [timed(lambda p=path: client.get(p)) for _ in range(times)]  # type: ignore[misc]
        report(name, taken, f", {size / 1000:.0f} kB")
    taps = Taps(client, USUAL)
    for name, path in (
        ("today", "/api/today"),
        ("verdict", f"/api/trials/{USUAL}/verdict?look=3"),
        ("verdict of 15,000 tallies", f"/api/trials/{LARGE}/verdict?look=8"),
    ):
        taken = []
        for _ in range(times):
            taps.tap()
            taken.append(timed(lambda p=path: client.get(p)))  # type: ignore[misc]
        report(f"{name} after something was written", taken, "")
    for trial, name in ((USUAL, "tap"), (LARGE, "tap among 15,000 tallies")):
        taps = Taps(client, trial)
        taken = [timed(taps.tap) for _ in range(max(times * 5, 50))]
        report(name, taken, f", {1000 / statistics.fmean(taken):.0f} a second")
    beside(port, Taps(client, USUAL), times)


class Taps:
    """Somebody counting one plant up at the newest look."""

    def __init__(self, client: Client, trial: int) -> None:
        self.client = client
        self.trial = trial
        self.step = 0
        self.session = f"bench-{trial}-{time.time_ns()}"

    def tap(self) -> None:
        """Send one tap and wait until it is kept."""
        self.step += 1
        tally: dict[str, Any] = {
            "plant_id": self.trial * 1000 + 5,
            "measure": "live",
            "session": self.session,
            "step": self.step,
            "value": self.step,
            "finished": False,
        }
        tap = {
            "key": f"{self.session}-{self.step}",
            "trial_id": self.trial,
            "look": 2,
            "tapped_at": "2026-05-10T08:00:00Z",
            "tally": tally,
        }
        status, answer = self.client.ask("POST", "/api/taps", {"taps": [tap]})
        if status != 200:
            raise AssertionError(answer[:300])


def beside(port: int, taps: Taps, times: int) -> None:
    """Time taps while five others ask for Today without a pause."""
    command = [sys.executable, "-m", "bench.scale", "--loop", str(port)]
    others = subprocess.Popen(command, cwd=ROOT, stderr=subprocess.DEVNULL)
    try:
        time.sleep(2)
        taken = []
        for _ in range(5 * times):
            taken.append(timed(taps.tap))
            time.sleep(0.02)
    finally:
        others.terminate()
        others.wait(20)
    report("tap beside five looping Todays", taken, "")


def loop_todays(port: int) -> None:
    """Ask for Today without a pause, in five threads, until this program is ended."""

    def loop() -> None:
        own = Client(port)
        while True:
            own.ask("GET", "/api/today")

    threads = [threading.Thread(target=loop) for _ in range(5)]
    for thread in threads:
        thread.start()


def timed(call: Callable[[], object]) -> float:
    """Return the milliseconds a call takes."""
    begun = time.perf_counter()
    call()
    return 1000 * (time.perf_counter() - begun)


def report(name: str, taken: list[float], more: str) -> None:
    """Print median and 95th percentile."""
    p95 = statistics.quantiles(taken, n=20)[-1]
    print(f"{name}: {statistics.median(taken):.1f} ms, p95 {p95:.1f}{more}", flush=True)


if __name__ == "__main__":
    main()
