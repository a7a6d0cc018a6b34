"""Many simulated trials of one design, analysed at once by the judge's own model and lot."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.evidence import (
    AGREES_WORSE,
    BEST_ERROR,
    EVEN,
    MOST_LOG,
    agreement,
    chance_of_worth,
)
from orthocris.core.verdict.layouts import IntArray, layouts_possible, reference_set
from orthocris.core.verdict.lot import Lot
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.laplace import fit
from orthocris.core.verdict.model.likelihood import Counts, FloatArray, Likelihood, Shares
from orthocris.core.verdict.model.reading import chance_of_first, draw_log_harm
from orthocris.core.verdict.rerandomise import ENOUGH_LAYOUTS, FAMILY_ERROR, claims
from orthocris.core.verdict.spread import own_spreads

BoolArray = NDArray[np.bool_]
# Coarser than the judge's: an error of about 0.01 in a chance, where a trial is decided by less.
DRAWS, LAYOUTS = 1024, 512


@dataclass(frozen=True, slots=True)
class Tables:
    """The numbers of many trials.

    Attributes
    ----------
    harm:
        What is left on each plant, (trials, plants).
    of:
        Out of how many parts, or None for counts.
    start:
        Log (shares: logit) of the count before, (trials, plants), or None without one.
    parts:
        Of how many parts a count can be at most (points of a cover), or None.
    added:
        The plants of a second wave, where there is one: the first is then a look before.
    """

    harm: FloatArray
    of: float | None
    start: FloatArray | None
    parts: float | None = None
    added: BoolArray | None = None


@dataclass(frozen=True, slots=True)
class Judged:
    """What the judge would say of each trial.

    Arrays have a row for each trial and a column for each remedy but the control. `low` and `high`
    bound the efficacy (95%), `middle` is its median; `best` could be the best, `chance` is that of
    being it, `worth` the chance of reaching the threshold. `winner` is the remedy named (1 and
    up), 0 for none; a trial whose control had nothing left names none. `levels` are draws of the
    log of what is left, (trials, draws, remedies), the control first.
    """

    middle: FloatArray
    low: FloatArray
    high: FloatArray
    beats: BoolArray
    is_worse: BoolArray
    best: BoolArray
    chance: FloatArray
    worth: FloatArray
    winner: IntArray
    levels: FloatArray


def judge_many(
    layout: Layout,
    tables: Tables,
    *,
    threshold: float,
    seed: int,
    draws: int = DRAWS,
    layouts: int = LAYOUTS,
    worse: bool = True,
) -> Judged:
    """Judge many trials of one design as `judge` does: same model, lot and rules.

    Parameters
    ----------
    layout:
        The design; the control is remedy 0.
    tables:
        The numbers.
    threshold:
        Fraction removed that is worth it.
    seed:
        Seed of the draws and of the layouts.
    draws, layouts:
        How many of each: fewer than the judge's own, for planning.
    worse:
        False where nobody asks whether a remedy makes it worse.

    Returns
    -------
    Harm to the plant is not simulated, so it strikes out nothing.
    """
    known = np.ones_like(tables.harm)
    x = None if tables.start is None else _centred(tables.start)
    likelihoods, response = _read(tables, known)
    views = [(one, fit(layout, one, x, 0)) for one in likelihoods]
    levels = draw_log_harm(views, draws, seed)
    likelihood, posterior = views[0]
    as_counts = np.ones(len(known)) if len(views) == 1 else chance_of_first(views)
    ratio = levels[:, :, 1:] - levels[:, :, :1]
    low, middle, high = np.quantile(ratio, [0.025, 0.5, 0.975], axis=1)
    gone = (tables.harm[:, layout.remedy == 0] == 0).all(axis=1)
    drawn = _layouts(layout, seed, layouts)
    lot = Lot(layout, drawn, x, 0)
    ways = layouts_possible(layout)
    exact = ways >= ENOUGH_LAYOUTS
    first = [] if tables.added is None else [np.where(tables.added, np.nan, response)]
    looks = [*first, response]
    said = claims(lot, looks, exact=exact, early=len(first), layouts=ways, worse=worse)
    helps, agrees = np.mean(ratio < 0, axis=1), agreement(likelihood)
    if (
        said.least >= FAMILY_ERROR or lot.df < 1
    ):  # too few layouts to speak: the model alone, as the judge does
        better = np.minimum(1.0, 2 * ratio.shape[2] * (1 - helps))
        less = np.minimum(1.0, 2 * ratio.shape[2] * helps)
    else:
        better, less = said.better[:, 1:], said.worse[:, 1:]
    plants = np.bincount(layout.remedy)[1:] > 1
    beats = (better < FAMILY_ERROR) & (helps >= agrees) & ~gone[:, None] & plants
    lost = (less < FAMILY_ERROR) & (1 - helps >= AGREES_WORSE)
    spreads = own_spreads(layout, likelihood, posterior, x, 0)
    if spreads is not None:
        spreads = spreads.where(as_counts >= EVEN)
        beats = spreads.allow(slice(1, None), beats, worse=False)
        lost = spreads.allow(slice(1, None), lost, worse=True)
        differ = spreads.differ[:, 1:]
        low = np.where(differ, np.minimum(low, spreads.low[:, 1:]), low)
        high = np.where(differ, np.maximum(high, spreads.high[:, 1:]), high)
    first = np.argmin(ratio, axis=2)
    chance = np.stack([np.mean(first == r, axis=1) for r in range(ratio.shape[2])], axis=1)
    best = (chance >= BEST_ERROR) & ~lost
    alone = (best.sum(axis=1) == 1) & (best & beats).any(axis=1)
    return Judged(
        middle=1 - np.exp(np.minimum(middle, MOST_LOG)),
        low=1 - np.exp(np.minimum(high, MOST_LOG)),
        high=1 - np.exp(np.minimum(low, MOST_LOG)),
        beats=beats,
        is_worse=lost,
        best=best,
        chance=chance,
        worth=chance_of_worth(np.moveaxis(ratio, 1, 0), threshold),
        winner=np.where(alone, best.argmax(axis=1) + 1, 0),
        levels=levels,
    )


def _read(tables: Tables, known: FloatArray) -> tuple[tuple[Likelihood, ...], FloatArray]:
    """The likelihoods, and the log harm that the lot shuffles (see `Amount.log`)."""
    if tables.of is None:
        counts = Counts(tables.harm, np.zeros_like(known), known)
        whole = () if tables.parts is None else (Shares(tables.harm, tables.parts * known, known),)
        return (counts, *whole), np.log(tables.harm + 0.5)
    of = np.full_like(tables.harm, tables.of)
    response = np.log((tables.harm + 0.5) / (of - tables.harm + 0.5))
    return (Shares(tables.harm, of, known),), response


def _centred(start: FloatArray) -> FloatArray | None:
    x = start - start.mean(axis=1, keepdims=True)
    return x if np.ptp(x) > 1e-9 else None


def _layouts(layout: Layout, seed: int, most: int) -> IntArray:
    parts = (layout.remedy, layout.block, layout.column)
    return _drawn(*(None if part is None else tuple(part.tolist()) for part in parts), seed, most)


@lru_cache(maxsize=8)
def _drawn(
    remedy: tuple[int, ...] | None,
    block: tuple[int, ...] | None,
    column: tuple[int, ...] | None,
    seed: int,
    most: int,
) -> IntArray:
    as_array = [None if part is None else np.array(part) for part in (remedy, block, column)]
    own = as_array[0] if as_array[0] is not None else np.array([], dtype=int)
    return reference_set(Layout(own, as_array[1], as_array[2]), seed, most)
