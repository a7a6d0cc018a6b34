"""Speed of planning: 1,000 simulated trials of 6 remedies × 6 blocks, and the whole curve.

Run: .venv/bin/python -m bench.power_speed. Compares analysing the trials together (model, Dunnett,
Hsu, intervals) with fitting the same trials one by one by statsmodels, in the same run.
"""

from __future__ import annotations

import time

import numpy as np
import pandas as pd
import statsmodels.api as sm
import statsmodels.formula.api as smf

from orthocris.core.planning.many_tables import analyse_tables, fit_tables
from orthocris.core.planning.power import (
    Assumptions,
    layout_for,
    power_at,
    simulate,
    sizes_around,
)
from orthocris.core.trial.setup import Setup

TRUTH = Assumptions(efficacies=(0.75, 0.6, 0.3, 0.0, 0.0))


def main() -> None:
    """Time it all and print ratios."""
    layout = layout_for(Setup(), 6, 6, 1)
    before, after = simulate(layout, TRUTH, 1000, np.random.default_rng(1))
    analyse_tables(layout, before[:2], after[:2], counted=True, seed=1)  # fill the caches

    start = time.perf_counter()
    analyse_tables(layout, before, after, counted=True, seed=1)
    whole = time.perf_counter() - start
    start = time.perf_counter()
    fit = fit_tables(layout, before, after, counted=True)
    only_fit = time.perf_counter() - start

    start = time.perf_counter()
    worst = 0.0
    for s in range(1000):
        frame = pd.DataFrame(
            {
                "y": np.log(after[s] + 0.5),
                "x": np.log(before[s] + 0.5),
                "remedy": layout.remedy,
                "block": layout.block,
            }
        )
        found = smf.ols("y ~ C(remedy) + C(block) + x", frame).fit()
        difference = float(found.params["C(remedy)[T.1]"])
        worst = max(worst, abs(difference - (fit.levels[s, 1] - fit.levels[s, 0])))
        float(found.bse["C(remedy)[T.1]"])
    formula = time.perf_counter() - start

    start = time.perf_counter()
    blocks_of = np.repeat(np.arange(6), 6)
    dummies = np.column_stack([np.eye(6)[layout.remedy], np.eye(6)[blocks_of][:, 1:]])
    for s in range(1000):
        design = np.column_stack([dummies, np.log(before[s] + 0.5)])
        fitted = sm.OLS(np.log(after[s] + 0.5), design).fit()
        _ = fitted.params, fitted.bse
    arrays = time.perf_counter() - start

    start = time.perf_counter()
    for blocks in sizes_around(6):
        power_at(Setup(), TRUTH, blocks, seed=2)
    curve = time.perf_counter() - start
    print(f"1,000 trials analysed together:         {whole:7.3f} s (fit alone {only_fit:.3f} s)")
    print(f"fitted one by one, statsmodels formula: {formula:7.3f} s, {formula / whole:.0f} times")
    print(f"fitted one by one, statsmodels arrays:  {arrays:7.3f} s, {arrays / only_fit:.0f} fits")
    print(f"whole curve {sizes_around(6)}, 1,000 trials each: {curve:.2f} s")
    print(f"largest difference of an estimate from statsmodels: {worst:.2e}")


if __name__ == "__main__":
    main()
