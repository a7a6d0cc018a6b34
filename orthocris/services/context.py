"""What every use case needs from outside: the data, the time, a source of seeds."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, TypeVar

from tzlocal import get_localzone

from orthocris.storage.database import Database

T = TypeVar("T")


def local_now() -> datetime:
    """Return the time now on the gardener's own clock, which knows its summer time."""
    return datetime.now(get_localzone())


def fresh_seed() -> int:
    """Return a seed that nobody chose, short enough to be written down."""
    return secrets.randbelow(1_000_000)


class Newest:
    """Keeps what was worked out last, for what asks for it again in the same state of the data."""

    def __init__(self) -> None:
        self._kept: tuple[Hashable, Any] = (None, None)

    def of(self, state: Hashable, work: Callable[[], T]) -> T:
        """Return what was worked out in this state, or work it out."""
        seen, found = self._kept
        if seen != state:
            found = work()
            self._kept = state, found
        answer: T = found
        return answer


@dataclass(frozen=True, slots=True)
class Context:
    """The data, the clock and the seeds a use case works with.

    `newest_verdict` is the verdict shown last: its page, its checks and its print ask for one.
    """

    database: Database
    now: Callable[[], datetime] = local_now
    new_seed: Callable[[], int] = fresh_seed
    newest_verdict: Newest = field(default_factory=Newest, init=False, compare=False)

    def state(self) -> tuple[int, datetime]:
        """Return what stands for the data as they are in this minute."""
        return self.database.commits, self.now().replace(second=0, microsecond=0)
