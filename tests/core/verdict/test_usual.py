"""What is done anyway as the reference: the same arithmetic, other words."""

from __future__ import annotations

import unittest
from collections.abc import Mapping, Sequence

from orthocris.core import Verdict, judge
from orthocris.core.verdict.case import Terms
from tests.core.verdict.gardens import BEFORE, CLEAR, CONTROL, codes, trial

ANYWAY = Terms(usual="control")


def judged(after: Mapping[str, Sequence[float]], threshold: float = 0.3) -> Verdict:
    before = {name: BEFORE[name] for name in after}
    return judge(trial(after, before), threshold=threshold, terms=ANYWAY)


class NobodyUntreated(unittest.TestCase):
    def test_the_numbers_are_the_same_and_what_is_lost_is_said(self) -> None:
        plain = judge(trial(CLEAR, BEFORE), threshold=0.3)
        found = judged(CLEAR)
        self.assertEqual(found.remedies, plain.remedies)
        self.assertEqual(found.recommended, "soap")
        self.assertRegex(found.sentence, r"fewer live pests than with control")
        self.assertEqual(codes(found) - codes(plain), {"nobody_untreated"})

    def test_alone_it_does_better_and_never_just_works(self) -> None:
        found = judged({"control": CLEAR["control"], "soap": CLEAR["soap"]})
        self.assertTrue(found.sentence.startswith("soap does better than control: about "))

    def test_where_none_does_better_one_keeps_to_it(self) -> None:
        same = {"control": (200,) * 6, "soap": (199, 201, 200, 198, 202, 200)}
        found = judged(same, threshold=0.6)
        self.assertEqual(found.outcome.value, "none_beats_control")
        self.assertTrue(found.advice.startswith("Keep to control:"))

    def test_what_leaves_more_is_worse_than_that_and_no_bet_is_offered(self) -> None:
        worse = {"control": CLEAR["soap"], "soap": CONTROL}
        self.assertIn("may be worse than control", judged(worse).sentence)
        weak = {"control": CONTROL, "soap": (30, 30, 41, 25, 50, 35)}
        self.assertIsNone(judged(weak).bet)

    def test_where_it_leaves_nothing_nothing_can_do_better(self) -> None:
        found = judged({"control": (0,) * 6, "soap": (0, 1, 0, 0, 2, 0)})
        self.assertIn("nothing can do better than control did", found.sentence)


if __name__ == "__main__":
    unittest.main()
