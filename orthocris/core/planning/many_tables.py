"""Thousands of simulated trials of one design, analysed at once by the judge's own method.

The design is the same in every trial; only counts differ. So the projections of the analysis of
covariance are computed once, and every trial costs a few vector operations. The joint (Dunnett,
Hsu) decisions need the multivariate t only where the unadjusted and the Bonferroni p disagree;
elsewhere those two decide exactly.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.compare import BEST_ERROR, FAMILY_ERROR
from orthocris.core.verdict.distributions import (
    chi_square_above,
    normal_quantile,
    t_below,
    t_quantile,
)
from orthocris.core.verdict.estimate import MOST_LOG, READING_VARIANCE, poisson_log_variance
from orthocris.core.verdict.points import even_points

FloatArray = NDArray[np.float64]
BoolArray = NDArray[np.bool_]
IntArray = NDArray[np.int_]
DRAWS_LOG2 = 10  # a quasi-random error of about 0.003 in a p near 0.05
CHUNK = 128


@dataclass(frozen=True, slots=True)
class Layout:
    """A design as the analysis sees it.

    `remedy` is the remedy of each plant, 0 the control; `block` its block, or None for no
    blocks; `column` a second grouping (the columns of a Latin square), or None.
    """

    remedy: IntArray
    block: IntArray | None
    column: IntArray | None = None

    @property
    def remedies(self) -> int:
        """Number of remedies, the control included."""
        return int(self.remedy.max()) + 1


@dataclass(frozen=True, slots=True)
class TablesResult:
    """What the judge would say of each trial.

    Arrays have a row for each trial and a column for each remedy but the control:
    `difference` and `error` of log levels, `beats` the control, `best` could be best.
    `low` and `high` bound the efficacy (95%). `winner` is the remedy named (1 and up), 0 for
    none; a trial whose control had nothing left names none.
    """

    difference: FloatArray
    error: FloatArray
    low: FloatArray
    high: FloatArray
    beats: BoolArray
    best: BoolArray
    winner: IntArray


@dataclass(frozen=True, slots=True)
class Fit:
    """Adjusted levels of every trial, (S, g), with what their covariance is made of.

    The covariance of trial s is variance[s] · (base + tilt[s] tilt[s]'), base (g, g).
    """

    levels: FloatArray
    base: FloatArray
    tilt: FloatArray
    variance: FloatArray
    df: IntArray


def fit_tables(layout: Layout, before: FloatArray, after: FloatArray, *, counted: bool) -> Fit:
    """Fit the judge's model to many trials at once.

    Parameters
    ----------
    layout:
        The design of n plants.
    before, after:
        Numbers on each plant, shape (S, n).
    counted:
        True for counts (then the variance is not taken below counting chance), False for
        percentages and grades.

    Notes
    -----
    By the theorem of Frisch, Waugh and Lovell the slope is the regression of the residuals of
    log(after) on those of log(before), both after remedies and blocks.
    """
    g = layout.remedies
    x, y = np.log(before + 0.5), np.log(after + 0.5)
    x = x - x.mean(1, keepdims=True)
    z = _columns(layout)
    inverse = np.linalg.inv(z.T @ z)
    solve = z @ inverse  # (n, p): coefficients are data @ solve
    cx, cy = x @ solve, y @ solve
    rx, ry = x - cx @ z.T, y - cy @ z.T
    sxx = np.einsum("sn,sn->s", rx, rx)
    usable = sxx > 1e-10
    safe = np.where(usable, sxx, 1.0)
    slope = np.where(usable, np.einsum("sn,sn->s", rx, ry) / safe, 0.0)
    residual = ry - slope[:, None] * rx
    df = np.where(usable, z.shape[0] - z.shape[1] - 1, z.shape[0] - z.shape[1])
    variance = np.einsum("sn,sn->s", residual, residual) / np.maximum(df, 1)
    tilt = np.where(usable[:, None], cx[:, :g] / np.sqrt(safe)[:, None], 0.0)
    return Fit(
        levels=cy[:, :g] - slope[:, None] * cx[:, :g],
        base=np.asarray(inverse[:g, :g], dtype=np.float64),
        tilt=tilt,
        variance=np.maximum(variance, _chance(layout, after, counted=counted)),
        df=df,
    )


def analyse_tables(
    layout: Layout, before: FloatArray, after: FloatArray, *, counted: bool, seed: int
) -> TablesResult:
    """Analyse many trials of one design as the judge does (same model, same decisions)."""
    fit = fit_tables(layout, before, after, counted=counted)
    k = fit.levels.shape[1] - 1
    difference = fit.levels[:, 1:] - fit.levels[:, :1]
    contrast = np.column_stack([-np.ones(k), np.eye(k)])
    shape = _scale(fit, contrast)
    error = np.sqrt(fit.variance)[:, None] * shape
    draws = _draws(layout.remedies, int(fit.df.max()), seed)
    gone = (after[:, layout.remedy == 0] == 0).all(1)
    t = np.abs(difference) / error
    beats = _beats(fit, contrast, shape, t, draws) & (difference < 0) & ~gone[:, None]
    best = _could_be_best(fit, draws)
    alone = (best.sum(1) == 1) & (best & beats).any(1)
    half = t_quantile(0.975, fit.df)[:, None] * error
    return TablesResult(
        difference=difference,
        error=error,
        low=1 - np.exp(np.minimum(difference + half, MOST_LOG)),
        high=1 - np.exp(np.minimum(difference - half, MOST_LOG)),
        beats=beats,
        best=best,
        winner=np.where(alone, best.argmax(1) + 1, 0),
    )


def _columns(layout: Layout) -> FloatArray:
    parts = [np.eye(layout.remedies)[layout.remedy]]
    for label in (layout.block, layout.column):
        if label is None:
            continue
        dummy = np.eye(int(label.max()) + 1)[label]
        parts.append(dummy[:, :-1] - dummy[:, -1:])
    return np.column_stack(parts)


def _scale(fit: Fit, contrast: FloatArray) -> FloatArray:
    """Standard errors of contrasts over the residual standard deviation, (S, contrasts)."""
    fixed = np.einsum("ci,ij,cj->c", contrast, fit.base, contrast)
    return np.asarray(np.sqrt(fixed[None, :] + (fit.tilt @ contrast.T) ** 2))


def _beats(
    fit: Fit, contrast: FloatArray, shape: FloatArray, t: FloatArray, draws: FloatArray
) -> BoolArray:
    """Dunnett's two-sided decision at the family-wise error."""
    raw = 2 * t_below(-t, fit.df[:, None])
    decided = raw * contrast.shape[0] < FAMILY_ERROR
    open_ = (raw < FAMILY_ERROR) & ~decided
    for some, errors in _errors(fit, draws, open_.any(1)):
        greatest = _greatest(errors, contrast, shape[some], two_sided=True)
        joint = np.column_stack([(greatest >= own[:, None]).mean(1) for own in t[some].T])
        decided[some] |= open_[some] & (np.maximum(joint, raw[some]) < FAMILY_ERROR)
    return np.asarray(decided, dtype=np.bool_)


def _could_be_best(fit: Fit, draws: FloatArray) -> BoolArray:
    """Hsu's one-sided comparison of each remedy with the best of the others."""
    trials, g = fit.levels.shape
    k = g - 1
    best = np.ones((trials, k), dtype=bool)
    if k == 1:
        return best
    for i in range(k):
        others = [j for j in range(k) if j != i]
        contrast = np.zeros((k - 1, g))
        contrast[:, i + 1] = 1
        contrast[np.arange(k - 1), [j + 1 for j in others]] = -1
        shape = _scale(fit, contrast)
        behind = (fit.levels @ contrast.T / (np.sqrt(fit.variance)[:, None] * shape)).max(1)
        raw = t_below(-behind, fit.df)
        best[:, i] = raw * (k - 1) >= BEST_ERROR
        open_ = best[:, i] & (raw < BEST_ERROR)
        for some, errors in _errors(fit, draws, open_):
            greatest = _greatest(errors, contrast, shape[some], two_sided=False)
            best[some, i] = (greatest >= behind[some][:, None]).mean(1) >= BEST_ERROR
    return best


def _errors(
    fit: Fit, draws: FloatArray, wanted: BoolArray
) -> Iterator[tuple[IntArray, FloatArray]]:
    """Joint errors of the levels (over the residual SD) of the wanted trials, in chunks.

    Shape (levels, trials, draws): what follows is summed over few levels, and long rows are
    what the machine is fast at.
    """
    common = np.linalg.cholesky(fit.base) @ draws[:, :-1].T
    index = np.flatnonzero(wanted)
    for start in range(0, len(index), CHUNK):
        some = index[start : start + CHUNK]
        yield some, common[:, None, :] + fit.tilt[some].T[:, :, None] * draws[:, -1]


def _greatest(
    errors: FloatArray, contrast: FloatArray, shape: FloatArray, *, two_sided: bool
) -> FloatArray:
    """The greatest of all standardised contrasts in each draw, (trials, draws)."""
    greatest = np.full(errors.shape[1:], -np.inf)
    for weights, scale in zip(contrast, shape.T, strict=True):
        plus, minus = np.flatnonzero(weights > 0)[0], np.flatnonzero(weights < 0)[0]
        value = (errors[plus] - errors[minus]) / scale[:, None]
        np.maximum(greatest, np.abs(value) if two_sided else value, out=greatest)
    return greatest


@cache
def _draws(remedies: int, df: int, seed: int) -> FloatArray:
    """Multivariate t draws with unit covariance, one more normal than levels for the covariate."""
    uniform = even_points(2**DRAWS_LOG2, remedies + 2, seed)
    scale = np.sqrt(chi_square_above(uniform[:, -1], df) / df)
    return np.asarray(normal_quantile(uniform[:, :-1]) / scale[:, None])


def _chance(layout: Layout, after: FloatArray, *, counted: bool) -> FloatArray:
    if not counted:
        return np.full(len(after), READING_VARIANCE)
    means, variances = _chance_table()
    total = np.zeros(len(after))
    for r in range(layout.remedies):
        own = layout.remedy == r
        mean = (after[:, own].sum(1) + 0.5) / own.sum()
        total += own.sum() * np.interp(np.log(mean), means, variances)
    return np.asarray(total / after.shape[1], dtype=np.float64)


@cache
def _chance_table() -> tuple[FloatArray, FloatArray]:
    """Var(log(Y + 1/2)) of Poisson counts on a fine grid of log means."""
    grid = np.linspace(np.log(1e-3), np.log(1e6), 400)
    return grid, np.array([poisson_log_variance(float(np.exp(m))) for m in grid])
