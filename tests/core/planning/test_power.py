"""Planning by simulation: all tables at once are judged alike, with the chances of brute force."""

from __future__ import annotations

import math
import unittest

import numpy as np

from orthocris.core import Observation, Outcome, judge
from orthocris.core.errors import InputError
from orthocris.core.planning.many_tables import Layout, analyse_tables
from orthocris.core.planning.power import (
    Assumptions,
    answer,
    fewest_blocks,
    layout_for,
    power_at,
    simulate,
    sizes_around,
    usual_assumptions,
)
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.verdict.result import Verdict

TRUTH = Assumptions(efficacies=(0.8, 0.55, 0.0))


def judged(layout: Layout, before: np.ndarray, after: np.ndarray) -> Verdict:
    """The judge's verdict on one simulated trial."""
    seen = [
        Observation(
            f"p{k}",
            None if layout.block is None else f"b{layout.block[k]}",
            f"r{layout.remedy[k]}",
            day,
            "live",
            float(values[k]),
            column=None if layout.column is None else f"c{layout.column[k]}",
        )
        for day, values in ((0.0, before), (7.0, after))
        for k in range(len(layout.remedy))
    ]
    return judge(seen, control="r0")


class ManyTablesAreTheJudge(unittest.TestCase):
    def check(self, setup: Setup, blocks: int) -> None:
        """Compare numbers exactly, and decisions up to the error of the coarser draws."""
        layout = layout_for(setup, 4, blocks, 3)
        before, after = simulate(layout, TRUTH, 20, np.random.default_rng(6))
        found = analyse_tables(layout, before, after, counted=True, seed=1)
        differing = 0
        for s in range(20):
            verdict = judged(layout, before[s], after[s])
            by_name = {r.name: r for r in verdict.remedies}
            for r in (1, 2, 3):
                one = by_name[f"r{r}"]
                self.assertAlmostEqual(
                    one.rate_ratio or 0, math.exp(found.difference[s, r - 1]), places=8
                )
                # All at once it reads counting chance off a table; the rest is equal to rounding.
                self.assertAlmostEqual(one.efficacy_low or 0, found.low[s, r - 1], delta=3e-4)
                differing += one.beats_control != bool(found.beats[s, r - 1])
                differing += one.could_be_best != bool(found.best[s, r - 1])
            winner = f"r{found.winner[s]}" if found.winner[s] else None
            named = verdict.outcome is Outcome.WINNER
            differing += (winner is not None) != named
        self.assertLessEqual(differing, 3)  # of 140; borderline p values only

    def test_complete_blocks(self) -> None:
        self.check(Setup(), 5)

    def test_control_twice_in_some_blocks(self) -> None:
        layout = layout_for(Setup(), 4, 5, 3, doubled=2)
        self.assertEqual((len(layout.remedy), int((layout.remedy == 0).sum())), (22, 7))
        before, after = simulate(layout, TRUTH, 8, np.random.default_rng(6))
        found = analyse_tables(layout, before, after, counted=True, seed=1)
        for s in range(8):
            ratio = {r.name: r.rate_ratio for r in judged(layout, before[s], after[s]).remedies}
            self.assertAlmostEqual(ratio["r1"] or 0, math.exp(found.difference[s, 0]), places=8)

    def test_no_blocks(self) -> None:
        self.check(Setup(design=DesignKind.RANDOMISED), 5)

    def test_incomplete_blocks(self) -> None:
        self.check(Setup(design=DesignKind.INCOMPLETE, block_size=3), 8)

    def test_latin_square(self) -> None:
        self.check(Setup(design=DesignKind.LATIN), 4)


class Chances(unittest.TestCase):
    def test_agrees_with_brute_force(self) -> None:
        """100 trials judged one by one against 1,000 together: within 4 standard errors."""
        point = power_at(Setup(), TRUTH, 5, seed=1)
        assert point is not None
        layout = layout_for(Setup(), 4, 5, 1)
        before, after = simulate(layout, TRUTH, 100, np.random.default_rng(99))
        named = sum(
            (v := judged(layout, before[s], after[s])).outcome is Outcome.WINNER
            and v.recommended == "r1"
            for s in range(100)
        )
        error = math.sqrt(point.best_named * (1 - point.best_named) * (1 / 100 + 1 / 1000))
        self.assertLess(abs(named / 100 - point.best_named), 4 * error)

    def test_more_plants_tell_more_and_false_winners_stay_rare(self) -> None:
        few, many = (power_at(Setup(), TRUTH, b, seed=2, trials=500) for b in (3, 10))
        assert few is not None and many is not None
        self.assertGreater(many.best_named, few.best_named + 0.2)
        self.assertLess(many.width, few.width)
        useless = power_at(Setup(), Assumptions((0.0, 0.0)), 6, seed=3, trials=500)
        assert useless is not None
        self.assertLess(useless.false_winner, 0.05)

    def test_blocks_too_few_to_be_compared_are_refused_in_words(self) -> None:
        for remedies, size in ((4, 2), (6, 3), (6, 2)):
            setup = Setup(design=DesignKind.INCOMPLETE, block_size=size)
            usual = usual_assumptions(0.6, remedies, (), counted=True)
            fewest = fewest_blocks(setup, remedies)
            with self.assertRaisesRegex(InputError, "cannot link"):
                power_at(setup, usual, fewest - 1, seed=1, trials=20)
            self.assertIsNotNone(power_at(setup, usual, fewest, seed=1, trials=20))

    def test_it_can_be_stopped(self) -> None:
        shares: list[float] = []

        def proceed(share: float) -> bool:
            shares.append(share)
            return len(shares) < 2

        self.assertIsNone(power_at(Setup(), TRUTH, 4, seed=1, proceed=proceed))
        self.assertEqual(shares, [0.25, 0.5])

    def test_the_answer_says_what_can_be_told(self) -> None:
        usual = usual_assumptions(0.6, 4, [], counted=True)
        self.assertEqual(usual.efficacies, (0.75, 0.6, 0.0))
        big = power_at(Setup(), usual, 14, seed=4, trials=500)
        assert big is not None
        said = answer(big, usual)
        self.assertEqual(
            said, "With your 56 plants you can tell 60% from nothing, but not 60% from 75%."
        )

    def test_sizes_hold_the_one_at_hand(self) -> None:
        for blocks in (2, 5, 6, 13):
            self.assertIn(blocks, sizes_around(blocks))
            self.assertGreaterEqual(min(sizes_around(blocks)), 2)

    def test_impossible_assumptions_are_refused(self) -> None:
        for bad in (Assumptions((1.0,)), Assumptions(()), Assumptions((0.5,), growth=0)):
            with self.assertRaises(InputError):
                power_at(Setup(), bad, 4, seed=1)


if __name__ == "__main__":
    unittest.main()
