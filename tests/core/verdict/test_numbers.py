"""The arithmetic against independent computations: scipy, plain least squares, hand work."""

from __future__ import annotations

import doctest
import math
import unittest

import numpy as np
from scipy import stats

from orthocris.core import Observation, judge
from orthocris.core.verdict import judge as judge_module
from orthocris.core.verdict.classic import GroupMeans, NotComputable, abbott, classic_for
from orthocris.core.verdict.dataset import collect, looks_after
from orthocris.core.verdict.estimate import estimate, poisson_log_variance
from orthocris.core.verdict.gathering import gather
from tests.core.verdict.gardens import BEFORE, CLEAR, trial

RNG = np.random.default_rng(20260525)


class AgainstScipy(unittest.TestCase):
    def test_dunnett_with_unequal_numbers(self) -> None:
        """Without blocks and covariate, p must be scipy.stats.dunnett's on the log counts.

        Both are quasi-Monte-Carlo with errors below 0.001; 0.004 allows for both. The control
        has twice the plants, so the correlations are 1/3, not 1/2.
        """
        counts = {
            "control": RNG.poisson(24, 12),
            "a": RNG.poisson(17, 6),
            "b": RNG.poisson(21, 6),
            "c": RNG.poisson(26, 6),
        }
        verdict = judge(trial({k: v.tolist() for k, v in counts.items()}, blocked=False))
        logs = {k: np.log(v + 0.5) for k, v in counts.items()}
        expected = stats.dunnett(
            logs["a"], logs["b"], logs["c"], control=logs["control"], rng=np.random.default_rng(1)
        )
        self.assertNotIn("chance_floor", {w.code for w in verdict.warnings})
        for name, p in zip("abc", expected.pvalue, strict=True):
            found = next(r for r in verdict.remedies if r.name == name)
            self.assertAlmostEqual(found.p_adjusted or 0, float(p), delta=0.004)

    def test_one_remedy_is_the_t_test(self) -> None:
        """With one remedy and no covariate, Dunnett is the pooled t test (exact by formula)."""
        control, soap = [30, 41, 22, 35, 60], [12, 20, 9, 30, 8]
        verdict = judge(trial({"control": control, "soap": soap}, blocked=False))
        expected = stats.ttest_ind(np.log(np.array(soap) + 0.5), np.log(np.array(control) + 0.5))
        result = next(r for r in verdict.remedies if r.name == "soap")
        self.assertAlmostEqual(result.p_adjusted or 0, float(expected.pvalue), places=9)
        low, high = expected.confidence_interval(0.95)
        self.assertAlmostEqual(result.efficacy_low or 0, 1 - math.exp(high), places=9)
        self.assertAlmostEqual(result.efficacy_high or 0, 1 - math.exp(low), places=9)


class AgainstLeastSquares(unittest.TestCase):
    def test_ancova_with_blocks(self) -> None:
        """Same model by treatment-coded least squares; equal up to rounding of the solver."""
        wild = {**CLEAR, "soap": (3, 11, 1, 14, 6, 2), "jet": (30, 4, 80, 19, 40, 9)}
        data = collect(gather(trial(wild, BEFORE)), control="control", measure=None, look="last")
        fit = estimate(data)
        self.assertFalse(fit.floored)
        rows = [
            [1.0]
            + [float(line.remedy == r) for r in ("soap", "jet")]
            + [float(line.block == f"b{k}") for k in range(1, 6)]
            + [line.log_before or 0.0]
            for line in data.lines
        ]
        x, y = np.array(rows), np.array([line.log_after for line in data.lines])
        beta, residual, _, _ = np.linalg.lstsq(x, y, rcond=None)
        variance = float(residual[0]) / (len(y) - x.shape[1])
        expected = math.sqrt(variance * np.linalg.inv(x.T @ x)[1, 1])
        self.assertAlmostEqual(fit.level_of("soap") - fit.level_of("control"), beta[1], places=9)
        self.assertAlmostEqual(fit.slope or 0, beta[-1], places=9)
        self.assertAlmostEqual(fit.standard_error("soap", "control") or 0, expected, places=9)
        self.assertEqual(fit.df, 18 - 9)

    def test_poisson_log_variance(self) -> None:
        """Against simulation (error about 0.3%), and 1/mean when the mean is large."""
        draws = np.log(np.random.default_rng(3).poisson(4.0, 400_000) + 0.5)
        self.assertAlmostEqual(poisson_log_variance(4.0), float(draws.var()), delta=0.003)
        self.assertAlmostEqual(poisson_log_variance(150) * 150, 1, delta=0.02)


