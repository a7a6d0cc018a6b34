"""Which of several counts of one sample holds, and which contradict one another.

It follows from what was told alone, never from the order in which devices came back into reach.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime


@dataclass(frozen=True, slots=True)
class Told:
    """One session's line of a sample and measure.

    `step` is the newest of its taps, `begun_at` when the first was made. `knows` maps the sessions
    that its device knew of to the step it knew them at (None: whatever they were at); it is None
    itself where nothing is said: then whatever was there before (by `id`) was known. `set_aside`
    where somebody has chosen another; `counted_on` is the day of its number, None where it was
    withdrawn.
    """

    id: int
    session: str
    step: int
    begun_at: datetime
    knows: Mapping[str, int | None] | None
    set_aside: bool = False
    counted_on: date | None = None

    def has_seen(self, other: Told) -> bool:
        """True when it was told by somebody who had seen the other line as it is now."""
        if self.knows is None:
            return other.id < self.id
        if other.session not in self.knows:
            return False
        step = self.knows[other.session]
        return step is None or step >= other.step


@dataclass(frozen=True, slots=True)
class Outcome:
    """The line that holds, None where there is none, and those that wait for somebody's choice."""

    holds: int | None
    contested: frozenset[int]


def outcome(lines: Sequence[Told]) -> Outcome:
    """Return which line holds.

    A line that somebody has seen who then told another is corrected by it. Of those that nobody
    has seen the one begun first holds until somebody chooses.
    """
    standing = [line for line in lines if not line.set_aside]
    heads = [line for line in standing if not any(_corrects(o, line) for o in standing)]
    heads = sorted(heads or standing, key=_age)
    if not heads:
        return Outcome(None, frozenset())
    return Outcome(heads[0].id, frozenset(line.id for line in heads[1:]))


def day_corrected(
    lines: Sequence[Told], session: str, knows: Mapping[str, int | None] | None
) -> date | None:
    """Return the day of the number that a session goes on with or corrects; None for a first."""
    known = [
        line
        for line in lines
        if line.counted_on is not None
        and (line.session == session or knows is None or line.session in knows)
    ]
    return max(known, key=_age).counted_on if known else None


def _corrects(one: Told, other: Told) -> bool:
    if one is other or not one.has_seen(other):
        return False
    return not other.has_seen(one) or _age(other) < _age(one)


def _age(line: Told) -> tuple[datetime, str]:
    return line.begun_at, line.session
