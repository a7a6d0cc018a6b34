"""Planning by simulation: all tables at once are judged alike, with the chances of brute force."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np

from orthocris.core import Observation, Outcome, judge
from orthocris.core.errors import InputError
from orthocris.core.planning.benches import Assumptions, simulate
from orthocris.core.planning.many_trials import Tables, judge_many
from orthocris.core.planning.power import (
    TRIALS,
    answer,
    fewest_blocks,
    layout_for,
    power_at,
    sizes_around,
    usual_assumptions,
)
from orthocris.core.trial.setup import DesignKind, Kind, Setup
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.result import Verdict

TRUTH = Assumptions(efficacies=(0.8, 0.55, 0.0))


def judged(layout: Layout, tables: Tables, trial: int) -> Verdict:
    """The judge's verdict on one simulated trial of counts."""
    assert tables.start is not None
    before = np.exp(tables.start[trial]) - 0.5
    seen = [
        Observation(
            f"p{k}",
            None if layout.block is None else f"b{layout.block[k]}",
            f"r{layout.remedy[k]}",
            day,
            "live",
            float(round(values[k])),
            column=None if layout.column is None else f"c{layout.column[k]}",
        )
        for day, values in ((0.0, before), (7.0, tables.harm[trial]))
        for k in range(len(layout.remedy))
    ]
    return judge(seen, control="r0")


class ManyTrialsAreTheJudge(unittest.TestCase):
    def check(self, setup: Setup, blocks: int, *, doubled: int = 0) -> None:
        """Compare numbers and decisions, up to the error of the coarser draws."""
        layout = layout_for(setup, 4, blocks, 3, doubled=doubled)
        tables = simulate(layout, TRUTH, 20, np.random.default_rng(6))
        found = judge_many(layout, tables, threshold=0.6, seed=1)
        differing = 0
        for s in range(20):
            verdict = judged(layout, tables, s)
            by_name = {r.name: r for r in verdict.remedies}
            for r in (1, 2, 3):
                one = by_name[f"r{r}"]
                self.assertAlmostEqual(one.efficacy or 0, found.middle[s, r - 1], delta=0.03)
                worth = one.prob_worth_it or 0
                self.assertAlmostEqual(worth, found.worth[s, r - 1], delta=0.03)
                differing += one.beats_control != bool(found.beats[s, r - 1])
                differing += one.could_be_best != bool(found.best[s, r - 1])
            winner = f"r{found.winner[s]}" if found.winner[s] else None
            named = verdict.outcome is Outcome.WINNER
            differing += (winner is not None) != named
        self.assertLessEqual(differing, 6)  # of 140; borderline chances only

    def test_complete_blocks(self) -> None:
        self.check(Setup(), 5)

    def test_some_blocks_have_one_twice(self) -> None:
        layout = layout_for(Setup(), 4, 5, 3, doubled=2)
        self.assertEqual(sorted(np.bincount(layout.remedy)), [5, 5, 6, 6])
        self.check(Setup(), 5, doubled=2)

    def test_no_blocks(self) -> None:
        self.check(Setup(design=DesignKind.RANDOMISED), 5)

    def test_incomplete_blocks(self) -> None:
        self.check(Setup(design=DesignKind.INCOMPLETE, block_size=3), 8)

    def test_latin_square(self) -> None:
        self.check(Setup(design=DesignKind.LATIN), 4)


