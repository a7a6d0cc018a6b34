"""How much to mix, so that the tools there are measure every part of it well."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction
from heapq import merge
from itertools import chain, count, islice
from math import ceil

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.units import Tool, measure_with

WELL = Fraction(1, 20)  # rounding to the tool changes an amount by no more than this
TRIED = 300  # volumes that are looked at


def measurable_volume(
    parts: Sequence[Part], needed: Fraction, tools: Sequence[Tool], most: Fraction
) -> Fraction:
    """Return the least volume, from what is needed up to `most`, that can be measured well.

    That is what is needed itself where rounding to the tools changes no part by more than 5%; or
    the least volume that takes a whole number of steps of a tool (a level spoon, say) and keeps the
    other parts within 5% too. Where there is none, the one that comes nearest.

    Parameters
    ----------
    parts:
        Ingredients per litre.
    needed:
        Ready mix, ml.
    tools:
        What the gardener has.
    most:
        The most that can be mixed at once, ml.
    """
    poured = [part for part in parts if not part.steeped and part.per_litre > 0]
    best, least = needed, None
    try:
        for volume in chain([needed], islice(_rungs(poured, needed, tools), TRIED)):
            if volume > max(most, needed):
                break
            error = _worst(poured, volume, tools)
            if least is None or error < least:
                best, least = volume, error
            if error <= WELL:
                break
    except InputError:
        return needed  # a part that no tool measures is told where it is poured
    return best


def _rungs(parts: Sequence[Part], needed: Fraction, tools: Sequence[Tool]) -> Iterator[Fraction]:
    """Volumes from what is needed up that take whole steps of a tool for some part, in order."""
    steps = {
        tool.step * LITRE / part.per_litre
        for part in parts
        for tool in tools
        if tool.dimension is part.dimension
    }
    return merge(*(_multiples(one, needed) for one in steps))


def _multiples(one: Fraction, least: Fraction) -> Iterator[Fraction]:
    return (k * one for k in count(max(ceil(least / one), 1)))


def _worst(parts: Sequence[Part], volume: Fraction, tools: Sequence[Tool]) -> Fraction:
    errors = [
        abs(measure_with(part.per_litre * volume / LITRE, part.dimension, tools).error)
        for part in parts
    ]
    return max(errors, default=Fraction(0))
