"""A remedy as a programme: the days on which it is given, and how much each time."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from orthocris.core.errors import InputError

MOST_EVERY = 60  # days between two times
MOST_OWN_DAYS = 30


class Rhythm(StrEnum):
    """On which days a remedy is given."""

    ROUNDS = "rounds"  # on the trial's own rounds, as all others
    ONCE = "once"  # hung, laid or released on day 0
    EVERY = "every"  # every so many days from day 0; 1 is daily
    DAYS = "days"  # on days of its own, then perhaps every so many
    WATERING = "watering"  # at each watering, about every so many days


@dataclass(frozen=True, slots=True)
class Programme:
    """When a remedy is given; days count from the first spray.

    `every` is the number of days between two times (0 for none: then only `days`).
    """

    rhythm: Rhythm = Rhythm.ROUNDS
    every: int = 0
    days: tuple[int, ...] = ()

    @property
    def own(self) -> bool:
        """True when it has days of its own."""
        return self.rhythm is not Rhythm.ROUNDS


ON_EACH_ROUND = Programme()


def days_of(programme: Programme, round_days: Sequence[int], last: int) -> tuple[int, ...]:
    """Return the days on which a remedy is given, before the last look.

    Parameters
    ----------
    round_days:
        The trial's own rounds.
    last:
        The day of the last look: a treatment on it or after it belongs to no comparison.

    Examples
    --------
    >>> days_of(Programme(Rhythm.DAYS, every=7, days=(0, 4, 9)), (0,), 30)
    (0, 4, 9, 16, 23)
    """
    if programme.rhythm is Rhythm.ROUNDS:
        return tuple(round_days)
    if programme.rhythm is Rhythm.ONCE:
        return (0,)
    first = programme.days if programme.rhythm is Rhythm.DAYS else (0,)
    found = [day for day in first if day < last]
    while programme.every and found and found[-1] + programme.every < last:
        found.append(found[-1] + programme.every)
    return tuple(found)


def rest_of(days: Sequence[int], usual: int) -> int:
    """Return the least days between two times of a remedy: its own gap where that is shorter."""
    gaps = [later - day for day, later in pairwise(days)]
    return min([usual, *gaps])


def said(programme: Programme) -> str:
    """Say a programme in words."""
    if programme.rhythm is Rhythm.ROUNDS:
        return "on each round"
    if programme.rhythm is Rhythm.ONCE:
        return "once, on day 0"
    often = {1: "daily", 2: "every second day", 3: "every third day", 7: "weekly"}
    every = often.get(programme.every, f"every {programme.every} days")
    if programme.rhythm is Rhythm.WATERING:
        return f"at each watering, about {every}"
    if programme.rhythm is Rhythm.EVERY:
        return every
    days = ", ".join(str(day) for day in programme.days)
    return f"on day {days}, then {every}" if programme.every else f"on day {days}"


def check_programme(programme: Programme, field: str) -> None:
    """Refuse days that are no row from day 0 on, and rhythms without a number."""
    days = programme.days
    if programme.rhythm is Rhythm.DAYS and (
        not days
        or days[0] != 0
        or list(days) != sorted(set(days))
        or days[-1] > 365
        or len(days) > MOST_OWN_DAYS
    ):
        raise InputError(
            f"the days {', '.join(map(str, days)) or 'of nothing'} are no rising row from 0",
            code="bad_days",
            field=f"{field}.days",
            fix=f"Give up to {MOST_OWN_DAYS} different whole days, 0 the first.",
        )
    needs = programme.rhythm in (Rhythm.EVERY, Rhythm.WATERING)
    if not (1 if needs else 0) <= programme.every <= MOST_EVERY:
        raise InputError(
            f"every {programme.every} days",
            code="bad_rhythm",
            field=f"{field}.every",
            fix=f"Give 1 (daily) to {MOST_EVERY} days.",
        )


def timetable(
    own: Sequence[tuple[Programme, bool, bool]], round_days: Sequence[int], last: int
) -> dict[int, frozenset[int]] | None:
    """Return for each day which remedies are given, by their place; None when all share rounds.

    Parameters
    ----------
    own:
        For each remedy: its programme, whether it is the control, and whether it wets leaves.
        A control that is wetted is wetted whenever another remedy wets; one that is left alone
        is handled on the trial's own rounds, and on day 0.
    """
    if not any(programme.own for programme, _, _ in own):
        return None
    found: dict[int, set[int]] = {}
    for place, (programme, control, _) in enumerate(own):
        if not control:
            for day in days_of(programme, round_days, last):
                found.setdefault(day, set()).add(place)
    for place, (_, control, wets) in enumerate(own):
        if control:
            for day in _control_days(own, found, wets=wets):
                found.setdefault(day, set()).add(place)
    return {day: frozenset(found[day]) for day in sorted(found)}


def _control_days(
    own: Sequence[tuple[Programme, bool, bool]], found: dict[int, set[int]], *, wets: bool
) -> Iterable[int]:
    def like(place: int) -> bool:
        programme, _, also_wets = own[place]
        return also_wets if wets else not programme.own

    days = {day for day, places in found.items() if any(like(place) for place in places)}
    return sorted(days | {0})
