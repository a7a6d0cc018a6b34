"""Height, leaves, weight picked and soil moisture: judged beside what the question asks."""

from __future__ import annotations

import unittest
from collections.abc import Iterator

import numpy as np

from orthocris.core import Observation, judge
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.result import BesideEffect

USUAL = 0.05  # how much growth varies, in logs


def trial(
    rng: np.random.Generator,
    *,
    grows: float = 1.2,
    blocks: int = 4,
    before: bool = True,
    scale: float = USUAL,
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
            grown = round(own * more * np.exp(rng.normal(0, scale)), 1)
            yield plant._replace(day=7.0, measure="height", value=grown)
            for day, grams in ((3.0, 50.0), (7.0, 100.0)):
                luck = np.exp(rng.normal(0, scale)) if scale > USUAL else 1.0
                yield plant._replace(day=day, measure="picked", value=grams * more * luck)


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

    def test_what_is_more_than_luck_is_shown_and_told_as_a_price(self) -> None:
        found = judge(list(trial(np.random.default_rng(3), grows=0.6, blocks=7)))
        shown = {b.measure: b.remedies[0].shown for b in found.beside}
        self.assertEqual(shown, {"height": "less", "picked": "less"})
        (price,) = (w.text for w in found.warnings if w.code == "grows_less")
        self.assertIn("less weight picked on plants of soap", price)
        self.assertTrue(any("less height" in step for step in found.reasons))
        more = judge(list(trial(np.random.default_rng(3), grows=1.6, blocks=7)))
        self.assertEqual({b.remedies[0].shown for b in more.beside}, {"more"})
        self.assertNotIn("grows_less", {w.code for w in more.warnings})
        early = Terms(planned=(0.0, 7.0, 14.0), decisive=14.0)
        waits = judge(list(trial(np.random.default_rng(3), grows=0.6, blocks=7)), terms=early)
        self.assertEqual({b.remedies[0].shown for b in waits.beside}, {""})

    def test_of_remedies_that_change_nothing_little_is_said(self) -> None:
        rng = np.random.default_rng(11)
        said = 0
        for _ in range(120):
            found = judge(list(trial(rng, grows=1.0, blocks=6, scale=0.4)))
            said += any(e.shown for b in found.beside for e in b.remedies)
        self.assertLessEqual(said, 12)  # 5% of 120 are 6: more than twice in 1 of 100

    def test_a_plant_not_weighed_each_time_is_left_out_unless_it_died(self) -> None:
        seen = list(trial(np.random.default_rng(4), blocks=5))
        missing = [o for o in seen if (o.plant, o.measure, o.day) != ("soap0", "picked", 3.0)]
        whole = read(iter(seen), "picked").efficacy
        self.assertAlmostEqual(read(iter(missing), "picked").efficacy, whole, places=9)
        dead = [o for o in seen if o.plant != "soap0" or o.day < 7]
        dead.append(seen[-1]._replace(plant="soap0", block="b0", day=7.0, measure="lost", value=1))
        died = read(iter(dead), "picked")  # what it bore while it lived is what it bore
        self.assertGreater(died.efficacy, whole + 0.1)

    def test_of_too_few_plants_nothing_is_told(self) -> None:
        rng = np.random.default_rng(2)
        found = judge(list(trial(rng, blocks=2))).beside
        self.assertEqual([b.measure for b in found], [])


if __name__ == "__main__":
    unittest.main()
