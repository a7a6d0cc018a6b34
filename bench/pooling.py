"""How often trials taken together hold the truth, by how many there are and how far they scatter.

Run: .venv/bin/python -m bench.pooling [gardens]. Effects of trials are normal about a mean, or of
heavier tails (t of 3), with errors between 0.15 and 0.6 (a verdict of 16 to 4 plants a remedy).
"""

from __future__ import annotations

import sys
from collections.abc import Callable

import numpy as np

from orthocris.core.verdict.pooling import Effect, pool, removed, with_before

Draw = Callable[[np.random.Generator, int], np.ndarray]
LAWS: dict[str, Draw] = {
    "normal": lambda rng, k: rng.standard_normal(k),
    "t of 3": lambda rng, k: rng.standard_t(3, k) / np.sqrt(3),
}


def held(law: Draw, scatter: float, trials: int, gardens: int) -> tuple[float, ...]:
    """Shares of gardens whose mean and whose next trial is held, and the median width in logs.

    Then, of a next trial taken together with the earlier ones: how often its truth is held, how
    wide its limits are beside its own, and how often the two are said to be apart.
    """
    rng = np.random.default_rng([trials, round(100 * scatter)])
    mean = ahead = both = apart = 0
    widths, narrower = [], []
    for _ in range(gardens):
        true = scatter * law(rng, trials + 1)
        error = rng.uniform(0.15, 0.6, trials)
        seen = true[:trials] + error * rng.standard_normal(trials)
        found = pool([Effect(float(y), float(e)) for y, e in zip(seen, error, strict=True)])
        mean += found.low <= 0 <= found.high
        assert found.next_low is not None and found.next_high is not None
        ahead += found.next_low <= true[-1] <= found.next_high
        widths.append(found.high - found.low)
        own = float(rng.uniform(0.15, 0.6))
        last = Effect(float(true[-1] + own * rng.standard_normal()), own)
        together = with_before(last, found)
        both += together.low <= removed(float(true[-1])) <= together.high
        apart += together.apart
        wide = np.log1p(-together.low) - np.log1p(-together.high)
        narrower.append(wide / (2 * 1.96 * own))
    shares = (mean / gardens, ahead / gardens, both / gardens, apart / gardens)
    return (*shares, float(np.median(widths)), float(np.median(narrower)))


def main() -> None:
    """Print a line for each law, scatter and number of trials."""
    gardens = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    print("law      scatter  trials  mean held  next held  with it  apart  width  beside its own")
    for name, law in LAWS.items():
        for scatter in (0.0, 0.3, 0.6, 1.0):
            for trials in (1, 2, 3, 5, 8):
                mean, ahead, both, apart, width, beside = held(law, scatter, trials, gardens)
                told = f"{name:8s} {scatter:7.1f} {trials:7d} {mean:10.3f} {ahead:10.3f}"
                print(f"{told} {both:8.3f} {apart:6.3f} {width:6.2f} {beside:8.2f}", flush=True)


if __name__ == "__main__":
    main()
