"""A verdict in the terminal."""

from __future__ import annotations

import unittest

from orthocris.core import Observation, judge
from orthocris.formats.verdict_text import verdict_text
from tests.core.verdict.gardens import BEFORE, CLEAR, trial


class Text(unittest.TestCase):
    def test_sentence_ranks_and_warnings(self) -> None:
        lines = verdict_text(judge(trial(CLEAR, BEFORE))).splitlines()
        self.assertTrue(lines[0].startswith("soap works best"))
        self.assertRegex(
            lines[2],
            r"^  soap     9\d% fewer live pests \(8\d% to 9\d%\), could be best; 3.8",
        )
        self.assertIn("the control", lines[4])
        self.assertIn("! Leaf damage was not scored", "\n".join(lines))

    def test_without_a_control_times_the_first(self) -> None:
        text = verdict_text(judge(trial(CLEAR), control=None))
        self.assertRegex(text, r"control +\d+\.\d times the first")

    def test_harm_and_missing_intervals_are_told(self) -> None:
        burnt = [Observation("soap-0", "b0", "soap", 7, "damage", 4)]
        burnt += [Observation("control-0", "b0", "control", 7, "damage", 0)]
        self.assertIn("harms the plant", verdict_text(judge([*trial(CLEAR), *burnt])))
        lone = verdict_text(judge(trial({"control": (20,), "soap": (29,)})))
        self.assertIn("no remedy had fewer live pests than the control, but with so few", lone)
        self.assertIn("43% more live pests", lone)
        self.assertIn("1 plant\n", lone)
        self.assertIn("no interval", lone)


if __name__ == "__main__":
    unittest.main()
