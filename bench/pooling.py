"""How often trials taken together hold the truth, by how many there are and how far they scatter.

Run: .venv/bin/python -m bench.pooling [gardens]. Effects of trials are normal about a mean, or of
heavier tails (t of 3), with errors between 0.15 and 0.6 (a verdict of 16 to 4 plants a remedy).
"""

from __future__ import annotations

import sys
from collections.abc import Callable

import numpy as np

from orthocris.core.verdict.pooling import Effect, pool

Draw = Callable[[np.random.Generator, int], np.ndarray]
LAWS: dict[str, Draw] = {
    "normal": lambda rng, k: rng.standard_normal(k),
    "t of 3": lambda rng, k: rng.standard_t(3, k) / np.sqrt(3),
}


def held(law: Draw, scatter: float, trials: int, gardens: int) -> tuple[float, float, float]:
    """Shares of gardens whose mean and whose next trial is held; and the median width in logs."""
    rng = np.random.default_rng([trials, round(100 * scatter)])
    mean = ahead = 0
    widths = []
    for _ in range(gardens):
        true = scatter * law(rng, trials + 1)
        error = rng.uniform(0.15, 0.6, trials)
        seen = true[:trials] + error * rng.standard_normal(trials)
        found = pool([Effect(float(y), float(e)) for y, e in zip(seen, error, strict=True)])
        mean += found.low <= 0 <= found.high
        assert found.next_low is not None and found.next_high is not None
        ahead += found.next_low <= true[-1] <= found.next_high
        widths.append(found.high - found.low)
    return mean / gardens, ahead / gardens, float(np.median(widths))


def main() -> None:
    """Print a line for each law, scatter and number of trials."""
    gardens = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    print("law      scatter  trials  mean held  next held  width")
    for name, law in LAWS.items():
        for scatter in (0.0, 0.3, 0.6, 1.0):
            for trials in (1, 2, 3, 5, 8):
                mean, ahead, width = held(law, scatter, trials, gardens)
                told = (
                    f"{name:8s} {scatter:7.1f} {trials:7d} {mean:10.3f} {ahead:10.3f} {width:6.2f}"
                )
                print(told, flush=True)


if __name__ == "__main__":
    main()
