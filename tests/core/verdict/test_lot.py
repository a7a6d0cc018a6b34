"""The lot: its layouts, its statistic against least squares, and the errors it promises."""

from __future__ import annotations

import math
import unittest
from itertools import permutations

import numpy as np
import statsmodels.api as sm

from orthocris.core.verdict.layouts import layouts_possible, reference_set
from orthocris.core.verdict.lot import Lot
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.rerandomise import FAMILY_ERROR, Claims, claims, spending

RNG = np.random.default_rng(271126)


def blocks_of(remedies: int, blocks: int) -> Layout:
    """Complete blocks."""
    return Layout(np.tile(np.arange(remedies), blocks), np.repeat(np.arange(blocks), remedies))


def asked(layout: Layout, *looks: np.ndarray, exact: bool = True) -> Claims:
    """The claims of one trial from its log harms at each look."""
    lot = Lot(layout, reference_set(layout, 1), None, 0)
    ways, early = layouts_possible(layout), len(looks) - 1
    return claims(lot, [look[None] for look in looks], exact=exact, early=early, layouts=ways)


class Layouts(unittest.TestCase):
    def test_all_are_listed_where_they_are_few(self) -> None:
        """Two plants in each of five blocks: 2^5 = 32, each once; the one in use first."""
        layout = blocks_of(2, 5)
        found = reference_set(layout, 1)
        self.assertEqual(layouts_possible(layout), 32)
        self.assertEqual(len({tuple(row) for row in found.tolist()}), 32)
        np.testing.assert_array_equal(found[0], layout.remedy)

    def test_a_control_that_stands_twice_is_not_counted_twice(self) -> None:
        layout = Layout(np.array([0, 0, 1, 0, 0, 1]), np.repeat([0, 1], 3))
        self.assertEqual(layouts_possible(layout), 9)
        self.assertEqual(len(reference_set(layout, 1)), 9)

    def test_without_blocks_any_plant_may_have_any_remedy(self) -> None:
        layout = Layout(np.array([0, 0, 0, 1, 1, 1]))
        self.assertEqual(len(reference_set(layout, 1)), math.comb(6, 3))

    def test_drawn_layouts_keep_their_blocks_and_are_even(self) -> None:
        layout = blocks_of(5, 6)
        found = reference_set(layout, 1)
        for block in range(6):
            part = np.sort(found[:, layout.block == block], axis=1)
            self.assertTrue((part == np.arange(5)).all())
        # Each remedy on each plant in a fifth of 4,096: within 5 standard errors of 25.6.
        share = (found[:, 0, None] == np.arange(5)).sum(axis=0)
        self.assertLess(np.abs(share - len(found) / 5).max(), 5 * 25.6)

    def test_squares_stay_squares_and_a_small_one_has_few(self) -> None:
        """Of side 3 there are 12 Latin squares in all (3! · 2! · 1)."""
        for side, number in ((3, 12), (4, None)):
            row, column = np.repeat(np.arange(side), side), np.tile(np.arange(side), side)
            layout = Layout((row + column) % side, row, column)
            found = reference_set(layout, 1)
            for drawn in found[:200]:
                grid = drawn.reshape(side, side)
                for line in (*grid, *grid.T):
                    self.assertEqual(sorted(line), list(range(side)))
            if number:
                self.assertEqual(len({tuple(r) for r in found.tolist()}), number)


class Statistic(unittest.TestCase):
    def test_it_is_the_t_of_covariance_analysis_in_every_layout(self) -> None:
        """statsmodels' least squares with blocks and covariate, for the layout in use and more."""
        layout = blocks_of(4, 5)
        x, y = RNG.normal(size=20), RNG.normal(size=20)
        drawn = reference_set(layout, 3)[:4]
        lot = Lot(layout, drawn, x[None], 0)
        rows = np.array([0])
        found = lot.statistics(lot.residuals(y[None], (), rows), rows)[0]
        for place, remedy in enumerate(drawn):
            design = np.column_stack([np.eye(4)[remedy][:, 1:], np.eye(5)[layout.block], x])
            usual = sm.OLS(y, design).fit()
            np.testing.assert_allclose(found[place], usual.tvalues[:3], rtol=1e-8)


