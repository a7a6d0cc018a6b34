"""Remedies that work on some of their plants and not on others: two kinds of plants, not one.

What a spray did not reach, or what rain took off, has as many pests as a plant left alone. Taken
for one population such plants are bad luck or bad blocks, and the remedy better than it is. So the
remedy is looked at a second way too: on a share of the plants it fails, as the control does, on the
others it works; how large the share is, its plants tell like so many throws of a coin.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import FloatArray, Likelihood

BoolArray = NDArray[np.bool_]
FEWEST = 3  # plants of a remedy, before some of them may be called another kind
# The plants on which it works best (a third) must have at most e^-1 of what the control leaves, and
# a failing plant lies nearer to the control than to them.
WORKS, NEARER = -1.0, 0.5
APART = 2.0  # the kinds differ by so many standard deviations of plants of one kind
JEFFREYS = 0.5  # parameters of the share's beta prior


@dataclass(frozen=True, slots=True)
class Failing:
    """Plants on which remedies may have failed.

    Attributes
    ----------
    plants:
        True for those plants, (trials, plants).
    count, of:
        How many of how many plants of each remedy, (trials, remedies).
    likelihood, reference:
        The numbers they were found in, and the control.
    """

    plants: BoolArray
    count: FloatArray
    of: FloatArray
    likelihood: Likelihood
    reference: int

    @property
    def trials(self) -> NDArray[np.intp]:
        """Trials that have any."""
        return np.flatnonzero(self.plants.any(axis=1))

    def log_prior(self, trials: NDArray[np.intp]) -> FloatArray:
        """Return the log of how likely just these plants are beforehand, (some trials,).

        The share of failing plants is beta with Jeffreys' parameters (1946, Proceedings of the
        Royal Society A 186, 453-461).
        """
        from scipy.special import betaln

        count, of = self.count[trials], self.of[trials]
        each = betaln(count + JEFFREYS, of - count + JEFFREYS) - betaln(JEFFREYS, JEFFREYS)
        return np.asarray(np.sum(np.where(count > 0, each, 0.0), axis=1))

    def over_both(self, levels: FloatArray, trial: int, rng: np.random.Generator) -> FloatArray:
        """Return levels over both kinds of plants from levels where remedies work, (draws, g)."""
        found = levels.copy()
        for remedy in np.flatnonzero(self.count[trial]):
            count, of = self.count[trial, remedy], self.of[trial, remedy]
            share = rng.beta(count + JEFFREYS, of - count + JEFFREYS, len(levels))
            blend = self.likelihood.blend
            found[:, remedy] = blend(levels[:, remedy], levels[:, self.reference], share)
        return found


def _apart(away: FloatArray, plants: BoolArray, known: BoolArray, member: FloatArray) -> BoolArray:
    """Tell where both kinds of plants lie further apart than plants of one kind, (trials, g)."""
    works = known & ~plants
    count = np.maximum(works @ member, 1.0)
    middle = (away * works) @ member / count
    left = (away - middle @ member.T) * works
    free = np.maximum(works.sum(axis=1) - member.shape[1], 1.0)
    usual = np.sqrt(np.sum(left**2, axis=1) / free)
    failed = (away * plants) @ member / np.maximum(plants @ member, 1.0)
    gap = (failed - middle) / np.maximum(usual, 1e-9)[:, None]
    far = (plants @ member > 0) & (gap > APART)
    return np.asarray(far & (gap == np.where(far, gap, 0.0).max(axis=1, keepdims=True)))


def find_failing(
    layout: Layout, likelihood: Likelihood, at_control: FloatArray, reference: int
) -> Failing:
    """Find the plants that look like the control's among those of a remedy that works.

    Parameters
    ----------
    layout, likelihood:
        The design and the numbers.
    at_control:
        What each plant would have under the control, on the scale of the link, (trials, plants).
    reference:
        The control.
    """
    known = likelihood.known > 0
    away = np.where(known, likelihood.start() - at_control, np.inf)
    plants = np.zeros_like(known)
    member = np.eye(layout.remedies)[layout.remedy]
    of = known @ member
    for remedy in range(layout.remedies):
        own = layout.remedy == remedy
        third = max(2, -(-int(own.sum()) // 3))
        if remedy == reference or own.sum() < FEWEST:
            continue
        works = np.sort(away[:, own], axis=1)[:, :third].mean(axis=1)
        some = (works < WORKS) & (of[:, remedy] >= FEWEST)
        plants[:, own] = known[:, own] & some[:, None] & (away[:, own] > NEARER * works[:, None])
    plants &= _apart(np.where(known, away, 0.0), plants, known, member)[:, layout.remedy]
    return Failing(plants, plants @ member, of, likelihood, reference)
