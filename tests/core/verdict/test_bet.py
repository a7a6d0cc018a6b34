"""What to take today, where a verdict names nothing."""

from __future__ import annotations

import unittest

import numpy as np

from orthocris.core import Observation, judge
from orthocris.core.verdict.bet import Burden, bet_words, wrong_bet
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.result import Bet
from tests.core.verdict.gardens import CLEAR, trial

OPEN = {
    "control": (40, 20, 60, 31),
    "soap": (14, 21, 20, 16),
    "oil": (15, 20, 21, 15),
    "jet": (38, 30, 41, 28),
}


def burnt(remedy: str, steps: float, plants: int = 4) -> list[Observation]:
    """Leaves burnt by one remedy, and none by the others."""
    return [
        Observation(f"{name}-{k}", f"b{k}", name, 7, "damage", steps if name == remedy else 0.0)
        for name in OPEN
        for k in range(plants)
    ]


class TodaysBet(unittest.TestCase):
    def test_it_stands_beside_a_verdict_that_names_nothing_and_only_there(self) -> None:
        verdict = judge(trial(OPEN))
        self.assertIsNone(verdict.recommended)
        assert verdict.bet is not None
        self.assertIn(verdict.bet.remedy, ("soap", "oil"))
        self.assertTrue(verdict.if_today.startswith("If you must treat today: "))
        self.assertNotIn(verdict.if_today, verdict.sentence)
        self.assertIsNone(judge(trial(CLEAR)).bet)  # soap is recommended there
        self.assertIsNone(judge(trial(OPEN), terms=Terms(planned=(7.0, 14.0))).bet)
        self.assertIsNone(judge(trial(OPEN), control=None).bet)

    def test_of_two_about_as_good_the_one_with_less_work(self) -> None:
        for light, heavy in (("soap", "oil"), ("oil", "soap")):
            burdens = {light: Burden(minutes=1.0), heavy: Burden(minutes=9.0)}
            bet = judge(trial(OPEN), terms=Terms(burdens=burdens)).bet
            assert bet is not None
            self.assertEqual(bet.remedy, light)

    def test_never_one_that_harms_nor_one_likelier_useless_than_not(self) -> None:
        for steps in (3.0, 0.7):  # struck out, and harmed a little
            bet = judge([*trial(OPEN), *burnt("soap", steps)]).bet
            assert bet is not None
            self.assertEqual(bet.remedy, "oil")
        idle = dict.fromkeys(("control", "soap", "jet"), OPEN["control"])
        self.assertIsNone(judge(trial(idle)).bet)

    def test_how_often_it_is_wrong_by_hand(self) -> None:
        """Of four gardens it is behind by more than ten points in one, and useless in one."""
        removed = np.array([[0.8, 0.7], [0.6, 0.9], [0.1, 0.0], [0.5, 0.55]])
        self.assertEqual(wrong_bet(removed, 0), 0.5)
        self.assertIn("wrong in about 3 of 10", bet_words(Bet("Soap", 0.31)))
        self.assertIn("fewer than 1 of 10", bet_words(Bet("Soap", 0.02)))


if __name__ == "__main__":
    unittest.main()
