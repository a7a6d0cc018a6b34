"""A demo garden beside the gardener's own: a program of its own, at an address of its own."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
from pathlib import Path

from orthocris.core.errors import ConflictError

WITH_PARENT = "--with-parent"  # it ends when its standard input does
READY = "ready at "
PATIENCE = 120.0  # s; the first of a day is built before it is served
ROOT = Path(__file__).resolve().parents[2]


class DemoBeside:
    """Starts the demo once it is asked for; it ends with the program that started it.

    It is a fresh copy in a folder for a time: what is done there is gone with it, and nothing of
    it reaches the gardener's own data.
    """

    def __init__(self) -> None:
        self._turn = threading.Lock()
        self._running: subprocess.Popen[str] | None = None
        self._address = ""

    def open(self) -> str:
        """Return its address, once it answers there.

        Raises
        ------
        ConflictError
            When it does not start.
        """
        with self._turn:
            if self._running is None or self._running.poll() is not None:
                self._end()
                self._start()
            return self._address

    def shut(self) -> None:
        """End it; nothing where it was never started."""
        with self._turn:
            self._end()

    def _start(self) -> None:
        self._running = subprocess.Popen(  # noqa: S603
            [sys.executable, "-m", "orthocris", "demo", "--port", "0", WITH_PARENT],
            cwd=ROOT,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            text=True,
        )
        late = threading.Timer(PATIENCE, self._running.kill)
        late.start()
        try:
            told = next((line for line in self._running.stdout or () if READY in line), None)
        finally:
            late.cancel()
        if told is None:
            self._end()
            raise ConflictError(
                "the demo garden could not be started",
                code="no_demo",
                fix="Start it by hand: orthocris demo --port 8750.",
            )
        self._address = told.split(READY)[1].strip()

    def _end(self) -> None:
        if self._running is None:
            return
        self._running.terminate()
        try:
            self._running.wait(20)
        except subprocess.TimeoutExpired:
            self._running.kill()
            self._running.wait()
        for pipe in (self._running.stdin, self._running.stdout):
            if pipe is not None:
                pipe.close()
        self._running = None


def end_with_parent() -> None:
    """End this program once the one that started it is gone, however that ended."""

    def wait() -> None:
        sys.stdin.buffer.read()
        os.kill(os.getpid(), signal.SIGTERM)

    threading.Thread(target=wait, name="parent", daemon=True).start()
