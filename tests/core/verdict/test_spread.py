"""Plants of one remedy that clump where another's are even."""

from __future__ import annotations

import unittest
from collections.abc import Sequence

import numpy as np
from scipy import stats

from orthocris.core import Verdict, judge
from orthocris.core.verdict.distributions import f_between
from tests.core.verdict.gardens import codes, named, trial

START = (40.0, 41.0, 38.0, 45.0, 39.0, 42.0)
EVEN = (41.0, 44.0, 37.0, 46.0, 40.0, 39.0)
CLUMPED = (2.0, 190.0, 1.0, 9.0, 3.0, 4.0)  # as many in all, nearly
NAMES = ("control", "soap", "oil", "neem", "jet")


class Spreads(unittest.TestCase):
    def judge(self, **other: Sequence[float]) -> Verdict:
        """Five remedies on even plants, but for those named."""
        after = {name: other.get(name, EVEN) for name in NAMES}
        return judge(trial(after, dict.fromkeys(NAMES, START)))

    def test_an_even_remedy_is_not_worse_than_a_clumped_control(self) -> None:
        verdict = self.judge(control=CLUMPED)
        self.assertFalse(any(r.worse_than_control for r in verdict.remedies))
        self.assertIn("spreads_differ", codes(verdict))
        soap = named(verdict, "soap")
        self.assertLessEqual(soap.efficacy_low or 0, 1 - sum(EVEN) / sum(CLUMPED))

    def test_a_clumped_remedy_does_not_work_for_being_clumped(self) -> None:
        soap = named(self.judge(soap=CLUMPED), "soap")
        self.assertFalse(soap.beats_control)
        self.assertGreaterEqual(soap.efficacy_high or 0, 1 - sum(CLUMPED) / sum(EVEN))

    def test_plants_alike_are_not_accused_and_a_true_harm_is_told(self) -> None:
        verdict = self.judge(soap=[10 * count for count in EVEN])
        self.assertNotIn("spreads_differ", codes(verdict))
        self.assertTrue(named(verdict, "soap").worse_than_control)
        self.assertIn("soap may be worse than nothing: about ", verdict.sentence)

    def test_limits_of_a_ratio_of_variances_are_those_of_f(self) -> None:
        for ratio in (0.1, 0.14, 0.5, 3.0, 7.0, 7.3):
            low, high = (float(stats.f.ppf(p, 5, 5)) for p in (0.025, 0.975))
            found = bool(f_between(np.array([ratio]), 5, 5, 0.05)[0])
            self.assertEqual(found, low <= ratio <= high)


if __name__ == "__main__":
    unittest.main()
