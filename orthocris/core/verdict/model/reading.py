"""What is read of a posterior: draws of the harm under each remedy, and their summaries."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.distributions import chi_square_above, normal_quantile
from orthocris.core.verdict.model.laplace import Posterior
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.points import even_points


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
    scales: dict[float, FloatArray] = {}
    for t in range(trials):
        df = float(posterior.df[t])
        if df not in scales:
            scales[df] = np.sqrt(df / chi_square_above(points[:, g], df))
        which = np.minimum(np.searchsorted(up_to[t], place), k - 1)
        ends = np.searchsorted(which, np.arange(k + 1))
        for c in range(k):
            own = slice(ends[c], ends[c + 1])
            if ends[c] < ends[c + 1]:
                found[t, own] = posterior.middle[t, c] + scales[df][own, None] * (
                    normal[own] @ root[t, c].T
                )
    return found


@dataclass(frozen=True, slots=True)
class Effects:
    """The ratio of expected harm to the reference's, for each trial and remedy, in logs.

    `middle` is the posterior median, `low` and `high` bound 95%; the reference's own are 0.
    """

    middle: FloatArray
    low: FloatArray
    high: FloatArray


def effects(log_harm: FloatArray, reference: int) -> Effects:
    """Summarise draws of the log of harm, (trials, draws, remedies), against a reference."""
    ratio = log_harm - log_harm[:, :, [reference]]
    low, middle, high = np.quantile(ratio, [0.025, 0.5, 0.975], axis=1)
    return Effects(middle, low, high)
