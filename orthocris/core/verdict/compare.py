"""Many remedies at once: against the control, against the best, and the chance of being best.

All answers come from one set of quasi-random draws of the joint error of the adjusted levels,
which is multivariate t. Because the draws use the fitted covariance, unequal numbers, a control
that stands twice in a block and an adjustment for the count before are handled exactly; the
textbook correlation of one half is never assumed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.distributions import (
    chi_square_above,
    normal_quantile,
    t_below,
    t_quantile,
)
from orthocris.core.verdict.estimate import Estimates, FloatArray
from orthocris.core.verdict.points import even_points

DRAWS_LOG2 = 16
FAMILY_ERROR = 0.05
# Each remedy is struck off the list of possible bests at 2.5%, so that a tie of two is
# falsely settled in at most 5% of trials (either way round).
BEST_ERROR = 0.025


@dataclass(frozen=True, slots=True)
class Against:
    """A remedy compared with the reference (the control): difference of log levels and its error.

    `p_adjusted` is two-sided and family-wise over all remedies (Dunnett 1955).
    """

    difference: float
    low: float
    high: float
    standard_error: float
    p_adjusted: float


def error_draws(covariance: FloatArray, df: int, seed: int) -> FloatArray:
    """Draw joint errors of the levels from a multivariate t with this scale matrix.

    Parameters
    ----------
    covariance:
        Shape (g, g), positive semi-definite.
    df:
        Degrees of freedom, at least 1.
    seed:
        Seed of the points; the same seed gives the same draws.

    Returns
    -------
    Array of shape (2**16, g): normal errors over sqrt(chi-square / df).
    """
    g = covariance.shape[0]
    uniform = even_points(2**DRAWS_LOG2, g + 1, seed)
    values, vectors = np.linalg.eigh(covariance)
    root = vectors * np.sqrt(np.clip(values, 0, None))
    normal = normal_quantile(uniform[:, :g]) @ root.T
    scale = np.sqrt(chi_square_above(uniform[:, g], df) / df)
    return np.asarray(normal / scale[:, None], dtype=np.float64)


def against_control(fit: Estimates, draws: FloatArray, control: str) -> dict[str, Against]:
    """Compare every remedy with the control by Dunnett's single-step method.

    The family-wise p of remedy i is P(max_j |T_j| >= |t_i|), T multivariate t with the
    correlations of the fitted contrasts (Dunnett 1955, JASA 50, 1096-1121). It is kept
    between the unadjusted p and Bonferroni's bound, which hold exactly. The interval is the
    ordinary 95% one for each remedy.
    """
    others = [name for name in fit.remedies if name != control]
    if not others:
        return {}
    c = fit.remedies.index(control)
    index = [fit.remedies.index(name) for name in others]
    errors = np.array([fit.standard_error(name, control) or 0.0 for name in others])
    difference = fit.levels[index] - fit.levels[c]
    greatest = np.max(np.abs(draws[:, index] - draws[:, [c]]) / errors, axis=1)
    half = float(t_quantile(0.975, fit.df)) * errors
    found = {}
    for k, name in enumerate(others):
        t = abs(float(difference[k])) / float(errors[k])
        raw = 2 * float(t_below(-t, fit.df))
        joint = float(np.mean(greatest >= t))
        found[name] = Against(
            difference=float(difference[k]),
            low=float(difference[k] - half[k]),
            high=float(difference[k] + half[k]),
            standard_error=float(errors[k]),
            p_adjusted=min(max(joint, raw), len(others) * raw, 1.0),
        )
    return found


def could_be_best(fit: Estimates, draws: FloatArray, candidates: Sequence[str]) -> tuple[str, ...]:
    """Return the candidates that the data do not rule out as the best (lowest) one.

    Remedy i is ruled out when some other is better by more than chance: the one-sided
    multiple comparison with the best (Hsu 1981, Annals of Statistics 9, 1026-1034), at
    `BEST_ERROR` for each i.
    """
    kept = []
    for name in candidates:
        rivals = [other for other in candidates if other != name]
        if not rivals:
            return (name,)
        i = fit.remedies.index(name)
        j = [fit.remedies.index(other) for other in rivals]
        errors = np.array([fit.standard_error(name, other) or 0.0 for other in rivals])
        behind = float(np.max((fit.levels[i] - fit.levels[j]) / errors))
        chance = np.max((draws[:, [i]] - draws[:, j]) / errors, axis=1)
        if float(np.mean(chance >= behind)) >= BEST_ERROR:
            kept.append(name)
    return tuple(kept)


def chance_of_best(
    fit: Estimates, draws: FloatArray, candidates: Sequence[str]
) -> dict[str, float]:
    """Return for each candidate the share of draws in which its true level is the lowest.

    Levels are drawn about their estimates, which is the posterior under a flat prior.
    """
    index = [fit.remedies.index(name) for name in candidates]
    if not index:
        return {}
    lowest = np.argmin(fit.levels[index] + draws[:, index], axis=1)
    share = np.bincount(lowest, minlength=len(index)) / len(lowest)
    return {name: float(share[k]) for k, name in enumerate(candidates)}


def chance_below(against: Against, df: int, log_ratio: float) -> float:
    """Return the chance that the true difference of log levels lies below `log_ratio`."""
    return float(t_below((log_ratio - against.difference) / against.standard_error, df))
