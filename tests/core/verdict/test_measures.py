"""Whatever is counted, 95% intervals hold about so often: a small part of the bench."""

from __future__ import annotations

import unittest

import numpy as np

from bench.calibration.measures import WORLDS, one
from orthocris.core import judge

TRIALS = 40


class OtherMeasures(unittest.TestCase):
    def test_intervals_hold_and_no_useless_remedy_wins(self) -> None:
        """Of 120 intervals 95% hold 114; under 104 would be one in 5,000."""
        for world in (
            "cover, none before",
            "grades of three leaves",
            "hatched out of 15",
            "dead out of 15, a third by itself",
            "area under the curve",
            "catch per trap and day",
            "half of the plants clean, 8 blocks",
        ):
            with self.subTest(world=world):
                told = [one(seed, world) for seed in range(TRIALS)]
                held = np.array([t[0] for t in told])
                self.assertFalse(np.isnan(held).any())
                self.assertGreaterEqual(held.sum(), 104)
                self.assertFalse(any(t[3] for t in told))
                self.assertLess(np.mean([t[2] for t in told]), 0.18)

    def test_a_remedy_that_takes_almost_all_fails_on_hardly_a_plant(self) -> None:
        """Whatever it is out of: points of a cover read as shares were taken for counts."""
        for name in ("cover", "cover, lognormal", "cover, even plants", "grades of three leaves"):
            world = WORLDS[name]
            with self.subTest(world=name):
                failed = []
                for seed in range(8):
                    seen = world.table(
                        np.random.default_rng(seed), np.array(world.left), world.blocks
                    )
                    best = next(r for r in judge(seen).remedies if r.name == "a")
                    failed.append(best.failed_on or 0)
                self.assertLess(sum(failed), 3, failed)

    def test_every_world_has_an_interval_for_every_remedy(self) -> None:
        for world in WORLDS:
            with self.subTest(world=world):
                held = one(1, world)[0]
                self.assertEqual(len(held), len(WORLDS[world].left) - 1)
                self.assertTrue(np.isfinite(held).all())


if __name__ == "__main__":
    unittest.main()
