"""Trials of one remedy together: as published examples say, and honest where they are few."""

from __future__ import annotations

import unittest
from itertools import pairwise
from math import exp, log, sqrt

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.verdict.pooling import (
    Effect,
    Pooled,
    before_words,
    effect_of,
    few_trials,
    known_words,
    pool,
    random_effects,
    removed,
    with_before,
)

# Thirteen trials of a vaccine (Colditz and others 1994): ill and well, vaccinated and not.
VACCINE = [
    *((4, 119, 11, 128), (6, 300, 29, 274), (3, 228, 11, 209), (62, 13536, 248, 12619)),
    *((33, 5036, 47, 5761), (180, 1361, 372, 1079), (8, 2537, 10, 619)),
    *((505, 87886, 499, 87892), (29, 7470, 45, 7232), (17, 1699, 65, 1600)),
    *((186, 50448, 141, 27197), (5, 2493, 3, 2338), (27, 16886, 29, 17825)),
]


def risk(a: int, b: int, c: int, d: int) -> Effect:
    """The log of a relative risk."""
    left = log(a / (a + b) / (c / (c + d)))
    return Effect(left, sqrt(1 / a - 1 / (a + b) + 1 / c - 1 / (c + d)))


EFFECTS = st.builds(Effect, st.floats(-4, 1), st.floats(0.05, 1))


class Together(unittest.TestCase):
    def test_a_published_example(self) -> None:
        found = random_effects([risk(*row) for row in VACCINE])
        self.assertAlmostEqual(found.scatter**2, 0.3132, 4)
        self.assertAlmostEqual(found.left, -0.7145, 4)
        self.assertAlmostEqual(found.low, -1.1084, 4)
        self.assertAlmostEqual(found.high, -0.3206, 4)

    def test_trials_alike_in_size_have_the_scatter_of_their_numbers(self) -> None:
        left = [-1.0, -2.0, -1.4, -0.2]
        found = random_effects([Effect(x, 0.3) for x in left])
        self.assertAlmostEqual(found.scatter**2, float(np.var(left, ddof=1)) - 0.09, 6)
        self.assertAlmostEqual(found.left, float(np.mean(left)))
        half = 3.182446305 * sqrt(float(np.var(left, ddof=1)) / 4)
        self.assertAlmostEqual(found.high - found.left, half, 6)

    def test_trials_that_agree_by_luck_are_not_told_surer_than_they_are(self) -> None:
        same = [Effect(-1.0, 0.4)] * 5
        self.assertAlmostEqual(random_effects(same).high, -1.0)
        self.assertAlmostEqual(pool(same).high, -1.0 + 2.776445105 * 0.4 / sqrt(5), 6)

    def test_one_trial_says_less_of_the_next_garden_than_of_itself(self) -> None:
        found = few_trials([Effect(-1.5, 0.2)])
        self.assertAlmostEqual(found.left, -1.5)
        self.assertLess(found.low, -1.5 - 2 * 0.2)
        assert found.next_low is not None
        self.assertLess(found.next_low, found.low)

    @given(st.lists(EFFECTS, min_size=1, max_size=9))
    def test_the_mean_is_among_them_and_the_next_less_sure(self, effects: list[Effect]) -> None:
        found = pool(effects)
        each = [e.left for e in effects]
        self.assertLessEqual(min(each) - 1e-6, found.left)
        self.assertLessEqual(found.left, max(each) + 1e-6)
        if found.next_low is not None and found.next_high is not None:
            self.assertLessEqual(found.next_low, found.low + 1e-6)
            self.assertGreaterEqual(found.next_high, found.high - 1e-6)

    def test_more_of_the_same_is_surer(self) -> None:
        wide = [(p := pool([Effect(-1.2, 0.3)] * k)).high - p.low for k in (1, 2, 3, 4, 5, 8)]
        self.assertTrue(all(a > b for a, b in pairwise(wide)), wide)


class FromVerdicts(unittest.TestCase):
    @given(st.floats(-5, 0.99), st.floats(0.01, 1), st.floats(0.01, 1))
    def test_limits_of_a_verdict_become_an_error(self, at: float, down: float, up: float) -> None:
        left = log(1 - at)
        low, high = 1 - exp(left + up), 1 - exp(left - down)
        found = effect_of(at, low, high)
        self.assertGreater(found.error, 0)
        self.assertAlmostEqual(removed(found.left), min(at, 0.999), 6)

    def test_nothing_left_over_is_no_infinity(self) -> None:
        found = effect_of(1.0, 0.9, 1.0)
        self.assertAlmostEqual(found.left, log(0.001))
        self.assertLess(found.error, 2)

    def test_words(self) -> None:
        said = known_words(3, (0.95, 0.86, 0.982), (0.64, 0.992), 0)
        self.assertEqual(
            said,
            "3 trials here: 95% fewer than untreated, likely 86% to 98.2% fewer. Another trial "
            "would likely find 64% to 99.2% fewer.",
        )
        said = known_words(1, (-0.2, -0.9, 0.3), (-1.5, 0.5), 1)
        self.assertEqual(
            said,
            "It harmed the plants in 1 trial. 1 trial here: 20% more than untreated, likely "
            "90% more to 30% fewer. Another trial would likely find 150% more to 50% fewer.",
        )


class WithEarlierTrials(unittest.TestCase):
    def test_it_is_the_mean_weighed_by_precision(self) -> None:
        """Earlier: half left, prediction from an eighth to twice; own: a quarter left, as sure."""
        before = Pooled(log(0.5), log(0.25), log(1.0), log(0.125), log(2.0), 0.5)
        spread = (log(2.0) - log(0.125)) / (2 * 1.959963984540054)
        found = with_before(Effect(log(0.25), spread), before)
        self.assertAlmostEqual(1 - found.efficacy, 0.5**1.5)
        half = (log(1 - found.low) - log(1 - found.high)) / 2
        self.assertAlmostEqual(half, 1.959963984540054 * spread / 2**0.5)
        self.assertFalse(found.apart)

    def test_a_sure_trial_moves_little_and_one_that_is_far_off_is_said_to_be(self) -> None:
        before = pool([Effect(log(0.05), 0.2)] * 6)
        sure = with_before(Effect(log(0.06), 0.02), before)
        self.assertAlmostEqual(sure.efficacy, 0.94, delta=0.002)
        far = with_before(Effect(log(0.9), 0.2), before)
        self.assertTrue(far.apart)
        self.assertIn("hardly fit together", before_words("Soap", far, 6))
        self.assertIn("With 6 earlier trials, Soap removes about 94", before_words("Soap", sure, 6))
        worse = with_before(Effect(log(1.5), 0.3), pool([Effect(log(1.2), 0.3)]))
        self.assertIn("more than untreated", before_words("Soap", worse, 1))
