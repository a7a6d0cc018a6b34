"""Looks: which days belong together, which are whole, and what a plant had at one."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping

from orthocris.core.errors import InputError
from orthocris.core.verdict.amounts import mean_level
from orthocris.core.verdict.gathering import Gathered, Sample, Samples

LOOK_SPAN_DAYS = 1.5  # plants counted at most this far apart may belong to one look
STILL_A_LOOK = 0.4  # share of the plants left that makes a look; some may be lost unmarked


def looks_after(samples: Samples) -> list[tuple[float, ...]]:
    """Group the days after the first spray into looks.

    Days at most a day and a half apart are one look when most plants of the later day were not
    yet counted in it, for then the round of counting merely took that long.
    """
    who: dict[float, set[str]] = defaultdict(set)
    for plant, by_day in samples.items():
        for day in by_day:
            if day > 0:
                who[day].add(plant)
    looks: list[list[float]] = []
    seen: set[str] = set()
    for day in sorted(who):
        new = 2 * len(seen & who[day]) < len(who[day])
        if looks and day - looks[-1][0] <= LOOK_SPAN_DAYS and new:
            looks[-1].append(day)
            seen |= who[day]
        else:
            looks.append([day])
            seen = set(who[day])
    return [tuple(look) for look in looks]


def whole_looks(
    gathered: Gathered, samples: Samples, looks: list[tuple[float, ...]]
) -> list[tuple[float, ...]]:
    """Those planned for all plants that are left: a few stray counts are no look."""
    alive_until = [
        gathered.lost_on.get(plant, math.inf)
        for plant, by_day in samples.items()
        if any(day > 0 for day in by_day)
    ]
    return [
        days
        for days in looks
        if sum(any(day in by_day for day in days) for by_day in samples.values())
        >= STILL_A_LOOK * sum(until > days[0] for until in alive_until)
    ]


def choose_days(
    looks: list[tuple[float, ...]], whole: list[tuple[float, ...]], look: str
) -> tuple[float, ...]:
    if not looks:
        raise InputError(
            "nothing was counted after the first spray (every day is 0 or below)",
            code="no_look_after",
            field="day",
            fix="Add the counts of a later day.",
        )
    if look == "last":
        return whole[-1]
    if look == "auc":
        if len(whole) < 2:
            raise InputError(
                "the area under the curve needs at least two looks after the first spray",
                code="one_look",
                field="look",
                fix="Judge the last look, or count once more.",
            )
        return tuple(day for days in whole for day in days)
    return _days_of(looks, look)


def _days_of(looks: list[tuple[float, ...]], look: str) -> tuple[float, ...]:
    known = ", ".join(f"{days[-1]:g}" for days in looks)
    try:
        asked = float(look)
    except ValueError:
        raise InputError(
            f"the look {look!r} is neither last, auc nor a day",
            code="bad_look",
            field="look",
            fix=f"Use last, auc or one of the days {known}.",
        ) from None
    for days in looks:
        if any(abs(day - asked) < 1e-9 for day in days):
            return days
    raise InputError(
        f"nothing was counted on day {look}",
        code="no_such_look",
        field="look",
        fix=f"Days counted after the first spray: {known}.",
    )


def sample_at(
    by_day: Mapping[float, Sample], days: tuple[float, ...], look: str
) -> tuple[Sample, float] | None:
    """The plant's sample at the look, and how many counts it is worth; None when it has none."""
    found = [by_day[day] for day in days if day in by_day]
    if look != "auc":
        return (found[-1], 1.0) if found else None
    # A plant's curve counts only when it spans the whole time: otherwise it is no fair area.
    whole = (
        len(found) > 1
        and found[0].day - days[0] <= LOOK_SPAN_DAYS
        and days[-1] - found[-1].day <= LOOK_SPAN_DAYS
    )
    return mean_level(found) if whole else None
