"""What is usually done: covariance analysis of log(count + 1/2), and Dunnett's test, step-down.

One-sided and at the error that the judge spends at its decisive look (4 of the 5 in 100), so that
both make as many false claims where plants differ as both suppose.
"""

from __future__ import annotations

import math
from functools import cache

import numpy as np
from scipy import stats

from orthocris.core.planning.many_trials import Tables
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.rerandomise import FIRST_ERROR

DRAWS = 200_000


def classical_beats(layout: Layout, tables: Tables) -> np.ndarray:
    """Return which remedies are shown better than the control, (trials, remedies - 1).

    One-sided, family-wise and step-down; blocks, columns and log(before + 1/2) where there are any.
    The critical values are Dunnett's (1955) for equal numbers with correlations of one half: the
    strongest against that for all remedies, the next against that for the rest, and so on.
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
        statistic = beta[1 : k + 1] / error
        for step, remedy in enumerate(np.argsort(statistic)):
            if statistic[remedy] >= -critical(k - step, df):
                break
            beats[t, remedy] = True
    return beats


@cache
def critical(remedies: int, df: int) -> float:
    """One-sided point of the greatest of `remedies` t with correlations of one half."""
    rng = np.random.default_rng(1)
    common = rng.normal(size=(DRAWS, 1))
    normal = (rng.normal(size=(DRAWS, remedies)) + common) / math.sqrt(2)
    scale = np.sqrt(stats.chi2.rvs(df, size=(DRAWS, 1), random_state=rng) / df)
    return float(np.quantile((normal / scale).max(axis=1), 1 - FIRST_ERROR))
