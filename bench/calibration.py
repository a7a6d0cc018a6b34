"""How often the judge is wrong: simulated gardens with a known truth.

Run: .venv/bin/python -m bench.calibration [trials]. Prints one line a scenario: how often a
false winner was named (the remedy named is not better than the control, or not the best),
how often the 95% intervals held the true efficacy, and how often the true best was named.
Counts are negative binomial about a plant's own level, as clumping insects are.
"""

from __future__ import annotations

import sys
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from orthocris.core import Observation, Outcome, judge
from orthocris.core.verdict import compare


@dataclass(frozen=True)
class Garden:
    """A truth to simulate: mean count before, blocks, true survival by remedy, clumping."""

    name: str
    start: float
    blocks: int
    survival: Mapping[str, float]
    dispersion: float = 4.0
    block_sd: float = 0.4


GARDENS = (
    Garden("nothing works, 4 blocks", 30, 4, {"a": 1, "b": 1, "c": 1, "d": 1}),
    Garden("nothing works, 8 blocks, clumped", 30, 8, {"a": 1, "b": 1, "c": 1, "d": 1}, 1.5),
    Garden("two tie at 80%, 6 blocks", 30, 6, {"a": 0.2, "b": 0.2, "c": 1.0}),
    Garden("one at 80%, 6 blocks", 30, 6, {"a": 0.2, "b": 0.7, "c": 0.9}),
    Garden("60% and 50%, 4 blocks", 40, 4, {"a": 0.4, "b": 0.5, "c": 0.9}),
    Garden("zeros: 97% and 90%, 4 blocks", 15, 4, {"a": 0.03, "b": 0.1, "c": 0.6}),
    Garden("zeros: few pests, 6 blocks", 6, 6, {"a": 0.1, "b": 0.5, "c": 1.0}),
)


def simulate(garden: Garden, rng: np.random.Generator) -> list[Observation]:
    """Draw one trial: a before-count and one look after, every remedy once in every block."""
    observations = []
    for block in range(garden.blocks):
        level = garden.start * np.exp(rng.normal(0, garden.block_sd))
        for remedy, survival in {"control": 1.0, **garden.survival}.items():
            plant = f"{remedy}{block}"
            own = level * rng.gamma(garden.dispersion) / garden.dispersion
            after = own * survival * rng.gamma(garden.dispersion) / garden.dispersion
            for day, mean in ((0.0, own), (7.0, after)):
                count = float(rng.poisson(mean))
                observations.append(Observation(plant, f"b{block}", remedy, day, "live", count))
    return observations


def run(garden: Garden, trials: int, seed: int) -> str:
    """Judge many simulated trials and sum up how often the verdict was right."""
    rng = np.random.default_rng(seed)
    best = min(garden.survival.values())
    false_best = false_effect = named = held = intervals = 0
    for _ in range(trials):
        verdict = judge(simulate(garden, rng))
        winner = verdict.recommended if verdict.outcome is Outcome.WINNER else None
        survivals = sorted(garden.survival.values())
        unique = survivals[0] < survivals[1]
        if winner is not None:
            right = garden.survival[winner] == best and unique
            named += right
            false_best += not right
        false_effect += any(
            r.beats_control and garden.survival[r.name] >= 1
            for r in verdict.remedies
            if r.role == "remedy"
        )
        for r in verdict.remedies:
            if r.efficacy_low is None or r.efficacy_high is None:
                continue
            truth = 1 - garden.survival[r.name]
            held += r.efficacy_low <= truth <= r.efficacy_high
            intervals += 1
    return (
        f"{garden.name:36s} false winner {false_best / trials:6.3f}   "
        f"false effect {false_effect / trials:6.3f}   "
        f"interval holds {held / max(intervals, 1):6.3f}   best named {named / trials:6.3f}"
    )


def main() -> None:
    """Run every garden."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    compare.DRAWS_LOG2 = 13  # coarser draws than the judge's own: 8 times faster, error 0.002
    for k, garden in enumerate(GARDENS):
        print(run(garden, trials, seed=k), flush=True)


if __name__ == "__main__":
    main()
