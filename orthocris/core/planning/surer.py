"""What would tell more with the very plants there are: fewer remedies, halves, leaves."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from orthocris.core.planning.glance import Sketch, shown
from orthocris.core.planning.power import SURE
from orthocris.core.planning.units import MOST_LEAVES
from orthocris.core.trial.setup import UNIT_WORDS, Kind, Unit
from orthocris.core.words import many

MORE = 0.05  # by which another way must be surer
TRIALS = 100  # right to 5 points
SETS = 8  # leaves for each on a single plant


@dataclass(frozen=True, slots=True)
class Way:
    """Another plan for the same plants: its unit, how many on each plant, its remedies with the
    control, and how often a clear remedy is then shown."""

    says: str
    unit: Unit
    each: int
    remedies: int
    share: float


def surer_ways(plan: Sketch) -> tuple[Way, ...]:
    """Name the best way of whole plants, of leaves and of halves that would tell more.

    The surest first; none where it is sure enough.

    No way needs a plant more; all remedies, one fewer, and one alone are
    looked at. Of two that are as sure the one that keeps more remedies comes
    first. Only questions that compare remedies are looked at: the others need all they ask for.
    """
    if plan.kind is not Kind.COMPARE:
        return ()
    now = shown(plan, TRIALS)
    if now >= SURE:
        return ()
    found = []
    for other in _others(plan):
        share = shown(other, TRIALS)
        if share >= now + MORE:
            found.append(Way(_said(other), other.unit, other.each, other.remedies, share))
    found.sort(key=lambda way: (-round(way.share, 1), -way.remedies))
    best = {way.unit: way for way in reversed(found)}
    return tuple(way for way in found if best[way.unit] is way)


def _others(plan: Sketch) -> Iterator[Sketch]:
    for remedies in sorted({plan.remedies, plan.remedies - 1, 2} - {1}, reverse=True):
        ways = [(Unit.PLANT, 1)]
        if plan.plants > 1:
            ways += [(Unit.LEAF, remedies), *([(Unit.HALF, 2)] if remedies == 2 else [])]
        else:
            ways.append((Unit.LEAF, remedies * min(SETS, MOST_LEAVES // remedies)))
        for unit, each in ways:
            other = replace(plan, remedies=remedies, unit=unit, each=each)
            if (other.unit, other.remedies) != (plan.unit, plan.remedies):
                yield other


def _said(plan: Sketch) -> str:
    remedies = "one remedy" if plan.remedies == 2 else f"{plan.remedies - 1} remedies"
    if plan.unit is Unit.PLANT:
        return f"{remedies.capitalize()} on whole plants"
    parts = "halves" if plan.unit is Unit.HALF else f"{plan.each} {UNIT_WORDS[plan.unit][1]}"
    on = "the plant" if plan.plants == 1 else f"each of the {many(plan.plants, 'plant')}"
    return f"{remedies.capitalize()} on {parts} of {on}"
