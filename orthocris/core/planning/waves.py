"""Two waves: half of the plants first; what is then out of question gives the rest its plants."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from orthocris.core.planning.benches import Assumptions, simulate
from orthocris.core.planning.many_trials import BoolArray, Judged, Tables, judge_many
from orthocris.core.planning.power import TRIALS, PowerPoint, point_of
from orthocris.core.verdict.going_on import in_question
from orthocris.core.verdict.model.frame import Layout


def power_in_two_waves(
    assumptions: Assumptions, blocks: int, *, seed: int, trials: int = TRIALS
) -> PowerPoint:
    """Simulate a trial of complete blocks in two waves, with as many plants as in one."""
    rng = np.random.default_rng(seed)
    judged = [found for _, found in in_two_waves(assumptions, blocks, trials, rng, seed=seed)]
    return point_of(judged, assumptions, blocks, blocks * (len(assumptions.efficacies) + 1))


def in_two_waves(
    assumptions: Assumptions, blocks: int, trials: int, rng: np.random.Generator, *, seed: int
) -> Iterator[tuple[BoolArray, Judged]]:
    """Simulate trials of complete blocks in two waves; tell trials alike and how they are judged.

    Half of the blocks come first and decide nothing. The plants of the others are divided among
    what is still in question, drawn anew, and all are judged together, the first wave as a look
    before the decisive one. Where nothing is in question the first wave speaks alone.
    """
    opening = _blocks(range(len(assumptions.efficacies) + 1), blocks // 2, 0)
    waiting = (blocks - blocks // 2) * opening.remedies
    tables = simulate(opening, assumptions, trials, rng)
    threshold = assumptions.threshold
    found = judge_many(opening, tables, threshold=threshold, seed=seed, worse=False)
    goes_on = in_question(found.chance, found.worth)
    for kept in np.unique(goes_on, axis=0):
        those = (goes_on == kept).all(axis=1)
        chosen = [0, *(np.flatnonzero(kept) + 1).tolist()]
        later = _blocks(chosen, waiting // len(chosen), blocks // 2)
        layout = _joined(opening, later)
        more = simulate(later, assumptions, int(those.sum()), rng)
        both = _beside(tables, those, more)
        yield those, judge_many(layout, both, threshold=threshold, seed=seed, worse=False)


def _blocks(remedies: Iterable[int], blocks: int, start: int) -> Layout:
    each = np.array(list(remedies))
    return Layout(np.tile(each, blocks), start + np.repeat(np.arange(blocks), len(each)))


def _joined(one: Layout, other: Layout) -> Layout:
    blocks = [part.block for part in (one, other) if part.block is not None]
    return Layout(np.concatenate([one.remedy, other.remedy]), np.concatenate(blocks))


def _beside(tables: Tables, those: BoolArray, more: Tables) -> Tables:
    """Put the plants of the second wave beside those of the first, in some of the trials."""
    start = None
    if tables.start is not None and more.start is not None:
        start = np.concatenate([tables.start[those], more.start], axis=1)
    harm = np.concatenate([tables.harm[those], more.harm], axis=1)
    added = np.arange(harm.shape[1]) >= tables.harm.shape[1]
    return Tables(harm, tables.of, start, tables.parts, added)
