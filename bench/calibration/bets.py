"""What silence costs, and how often the bet of today is wrong.

Gardens of any truth, judged; what is removed is lost against the best remedy where nothing is named
and nothing done, where the one that looks best is always taken, and where the bet is taken.

Run: .venv/bin/python -m bench.calibration.bets [trials].
"""

from __future__ import annotations

import sys

import numpy as np

from bench.calibration.gardens import Garden, draw
from orthocris.core.planning.many_trials import judge_many
from orthocris.core.verdict.bet import LEAST, WRONG_BY, wrong_bet

CHUNK = 250
GARDENS = (
    Garden("any truth, start 40, 4 blocks", None, 4),
    Garden("any truth, start 8, 4 blocks", None, 4, 8.0),
    Garden("any truth in logs, start 40, 4 blocks", None, 4, logs=True),
    Garden("any truth, start 40, 3 blocks", None, 3),
)


def losses(garden: Garden, trials: int) -> str:
    """One line: points of removal lost on average, and the bet's odds said and true."""
    rng = np.random.default_rng(8)
    rows: list[tuple[float, ...]] = []
    for start in range(0, trials, CHUNK):
        part = draw(garden, min(CHUNK, trials - start), rng)
        found = judge_many(
            part.layout, part.tables, threshold=0.6, seed=1, draws=2048, layouts=1500
        )
        truth = 1 - part.left[:, 1:]
        worth = found.beats & (found.worth >= 0.5)
        for t, true in enumerate(truth):
            ratio = found.levels[t, :, 1:] - found.levels[t, :, :1]
            removed = np.maximum(1 - np.exp(np.minimum(ratio, 50)), -1)
            useful = np.mean(removed >= LEAST, axis=0) >= 0.5
            score = np.where(useful, removed.mean(axis=0), -np.inf)
            named = int(np.where(worth[t], found.middle[t], -np.inf).argmax())
            told = true[named] if worth[t].any() else 0.0
            taken = int(score.argmax()) if useful.any() else None
            bet = 0.0 if taken is None else true[taken]
            silent = not worth[t].any() and taken is not None
            odds = wrong_bet(removed, taken) if silent and taken is not None else np.nan
            wrong = bet < LEAST or true.max() > bet + WRONG_BY
            rows.append((
                true.max() - told, true.max() - true[found.middle[t].argmax()],
                true.max() - (told if worth[t].any() else bet), odds,
                float(wrong) if silent else np.nan, float(silent),
            ))  # fmt: skip
    silence, leader, bet, said, true_, often = np.nanmean(np.array(rows), axis=0)
    return (
        f"{garden.name:40s} lost: silent {100 * silence:.1f}, leader {100 * leader:.1f}, bet "
        f"{100 * bet:.1f}; bets in {often:.0%} of trials, said wrong {said:.2f}, wrong {true_:.2f}"
    )


def main() -> None:
    """Print a line for each garden."""
    for garden in GARDENS:
        print(losses(garden, int(sys.argv[1]) if len(sys.argv) > 1 else 2000), flush=True)


if __name__ == "__main__":
    main()
