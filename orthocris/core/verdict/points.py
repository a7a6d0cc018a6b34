"""Points that fill the unit cube evenly, for integrals over several dimensions."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray


def even_points(count: int, dimensions: int, seed: int) -> NDArray[np.float64]:
    """Return points of a Richtmyer lattice, shifted at random and folded.

    Point i has coordinates |2 frac(i sqrt(p) + shift) - 1|, p the prime of the dimension: the
    rule that Genz & Bretz (2009, Computation of Multivariate Normal and t Probabilities,
    section 4.2) use for the same integrals.

    Parameters
    ----------
    count:
        How many points.
    dimensions:
        How many coordinates a point has.
    seed:
        Seed of the shift; the same seed gives the same points.

    Returns
    -------
    Array of shape (count, dimensions), within (1e-12, 1 - 1e-12).
    """
    steps = np.sqrt(np.array(_primes(dimensions), dtype=np.float64))
    shift = np.random.default_rng(seed).random(dimensions)
    turns = np.arange(1, count + 1, dtype=np.float64)[:, None] * steps + shift
    folded = np.abs(2 * (turns - np.floor(turns)) - 1)
    return np.clip(folded, 1e-12, 1 - 1e-12)


def _primes(count: int) -> list[int]:
    """The first primes; their square roots are independent over the rationals, so that no two
    dimensions fall in step."""
    found: list[int] = []
    number = 2
    while len(found) < count:
        if all(number % prime for prime in found):
            found.append(number)
        number += 1
    return found
