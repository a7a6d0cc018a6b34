"""Remedies with days of their own, worked by hand."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.trial.programme import (
    ON_EACH_ROUND,
    Given,
    Programme,
    Rhythm,
    Step,
    check_programme,
    check_steps,
    days_of,
    meeting,
    rest_of,
    said,
    step_said,
    timetable,
)

DAILY = Programme(Rhythm.EVERY, every=1)
UNEVEN = Programme(Rhythm.DAYS, every=7, days=(0, 4, 9))
ONCE = Programme(Rhythm.ONCE)


class Days(unittest.TestCase):
    def test_each_rhythm(self) -> None:
        """Looks end on day 14: what is given on it or later belongs to no comparison."""
        for programme, days, words in (
            (ON_EACH_ROUND, (0, 7), "on each round"),
            (DAILY, tuple(range(14)), "daily"),
            (Programme(Rhythm.EVERY, every=3), (0, 3, 6, 9, 12), "every third day"),
            (UNEVEN, (0, 4, 9), "on day 0, 4, 9, then weekly"),
            (ONCE, (0,), "once, on day 0"),
            (
                Programme(Rhythm.WATERING, every=5),
                (0, 5, 10),
                "at each watering, about every 5 days",
            ),
            (Programme(Rhythm.DAYS, days=(0, 2, 20)), (0, 2), "on day 0, 2, 20"),
        ):
            with self.subTest(words):
                self.assertEqual(days_of(programme, (0, 7), 14), days)
                self.assertEqual(said(programme), words)

    def test_rest_is_the_usual_one_or_the_plan_s_own_gap(self) -> None:
        self.assertEqual([rest_of((0, 1, 2), 3), rest_of((0, 7), 3), rest_of((0,), 3)], [1, 3, 3])

    def test_what_is_no_programme_says_what_to_give(self) -> None:
        for programme in (
            Programme(Rhythm.EVERY),
            Programme(Rhythm.DAYS),
            Programme(Rhythm.DAYS, days=(1, 2)),
            Programme(Rhythm.DAYS, days=(0, 4, 2)),
            Programme(Rhythm.WATERING, every=61),
        ):
            with self.subTest(programme), self.assertRaises(InputError) as caught:
                check_programme(programme, "remedies.1.traits.programme")
            self.assertTrue(caught.exception.fix)


class TimeTables(unittest.TestCase):
    def test_a_wetted_control_comes_with_whatever_wets(self) -> None:
        """Water, daily jet, a card: the water is given daily, the card once."""
        own = [
            Given(ON_EACH_ROUND, True, True),
            Given(DAILY, False, True),
            Given(ONCE, False, False),
        ]
        table = timetable(own, (0, 7), 4) or {}
        self.assertEqual([set(table[d]) for d in range(4)], [{0, 1, 2}, {0, 1}, {0, 1}, {0, 1}])

    def test_a_control_left_alone_is_handled_on_the_trial_s_own_rounds(self) -> None:
        alone, daily, shared = (
            Given(ON_EACH_ROUND, True, False), Given(DAILY, False, True),
            Given(ON_EACH_ROUND, False, True),
        )  # fmt: skip
        table = timetable([alone, daily, shared], (0, 2), 4) or {}
        self.assertEqual([set(table[d]) for d in range(4)], [{0, 1, 2}, {1}, {0, 1, 2}, {1}])

    def test_where_all_share_the_rounds_there_is_none(self) -> None:
        self.assertIsNone(timetable([Given(ON_EACH_ROUND, True, True)] * 3, (0, 7), 14))

    @given(
        every=st.lists(st.integers(1, 9), min_size=1, max_size=5), last=st.integers(1, 29),
        wets=st.booleans(),
    )  # fmt: skip
    def test_day_0_has_the_control_and_everything_of_its_own(
        self, every: list[int], last: int, wets: bool
    ) -> None:
        own = [Given(ON_EACH_ROUND, True, wets)]
        own += [Given(Programme(Rhythm.EVERY, every=n), False, True) for n in every]
        table = timetable(own, (0,), last) or {}
        self.assertEqual(set(table[0]), set(range(len(own))))
        self.assertLess(max(table), max(last, 1))
        self.assertEqual(list(table), sorted(table))


class Steps(unittest.TestCase):
    """Soap on the rounds of days 0 and 7, the next day neem, three days on the soil watered."""

    STEPS = (Step(1, "neem"), Step(3, "granules", way="granule"))
    SOAP = Given(ON_EACH_ROUND, False, True, STEPS)

    def test_each_follows_its_first_part_and_a_wetted_control_follows_what_wets(self) -> None:
        own = [Given(ON_EACH_ROUND, True, True), self.SOAP, Given(ON_EACH_ROUND, False, True)]
        self.assertEqual(
            timetable(own, (0, 7), 10),
            {
                0: {0: 0, 1: 0, 2: 0}, 1: {0: 0, 1: 1}, 3: {1: 2},
                7: {0: 0, 1: 0, 2: 0}, 8: {0: 0, 1: 1},
            },
        )  # fmt: skip
        left_alone = [Given(ON_EACH_ROUND, True, False), self.SOAP]
        table = timetable(left_alone, (0, 7), 10) or {}
        self.assertEqual([day for day, given in table.items() if 0 in given], [0, 7])

    def test_two_parts_do_not_meet_on_one_day(self) -> None:
        daily = Given(DAILY, False, True, (Step(1, "neem"),))
        self.assertEqual(meeting(daily, (0,), 5), 1)
        self.assertIsNone(meeting(daily, (0,), 1))
        self.assertIsNone(meeting(self.SOAP, (0, 7), 10))
        self.assertEqual(meeting(self.SOAP, (0, 2), 10), 3)

    def test_they_are_said_and_checked(self) -> None:
        said_ = [step_said(step) for step in self.STEPS]
        self.assertEqual(said_, ["the next day neem", "3 days later granules"])
        check_steps(self.STEPS, "traits")
        for steps in (
            (Step(0, "x"),), (Step(31, "x"),), (Step(2, "x"), Step(1, "y")), (Step(1, " "),),
            (Step(1, "x"), Step(1, "y")), tuple(Step(n, "x") for n in (1, 2, 3, 4)),
            (Step(1, "x" * 41),),
        ):  # fmt: skip
            with self.subTest(steps), self.assertRaises(InputError) as caught:
                check_steps(steps, "traits")
            self.assertTrue((caught.exception.field or "").startswith("traits.steps"))


if __name__ == "__main__":
    unittest.main()
