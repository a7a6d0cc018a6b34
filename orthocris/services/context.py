"""What every use case needs from outside: the data, the time, a source of seeds."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from tzlocal import get_localzone

from orthocris.storage.database import Database


def local_now() -> datetime:
    """Return the time now on the gardener's own clock, which knows its summer time."""
    return datetime.now(get_localzone())


def fresh_seed() -> int:
    """Return a seed that nobody chose, short enough to be written down."""
    return secrets.randbelow(1_000_000)


@dataclass(frozen=True, slots=True)
class Context:
    """The data, the clock and the seeds a use case works with."""

    database: Database
    now: Callable[[], datetime] = local_now
    new_seed: Callable[[], int] = fresh_seed
