"""Incomplete blocks, as balanced as the numbers allow."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

TRIES = 60


def incomplete_blocks(
    remedies: int, size: int, blocks: int, rng: np.random.Generator
) -> list[list[int]]:
    """Choose which remedies fill each block when a block cannot hold all.

    Parameters
    ----------
    remedies, size, blocks:
        Number of remedies (control included), plants in a block (2 to remedies - 1), blocks.
    rng:
        Source of chance for ties and restarts.

    Returns
    -------
    For each block the indices of its remedies. Replication differs by at most one; the
    number of blocks in which two remedies meet is as even as an exchange search finds; all
    remedies are linked through shared blocks when there are blocks enough. For numbers
    where a balanced incomplete block design exists and is small, it is usually found.
    """
    best = _improve(_greedy(remedies, size, blocks, rng), rng)
    score = _unevenness(best)
    for _ in range(TRIES):
        if score < 1e-9:
            break
        incidence = _improve(_greedy(remedies, size, blocks, rng), rng)
        found = _unevenness(incidence)
        if found < score - 1e-9:
            best, score = incidence, found
    return [np.flatnonzero(row).tolist() for row in best]


def fewest_linked(remedies: int, size: int) -> int:
    """Return the fewest blocks of a size that can link all remedies with one another.

    The first block links `size` of them, each further one at most size - 1 more.
    """
    return -(-(remedies - 1) // (size - 1))


def concurrence(fillings: list[list[int]], remedies: int) -> NDArray[np.int_]:
    """Return how many blocks each pair of remedies shares, shape (remedies, remedies)."""
    incidence = np.zeros((len(fillings), remedies), dtype=int)
    for block, filling in enumerate(fillings):
        incidence[block, filling] = 1
    return incidence.T @ incidence


def _greedy(remedies: int, size: int, blocks: int, rng: np.random.Generator) -> NDArray[np.int_]:
    incidence = np.zeros((blocks, remedies), dtype=int)
    for block in range(blocks):
        for _ in range(size):
            used = incidence[:, :].sum(0).astype(float)
            meets = (incidence.T @ incidence)[:, incidence[block] == 1].sum(1)
            cost = used * 1000 + meets + rng.random(remedies) * 0.5
            cost[incidence[block] == 1] = np.inf
            incidence[block, int(np.argmin(cost))] = 1
    return incidence


def _improve(incidence: NDArray[np.int_], rng: np.random.Generator) -> NDArray[np.int_]:
    """Exchange remedies between blocks (replication stays) while meetings become more even."""
    now, score = incidence, _unevenness(incidence)
    for _ in range(400):
        a, b = rng.choice(len(now), 2, replace=False) if len(now) > 1 else (0, 0)
        only_a = np.flatnonzero((now[a] == 1) & (now[b] == 0))
        only_b = np.flatnonzero((now[b] == 1) & (now[a] == 0))
        if not len(only_a) or not len(only_b):
            continue
        tried = now.copy()
        i, j = int(rng.choice(only_a)), int(rng.choice(only_b))
        tried[a, i], tried[a, j], tried[b, j], tried[b, i] = 0, 1, 0, 1
        found = _unevenness(tried)
        if found <= score:
            now, score = tried, found
    return now


def _unevenness(incidence: NDArray[np.int_]) -> float:
    meets = incidence.T @ incidence
    pairs = meets[np.triu_indices(len(meets), 1)]
    spread = float(((pairs - pairs.mean()) ** 2).sum())
    return spread + (1000.0 if not _linked(meets) else 0.0)


def _linked(meets: NDArray[np.int_]) -> bool:
    reached = {0}
    while True:
        more = {int(j) for i in reached for j in np.flatnonzero(meets[i])} - reached
        if not more:
            return len(reached) == len(meets)
        reached |= more
