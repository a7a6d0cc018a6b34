"""Two people who counted the same plants: how far apart they are."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

FEWEST = 3  # pairs before a ratio is told
FAR = 2.0  # times what is usual between them: a pair worth counting again
Place = tuple[int, int]  # plant id and leaf, 0 for the plant as a whole


@dataclass(frozen=True, slots=True)
class Apart:
    """A plant or leaf on which two people are far apart."""

    plant_id: int
    sample: int
    first: float
    second: float


@dataclass(frozen=True, slots=True)
class Agreement:
    """How a second person's numbers compare with the first's.

    `ratio` is the second's over the first's, geometric mean over `pairs` places both counted, with
    a 95% interval; `spread` the standard deviation of a single count of either on the log scale.
    None with fewer than three pairs. `apart` are the pairs furthest from the usual ratio.
    """

    person: str
    pairs: int
    ratio: float | None
    ratio_low: float | None
    ratio_high: float | None
    spread: float | None
    apart: tuple[Apart, ...]


def agreement(
    person: str, first: Mapping[Place, float], second: Mapping[Place, float]
) -> Agreement:
    """Compare two people's numbers of the same places.

    Numbers are compared by log((second + 1/2) / (first + 1/2)); the interval of the mean is
    Student's. A single count's spread is the standard deviation of the differences over the square
    root of two (Dahlberg 1940: the error of a method from duplicate determinations).
    """
    places = sorted(first.keys() & second.keys())
    logs = np.array([math.log((second[p] + 0.5) / (first[p] + 0.5)) for p in places])
    if len(places) < FEWEST:
        return Agreement(person, len(places), None, None, None, None, ())
    middle, deviation = float(logs.mean()), float(logs.std(ddof=1))
    from scipy.special import stdtrit  # slow to load, and few ask for it

    half = float(stdtrit(len(logs) - 1, 0.975)) * deviation / math.sqrt(len(logs))
    far = [
        Apart(*place, first[place], second[place])
        for place, log in zip(places, logs, strict=True)
        if deviation > 0 and abs(log - middle) > FAR * deviation
    ]
    ratio, low, high = (math.exp(v) for v in (middle, middle - half, middle + half))
    return Agreement(
        person, len(places), ratio, low, high, deviation / math.sqrt(2), tuple(far[:5])
    )


def agreement_note(found: Agreement) -> str:
    """Say in a sentence how a second count went; "" where it cannot be told."""
    if found.ratio is None or found.ratio_low is None or found.ratio_high is None:
        return ""
    off = round(100 * (found.ratio - 1))
    said = "as many" if off == 0 else f"{abs(off)}% {'more' if off > 0 else 'fewer'}"
    sure = found.ratio_low <= 1 <= found.ratio_high
    end = ", which may be chance" if sure and off else ""
    return (
        f"{found.person} counted {found.pairs} of the same a second time and found {said}{end}; a "
        f"single count is off by about {100 * math.expm1(found.spread or 0):.0f}%."
    )
