"""Two looks judged together, where that was planned: the same plants counted twice."""

from __future__ import annotations

import unittest

from orthocris.core import Observation, judge
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.gathering import Sample, gather
from orthocris.core.verdict.two_looks import judged_on, taken_together, two_looks

PLANNED = Terms(planned=(0.0, 2.0, 5.0, 9.0), two_looks=True)


def counted(
    plant: str, remedy: str, day: float, value: float, measure: str = "live"
) -> Observation:
    """One number."""
    return Observation(plant, plant[1:], remedy, day, measure, value)


class TwoLooks(unittest.TestCase):
    def test_counts_are_added_and_what_is_read_by_eye_is_averaged(self) -> None:
        table = [
            counted("s1", "soap", 0, 40),
            counted("s1", "soap", 2, 9),
            counted("s1", "soap", 5, 6),
            counted("s1", "soap", 9, 2),
            counted("s2", "soap", 9, 3),
            counted("s3", "soap", 5, 7),
            counted("s1", "soap", 5, 30, "cover"),
            counted("s1", "soap", 9, 10, "cover"),
            counted("s1", "soap", 5, 1, "damage"),
            counted("s1", "soap", 9, 3, "damage"),
            counted("s1", "soap", 5, 100, "picked"),
            counted("s1", "soap", 9, 50, "picked"),
        ]
        found = taken_together(gather(table), PLANNED)
        self.assertEqual(found.of("live")["s1"][9], Sample(9, 8, None, 2))
        self.assertEqual(found.of("live")["s2"][9], Sample(9, 3, None, 1))  # missed once
        self.assertNotIn(9, found.of("live")["s3"])
        self.assertEqual(found.of("cover")["s1"][9], Sample(9, 20, None, 1))
        self.assertEqual(found.of("damage")["s1"][9].value, 3)  # burn shows late
        self.assertEqual(found.of("picked")["s1"][9].value, 50)  # all harvests are added up

    def test_only_planned_looks_before_the_decisive_one_are_taken(self) -> None:
        self.assertEqual(two_looks(PLANNED), (5, 9))
        later = Terms(planned=(0.0, 5.0, 9.0, 14.0), decisive=9.0, two_looks=True)
        self.assertEqual(two_looks(later), (5, 9))  # one more look decides no more
        for alone in (Terms(planned=(0.0, 5.0, 9.0)), Terms(planned=(0.0, 9.0), two_looks=True)):
            self.assertIsNone(two_looks(alone))
        self.assertEqual(judged_on(PLANNED, 9), "on day 5 and on day 9 together")
        self.assertEqual(judged_on(PLANNED, 5), "on day 5")

    def test_a_remedy_that_only_luck_hid_at_the_last_look_is_judged_by_both(self) -> None:
        """Few pests: each look alone leaves counting chance, and both together less of it."""
        table = []
        for k, (soap, water) in enumerate(zip((1, 0, 2, 1, 0), (6, 4, 7, 5, 6), strict=True)):
            table += [
                counted(f"s{k}", "soap", 5, soap),
                counted(f"s{k}", "soap", 9, 2 - soap),
                counted(f"c{k}", "control", 5, water),
                counted(f"c{k}", "control", 9, 11 - water),
            ]
        alone = judge(table, terms=Terms(planned=(5.0, 9.0)))
        both = judge(table, terms=Terms(planned=(5.0, 9.0), two_looks=True))
        (one,), (two,) = ([r for r in v.remedies if r.name == "soap"] for v in (alone, both))
        self.assertAlmostEqual(two.efficacy or 0, 1 - 10 / 55, delta=0.05)
        width = [(r.efficacy_high or 0) - (r.efficacy_low or 0) for r in (one, two)]
        self.assertLess(width[1], width[0])
        self.assertEqual((both.look, both.method["two_looks"]), ("last", True))


if __name__ == "__main__":
    unittest.main()
