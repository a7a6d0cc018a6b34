"""What is worth a second look while one counts; it never holds anything back."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from statistics import median

from orthocris.core.words import weekday_words

TIMES_THE_OTHERS = 10.0
LEAST_OUTLIER = 20.0  # pests; below, ten times more is a matter of chance
TIMES_THE_MOST = 4.0  # what the three that rose most of the others did
ROUND_SHARE, ENOUGH_NUMBERS = 0.8, 10  # numbers of two digits that end in 0 or 5
SAME_IN_A_ROW = 6
HOURS_APART = 4.0
DAYS_OFF = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class CountCheck:
    """Something to look at again: at a plant, on one of its leaves, or of the look as a whole."""

    code: str
    text: str
    plant_id: int | None = None
    sample: int | None = None


@dataclass(frozen=True, slots=True)
class Counted:
    """What was counted at a look and before, as far as the checks need it.

    `plants` are names by id in walking order;
    `leaves` the count of each leaf by plant and number (0 the plant as a whole); `before` a
    plant's number at the count before, `now` at this look, in the same unit; `due` the planned
    day, `on` the days really counted on; `times` and `times_before` when plants were counted;
    `unscored` the plants that are counted and whose leaf damage is not scored, where it is to be.
    """

    number: int
    plants: Mapping[int, str]
    leaves: Mapping[tuple[int, int], float]
    before: Mapping[int, float]
    now: Mapping[int, float]
    due: date
    on: Sequence[date]
    times: Sequence[datetime]
    times_before: Sequence[datetime]
    unscored: Sequence[int] = ()


def count_checks(counted: Counted, unit: str = "leaf") -> tuple[CountCheck, ...]:
    """Return what is worth a second look, single leaves first."""
    return (
        *_far_above(counted, unit),
        *_risen(counted),
        *_skipped(counted),
        *_unscored(counted),
        *_rounded(counted),
        *_same(counted),
        *_day_and_hour(counted),
    )


def _far_above(counted: Counted, unit: str) -> Iterator[CountCheck]:
    by_plant: dict[int, dict[int, float]] = {}
    for (plant, sample), value in counted.leaves.items():
        if sample:
            by_plant.setdefault(plant, {})[sample] = value
    for plant, leaves in by_plant.items():
        for sample, value in leaves.items():
            others = [v for s, v in leaves.items() if s != sample]
            if len(others) < 2 or value < LEAST_OUTLIER:
                continue
            if value >= TIMES_THE_OTHERS * max(sum(others) / len(others), 1.0):
                yield CountCheck(
                    "leaf_far_above",
                    f"{_name(counted, plant)}, {unit} {sample}: {value:g} is more than ten times "
                    "its others.",
                    plant,
                    sample,
                )


def _risen(counted: Counted) -> Iterator[CountCheck]:
    if counted.number == 0:
        return
    rise = {
        plant: math.log((counted.now[plant] + 0.5) / (counted.before[plant] + 0.5))
        for plant in counted.now
        if plant in counted.before
    }
    for plant, by in rise.items():
        # Not against the untreated ones: that would tell which they are.
        most = sorted(r for other, r in rise.items() if other != plant)[-3:]
        if len(most) < 3 or counted.now[plant] < 10:
            continue
        if by - median(most) > math.log(TIMES_THE_MOST):
            yield CountCheck(
                "risen",
                f"{_name(counted, plant)} went from {counted.before[plant]:g} to "
                f"{counted.now[plant]:g}, far more than any other plant rose.",
                plant,
            )


def _skipped(counted: Counted) -> Iterator[CountCheck]:
    order = list(counted.plants)
    done = [k for k, plant in enumerate(order) if plant in counted.now]
    for k, plant in enumerate(order):
        if plant not in counted.now and sum(later > k for later in done) >= 2:
            yield CountCheck("skipped", f"{counted.plants[plant]} was passed by.", plant)


def _unscored(counted: Counted) -> Iterator[CountCheck]:
    if counted.unscored:
        names = ", ".join(_name(counted, plant) for plant in counted.unscored[:4])
        more = f" and {len(counted.unscored) - 4} more" if len(counted.unscored) > 4 else ""
        yield CountCheck(
            "unscored",
            f"{names}{more}: counted, and the leaf damage is not scored.",
            counted.unscored[0],
        )


def _rounded(counted: Counted) -> Iterator[CountCheck]:
    large = [v for v in counted.leaves.values() if v >= 10]
    ends = sum(v % 5 == 0 for v in large)
    if len(large) >= ENOUGH_NUMBERS and ends >= ROUND_SHARE * len(large):
        yield CountCheck(
            "rounded",
            f"{ends} of {len(large)} numbers end in 0 or 5. If they are estimates, say so in a "
            "note; counted numbers are surer.",
        )


def _same(counted: Counted) -> Iterator[CountCheck]:
    values = [v for v in counted.leaves.values() if v]
    if len(values) < SAME_IN_A_ROW:
        return
    value, times = Counter(values).most_common(1)[0]
    if times == len(values):
        yield CountCheck("all_the_same", f"All {times} numbers are {value:g}.")


def _day_and_hour(counted: Counted) -> Iterator[CountCheck]:
    off = [on for on in counted.on if abs(on - counted.due) > DAYS_OFF]
    if off and counted.number:
        yield CountCheck(
            "off_day",
            f"Planned for {weekday_words(counted.due)}, counted on {weekday_words(max(off))}.",
        )
    if len(counted.times) < 3 or len(counted.times_before) < 3 or counted.number == 0:
        return
    now, before = (
        median(t.hour + t.minute / 60 for t in times)
        for times in (counted.times, counted.times_before)
    )
    if abs(now - before) > HOURS_APART:
        yield CountCheck(
            "other_hour",
            f"Counted about {now:.0f} o'clock; before it was about {before:.0f}. Many pests move "
            "with the warmth of the day.",
        )


def _name(counted: Counted, plant: int) -> str:
    return counted.plants.get(plant, f"plant {plant}")
