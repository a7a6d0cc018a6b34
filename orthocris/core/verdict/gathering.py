"""The one look at the raw observations: each measure's subsamples added up, plant by plant."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from orthocris.core.trial.measures import MEASURES, Measure, Scale
from orthocris.core.verdict.observation import Observation


@dataclass(frozen=True, slots=True)
class Sample:
    """The subsamples of one plant, day and measure, taken together.

    `value`, `of` and `effort` are sums for counts and shares; for percentages and grades
    `value` is the mean and `effort` is 1.
    """

    day: float
    value: float
    of: float | None
    effort: float


@dataclass(frozen=True, slots=True)
class Home:
    """Where a plant belongs: its remedy, block and column."""

    remedy: str
    block: str | None
    column: str | None


Samples = dict[str, dict[float, Sample]]  # by plant, then by day


@dataclass(frozen=True, slots=True)
class Gathered:
    """Every number of a trial, gathered once: samples by measure's key, and each plant's home.

    Plants are in the order first seen, whatever was counted on them.
    """

    samples: Mapping[str, Samples]
    homes: Mapping[str, Home]

    @property
    def remedies(self) -> tuple[str, ...]:
        """Names of the remedies in the order first seen, the control included."""
        return tuple(dict.fromkeys(home.remedy for home in self.homes.values()))

    def of(self, key: str) -> Samples:
        """Return the samples of a measure; none when it was not counted."""
        return self.samples.get(key, {})


def gather(observations: Iterable[Observation]) -> Gathered:
    """Add up (counts) or average (percentages, grades) the subsamples of each plant and day."""
    parts: dict[str, dict[tuple[str, float], list[Observation]]] = {}
    homes: dict[str, Home] = {}
    for o in observations:
        homes.setdefault(o.plant, Home(o.remedy, o.block, o.column))
        parts.setdefault(o.measure, defaultdict(list))[o.plant, o.day].append(o)
    samples: dict[str, Samples] = {}
    for key, found in parts.items():
        by_plant = samples.setdefault(key, {})
        for (plant, day), subsamples in found.items():
            by_plant.setdefault(plant, {})[day] = _together(MEASURES[key], day, subsamples)
    return Gathered(samples, homes)


def latest_before(by_day: Mapping[float, Sample]) -> Sample | None:
    """Return the last sample taken on or before the day of the first spray."""
    earlier = [day for day in by_day if day <= 0]
    return by_day[max(earlier)] if earlier else None


def _together(measure: Measure, day: float, subsamples: list[Observation]) -> Sample:
    total = sum(o.value for o in subsamples)
    if measure.scale in (Scale.PERCENT, Scale.GRADE):
        return Sample(day, total / len(subsamples), None, 1.0)
    of = sum(o.of or 0 for o in subsamples) if measure.scale is Scale.SHARE else None
    return Sample(day, total, of, sum(o.effort for o in subsamples))
