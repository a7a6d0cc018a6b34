"""Which remedies go on to further plants."""

from __future__ import annotations

import unittest

from orthocris.core import Observation, judge
from orthocris.core.verdict.going_on import left_out
from tests.core.verdict.gardens import trial

CONTROL = (41, 38, 52, 29)
OPEN = {"control": CONTROL, "soap": (9, 15, 6, 12), "oil": (11, 8, 14, 7), "milk": (44, 36, 50, 33)}


class GoingOn(unittest.TestCase):
    def test_what_is_out_of_question_is_left_out_with_its_chances(self) -> None:
        out = left_out(judge(trial(OPEN)))
        self.assertEqual(set(out), {"milk"})
        self.assertRegex(out["milk"], r"best with a chance of under 1%, worth it with one of ")

    def test_what_harmed_goes_nowhere_and_a_ladder_keeps_its_other_steps(self) -> None:
        burnt = [
            Observation(f"{name}-{k}", f"b{k}", name, 7, "damage", 2 if name == "oil" else 0)
            for name in ("control", "oil")
            for k in range(4)
        ]
        verdict = judge([*trial(OPEN), *burnt])
        self.assertEqual(set(left_out(verdict)), {"milk", "oil"})
        self.assertEqual(left_out(verdict)["oil"], "it harmed the plants")
        self.assertEqual(set(left_out(verdict, all_go_on=True)), {"oil"})

    def test_of_what_nothing_is_known_goes_on(self) -> None:
        lone = judge(trial({"control": (20,), "soap": (19,)}))
        self.assertEqual(left_out(lone), {})


if __name__ == "__main__":
    unittest.main()
