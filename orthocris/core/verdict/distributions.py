"""Distribution functions, from scipy; imported at the first use, for that takes a while."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

Numbers = float | NDArray[np.float64]
_GRID = np.linspace(-7.2, 7.2, 1025)


def normal_quantile(p: Numbers) -> Any:
    """Return the quantile of the standard normal distribution, element by element."""
    from scipy import special

    return special.ndtri(p)


def t_quantile(p: Numbers, df: Any) -> Any:
    """Return the quantile of Student's t with `df` degrees of freedom."""
    from scipy import special

    return special.stdtrit(df, p)


def chi_square(normal: NDArray[np.float64], df: float) -> NDArray[np.float64]:
    """Return the values that chi-square exceeds as often as a standard normal stays below `normal`.

    `df` are its degrees of freedom. The cube root of a chi-square quantile is nearly a straight
    line in the normal quantile (Wilson & Hilferty 1931, PNAS 17, 684-688): it is computed on a fine
    grid of that line and interpolated, which is far quicker; the root of the result is right to
    five decimals.
    """
    return np.asarray(np.interp(normal, _GRID, _cube_roots(df)) ** 3)


@lru_cache(maxsize=512)
def _cube_roots(df: float) -> NDArray[np.float64]:
    from scipy import special

    return np.asarray(np.cbrt(special.chdtri(df, special.ndtr(_GRID))))


def log_expit(value: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return the log of the logistic function, log(1 / (1 + exp(-value)))."""
    return np.asarray(-np.logaddexp(0.0, -value))


def f_between(ratio: NDArray[np.float64], df: Any, other: Any, level: float) -> NDArray[np.bool_]:
    """Tell where a ratio of variances lies inside the two-sided limits at a level."""
    from scipy import special

    low, high = (special.fdtri(df, other, p) for p in (level / 2, 1 - level / 2))
    return np.asarray((low <= ratio) & (ratio <= high))
