"""Remedies that work on some of their plants and not on others: two kinds of plants, not one.

What a spray did not reach, or what rain took off, has as many pests as a plant left alone. Taken
for one population such plants are bad luck or bad blocks, and the remedy better than it is. So the
remedy is looked at a second way too: on a share of the plants it fails, as the control does, on the
others it works; how large the share is, its plants tell like so many throws of a coin.

What a plant would have under the control is told by the plants of the other remedies alone: a plant
that failed makes its own block look a bad one, and so hides itself.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import FloatArray, Likelihood

BoolArray = NDArray[np.bool_]
Trials = NDArray[np.intp]
FEWEST = 3  # plants of a remedy, before some of them may be called another kind
# The plants on which it works best (a third) must have at most e^-1.5 of what the control leaves,
# and a failing plant less than two fifths of that, on the log scale.
WORKS, NEARER = -1.5, 0.4
UNEVEN = 1.0  # logs between its best and its worst plant, before a remedy is looked at so closely
APART = 2.5  # the kinds differ by so many standard deviations of plants of one kind
LEAST_SD = 0.3  # what plants of one kind differ by at least, in logs
# Parameters of the beta prior of the share it fails on: on few plants sooner than on most.
FEW, MANY = 0.5, 1.0


@dataclass(frozen=True, slots=True)
class Failing:
    """Plants on which remedies may have failed.

    Attributes
    ----------
    plants:
        True for those plants, (trials, plants).
    count, of:
        How many of how many plants of each remedy, (trials, remedies).
    remedy:
        The remedy of each plant.
    likelihood, reference:
        The numbers they were found in, and the control.
    """

    plants: BoolArray
    count: FloatArray
    of: FloatArray
    remedy: NDArray[np.intp]
    likelihood: Likelihood
    reference: int

    @property
    def trials(self) -> Trials:
        """Trials that have any."""
        return np.flatnonzero(self.plants.any(axis=1))

    def log_prior(self, trials: Trials) -> FloatArray:
        """Return the log of how likely just these plants are beforehand, (some trials,)."""
        count = self.count[trials]
        each = _log_chance(count, self.of[trials])
        return np.asarray(np.sum(np.where(count > 0, each, 0.0), axis=1))

    def over_both(self, levels: FloatArray, trial: int, rng: np.random.Generator) -> FloatArray:
        """Return levels over both kinds of plants from levels where remedies work, (draws, g)."""
        found = levels.copy()
        for remedy in np.flatnonzero(self.count[trial]):
            count, of = self.count[trial, remedy], self.of[trial, remedy]
            share = rng.beta(count + FEW, of - count + MANY, len(levels))
            blend = self.likelihood.blend
            found[:, remedy] = blend(levels[:, remedy], levels[:, self.reference], share)
        return found


def _log_chance(count: FloatArray, of: FloatArray) -> FloatArray:
    """Return the log of how likely it is beforehand that just so many plants fail."""
    from scipy.special import betaln

    return np.asarray(betaln(count + FEW, of - count + MANY) - betaln(FEW, MANY))


def find_failing(
    layout: Layout,
    likelihood: Likelihood,
    at_control: FloatArray,
    by_others: Callable[[int, Trials], FloatArray],
    reference: int,
) -> Failing:
    """Find the plants that look like the control's among those of a remedy that works.

    Parameters
    ----------
    layout, likelihood:
        The design and the numbers.
    at_control:
        What each plant would have under the control, on the scale of the link, (trials, plants).
    by_others:
        The same for a remedy in some trials, told without its own plants, (some trials, plants).
    reference:
        The control.
    """
    known = likelihood.known > 0
    start = likelihood.start()
    away = np.where(known, start - at_control, 0.0)
    plants = np.zeros_like(known)
    member = np.eye(layout.remedies)[layout.remedy]
    of = known @ member
    for remedy in range(layout.remedies):
        own = np.flatnonzero(layout.remedy == remedy)
        if remedy == reference or len(own) < FEWEST:
            continue
        some = np.flatnonzero((of[:, remedy] >= FEWEST) & _uneven(away[:, own], known[:, own]))
        if len(some):
            part = np.ix_(some, own)
            away[part] = known[part] * (start[part] - by_others(remedy, some)[:, own])
            plants[part] = known[part] & _may_have_failed(away[part], known[part])
    away = np.where(known, away, 0.0)
    if plants.any():
        sd = _within(away, plants, known, member)
        plants &= _likeliest(away, plants, known, layout, np.maximum(sd, LEAST_SD))
        plants &= _apart(away, plants, known, member)[:, layout.remedy]
    return Failing(plants, plants @ member, of, layout.remedy, likelihood, reference)


def _best_third(away: FloatArray, known: BoolArray) -> FloatArray:
    """Return the mean of the third of a remedy's plants on which it works best, (trials,)."""
    third = max(2, -(-away.shape[1] // 3))
    return np.asarray(np.sort(np.where(known, away, np.inf), axis=1)[:, :third].mean(axis=1))


def _uneven(away: FloatArray, known: BoolArray) -> BoolArray:
    worst = np.where(known, away, -np.inf).max(axis=1)
    best = _best_third(away, known)
    return np.asarray((best < WORKS) & (worst - best > UNEVEN))


def _may_have_failed(away: FloatArray, known: BoolArray) -> BoolArray:
    best = _best_third(away, known)[:, None]
    return np.asarray((best < WORKS) & (away > NEARER * best))


def _within(
    away: FloatArray, plants: BoolArray, known: BoolArray, member: FloatArray
) -> FloatArray:
    """Return the standard deviation of plants of one kind and remedy, (trials,)."""
    works = known & ~plants
    left = (away - _middle(away, works, member) @ member.T) * works
    free = np.maximum(works.sum(axis=1) - member.shape[1], 1.0)
    return np.asarray(np.sqrt(np.sum(left**2, axis=1) / free))


def _middle(away: FloatArray, plants: BoolArray, member: FloatArray) -> FloatArray:
    """Return the mean of each remedy's plants among those named, (trials, remedies)."""
    return np.asarray((away * plants) @ member / np.maximum(plants @ member, 1.0))


def _likeliest(
    away: FloatArray, plants: BoolArray, known: BoolArray, layout: Layout, sd: FloatArray
) -> BoolArray:
    """Return of the plants named the furthest so many that are likeliest to have failed.

    With so many at the control's level and the rest about their mean, each with the standard
    deviation given, and the number itself as likely as beforehand.
    """
    kept = np.zeros_like(plants)
    for remedy in range(layout.remedies):
        own = np.flatnonzero(layout.remedy == remedy)
        if not plants[:, own].any():
            continue
        order = np.argsort(np.where(known[:, own], -away[:, own], np.inf), axis=1)
        far = np.take_along_axis(away[:, own], order, axis=1)
        of, most = known[:, own].sum(axis=1), plants[:, own].sum(axis=1)
        count = np.arange(1.0, len(own) + 1)
        first, squares = np.cumsum(far, axis=1), np.cumsum(far**2, axis=1)
        rest = np.maximum(of[:, None] - count, 1)
        about = squares[:, -1:] - (first[:, -1:] - first) ** 2 / rest
        chance = _log_chance(count, np.maximum(of[:, None], count)) - about / 2 / sd[:, None] ** 2
        best = np.where(count <= most[:, None], chance, -np.inf).argmax(axis=1) + 1
        rank = np.argsort(order, axis=1)
        kept[:, own] = (rank < best[:, None]) & plants[:, own]
    return kept


def _apart(away: FloatArray, plants: BoolArray, known: BoolArray, member: FloatArray) -> BoolArray:
    """Tell for which remedies both kinds lie far enough apart, (trials, remedies)."""
    usual = np.maximum(_within(away, plants, known, member), 1e-9)[:, None]
    gap = (_middle(away, plants, member) - _middle(away, known & ~plants, member)) / usual
    return np.asarray((plants @ member > 0) & (gap > APART))
