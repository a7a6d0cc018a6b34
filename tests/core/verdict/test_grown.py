"""Height, leaves, weight picked and soil moisture: told against the untreated, none a claim."""

from __future__ import annotations

import unittest
from collections.abc import Iterator

import numpy as np

from orthocris.core import Observation, judge
from orthocris.core.verdict.result import BesideEffect


def trial(
    rng: np.random.Generator, *, grows: float = 1.2, blocks: int = 4, before: bool = True
) -> Iterator[Observation]:
    """Soap takes the pests and lets plants grow to so many times; a poor block is short."""
    for block in range(blocks):
        level = 30 * np.exp(rng.normal(0, 0.3))
        for name, left, more in (("control", 1.0, 1.0), ("soap", 0.1, grows)):
            own = level * np.exp(rng.normal(0, 0.15))
            plant = Observation(f"{name}{block}", f"b{block}", name, 0.0, "live", 40.0)
            yield plant
            yield plant._replace(day=7.0, value=float(rng.poisson(40 * left)))
            if before:
                yield plant._replace(measure="height", value=round(own, 1))
            grown = round(own * more * np.exp(rng.normal(0, 0.05)), 1)
            yield plant._replace(day=7.0, measure="height", value=grown)
            for day, grams in ((3.0, 50.0), (7.0, 100.0)):
                yield plant._replace(day=day, measure="picked", value=grams * more)


def read(seen: Iterator[Observation], measure: str) -> BesideEffect:
    """What is told of the soap."""
    (found,) = [b for b in judge(list(seen)).beside if b.measure == measure]
    return found.remedies[0]


class Grown(unittest.TestCase):
    def test_growth_is_told_against_the_untreated_and_picking_adds_up(self) -> None:
        rng = np.random.default_rng(1)
        height = read(trial(rng), "height")
        self.assertAlmostEqual(1 - height.efficacy, 1.2, delta=0.1)
        self.assertLess(height.efficacy_low, height.efficacy_high)
        picked = read(trial(rng), "picked")
        self.assertAlmostEqual(1 - picked.efficacy, 180.5 / 150.5, places=3)

    def test_the_interval_holds_the_truth_with_a_count_before_and_without(self) -> None:
        widths = []
        for before in (True, False):
            rng = np.random.default_rng(5)
            found = [read(trial(rng, before=before), "height") for _ in range(60)]
            held = sum(1 - e.efficacy_high <= 1.2 <= 1 - e.efficacy_low for e in found)
            self.assertGreaterEqual(held, 52)  # of 60, 95% each: below in 1 of 1,000
            widths.append(np.mean([e.efficacy_high - e.efficacy_low for e in found]))
        self.assertLess(widths[0], widths[1])  # what was measured before makes it surer

    def test_of_too_few_plants_nothing_is_told(self) -> None:
        rng = np.random.default_rng(2)
        found = judge(list(trial(rng, blocks=2))).beside
        self.assertEqual([b.measure for b in found], [])


if __name__ == "__main__":
    unittest.main()
