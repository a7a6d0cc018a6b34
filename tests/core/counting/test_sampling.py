"""How many leaves to count: hand-worked errors, and clumping that is found again."""

from __future__ import annotations

import math
import unittest

import numpy as np

from orthocris.core.counting.sampling import (
    SECONDS_A_LEAF,
    Spread,
    error_of,
    options,
    spread_of,
)
from orthocris.core.errors import InputError


class Sampling(unittest.TestCase):
    def test_errors_as_worked_by_hand(self) -> None:
        # m 10, 1/k 0.5: √((0.1 + 0.5) / 6) = √0.1
        self.assertAlmostEqual(error_of(Spread(10, 0.5, 30, 0), 6), math.sqrt(0.1))
        # By chance alone, four times the leaves halve the error.
        alone = Spread(4, 0.0, 30, 0)
        self.assertAlmostEqual(error_of(alone, 1), 2 * error_of(alone, 4))
        with self.assertRaises(InputError):
            error_of(alone, 0)

    def test_more_leaves_are_surer_and_take_longer(self) -> None:
        found = options(Spread(8, 1.0, 30, 0), 24)
        self.assertEqual([o.error for o in found], sorted((o.error for o in found), reverse=True))
        six = next(o for o in found if o.samples == 6)
        self.assertAlmostEqual(six.minutes, 24 * (6 * 30 + 20) / 60)

    def test_clumping_is_found_again_in_leaves_that_were_counted(self) -> None:
        rng = np.random.default_rng(5)
        for k in (0.5, 2.0):
            plants = [
                list(rng.negative_binomial(k, k / (k + 12), 40).astype(float)) for _ in range(40)
            ]
            found = spread_of(plants, [20.0, 25.0, 90.0])
            self.assertAlmostEqual(found.clumping, 1 / k, delta=0.2 / k)
            self.assertAlmostEqual(found.mean, 12, delta=1.5)
            self.assertEqual((found.seconds, found.counted), (25.0, 1600))

    def test_too_few_leaves_say_nothing_yet(self) -> None:
        for leaves in ([], [[4.0, 9.0]], [[7.0]] * 40, [[0.0] * 30]):
            with self.subTest(len(leaves)):
                found = spread_of(leaves, [], 3.0)
                self.assertEqual((found.mean, found.counted), (3.0, 0))
                self.assertEqual(found.seconds, SECONDS_A_LEAF)


if __name__ == "__main__":
    unittest.main()
