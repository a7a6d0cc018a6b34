"""When a pest is expected: by the calendar and by the warmth of this year, and when to begin."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median

from orthocris.core.seasons.warmth import Season, prolonged

PREVENT_WEEKS = 4  # before it is expected: whoever begins two weeks later is in time still
WATCH_AFTER = timedelta(days=14)  # beyond the day it was expected
LOOK_EVERY = 7  # days, for those who act only on what they see
INTERVAL, INTERVAL_WET = 14, 7  # days between treatments that prevent, dry and after rain
WET_MM = 10.0  # of rain since the last one that wash it off


@dataclass(frozen=True, slots=True)
class Sighting:
    """That a pest was there: on which day, where, and by which trial where it was one."""

    on: date
    place: str
    trial_id: int | None = None


@dataclass(frozen=True, slots=True)
class First:
    """When a pest was first seen in a year, and the degree-days gathered by then, if known."""

    start: date
    sighting: Sighting
    degree_days: float | None

    @property
    def day(self) -> int:
        """Days from the beginning of the year."""
        return (self.sighting.on - self.start).days


@dataclass(frozen=True, slots=True)
class Expected:
    """When a pest is expected this year.

    `on` is by warmth where this year's and an earlier one's is known, else by the calendar;
    `earliest` and `latest` span the years before, moved likewise. `ahead` says by how many days
    warmth brings it forward (negative: later), None by the calendar alone.
    """

    on: date
    earliest: date
    latest: date
    ahead: int | None
    years: int

    @property
    def prevent_from(self) -> date:
        """The first day of prevention."""
        return self.on - timedelta(weeks=PREVENT_WEEKS)


def firsts(sightings: Sequence[Sighting], seasons: Sequence[Season]) -> tuple[First, ...]:
    """Return the first sighting of each year, the oldest year first."""
    found = []
    for season in seasons:
        start, end = season.start, season.end
        own = [s for s in sightings if start <= s.on < end]
        if own:
            first = min(own, key=lambda s: s.on)
            found.append(First(season.start, first, season.sum_until(first.on)))
    return tuple(found)


def expect(before: Sequence[First], this: Season, earlier: Sequence[Season]) -> Expected | None:
    """Tell when it comes this year, from when it came in the years before.

    The middle of those years is taken, in degree-days where they are known of this year and of
    them, else in days. Days to come are taken to be as warm as they were in those years.
    """
    if not before:
        return None
    days = [first.day for first in before]
    by_calendar = this.start + timedelta(days=round(median(days)))
    early, late = (this.start + timedelta(days=d) for d in (min(days), max(days)))
    sums = [first.degree_days for first in before if first.degree_days is not None]
    today = this.start + timedelta(days=len(this.days) - 1)
    if not sums or this.sum_until(today) is None:
        return Expected(by_calendar, early, late, None, len(before))
    year = prolonged(this, earlier)
    by_warmth = [year.day_of(total) for total in (median(sums), min(sums), max(sums))]
    if None in by_warmth:
        return Expected(by_calendar, early, late, None, len(before))
    on, first, last = (day for day in by_warmth if day is not None)
    return Expected(on, first, last, (by_calendar - on).days, len(before))


@dataclass(frozen=True, slots=True)
class Step:
    """What is next against a pest that is expected: `treat` or look, from which day, and why."""

    treat: bool
    on: date
    why: str


def next_step(
    expected: Expected,
    today: date,
    *,
    looked: Sequence[date],
    treated: Sequence[date],
    rain_since: float,
) -> Step | None:
    """Return what comes next before a pest is seen; None outside its time.

    Both schools are followed by what was done: whoever has treated since prevention began is asked
    again after two weeks, after one where rain washed it off; whoever has not is asked to look.

    Parameters
    ----------
    looked, treated:
        The days on which nothing was found, and on which it was treated, of this year.
    rain_since:
        mm since the last treatment, 0 where it is not known.
    """
    if not expected.prevent_from <= today <= expected.on + WATCH_AFTER:
        return None
    since = [day for day in treated if day >= expected.prevent_from]
    if since:
        wet = rain_since >= WET_MM
        gap = INTERVAL_WET if wet else INTERVAL
        why = f"rain has fallen on the last one: {gap} days apart" if wet else f"{gap} days apart"
        return Step(True, max(since) + timedelta(days=gap), why)
    last = [day for day in looked if day >= expected.prevent_from]
    on = max(last) + timedelta(days=LOOK_EVERY) if last else expected.prevent_from
    return Step(False, on, expected_words(expected, today))


def expected_words(expected: Expected, today: date) -> str:
    """Say when it is expected, by what, and how sure that is."""
    days = (expected.on - today).days
    when = (
        "it is expected about now"
        if abs(days) < 2
        else f"it is expected in {days} days"
        if days > 0
        else f"it was expected {-days} days ago"
    )
    if expected.ahead is None:
        moved = "by the calendar"
    elif expected.ahead == 0:
        moved = "by this year's warmth"
    else:
        word = "earlier" if expected.ahead > 0 else "later"
        size = abs(expected.ahead)
        moved = f"by this year's warmth, {size} {'day' if size == 1 else 'days'} {word}"
    return f"{when}, {moved}"