class ByHand(unittest.TestCase):
    def test_classical_formulas(self) -> None:
        """T 40 → 6, C 50 → 60: Abbott 1 - 6/60; Henderson-Tilton 1 - (6/60)(50/40)."""
        found = classic_for(GroupMeans(40, 6, None), GroupMeans(50, 60, None), "remedy").values
        self.assertAlmostEqual(found["abbott"] or 0, 0.9)
        self.assertAlmostEqual(found["henderson_tilton"] or 0, 0.875)
        # mT = 34/40, dC = 10/50: (0.85 + 0.2) / 1.2
        self.assertAlmostEqual(found["sun_shepard"] or 0, 0.875)
        self.assertIsNone(found["schneider_orelli"])

    def test_zero_control_names_its_reason(self) -> None:
        with self.assertRaisesRegex(NotComputable, "no pests on the control after"):
            abbott(GroupMeans(40, 6, None), GroupMeans(50, 0, None))

    def test_subsamples_are_added_or_averaged(self) -> None:
        leaves = [
            Observation("p", None, "soap", 7, "live", 5),
            Observation("p", None, "soap", 7, "live", 3, effort=2),
            Observation("p", None, "soap", 7, "cover", 10),
            Observation("p", None, "soap", 7, "cover", 30),
        ]
        live = gather(leaves).of("live")["p"][7]
        self.assertEqual((live.value, live.effort), (8, 3))
        self.assertEqual(gather(leaves).of("cover")["p"][7].value, 20)

    def test_subsamples_are_never_replicates(self) -> None:
        whole = trial({"control": (30, 40, 36), "soap": (6, 8, 4)})
        halves = [
            Observation(o.plant, o.block, o.remedy, o.day, o.measure, part)
            for o in whole
            for part in (o.value // 2, o.value - o.value // 2)
        ]
        one = next(r for r in judge(whole).remedies if r.name == "soap")
        two = next(r for r in judge(halves).remedies if r.name == "soap")
        # Two halves are an effort of two: the mean is per half, the ratio stays.
        self.assertAlmostEqual(one.p_adjusted or 0, two.p_adjusted or 0, places=12)
        self.assertAlmostEqual(one.efficacy or 0, two.efficacy or 0, places=12)

    def test_area_under_the_curve(self) -> None:
        """Days 2, 4, 8 with 10, 20, 0: (2·15 + 4·10)/6 = 70/6 a day."""
        course = [
            Observation(plant, None, remedy, day, "live", value)
            for plant, remedy in (("p", "soap"), ("q", "control"))
            for day, value in ((2, 10), (4, 20), (8, 0))
        ]
        data = collect(gather(course), control="control", measure=None, look="auc")
        self.assertAlmostEqual(data.lines[0].after.value, 70 / 6)

    def test_a_round_of_counting_that_took_hours_is_one_look(self) -> None:
        samples = gather(
            [
                Observation("p", None, "a", 7.0, "live", 1),
                Observation("q", None, "b", 7.3, "live", 1),
                Observation("p", None, "a", 9.0, "live", 1),
            ]
        ).of("live")
        self.assertEqual(looks_after(samples), [(7.0, 7.3), (9.0,)])

    def test_examples_in_docstrings(self) -> None:
        self.assertEqual(doctest.testmod(judge_module).failed, 0)
        self.assertGreater(doctest.testmod(judge_module).attempted, 0)


class Calibration(unittest.TestCase):
    """A short version of bench/calibration.py; bounds are 4 standard errors wide."""

    def test_useless_remedies_seldom_seem_to_work(self) -> None:
        rng = np.random.default_rng(8)
        false = 0
        for _ in range(120):
            level = rng.lognormal(3.4, 0.4, (5, 1)) * rng.gamma(4, 0.25, (5, 4))
            counts = rng.poisson(level).T.tolist()
            after = dict(zip(("control", "a", "b", "c"), counts, strict=True))
            false += any(r.beats_control for r in judge(trial(after)).remedies)
        self.assertLess(false / 120, 0.025 + 4 * math.sqrt(0.025 * 0.975 / 120))


if __name__ == "__main__":
    unittest.main()
