"""What is read of a posterior: joint draws of the remedies' levels."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from orthocris.core.verdict.distributions import chi_square, log_expit, normal_quantile
from orthocris.core.verdict.model.laplace import Posterior
from orthocris.core.verdict.model.likelihood import FloatArray, Likelihood, Shares
from orthocris.core.verdict.points import even_points

GOLDEN = 0.6180339887498949  # its multiples fill the unit interval evenly


def draw_log_harm(
    views: Sequence[tuple[Likelihood, Posterior]], count: int, seed: int
) -> FloatArray:
    """Draw the log of expected harm under each remedy, (trials, count, remedies).

    Parameters
    ----------
    views:
        One likelihood with its posterior, or two of the same numbers: each then has as many draws
        as it is likely (shares of a whole and counts of its parts, told apart by the numbers).
    count, seed:
        As of `draw_levels`.
    """
    drawn = [_harm(likelihood, draw_levels(found, count, seed)) for likelihood, found in views]
    if len(drawn) == 1:
        return drawn[0]
    # Spread over all dispersions, in the order of which draws come.
    place = np.modf(np.arange(count) * GOLDEN)[0]
    first = place[None, :] < chance_of_first(views)[:, None]
    return np.where(first[:, :, None], drawn[0], drawn[1])


def chance_of_first(views: Sequence[tuple[Likelihood, Posterior]]) -> FloatArray:
    """Return how likely the first of two views is, both as likely beforehand, (trials,)."""
    one, other = (found.evidence for _, found in views)
    return np.asarray(1 / (1 + np.exp(np.clip(other - one, -50, 50))))


def _harm(likelihood: Likelihood, levels: FloatArray) -> FloatArray:
    if isinstance(likelihood, Shares):
        return log_expit(levels) + np.log(likelihood.of[:, :1, None])
    return levels


def draw_levels(posterior: Posterior, count: int, seed: int) -> FloatArray:
    """Draw the remedies' levels jointly from the posterior, (trials, count, remedies).

    Parameters
    ----------
    posterior:
        A mixture of multivariate t.
    count:
        How many draws; the dispersions share them by weight.
    seed:
        Seed of the points; the same seed gives the same draws.
    """
    trials, k, g = posterior.middle.shape
    points = even_points(count, g + 1, seed)
    normal = np.asarray(normal_quantile(points[:, :g]))
    root = np.linalg.cholesky(posterior.covariance + 1e-12 * np.eye(g))
    up_to = np.cumsum(posterior.weight, axis=1)
    place = (np.arange(count) + 0.5) / count
    found = np.empty((trials, count, g))
    least = np.asarray(normal_quantile(points[:, g]))
    for t in range(trials):
        which = np.minimum(np.searchsorted(up_to[t], place), k - 1)
        ends = np.searchsorted(which, np.arange(k + 1))
        for c in range(k):
            own = slice(ends[c], ends[c + 1])
            if ends[c] < ends[c + 1]:
                df = float(posterior.df[t, c])
                scale = np.sqrt(df / chi_square(least[own], df))
                found[t, own] = posterior.middle[t, c] + scale[:, None] * (
                    normal[own] @ root[t, c].T
                )
        second = slice(ends[posterior.one_kind], count)
        if posterior.failing is not None and posterior.failing.count[t].any():
            rng = np.random.default_rng([seed, t])
            found[t, second] = posterior.failing.over_both(found[t, second], t, rng)
    return found
