"""What stands beside a verdict: its reasons, its doubts, what would settle it, its record."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from datetime import UTC, datetime

from orthocris.core import Observation, Verdict, judge
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.frozen import FrozenVerdict, why_different
from orthocris.core.verdict.sensitivity import Check, sensitivity
from tests.core.verdict.gardens import BEFORE, CLEAR, CONTROL, trial


def doubted(seen: Sequence[Observation], verdict: Verdict) -> dict[str, Check]:
    """The checks of a trial by the first word that tells them apart."""
    found = sensitivity(seen, verdict, control="control", terms=Terms())
    return {check.way.split(" (")[0]: check for check in found}


class Reasons(unittest.TestCase):
    def test_they_lead_from_harm_to_the_remedy_taken(self) -> None:
        steps = judge(trial(CLEAR, BEFORE)).reasons
        self.assertTrue(steps[0].startswith("Harm comes first"))
        self.assertIn("soap against the control", steps[1])
        self.assertIn("it does something", steps[1])
        self.assertIn("left is soap", " ".join(steps))
        self.assertEqual(steps[-1], "So: soap.")

    def test_a_remedy_that_is_out_takes_no_part_in_the_chances(self) -> None:
        burnt = [Observation(f"soap-{k}", f"b{k}", "soap", 7, "damage", 5) for k in range(6)]
        steps = judge([*trial({**CLEAR, "oil": (9, 7, 12, 6, 14, 10)}), *burnt]).reasons
        self.assertIn("soap raised leaf damage by 5.0 steps", steps[0])
        self.assertFalse(any("soap" in step for step in steps[1:]))
        self.assertIn("oil over 99%", " ".join(steps))

    def test_without_a_control_they_say_so(self) -> None:
        self.assertIn("no control", judge(trial(CLEAR), control=None).reasons[1])


class Doubts(unittest.TestCase):
    def test_a_clear_answer_stands_in_every_way(self) -> None:
        seen = trial(CLEAR, BEFORE)
        checks = doubted(seen, judge(seen))
        self.assertEqual(
            set(checks),
            {"Without the counts before", "Without blocks", "By the classical formula"},
        )
        self.assertFalse(any(check.changed for check in checks.values()))

    def test_an_answer_that_hangs_on_the_counts_before_is_told(self) -> None:
        """The treated plants started with a tenth and nothing happened to anybody."""
        start = {"control": [10 * n for n in CONTROL], "soap": (40, 35, 50, 30, 58, 44)}
        seen = trial(start, start)
        verdict = judge(seen)
        self.assertIsNone(verdict.recommended)
        check = doubted(seen, verdict)["Without the counts before"]
        self.assertTrue(check.changed)
        self.assertIn("soap would be recommended", check.says)

    def test_a_plant_far_from_the_rest_is_left_out_by_name(self) -> None:
        soap = (3, 5, 2, 400, 6, 3)
        seen = trial({**CLEAR, "soap": soap}, BEFORE)
        ways = doubted(seen, judge(seen))
        self.assertIn("Without soap-3, far from the others", ways)


class Record(unittest.TestCase):
    def setUp(self) -> None:
        self.now = judge(trial(CLEAR, BEFORE))
        self.record = FrozenVerdict(
            datetime(2026, 5, 1, tzinfo=UTC), "0.2.0", 0, "a\nb\nc\n", self.now.to_dict()
        )

    def test_the_same_says_nothing(self) -> None:
        self.assertEqual(why_different(self.record, self.now, inputs="a\nb\n", version="9"), ())

    def test_another_answer_says_why(self) -> None:
        seen = [
            o._replace(value=o.value * 8 if o.day and o.remedy == "soap" else o.value)
            for o in trial(CLEAR, BEFORE)
        ]
        later = judge(seen, threshold=0.7, seed=3)
        said = why_different(self.record, later, inputs="a\nb\nd\ne\n", version="0.3.0")
        self.assertEqual(len(said), 4)
        self.assertIn("1 line of then are no more, 2 lines came", said[0])
        self.assertIn("60% then and is 70% now", said[1])
        self.assertIn("version 0.2.0", said[2])


if __name__ == "__main__":
    unittest.main()