class ByHand(unittest.TestCase):
    def test_five_pairs_all_better_have_one_chance_in_32(self) -> None:
        layout = blocks_of(2, 5)
        y = np.where(layout.remedy == 1, -1.0, 1.0) + np.linspace(0, 0.1, 10)
        found = asked(layout, y)
        scale = FAMILY_ERROR / spending(1, 0, 32)[0]
        self.assertAlmostEqual(found.better[0, 1], scale / 32)
        self.assertAlmostEqual(found.worse[0, 1], 1.0)
        self.assertAlmostEqual(found.least, scale / 32)

    def test_by_brute_force_over_all_layouts(self) -> None:
        """Three blocks of three: every one of 6^3 layouts by least squares, the greatest of the two
        statistics at least as large as the larger seen."""
        layout = blocks_of(3, 3)
        y = np.array([0.1, -1.4, 0.0, 0.3, -1.0, 0.4, -0.2, -1.9, 0.1])

        def statistics(remedy: np.ndarray) -> np.ndarray:
            design = np.column_stack([np.eye(3)[remedy][:, 1:], np.eye(3)[layout.block]])
            return -np.asarray(sm.OLS(y, design).fit().tvalues[:2])

        seen = statistics(layout.remedy).max()
        every = list(permutations(range(3)))
        as_good = [
            statistics(np.array([*a, *b, *c])).max() >= seen - 1e-9
            for a in every
            for b in every
            for c in every
        ]
        found = asked(layout, y).better[0].min()
        self.assertAlmostEqual(found, FAMILY_ERROR / spending(1, 0)[0] * np.mean(as_good))


class Spending(unittest.TestCase):
    def test_any_number_of_looks_stays_below_five_per_cent(self) -> None:
        for early in (0, 4, 11, 12):
            spent = spending(12, early)
            self.assertEqual(sorted(spent), list(spent))
            self.assertLessEqual(spent[-1], FAMILY_ERROR)

    def test_early_looks_spend_little_and_what_is_added_has_error_kept(self) -> None:
        """Three early looks, the decisive one, two additions, and no third."""
        spent = spending(7, 3)
        self.assertLess(spent[2], 0.007)
        np.testing.assert_allclose(spent[3:], (0.04, 0.045, 0.05, 0.05))

    def test_six_pairs_may_speak_with_three_of_their_64_layouts_at_once(self) -> None:
        for layouts, first in ((64, 3), (128, 5), (216, 8)):
            self.assertEqual(int(spending(1, 0, layouts)[0] * layouts), first)
            self.assertAlmostEqual(spending(9, 0, layouts)[-1], FAMILY_ERROR)

    def test_a_claim_that_was_paid_for_and_still_holds_is_kept(self) -> None:
        layout = blocks_of(4, 6)
        noise = RNG.normal(0, 0.3, 24)
        clear, weaker = (np.where(layout.remedy == 1, -e, 0.0) + noise for e in (2.0, 0.75))
        self.assertLess(asked(layout, clear).better[0, 1], FAMILY_ERROR)
        self.assertLess(asked(layout, clear, weaker).better[0, 1], FAMILY_ERROR)
        idle = np.where(layout.remedy == 1, 1.0, 0.0) + noise
        self.assertGreater(asked(layout, clear, idle).better[0, 1], FAMILY_ERROR)

    def test_reading_every_look_claims_something_false_in_at_most_five_per_cent(self) -> None:
        """300 trials in which nothing works, read at four looks; the bound is 3 standard errors."""
        layout = blocks_of(4, 5)
        lot = Lot(layout, reference_set(layout, 1, 600), None, 0)
        stays = RNG.normal(0, 0.5, (300, 20))
        looks = [stays + RNG.normal(0, 0.5, (300, 20)) for _ in range(4)]
        false = np.zeros(300, dtype=bool)
        for k in range(1, 5):
            found = claims(lot, looks[:k], exact=True, worse=False)
            false |= (found.better < FAMILY_ERROR).any(axis=1)
        self.assertLess(false.mean(), 0.05 + 3 * math.sqrt(0.05 * 0.95 / 300))
        self.assertGreater(false.mean(), 0.005)

    def test_a_remedy_that_does_nothing_beside_others_that_do(self) -> None:
        """The idle one is claimed in at most 5% of 300 trials; few layouts and many."""
        for remedies, blocks, exact in ((3, 4, False), (5, 4, True)):
            layout = blocks_of(remedies, blocks)
            truth = np.where((layout.remedy > 0) & (layout.remedy < remedies - 1), -3.0, 0.0)
            y = truth + RNG.normal(0, 0.5, (300, len(truth)))
            lot = Lot(layout, reference_set(layout, 1, 1300), None, 0)
            found = claims(lot, [y], exact=exact, worse=False).better
            self.assertGreater((found[:, 1] < FAMILY_ERROR).mean(), 0.9)
            self.assertLess((found[:, -1] < FAMILY_ERROR).mean(), 0.05 + 3 * 0.0126)


if __name__ == "__main__":
    unittest.main()
