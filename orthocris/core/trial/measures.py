"""What can be counted or scored on a plant, and which numbers each measure allows."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.errors import InputError

LEAST_EFFORT = 0.001
COUNT_LIMIT = 1_000_000  # more insects than this on one plant is a slip of the finger


class Scale(StrEnum):
    """The kind of number a measure is; it decides how it is added up and analysed."""

    COUNT = "count"
    SHARE = "share"  # a count out of a total
    PERCENT = "percent"
    GRADE = "grade"  # an ordered score
    SIZE = "size"  # measured of the plant itself, in a unit of its own


class MeasureKey(StrEnum):
    """What can be counted, by its key."""

    LIVE = "live"
    DEAD = "dead"
    HATCHED = "hatched"
    COVER = "cover"
    RATING = "rating"
    CATCH = "catch"
    YOUNG = "young"
    EGGS = "eggs"
    DAMAGE = "damage"
    HELPERS = "helpers"
    VANISHED = "vanished"
    OTHER = "other"
    HEIGHT = "height"
    LEAVES = "leaves"
    PICKED = "picked"
    MOISTURE = "moisture"


LOST = "lost"  # in a table: 1 on the day on which a plant died or was lost; no measure to count
EGG_MEASURE = MeasureKey.HATCHED  # what a question about eggs counts


@dataclass(frozen=True, slots=True)
class Measure:
    """One thing to count or score.

    `noun` is what is left of it, in words; `judged` is False for measures that are the price of a
    remedy (damage, helpers) and never the aim of one.
    """

    key: str
    label: str
    noun: str
    scale: Scale
    upper: float
    judged: bool = True

    @property
    def _mass(self) -> bool:
        return self.scale in (Scale.PERCENT, Scale.GRADE, Scale.SIZE)

    @property
    def fewer(self) -> str:
        """Return "fewer live pests", or "less severity"."""
        return f"{'less' if self._mass else 'fewer'} {self.noun}"

    @property
    def many(self) -> str:
        """Return "many" of what is counted, "much" of what is not."""
        return "much" if self._mass else "many"

    @property
    def fewest(self) -> str:
        """Return "fewest live pests", or "least severity"."""
        return f"{'least' if self._mass else 'fewest'} {self.noun}"

    @property
    def none_left(self) -> str:
        """Return "no live pests were left", or "no severity was left"."""
        return f"no {self.noun} {'was' if self._mass else 'were'} left"


_ALL = (
    Measure("live", "Live pests", "live pests", Scale.COUNT, COUNT_LIMIT),
    Measure("dead", "Dead out of all counted", "survivors", Scale.SHARE, COUNT_LIMIT),
    Measure("hatched", "Eggs hatched out of all", "hatched eggs", Scale.SHARE, COUNT_LIMIT),
    Measure("cover", "Leaf area affected, %", "affected leaf area", Scale.PERCENT, 100),
    Measure("rating", "Rating 0 to 5", "severity", Scale.GRADE, 5),
    Measure("catch", "Catch per trap", "pests caught", Scale.COUNT, COUNT_LIMIT),
    Measure("young", "Young ones, of the live", "young pests", Scale.COUNT, COUNT_LIMIT),
    Measure("eggs", "Eggs seen", "eggs", Scale.COUNT, COUNT_LIMIT),
    Measure("damage", "Leaf damage 0 to 5", "leaf damage", Scale.GRADE, 5, judged=False),
    Measure("helpers", "Helpers seen", "helpers", Scale.COUNT, COUNT_LIMIT, judged=False),
    Measure("other", "The second pest", "live pests", Scale.COUNT, COUNT_LIMIT),
    Measure("vanished", "Eggs gone", "vanished eggs", Scale.COUNT, COUNT_LIMIT, judged=False),
    Measure("height", "Height, cm", "height", Scale.SIZE, 2000, judged=False),
    Measure("leaves", "Leaves", "foliage", Scale.SIZE, 1e5, judged=False),
    Measure("picked", "Picked, g", "weight picked", Scale.SIZE, 1e5, judged=False),
    Measure("moisture", "Soil moisture, 1 to 10", "soil moisture", Scale.SIZE, 10, judged=False),
)
MEASURES = {measure.key: measure for measure in _ALL}
# What may be tallied beside the measure of a trial; young ones are counted among the live too.
TALLIED_BESIDE = (
    *("young", "eggs", "dead", "helpers", "damage", "vanished", "other"),
    *("height", "leaves", "picked", "moisture"),
)
GROWN = tuple(measure.key for measure in _ALL if measure.scale is Scale.SIZE)
JUDGED_IN_ORDER = tuple(measure.key for measure in _ALL if measure.judged)


def measure_named(key: str) -> Measure:
    """Return the measure with this key, or raise InputError naming those there are."""
    try:
        return MEASURES[key]
    except KeyError:
        raise InputError(
            f"there is no measure called {key!r}",
            code="unknown_measure",
            field="measure",
            fix=f"Use one of: {', '.join(MEASURES)}.",
        ) from None


def check_value(measure: Measure, value: float, of: float | None) -> None:
    """Check one number against its measure.

    Parameters
    ----------
    measure:
        The measure it is a number of.
    value:
        A count, a percentage or a grade, in the measure's own unit.
    of:
        For shares: out of how many. None for every other measure.

    Raises
    ------
    InputError
        With the field at fault (`value` or `of`), a stable code and what to do.
    """
    _check_number(measure, value, "value", measure.upper)
    if measure.scale is not Scale.SHARE:
        if of is not None:
            raise InputError(
                f"{measure.key} is not a share, so it has no total",
                code="of_without_share",
                field="of",
                fix="Leave the total empty.",
            )
        return
    if of is None:
        raise InputError(
            f"{measure.key} needs the total it was counted out of",
            code="missing_total",
            field="of",
            fix="Give how many were looked at, live and dead together.",
        )
    _check_number(measure, of, "of", measure.upper)
    if of < 1 or value > of:
        raise InputError(
            f"{value:g} out of {of:g} is not a share",
            code="more_than_total",
            field="value" if of >= 1 else "of",
            fix="The total must be at least 1 and at least as large as the count.",
        )


def check_effort(effort: float) -> None:
    """Check the effort (leaves, traps × days searched) behind a number, LEAST_EFFORT or more."""
    if not math.isfinite(effort) or not LEAST_EFFORT <= effort <= COUNT_LIMIT:
        raise InputError(
            f"effort is {effort:g}",
            code="bad_effort",
            field="effort",
            fix=f"Give how many leaves (or traps × days) were searched: {LEAST_EFFORT:g} to "
            f"{COUNT_LIMIT}.",
        )


def _check_number(measure: Measure, value: float, field: str, upper: float) -> None:
    if not math.isfinite(value):
        raise InputError(
            f"{value} is not a number",
            code="not_a_number",
            field=field,
            fix="Give a plain number such as 12.",
        )
    if value < 0:
        raise InputError(
            f"{value:g} is below zero",
            code="negative_count",
            field=field,
            fix="Nothing found is 0; a count cannot be smaller.",
        )
    if value > upper:
        raise InputError(
            f"{value:g} is more than {upper:g}, the most that {measure.label.lower()} can be",
            code="too_large",
            field=field,
            fix=f"Give a number from 0 to {upper:g}.",
        )
    if measure.scale in (Scale.COUNT, Scale.SHARE) and value != int(value):
        raise InputError(
            f"{value:g} is a fraction of an insect",
            code="fraction",
            field=field,
            fix="Give a whole number; put the number of leaves searched into effort.",
        )
