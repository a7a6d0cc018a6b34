"""One sentence for two pests: never more than the two verdicts show, and never against one."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace

from orthocris.core import Verdict, judge
from orthocris.core.verdict.both import both_words
from tests.core.verdict.gardens import trial

PESTS = ("aphids", "whiteflies")
CONTROL = (40, 38, 52, 29, 47, 41, 36, 44)


def found(soap: float, oil: float, jet: float) -> Verdict:
    """The verdict of eight blocks in which so much of the pest is left."""
    left = {"soap": soap, "oil": oil, "jet": jet}
    told = {name: tuple(round(share * n) for n in CONTROL) for name, share in left.items()}
    return judge(trial({"control": CONTROL, **told}), control="control", threshold=0.5)


class Both(unittest.TestCase):
    def test_what_works_on_one_is_never_said_to_be_nothing(self) -> None:
        second = replace(found(1, 0.1, 1), recommended=None)  # not settled which is best
        said = both_words(found(0.1, 1, 1), second, PESTS)
        self.assertIn("soap for aphids, oil for whiteflies", said)

    def test_two_that_work_on_both_the_one_that_fails_least(self) -> None:
        first = replace(found(0.1, 0.3, 0.9), recommended=None)
        second = replace(found(0.5, 0.25, 0.9), recommended=None)
        said = both_words(first, second, PESTS)
        self.assertTrue(said.startswith("Against both, take oil"), said)

    def test_whatever_is_named_for_both_is_shown_to_work_on_each(self) -> None:
        shares = tuple(itertools.product((0.05, 0.4, 1.0), repeat=3))
        verdicts = [found(*one) for one in shares[::4]]
        for first, second in itertools.product(verdicts, repeat=2):
            said = both_words(first, second, PESTS)
            shown = [{r.name for r in v.remedies if r.beats_control} for v in (first, second)]
            if said.startswith("Against both"):
                taken = said.removeprefix("Against both, take ").split(":")[0].rstrip(".")
                self.assertIn(taken, shown[0] & shown[1], said)
            else:
                self.assertFalse(shown[0] & shown[1], said)
            if "nothing here" in said.lower() and "work on both" not in said:
                self.assertFalse(shown[0] and shown[1], said)


if __name__ == "__main__":
    unittest.main()
