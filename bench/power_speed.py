"""Speed of the model: 1,000 trials of 6 remedies × 8 blocks at once, one verdict, and the curve.

Run: .venv/bin/python -m bench.power_speed. Fits of all trials together are compared, in the same
run, with loops of statsmodels over the trials: its negative binomial GLM at each of the sixteen
dispersions, which is what one of our fits does (without priors), and its maximum likelihood fit.
"""

from __future__ import annotations

import time
import warnings

import numpy as np
import statsmodels.api as sm

from orthocris.core import Observation, judge
from orthocris.core.planning.benches import Assumptions, simulate
from orthocris.core.planning.power import layout_for, power_at, sizes_around
from orthocris.core.trial.setup import Setup
from orthocris.core.verdict.model.laplace import fit
from orthocris.core.verdict.model.likelihood import DISPERSIONS, Counts, FloatArray

TRUTH = Assumptions(efficacies=(0.75, 0.6, 0.3, 0.0, 0.0))
LOOP = 40  # trials fitted by statsmodels; a thousand take twenty-five times as long


def main() -> None:
    """Time it all and print ratios."""
    layout = layout_for(Setup(), 6, 8, 1)
    tables = simulate(layout, TRUTH, 1000, np.random.default_rng(1))
    assert tables.start is not None
    known = np.ones_like(tables.harm)
    x = tables.start - tables.start.mean(axis=1, keepdims=True)
    counts = Counts(tables.harm, np.zeros_like(known), known)
    fit(layout, Counts(tables.harm[:2], known[:2] * 0, known[:2]), x[:2], 0)
    start = time.perf_counter()
    fit(layout, counts, x, 0)
    together = time.perf_counter() - start

    blocks = np.repeat(np.arange(8), 6)
    design = np.column_stack([np.eye(6)[layout.remedy], np.eye(8)[blocks][:, 1:]])
    same = _loop(tables.harm, design, x, at_each=True)
    likely = _loop(tables.harm, design, x, at_each=False)

    seen = [
        Observation(f"p{k}", f"b{blocks[k]}", f"r{layout.remedy[k]}", day, "live", value)
        for day, row in ((0.0, np.exp(tables.start[0]) - 0.5), (7.0, tables.harm[0]))
        for k, value in enumerate(np.round(row).tolist())
    ]
    judge(seen, control="r0")
    times = []
    for _ in range(11):
        start = time.perf_counter()
        judge(seen, control="r0")
        times.append(time.perf_counter() - start)
    start = time.perf_counter()
    for size in sizes_around(6):
        power_at(Setup(), TRUTH, size, seed=2)
    curve = time.perf_counter() - start
    print(f"1,000 trials of 6 × 8 fitted together:     {together:7.2f} s")
    print(f"the same by a loop of statsmodels:         {same:7.2f} s, {same / together:.0f} times")
    print(
        f"maximum likelihood by statsmodels:         {likely:7.2f} s, {likely / together:.0f} times"
    )
    print(f"one verdict of 6 × 8, everything included: {1000 * np.median(times):7.0f} ms")
    print(f"whole curve {sizes_around(6)}, 280 trials each: {curve:.1f} s")


def _loop(harm: FloatArray, design: FloatArray, x: FloatArray, *, at_each: bool) -> float:
    """Seconds that statsmodels takes for a thousand trials, from a few."""
    start = time.perf_counter()
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        for s in range(LOOP):
            columns = np.column_stack([design, x[s]])
            if not at_each:
                found = sm.NegativeBinomial(harm[s], columns).fit(disp=0, maxiter=100)
                _ = found.params, found.bse
                continue
            for phi in DISPERSIONS:
                family = sm.families.NegativeBinomial(alpha=phi)
                found = sm.GLM(harm[s], columns, family=family).fit()
                _ = found.params, found.bse, found.llf
    return (time.perf_counter() - start) * len(harm) / LOOP


if __name__ == "__main__":
    main()
