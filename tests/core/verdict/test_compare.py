"""Joint comparisons: the draws have the right law, and bests are struck off as promised."""

from __future__ import annotations

import unittest

import numpy as np
from scipy import stats

from orthocris.core.verdict.compare import (
    against_control,
    chance_below,
    chance_of_best,
    could_be_best,
    error_draws,
)
from orthocris.core.verdict.estimate import Estimates


def fit(levels: list[float], variance: float = 0.04, df: int = 20) -> Estimates:
    """Estimates of independent levels, the first being the control."""
    names = ("control", *"abcdefgh")[: len(levels)]
    return Estimates(
        remedies=names,
        levels=np.array(levels),
        covariance=np.eye(len(levels)) * variance,
        df=df,
        slope=None,
        blocks_used=0,
        floored=False,
        lines=(),
        left_out=(),
        apart=(),
    )


class Draws(unittest.TestCase):
    def test_multivariate_t_with_the_covariance_asked_for(self) -> None:
        """Quantiles of one error are t's, and the correlation is kept (draws: error < 1%)."""
        covariance = np.array([[1.0, 0.5], [0.5, 2.0]])
        draws = error_draws(covariance, 9, 4)
        for share in (0.05, 0.5, 0.9, 0.975):
            expected = float(stats.t.ppf(share, 9))
            self.assertAlmostEqual(float(np.quantile(draws[:, 0], share)), expected, delta=0.02)
        self.assertAlmostEqual(
            float(np.corrcoef(draws[:, 0], draws[:, 1]).ravel()[1]), 0.5 / 2**0.5, delta=0.01
        )

    def test_the_seed_decides(self) -> None:
        one, two, other = (error_draws(np.eye(2), 5, seed) for seed in (1, 1, 2))
        self.assertTrue(np.array_equal(one, two))
        self.assertFalse(np.array_equal(one, other))

    def test_a_singular_covariance_is_taken(self) -> None:
        draws = error_draws(np.ones((2, 2)), 8, 1)
        self.assertTrue(np.allclose(draws[:, 0], draws[:, 1]))


class Against(unittest.TestCase):
    def test_p_lies_between_the_raw_and_bonferroni(self) -> None:
        found = fit([0.0, -0.7, -0.4, 0.1])
        results = against_control(found, error_draws(found.covariance, 20, 1), "control")  # type: ignore[arg-type]
        for name, level in zip("abc", (-0.7, -0.4, 0.1), strict=True):
            raw = 2 * float(stats.t.sf(abs(level) / 0.08**0.5, 20))
            self.assertGreaterEqual(results[name].p_adjusted, raw)
            self.assertLessEqual(results[name].p_adjusted, min(1.0, 3 * raw))
            self.assertAlmostEqual(results[name].high - results[name].low, 2 * 2.086 * 0.08**0.5, 3)

    def test_p_grows_with_the_number_of_remedies(self) -> None:
        few, many = fit([0, -0.6, 0]), fit([0, -0.6, 0, 0, 0, 0, 0])
        p = [
            against_control(f, error_draws(f.covariance, 20, 1), "control")["a"].p_adjusted  # type: ignore[arg-type]
            for f in (few, many)
        ]
        self.assertLess(p[0], p[1])

    def test_chance_of_an_efficacy(self) -> None:
        found = fit([0.0, -1.0])
        against = against_control(found, error_draws(found.covariance, 20, 1), "control")["a"]  # type: ignore[arg-type]
        self.assertAlmostEqual(chance_below(against, 20, -1.0), 0.5)
        self.assertGreater(chance_below(against, 20, -0.2), 0.98)


class Best(unittest.TestCase):
    def kept(self, *levels: float) -> tuple[str, ...]:
        """Remedies that could be best; the control's level is 0."""
        found = fit([0.0, *levels])
        draws = error_draws(found.covariance, 20, 1)  # type: ignore[arg-type]
        return could_be_best(found, draws, found.remedies[1:])

    def test_those_far_behind_are_struck_off(self) -> None:
        self.assertEqual(self.kept(-3.0, -2.9, -1.0), ("a", "b"))
        self.assertEqual(self.kept(-3.0, -1.0), ("a",))
        self.assertEqual(self.kept(-0.2), ("a",))

    def test_the_truly_best_is_struck_off_in_at_most_2_5_percent(self) -> None:
        """4,000 trials of three equal remedies; bound 0.025 + 4 standard errors."""
        rng = np.random.default_rng(3)
        base = fit([0.0, 0.0, 0.0, 0.0])
        draws = error_draws(base.covariance, 20, 1)  # type: ignore[arg-type]
        errors = rng.normal(0, 0.2, (4000, 4)) / np.sqrt(rng.chisquare(20, (4000, 1)) / 20)
        greatest = np.max((draws[:, [1]] - draws[:, 2:]) / 0.08**0.5, axis=1)
        critical = float(np.quantile(greatest, 0.975))
        behind = np.max((errors[:, [1]] - errors[:, 2:]) / 0.08**0.5, axis=1)
        self.assertLess(
            float(np.mean(behind > critical)), 0.025 + 4 * (0.025 * 0.975 / 4000) ** 0.5
        )

    def test_chances_of_being_best_add_up_and_follow_the_levels(self) -> None:
        found = fit([0.0, -1.0, -0.9, 0.5])
        draws = error_draws(found.covariance, 20, 1)  # type: ignore[arg-type]
        chance = chance_of_best(found, draws, ("a", "b", "c"))
        self.assertAlmostEqual(sum(chance.values()), 1.0)
        self.assertGreater(chance["a"], chance["b"])
        self.assertLess(chance["c"], 0.001)
        self.assertEqual(chance_of_best(found, draws, ()), {})


if __name__ == "__main__":
    unittest.main()
