"""The arithmetic against independent computations: scipy, plain least squares, hand work."""

from __future__ import annotations

import doctest
import unittest

from orthocris.core import Observation, judge
from orthocris.core.verdict import judge as judge_module
from orthocris.core.verdict.classic import GroupMeans, NotComputable, abbott, classic_for
from orthocris.core.verdict.dataset import collect
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.looks import looks_after
from tests.core.verdict.gardens import trial


class ByHand(unittest.TestCase):
    def test_classical_formulas(self) -> None:
        """T 40 → 6, C 50 → 60: Abbott 1 - 6/60; Henderson-Tilton 1 - (6/60)(50/40)."""
        found = classic_for(GroupMeans(40, 6, None), GroupMeans(50, 60, None), "remedy").values
        self.assertAlmostEqual(found["abbott"] or 0, 0.9)
        self.assertAlmostEqual(found["henderson_tilton"] or 0, 0.875)
        # mT = 34/40, dC = 10/50: (0.85 + 0.2) / 1.2
        self.assertAlmostEqual(found["sun_shepard"] or 0, 0.875)
        self.assertIsNone(found["schneider_orelli"])

    def test_shares_hatched_and_falls_of_live_counts_have_their_formula(self) -> None:
        """Hatched 10 of 50 against 40 of 50: Abbott 1 - .2/.8. Live T 40 → 6, C 50 → 45:
        mT = .85, mC = .1, Schneider-Orelli (.85 - .1)/.9."""
        eggs = judge(trial({"control": (40,) * 5, "oil": (10,) * 5}, measure="hatched", of=50))
        oil = next(r for r in eggs.remedies if r.name == "oil")
        self.assertAlmostEqual(oil.classic["abbott"] or 0, 0.75)
        found = classic_for(GroupMeans(40, 6, None), GroupMeans(50, 45, None), "remedy")
        self.assertAlmostEqual(found.values["schneider_orelli"] or 0, 0.75 / 0.9)
        grew = classic_for(GroupMeans(40, 6, None), GroupMeans(50, 60, None), "remedy")
        self.assertIn("the control grew", grew.notes["schneider_orelli"])

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
        # What is thought of the common level beforehand moves both by less than the draws do.
        self.assertAlmostEqual(one.p_adjusted or 0, two.p_adjusted or 0, delta=0.002)
        self.assertAlmostEqual(one.efficacy or 0, two.efficacy or 0, delta=0.001)

    def test_area_under_the_curve(self) -> None:
        """Days 2, 4, 8 with 10, 20, 0: (2·15 + 4·10)/6 = 70/6 a day."""
        course = [
            Observation(plant, None, remedy, day, "live", value)
            for plant, remedy in (("p", "soap"), ("q", "control"))
            for day, value in ((2, 10), (4, 20), (8, 0))
        ]
        data = collect(gather(course), control="control", measure=None, look="auc")
        self.assertAlmostEqual(data.lines[0].after.value, 70 / 6)
        # Weights 1/6, 1/2, 1/3: worth 1 / (1/36 + 1/4 + 1/9) = 36/14 counts taken together.
        self.assertAlmostEqual(data.lines[0].left.harm, 70 / 6 * 36 / 14)
        self.assertAlmostEqual(data.lines[0].left.effort, 36 / 14)

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


if __name__ == "__main__":
    unittest.main()
