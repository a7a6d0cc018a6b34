"""Looks before the decisive one, and plants added after a verdict: how the error is spent."""

from __future__ import annotations

import unittest
from collections.abc import Mapping, Sequence
from dataclasses import replace

from orthocris.core import Observation, judge
from orthocris.core.errors import InputError, ObservationError
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.gathering import gather
from tests.core.verdict.gardens import codes, named, trial

WATER = (41, 38, 52, 29, 60, 47)
IDLE = {"control": WATER, "soap": (40, 41, 47, 33, 58, 45), "jet": (44, 36, 50, 31, 57, 49)}
LATE = {"control": WATER, "soap": (5, 4, 8, 3, 9, 6), "jet": (44, 36, 50, 31, 57, 49)}
WEAK = {"control": (40, 20, 60, 31), "soap": (30, 30, 18, 24), "jet": (38, 30, 41, 28)}
STRONG = {
    "control": (44, 50, 38, 61, 47, 52, 40),
    "soap": (4, 5, 6, 3, 4, 7, 5),
    "jet": (40, 47, 39, 52, 45, 50, 41),
}


def at(day: float, counts: Mapping[str, Sequence[float]], added: int = 0) -> list[Observation]:
    """One look of a trial, or of the plants of one addition."""
    return [
        o._replace(day=day, added=added, plant=f"{o.plant}/{added}")
        for o in trial(counts)
        if o.day > 0
    ]


class Looks(unittest.TestCase):
    def test_earlier_looks_do_not_destroy_the_last(self) -> None:
        early = [o for day in (3.0, 7.0, 10.0) for o in at(day, IDLE)]
        last = at(14.0, LATE)
        for seen in (last, early + last):
            verdict = judge(seen)
            self.assertTrue(named(verdict, "soap").beats_control)
            self.assertEqual(verdict.method["spent"], 0.04)

    def test_the_plan_says_which_look_decides(self) -> None:
        seen = [o for day in (3.0, 7.0, 14.0) for o in at(day, LATE)]
        plan = Terms(planned=(3.0, 7.0, 14.0))
        self.assertTrue(judge(seen, look="7", terms=plan).so_far)
        self.assertLess(judge(seen, look="7", terms=plan).method["spent"], 0.007)
        self.assertFalse(judge(seen, terms=plan).so_far)
        # Day 7 decides: what comes after it is a further look, with the error kept for it.
        soon = replace(plan, decisive=7.0)
        self.assertEqual(judge(seen, look="7", terms=soon).method["spent"], 0.04)
        self.assertEqual(judge(seen, terms=soon).method["spent"], 0.045)
        # A look that was left out does not make the decisive one an early one.
        self.assertEqual(judge(at(14.0, LATE), terms=plan).method["spent"], 0.04)

    def test_knock_down_within_hours_settles_nothing_however_it_was_asked(self) -> None:
        seen = at(0.125, LATE)
        for asked in (
            judge(seen),
            judge(seen, look="0.125"),
            judge(seen, terms=Terms(planned=(0.125,))),
        ):
            self.assertTrue(asked.so_far)
            self.assertIsNone(asked.recommended)
            self.assertIn("count again after three days", asked.advice)
            self.assertIn("too early", asked.reasons[-1])

    def test_a_decisive_day_that_is_none_is_refused(self) -> None:
        for day in (0.0, -3.0, float("nan"), float("inf")):
            with self.assertRaisesRegex(InputError, "decisive"):
                judge(at(7.0, LATE), terms=Terms(decisive=day))


class Additions(unittest.TestCase):
    def test_what_is_added_is_a_further_look_and_the_second_is_the_last(self) -> None:
        first = judge(at(7.0, WEAK))
        self.assertEqual(first.outcome.value, "undecided")
        self.assertIn("They are an addition to this one", first.advice)
        more = at(7.0, WEAK) + at(7.0, STRONG, added=1)
        verdict = judge(more)
        self.assertEqual(verdict.recommended, "soap")
        self.assertIn("plants_added", codes(verdict))
        self.assertEqual((verdict.method["spent"], verdict.method["additions"]), (0.045, 1))
        again = judge(
            at(7.0, WEAK) + at(7.0, WEAK, added=1) + at(7.0, WEAK, added=2), threshold=0.3, seed=1
        )
        self.assertEqual((again.method["spent"], again.outcome.value), (0.05, "undecided"))
        self.assertIn("This answer is final", again.advice)

    def test_each_addition_was_drawn_by_a_lot_of_its_own(self) -> None:
        """Blocks of one name are two, and plants without blocks stay with their addition."""
        homes = gather(at(7.0, WEAK) + at(7.0, STRONG, added=1)).homes
        self.assertNotEqual(homes["soap-0/0"].block, homes["soap-0/1"].block)
        bare = [o._replace(block=None) for o in at(7.0, WEAK) + at(7.0, STRONG, added=1)]
        self.assertEqual({home.block for home in gather(bare).homes.values()}, {"0/", "1/"})

    def test_odd_additions_are_judged_all_the_same(self) -> None:
        """All added, none of the first addition, a remedy that only came later, one plant first."""
        alone = judge(at(7.0, STRONG, added=1))
        self.assertEqual((alone.method["spent"], alone.method["additions"]), (0.04, 0))
        skipped = judge(at(7.0, WEAK) + at(7.0, STRONG, added=2))
        self.assertEqual(skipped.method["additions"], 1)
        late = {name: counts for name, counts in WEAK.items() if name != "jet"}
        self.assertEqual(judge(at(7.0, late) + at(7.0, STRONG, added=1)).recommended, "soap")
        one = {name: counts[:1] for name, counts in WEAK.items()}
        self.assertTrue(judge(at(7.0, one) + at(7.0, STRONG, added=1)).sentence)

    def test_a_third_addition_and_a_plant_of_two_are_refused(self) -> None:
        with self.assertRaisesRegex(ObservationError, "added is 3"):
            judge(at(7.0, WEAK) + at(7.0, STRONG, added=3))
        twice = at(7.0, WEAK)
        with self.assertRaisesRegex(ObservationError, "has added 1 here and 0"):
            judge([*twice, twice[0]._replace(day=9.0, added=1)])


if __name__ == "__main__":
    unittest.main()
