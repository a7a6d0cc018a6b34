"""How a person counts, told from leaves whose truth is known."""

from __future__ import annotations

import unittest

import numpy as np

from orthocris.core.counting.leaf.scene import Truth
from orthocris.core.counting.practice import (
    Counted,
    check_counted,
    counter_error,
    practice_leaf,
    truth_of,
)
from orthocris.core.errors import InputError


def counted_by(
    *, sees: float = 1.0, young: float = 1.0, dead: float = 0.0, leaves: int = 30, seed: int = 1
) -> list[tuple[Counted, Truth]]:
    """A counter who sees a share of the live, finds a share of the young, takes dead for live."""
    rng = np.random.default_rng(seed)
    found = []
    for number in range(1, leaves + 1):
        truth = truth_of("aphids", 9, number, "some")
        grown = truth.live - truth.young
        small = int(rng.binomial(truth.young, young))
        live = int(rng.binomial(grown, sees)) + small + int(rng.binomial(truth.dead, dead))
        found.append((Counted(live, small, truth.eggs, truth.dead, 30.0 + number), truth))
    return found


def codes(pairs: list[tuple[Counted, Truth]]) -> list[str]:
    """What is advised."""
    return [advice.code for advice in counter_error(pairs).advice]


class HowOneCounts(unittest.TestCase):
    def test_a_perfect_counter_is_told_so(self) -> None:
        found = counter_error(counted_by())
        self.assertEqual((found.bias, found.spread, found.dead_taken), (1, 0, 0))
        self.assertEqual((found.advice, found.found["eggs"]), ((), 1.0))
        self.assertAlmostEqual(found.seconds or 0, 45.5)

    def test_the_share_of_dead_taken_for_live_is_found_again(self) -> None:
        pairs = counted_by(dead=0.4, leaves=60)
        self.assertAlmostEqual(counter_error(pairs).dead_taken or 0, 0.4, delta=0.1)
        self.assertEqual(codes(pairs)[0], "dead_as_live")

    def test_who_sees_too_few_or_misses_the_young_is_told_what_helps(self) -> None:
        few = counter_error(counted_by(sees=0.7, young=0.7))
        self.assertTrue(few.bias_low and few.bias and few.bias_low < few.bias < 0.85)
        self.assertIn("too_few", codes(counted_by(sees=0.7, young=0.7)))
        self.assertIn("young_missed", codes(counted_by(young=0.5)))

    def test_few_leaves_tell_no_bias(self) -> None:
        found = counter_error(counted_by(leaves=3))
        self.assertEqual((found.bias, found.dead_taken, found.leaves), (None, None, 3))
        self.assertEqual(counter_error([]).advice, ())

    def test_leaves_differ_within_a_session_and_are_the_same_again(self) -> None:
        plans = [practice_leaf("thrips", 3, number, "many") for number in range(1, 7)]
        self.assertEqual(len(set(plans)), 6)
        self.assertEqual(plans[0], practice_leaf("thrips", 3, 1, "many"))

    def test_what_nobody_can_have_counted_is_refused(self) -> None:
        for wrong in (Counted(-1), Counted(2, young=3), Counted(1, seconds=1e9), Counted(10**9)):
            with self.subTest(wrong=wrong), self.assertRaises(InputError):
                check_counted(wrong)
        with self.assertRaises(InputError):
            practice_leaf("powdery_mildew", 1, 1, "some")
        with self.assertRaises(InputError):
            practice_leaf("aphids", 1, 1, "brimful")
