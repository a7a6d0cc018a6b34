"""The one look at the raw observations: each measure's subsamples added up, unit by unit."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import NamedTuple

from orthocris.core.trial.measures import LOST, MEASURES, Scale
from orthocris.core.verdict.observation import Observation

FEWEST_ROWS = 6  # of fewer, that all stand twice may be chance


class Sample(NamedTuple):
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
    """Where a plant belongs: its remedy, block and column, and with which addition it came."""

    remedy: str
    block: str | None
    column: str | None
    added: int = 0


Samples = dict[str, dict[float, Sample]]  # by plant, then by day


@dataclass(frozen=True, slots=True)
class Gathered:
    """Every number of a trial, gathered once.

    Attributes
    ----------
    samples:
        By measure's key. Plants are in the order first seen, whatever was counted on them.
    homes:
        Each plant's remedy, block and column.
    lost_on:
        The day on which a plant was marked as died or lost; nothing counted from then on is kept.
    merged:
        Plants of which several leaves had the same remedy, taken together as one.
    copied:
        True when the table was pasted twice: the second copy was left out.
    one_plant:
        The plant on which all of it stood, None where there were several.
    """

    samples: Mapping[str, Samples]
    homes: Mapping[str, Home]
    lost_on: Mapping[str, float]
    merged: tuple[str, ...]
    copied: bool
    one_plant: str | None = None

    @property
    def remedies(self) -> tuple[str, ...]:
        """Names of the remedies in the order first seen, the control included."""
        return tuple(dict.fromkeys(home.remedy for home in self.homes.values()))

    def of(self, key: str) -> Samples:
        """Return the samples of a measure; none when it was not counted."""
        return self.samples.get(key, {})


def gather(observations: Iterable[Observation]) -> Gathered:
    """Add up (counts) or average (percentages, grades) the subsamples of each plant and day.

    Leaves or halves of one plant (the same group) are compared within it: the plant is their
    block. Several that got the same remedy are subsamples of one unit, never replicates; where all
    there is stands on one plant, they are the units of that plant.
    """
    seen = list(observations)
    copied = _is_copied(seen)
    if copied:
        seen = seen[: len(seen) // 2]
    plants: dict[str, Observation] = {}  # what is told of a plant is the same in all its rows
    for o in seen:
        plants.setdefault(o.plant, o)
    places = list(plants.values())
    alone = _alone(places)
    units, merged = _units([o for o in places if o.group not in alone])
    units.update({o.plant: o.plant for o in places if o.group in alone})
    later = any(o.added for o in places)
    mixed = _mixed_groups(places) - alone
    homes: dict[str, Home] = {}
    for o in places:
        block = f"{o.group}" if o.group in mixed else o.block
        if later:  # each addition was drawn by a lot of its own
            block = f"{o.added}/{block or ''}"
        homes.setdefault(units[o.plant], Home(o.remedy, block, o.column, o.added))
    lost_on: dict[str, float] = {}
    rows: defaultdict[str, list[Observation]] = defaultdict(list)
    for o in seen:
        if o.measure != LOST:
            rows[o.measure].append(o)
        elif o.value:
            unit = units[o.plant]
            lost_on[unit] = min(o.day, lost_on.get(unit, o.day))
    samples = {key: _samples(own, key, units, lost_on) for key, own in rows.items()}
    one = next(iter(alone)) if len(alone) == 1 and not later else None
    return Gathered(samples, homes, lost_on, merged, copied, one)


def _alone(observations: list[Observation]) -> set[str | None]:
    """The plants that are all there is of their part of the trial: their leaves are its units.

    Of one plant nothing else can be compared; what is found holds for that plant alone.
    """
    parts: dict[int, set[str | None]] = defaultdict(set)
    for o in observations:
        parts[o.added].add(o.group)
    if any(len(groups) > 1 or None in groups for groups in parts.values()):
        return set()
    return set().union(*parts.values())


def _is_copied(observations: list[Observation]) -> bool:
    """Tell whether the table was pasted behind itself: its second half is its first, row by row."""
    half, odd = divmod(len(observations), 2)
    return not odd and half >= FEWEST_ROWS and observations[:half] == observations[half:]


def _units(observations: list[Observation]) -> tuple[dict[str, str], tuple[str, ...]]:
    """Name the unit of each plant or leaf: leaves of one plant under one remedy share it."""
    together: dict[tuple[str, str], dict[str, None]] = defaultdict(dict)
    for o in observations:
        if o.group is not None:
            together[o.group, o.remedy][o.plant] = None
    units = {o.plant: o.plant for o in observations}
    merged: dict[str, None] = {}
    for (group, remedy), members in together.items():
        if len(members) > 1:
            merged[group] = None
            units.update(dict.fromkeys(members, f"{group} ({remedy})"))
    return units, tuple(merged)


def _mixed_groups(observations: list[Observation]) -> set[str | None]:
    """The plants whose leaves got more than one remedy."""
    remedies: dict[str, set[str]] = defaultdict(set)
    for o in observations:
        if o.group is not None:
            remedies[o.group].add(o.remedy)
    return {group for group, found in remedies.items() if len(found) > 1}


def latest_before(by_day: Mapping[float, Sample]) -> Sample | None:
    """Return the last sample taken on or before the day of the first spray."""
    earlier = [day for day in by_day if day <= 0]
    return by_day[max(earlier)] if earlier else None


def _samples(
    rows: Iterable[Observation],
    measure: str,
    units: Mapping[str, str],
    lost_on: Mapping[str, float],
) -> Samples:
    """Take together what was counted of one measure on each unit and day, until it died."""
    scale = MEASURES[measure].scale
    by_eye, shared = scale in (Scale.PERCENT, Scale.GRADE), scale is Scale.SHARE
    found: defaultdict[str, dict[float, Sample]] = defaultdict(dict)
    several: dict[tuple[str, float], list[Sample]] = {}
    make = partial(tuple.__new__, Sample)  # of a large trial there are fifteen thousand
    for plant, _, _, day, _, value, of, effort, *_ in rows:
        unit = units[plant]
        one = make((day, value, (of or 0) if shared else None, 1.0 if by_eye else effort))
        first = found[unit].setdefault(day, one)
        if first is not one:
            several.setdefault((unit, day), [first]).append(one)
    for (unit, day), own in several.items():
        value = sum(s.value for s in own)
        found[unit][day] = Sample(
            day,
            value / len(own) if by_eye else value,
            sum(s.of or 0 for s in own) if shared else None,
            1.0 if by_eye else sum(s.effort for s in own),
        )
    for unit in found.keys() & lost_on.keys():  # a zero counted on a dead plant is no success
        kept = {day: s for day, s in found[unit].items() if day <= 0 or day < lost_on[unit]}
        if kept:
            found[unit] = kept
        else:
            del found[unit]
    return dict(found)