class Chances(unittest.TestCase):
    def test_agrees_with_brute_force(self) -> None:
        """100 trials judged one by one against 400 together: within 4 standard errors."""
        point = power_at(Setup(), TRUTH, 5, seed=1)
        assert point is not None
        layout = layout_for(Setup(), 4, 5, 1)
        tables = simulate(layout, TRUTH, 100, np.random.default_rng(99))
        named = sum(
            (v := judged(layout, tables, s)).outcome is Outcome.WINNER and v.recommended == "r1"
            for s in range(100)
        )
        error = math.sqrt(point.best_named * (1 - point.best_named) * (1 / 100 + 1 / 400))
        self.assertLess(abs(named / 100 - point.best_named), 4 * error)

    def test_more_plants_tell_more_and_false_winners_stay_rare(self) -> None:
        few, many = (power_at(Setup(), TRUTH, b, seed=2, trials=200) for b in (3, 9))
        assert few is not None and many is not None
        self.assertGreater(many.best_named, few.best_named + 0.2)
        self.assertLess(many.width, few.width)
        useless = power_at(Setup(), Assumptions((0.0, 0.0)), 6, seed=3, trials=200)
        assert useless is not None
        self.assertLess(useless.false_winner, 0.1)

    def test_every_measure_and_kind_is_simulated_as_it_is(self) -> None:
        """A remedy of 90% is nearly always shown with 8 blocks, whatever is counted."""
        for measure in ("live", "dead", "hatched", "cover", "rating", "catch"):
            with self.subTest(measure=measure):
                point = power_at(
                    Setup(), Assumptions((0.9, 0.0), measure=measure), 8, seed=1, trials=60
                )
                assert point is not None
                self.assertGreater(point.best_beats, 0.85)
                self.assertLess(point.second_beats, 0.17)
        clean = Assumptions((0.9, 0.0), kind=Kind.PREVENTION)
        tables = simulate(layout_for(Setup(), 3, 8, 1), clean, 3, np.random.default_rng(1))
        self.assertIsNone(tables.start)
        point = power_at(Setup(), clean, 8, seed=1, trials=100)
        assert point is not None
        self.assertGreater(point.best_beats, 0.8)
        grades = Assumptions((0.9,), measure="rating")
        tables = simulate(layout_for(Setup(), 2, 8, 1), grades, 50, np.random.default_rng(1))
        self.assertLessEqual(float(tables.harm.max()) / 20 * 5, 5)
        fewer, more = (Assumptions((0.3,), measure="dead", of=of) for of in (5, 60))
        little, much = (power_at(Setup(), a, 6, seed=1, trials=200) for a in (fewer, more))
        assert little is not None and much is not None
        self.assertGreater(much.best_beats, little.best_beats + 0.1)

    def test_a_ladder_and_a_two_by_two_are_answered_as_they_ask(self) -> None:
        ladder = usual_assumptions(0.6, 4, (), measure="live", kind=Kind.LADDER)
        self.assertEqual(ladder.efficacies, (0.3, 0.75, 0.875))
        rungs = replace(ladder, efficacies=(0.1, 0.9, 0.95))
        point = power_at(Setup(), rungs, 8, seed=1, trials=100)
        assert point is not None
        self.assertGreater(point.best_named, 0.8)
        low = power_at(Setup(), replace(ladder, efficacies=(0.5, 0.55)), 8, seed=1, trials=200)
        assert low is not None
        self.assertEqual(low.best_named, 0)
        self.assertLess(low.false_winner, 0.25)  # 1 in 5 may fall short
        square = usual_assumptions(0.6, 4, (), measure="live", kind=Kind.SQUARE)
        self.assertEqual(square.efficacies, (0.75, 0.0, 0.75))
        point = power_at(Setup(), square, 12, seed=1, trials=100)
        assert point is not None
        self.assertGreater(point.best_named, 0.6)

    def test_blocks_too_few_to_be_compared_are_refused_in_words(self) -> None:
        for remedies, size in ((4, 2), (6, 3), (6, 2)):
            setup = Setup(design=DesignKind.INCOMPLETE, block_size=size)
            usual = usual_assumptions(0.6, remedies, (), measure="live")
            fewest = fewest_blocks(setup, remedies)
            with self.assertRaisesRegex(InputError, "cannot link"):
                power_at(setup, usual, fewest - 1, seed=1, trials=20)
            self.assertIsNotNone(power_at(setup, usual, fewest, seed=1, trials=20))

    def test_it_can_be_stopped(self) -> None:
        shares: list[float] = []

        def proceed(share: float) -> bool:
            shares.append(share)
            return len(shares) < 2

        self.assertIsNone(power_at(Setup(), TRUTH, 4, seed=1, trials=3 * TRIALS, proceed=proceed))
        self.assertEqual(shares, [1 / 3, 2 / 3])

    def test_the_answer_says_what_can_be_told(self) -> None:
        usual = usual_assumptions(0.6, 4, [], measure="live")
        self.assertEqual(usual.efficacies, (0.75, 0.6, 0.0))
        big = power_at(Setup(), usual, 14, seed=4, trials=200)
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
