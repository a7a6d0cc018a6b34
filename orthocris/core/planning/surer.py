"""What would tell more with the plants there are: fewer remedies, halves, leaves, two looks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from orthocris.core.planning.glance import Sketch, shown
from orthocris.core.planning.power import SURE
from orthocris.core.planning.units import MOST_LEAVES
from orthocris.core.trial.measures import MEASURES, Scale
from orthocris.core.trial.setup import UNIT_WORDS, Kind, Unit
from orthocris.core.words import many

MORE = 0.05  # by which another way must be surer
TRIALS = 100  # right to 5 points
MOST = 3  # ways are named
SETS = 8  # leaves for each on a single plant


@dataclass(frozen=True, slots=True)
class Way:
    """Another plan for the same plants: its unit, how many on each plant, its remedies with the
    control, how often a clear remedy is then shown, and whether two looks are judged together."""

    says: str
    unit: Unit
    each: int
    remedies: int
    share: float
    two_looks: bool


def surer_ways(plan: Sketch) -> tuple[Way, ...]:
    """Name the best way of whole plants, of leaves, of halves and of two looks that tells more.

    The surest first, three at most; none where it is sure enough.

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
            found.append(
                Way(
                    _said(other, plan),
                    other.unit,
                    other.each,
                    other.remedies,
                    share,
                    other.two_looks,
                )
            )
    found.sort(key=lambda way: (-round(way.share, 1), -way.remedies))
    best = {(way.unit, way.two_looks): way for way in reversed(found)}
    return tuple(way for way in found if best[way.unit, way.two_looks] is way)[:MOST]


def _others(plan: Sketch) -> Iterator[Sketch]:
    if plan.looks > 1 and not plan.two_looks and MEASURES[plan.measure].scale is Scale.COUNT:
        yield replace(plan, two_looks=True)
    for remedies in sorted({plan.remedies, plan.remedies - 1, 2} - {1}, reverse=True):
        parts = () if plan.whole else _parts(plan, remedies)
        for unit, each in ((Unit.PLANT, 1), *parts):
            other = replace(plan, remedies=remedies, unit=unit, each=each)
            if (other.unit, other.remedies) != (plan.unit, plan.remedies):
                yield other


def _parts(plan: Sketch, remedies: int) -> tuple[tuple[Unit, int], ...]:
    """What stands for whole plants, and how many of it on each."""
    if plan.plants == 1:
        return ((Unit.LEAF, remedies * min(SETS, MOST_LEAVES // remedies)),)
    return (Unit.LEAF, remedies), *([(Unit.HALF, 2)] if remedies == 2 else [])


def _said(plan: Sketch, now: Sketch) -> str:
    if plan.two_looks and not now.two_looks:
        return "All as it is, the last two looks judged together, if it does as much at both"
    remedies = "one remedy" if plan.remedies == 2 else f"{plan.remedies - 1} remedies"
    if plan.unit is Unit.PLANT:
        return f"{remedies.capitalize()} on whole plants"
    parts = "halves" if plan.unit is Unit.HALF else f"{plan.each} {UNIT_WORDS[plan.unit][1]}"
    on = "the plant" if plan.plants == 1 else f"each of the {many(plan.plants, 'plant')}"
    return f"{remedies.capitalize()} on {parts} of {on}"
