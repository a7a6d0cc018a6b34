"""What is usually done: covariance analysis of log(count + 1/2), and Dunnett's test."""

from __future__ import annotations

import math
from functools import cache

import numpy as np
from scipy import stats

from orthocris.core.planning.many_trials import Tables
from orthocris.core.verdict.model.frame import Layout

DRAWS = 200_000


def classical_beats(layout: Layout, tables: Tables) -> np.ndarray:
    """Return which remedies are shown better than the control at 5%, (trials, remedies - 1).

    Two-sided and family-wise; blocks, columns and log(before + 1/2) where there are any. The
    critical value is Dunnett's (1955) for equal numbers with correlations of one half, the table
    that a textbook has. Shares by log((harm + 1/2) / (of + 1)).
    """
    k = layout.remedies - 1
    fixed = [np.ones(len(layout.remedy)), *(layout.remedy == np.arange(1, k + 1)[:, None])]
    for label in (layout.block, layout.column):
        if label is not None:
            fixed += list(label == np.arange(1, int(label.max()) + 1)[:, None])
    base = np.column_stack(fixed).astype(float)
    y = np.log(tables.harm + 0.5)
    beats = np.zeros((len(y), k), dtype=bool)
    for t in range(len(y)):
        x = base if tables.start is None else np.column_stack([base, tables.start[t]])
        inverse = np.linalg.pinv(x.T @ x)
        beta = inverse @ x.T @ y[t]
        df = len(x) - int(np.linalg.matrix_rank(x))
        if df < 1:
            continue
        variance = float(np.sum((y[t] - x @ beta) ** 2)) / df
        error = np.sqrt(np.maximum(variance * np.diag(inverse)[1 : k + 1], 1e-12))
        beats[t] = beta[1 : k + 1] / error < -critical(k, df)
    return beats


@cache
def critical(remedies: int, df: int) -> float:
    """Two-sided 5% point of the greatest of `remedies` t with correlations of one half."""
    rng = np.random.default_rng(1)
    common = rng.normal(size=(DRAWS, 1))
    normal = (rng.normal(size=(DRAWS, remedies)) + common) / math.sqrt(2)
    scale = np.sqrt(stats.chi2.rvs(df, size=(DRAWS, 1), random_state=rng) / df)
    return float(np.quantile(np.abs(normal / scale).max(axis=1), 0.95))
