"""How many leaves of a plant to count: what each number of them is sure to, and what it costs."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from orthocris.core.errors import InputError

# Typical where nothing was counted yet: pests sit in clumps, some leaves with many and most with
# few; half a minute a leaf and as long to walk to the next plant.
TYPICAL_MEAN, TYPICAL_CLUMPING = 8.0, 1.0
SECONDS_A_LEAF, SECONDS_A_PLANT = 30.0, 20.0
LEAST_CLUMPING, MOST_CLUMPING = 0.05, 4.0  # 1/k of the negative binomial, of what is believed
OPTIONS = (1, 2, 3, 4, 6, 8, 12)
ENOUGH_LEAVES = 12  # counted, beyond one a plant, before they say more than what is typical


@dataclass(frozen=True, slots=True)
class Spread:
    """What is known of a pest on leaves.

    `mean` a leaf; `clumping` is 1/k of the negative binomial between leaves of one plant (0: as by
    chance alone); `seconds` for one leaf; `counted` how many leaves that rests on, 0: typical.
    """

    mean: float
    clumping: float
    seconds: float
    counted: int


@dataclass(frozen=True, slots=True)
class SamplingOption:
    """So many leaves a plant: the error of a plant's mean (fraction of it, one standard error)
    and the minutes for the whole look."""

    samples: int
    error: float
    minutes: float


def spread_of(
    leaves: Iterable[Sequence[float]], seconds: Sequence[float], mean: float | None = None
) -> Spread:
    """Return how a pest is spread over leaves, from those counted, or typical values.

    Parameters
    ----------
    leaves:
        Counts of single leaves, those of one plant (at one look) together.
    seconds:
        What single leaves took; the middle one is believed.
    mean:
        A mean count a leaf to take where too few leaves were counted.

    Notes
    -----
    1/k by moments within plants, (s² - m) / m² with the variance pooled over plants, held between
    0.05 and 4 (see e.g. the negative binomial of ecological counts: Var = m + m²/k).
    """
    usable = [list(counts) for counts in leaves if len(counts) > 1]
    number = sum(len(counts) for counts in usable)
    pace = sorted(seconds)[len(seconds) // 2] if len(seconds) >= 3 else SECONDS_A_LEAF
    if number - len(usable) < ENOUGH_LEAVES or not any(any(counts) for counts in usable):
        return Spread(TYPICAL_MEAN if mean is None else max(mean, 0.1), TYPICAL_CLUMPING, pace, 0)
    overall = sum(sum(counts) for counts in usable) / number
    within = sum(
        (value - sum(counts) / len(counts)) ** 2 for counts in usable for value in counts
    ) / (number - len(usable))
    squares = sum(len(counts) * (sum(counts) / len(counts)) ** 2 for counts in usable) / number
    clumping = (within - overall) / squares
    return Spread(overall, min(max(clumping, LEAST_CLUMPING), MOST_CLUMPING), pace, number)


def error_of(spread: Spread, samples: int) -> float:
    """Return the standard error of a plant's mean as a fraction of it: √((1/m + 1/k) / n)."""
    if samples < 1:
        raise InputError("no leaf", code="bad_samples", field="samples", fix="Count at least one.")
    return math.sqrt((1 / spread.mean + spread.clumping) / samples)


def options(spread: Spread, plants: int) -> tuple[SamplingOption, ...]:
    """Return what numbers of leaves bring and cost on so many plants."""
    return tuple(
        SamplingOption(n, error_of(spread, n), plants * (n * spread.seconds + SECONDS_A_PLANT) / 60)
        for n in OPTIONS
    )
