"""Two waves against one, with as many plants: how often the best is named, and what is false.

Half of the blocks come first; what is then out of question gives its plants to the rest.

Run: .venv/bin/python -m bench.calibration.waves [trials].
"""

from __future__ import annotations

import sys
from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor

import numpy as np

from orthocris.core.planning.benches import Assumptions, simulate
from orthocris.core.planning.many_trials import BoolArray, Judged, judge_many
from orthocris.core.planning.power import layout_for
from orthocris.core.planning.waves import in_two_waves
from orthocris.core.trial.setup import Kind, Setup

CHUNK = 250
# What each remedy removes, the mean before, the gamma shape of what plants vary by, and blocks.
WORLDS = tuple(
    (efficacies, start, clump, blocks)
    for blocks in (4, 6, 8)
    for efficacies, start, clump in (
        ((0.75, 0.6, 0.0), 25.0, 4.0),
        ((0.85, 0.6, 0.3, 0.0), 25.0, 4.0),
        ((0.8, 0.7, 0.5, 0.2), 40.0, 4.0),
        ((0.9, 0.6, 0.3, 0.1, 0.0), 40.0, 2.0),
        ((0.0, 0.0, 0.0), 25.0, 4.0),
        ((0.0, 0.0, 0.0, 0.0), 25.0, 1.0),
        ((0.0, 0.0, 0.0, 0.0), 5.0, 4.0),
    )
) + tuple(  # many remedies, of which most are soon out of question
    (efficacies, 30.0, clump, blocks)
    for efficacies, clump, blocks in (
        ((0.88, 0.7, 0.5, 0.3, 0.2, 0.1), 2.0, 6),
        ((0.88, 0.7, 0.5, 0.3, 0.2, 0.1), 2.0, 8),
        ((0.9, 0.7, 0.3, 0.2, 0.1, 0.0, 0.0, 0.0), 2.0, 5),
        ((0.9, 0.7, 0.3, 0.2, 0.1, 0.0, 0.0, 0.0), 4.0, 6),
    )
)


def compared(world: tuple[tuple[float, ...], float, float, int], trials: int) -> str:
    """One line: in one wave and in two, the best named, a wrong one, the useless said to work."""
    efficacies, start, clump, blocks = world
    assumed = Assumptions(
        efficacies=efficacies,
        starts=(start,) * 12,
        measure="live",
        kind=Kind.COMPARE,
        threshold=0.6,
        dispersion=clump,
    )
    layout = layout_for(Setup(), len(efficacies) + 1, blocks, 1)
    rng = np.random.default_rng(blocks)
    one, two = np.zeros(3), np.zeros(3)
    for start_at in range(0, trials, CHUNK):
        part = min(CHUNK, trials - start_at)
        tables = simulate(layout, assumed, part, rng)
        found = judge_many(layout, tables, threshold=0.6, seed=1, worse=False)
        one += _counts([(np.ones(part, dtype=bool), found)], efficacies)
        two += _counts(in_two_waves(assumed, blocks, part, rng, seed=1), efficacies)
    said = [", ".join(f"{100 * n / trials:.1f}" for n in counts) for counts in (one, two)]
    return f"{blocks} blocks, {start:g} before, shape {clump:g}, {efficacies}: {' | '.join(said)}"


def _counts(parts: Iterable[tuple[BoolArray, Judged]], efficacies: tuple[float, ...]) -> list[int]:
    truth = np.array(efficacies)
    best = int(truth.argmax()) + 1 if truth.max() > 0 else -1
    useless = truth <= 0
    counts = [0, 0, 0]
    for _, found in parts:
        counts[0] += int((found.winner == best).sum())
        counts[1] += int(((found.winner > 0) & (found.winner != best)).sum())
        counts[2] += int(found.beats[:, useless].any(axis=1).sum())
    return counts


def main() -> None:
    """Print a line for each world."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    print("one wave | two waves: best named, another named, useless said to work (% of trials)")
    with ProcessPoolExecutor() as pool:
        for line in pool.map(compared, WORLDS, [trials] * len(WORLDS)):
            print(line, flush=True)


if __name__ == "__main__":
    main()
