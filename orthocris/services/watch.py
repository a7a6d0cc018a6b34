"""Work that is done beside the requests, again and again while the program runs."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable

from orthocris.core.errors import OrthocrisError


class Watch:
    """A thread that does something at once and then every so many seconds, until it is ended.

    `every_seconds` None: once only.

    What goes wrong is told in the log, once while it stays the same, and tried again: the file may
    be away for a while.
    """

    def __init__(self, name: str, every_seconds: float | None, work: Callable[[], object]) -> None:
        self._every = every_seconds
        self._work = work
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name=name, daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def end(self) -> None:
        """Stop, and wait until what is being done is done; nothing where it never began."""
        self._ended.set()
        if self._thread.ident is not None:
            self._thread.join()

    def _run(self) -> None:
        told = ""
        while not self._ended.is_set():
            try:
                self._work()
                told = ""
            except OrthocrisError as error:
                if told != repr(error):
                    logging.getLogger(__name__).warning("%s: %s", self._thread.name, error.message)
                told = repr(error)
            except Exception as error:
                if told != repr(error):
                    logging.getLogger(__name__).exception("%s failed", self._thread.name)
                told = repr(error)
            if self._every is None:
                return
            self._ended.wait(self._every)
