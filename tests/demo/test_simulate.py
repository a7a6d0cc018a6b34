"""The simulated bench behaves like plants with pests."""

from __future__ import annotations

import unittest

import numpy as np

from orthocris.demo.simulate import Bench, Effect, Outbreak

USUAL = Outbreak(start=40, gradient=1.0, spread=0.2, growth=0.05, ceiling=300)


def bench(plants: int = 400, outbreak: Outbreak = USUAL) -> Bench:
    """A long bench, so that averages are steady."""
    return Bench(outbreak, [k / plants for k in range(plants)], np.random.default_rng(5))


class Pests(unittest.TestCase):
    def test_the_gradient_runs_along_the_row(self) -> None:
        level = bench().level
        self.assertGreater(level[300:].mean(), 1.4 * level[:100].mean())

    def test_they_grow_towards_what_a_plant_can_hold(self) -> None:
        grown = bench()
        before = grown.level.mean()
        grown.grow(7)
        self.assertGreater(grown.level.mean(), before)
        grown.grow(400)
        self.assertLess(grown.level.max(), 301)

    def test_a_spray_leaves_about_its_share_and_burns_most_at_first(self) -> None:
        sprayed = bench()
        before, burn = sprayed.level.copy(), sprayed.burn.copy()
        for plant in range(400):
            sprayed.spray(plant, Effect(0.2, 1.5), first=True)
        self.assertAlmostEqual(float(np.median(sprayed.level / before)), 0.2, delta=0.02)
        first = float((sprayed.burn - burn).mean())
        self.assertAlmostEqual(first, 1.5, delta=0.15)
        burn = sprayed.burn.copy()
        for plant in range(400):
            sprayed.spray(plant, Effect(0.2, 1.5), first=False)
        self.assertLess(float((sprayed.burn - burn).mean()), first / 2)

    def test_what_is_read_is_what_may_be_written_down(self) -> None:
        seen = bench()
        seen.level[:] = 500
        seen.burn[:] = 9
        for plant in range(50):
            self.assertLessEqual(seen.cover(plant), 100)
            self.assertLessEqual(seen.damage(plant), 5)
            self.assertEqual(seen.damage(plant) % 1, 0)
            self.assertEqual(seen.count(plant) % 1, 0)


if __name__ == "__main__":
    unittest.main()
