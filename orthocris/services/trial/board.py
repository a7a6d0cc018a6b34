"""Today as it is asked for again and again: worked out once for each state of the data."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import datetime

from orthocris.services.context import Context
from orthocris.services.trial.overviews import Today, today


class TodayBoard:
    """Keeps the newest Today, laid out as it is sent, until something is written or a minute ends.

    It is worked out by one thread at a time: several who ask at once share the answer, and leave
    the processor to whoever counts.
    """

    def __init__(self, context: Context, lay_out: Callable[[Today], bytes]) -> None:
        self._context = context
        self._lay_out = lay_out
        self._turn = threading.Lock()
        self._kept: tuple[tuple[int, datetime], bytes] | None = None

    def read(self) -> bytes:
        """Return what is due today across all trials."""
        with self._turn:
            state = self._context.state()
            if self._kept is None or self._kept[0] != state:
                self._kept = state, self._lay_out(today(self._context))
            return self._kept[1]
