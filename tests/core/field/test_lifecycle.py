"""Degree-days, generations, proposals and the stopping rule, against numbers worked by hand."""

from __future__ import annotations

import unittest
from datetime import date, datetime, timedelta

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.field.lifecycle import Generations, degree_days, generations, next_round
from orthocris.core.field.stopping import Course, Next, after_look
from orthocris.core.trial.stages import LifeCycle, Phase, RoundRhythm, Stage, check_cycle

# Eggs 50, young 60, laying 10 degree-days, all above 10 °C.
CYCLE = LifeCycle(
    (
        Stage("eggs", Phase.EGG, 50, 10),
        Stage("young", Phase.YOUNG, 60, 10),
        Stage("adults", Phase.LAYING, 10, 10),
    ),
    5,
    7,
)
SPRAYED = datetime(2026, 6, 1, 8)


def at(degrees: float) -> Generations:
    """What is left of eggs sprayed at a steady temperature."""
    return generations(CYCLE, np.full(24, degrees), SPRAYED)


class DegreeDays(unittest.TestCase):
    def test_a_day_of_two_halves(self) -> None:
        """12 h at 22 °C and 12 h at 8 °C above 10 °C: 12 × 12 / 24 = 6."""
        day = np.array([22.0] * 12 + [8.0] * 12)
        self.assertAlmostEqual(float(degree_days(day, 10)[-1]), 6)

    def test_above_the_ceiling_nothing_goes_faster(self) -> None:
        """At 33 °C and at 40 °C a day above 10 °C brings 23 degree-days."""
        for hot in (33.0, 40.0):
            self.assertAlmostEqual(float(degree_days(np.full(24, hot), 10)[-1]), 23)

    def test_unknown_hours_count_as_usual(self) -> None:
        """18 °C is usual: 24 h are 8 above 10 °C."""
        self.assertAlmostEqual(float(degree_days(np.full(24, np.nan), 10)[-1]), 8)

    @given(warm=st.floats(0, 35), more=st.floats(0, 10))
    def test_warmth_never_slows(self, warm: float, more: float) -> None:
        cool, mild = (degree_days(np.full(48, t), 8) for t in (warm, warm + more))
        self.assertTrue((mild >= cool).all())


class Following(unittest.TestCase):
    def test_twenty_degrees_by_hand(self) -> None:
        """10 degree-days a day: 90% of 50 after 4.5 days, 1 June 8:00 to 5 June 20:00; the first
        hatchling lays after (60 + 10) / 10 = 7 days, 8 June. After 3 days 40% are eggs."""
        found = at(20)
        self.assertEqual(found.hatched_on, date(2026, 6, 5))
        self.assertEqual(found.lays_on, date(2026, 6, 8))
        self.assertAlmostEqual(found.eggs[3], 0.4, delta=0.01)
        self.assertAlmostEqual(found.young[3], 0.6, delta=0.01)
        self.assertAlmostEqual(found.grown[9], 0.4, delta=0.02)  # two days' worth of hatchlings
        self.assertEqual(found.safe_stages, ("eggs",))

    def test_shares_add_up_every_day(self) -> None:
        found = at(17)
        for eggs, young, grown in zip(found.eggs, found.young, found.grown, strict=True):
            self.assertAlmostEqual(eggs + young + grown, 1)
            self.assertGreaterEqual(min(eggs, young, grown), -1e-9)

    def test_half_as_warm_takes_twice_as_long(self) -> None:
        """15 °C gives 5 degree-days a day: 9 days (10 June 8:00) and 14 days (15 June)."""
        found = at(15)
        self.assertEqual((found.hatched_on, found.lays_on), (date(2026, 6, 10), date(2026, 6, 15)))

    def test_later_hatchlings_live_in_their_own_weather(self) -> None:
        """7 days at 20 °C, then 30 °C. Eggs (50) hatch over 5 days. Hatched at day 2, one has
        50 of its 70 by day 7 and gathers 20 a day from then: it lays on day 8, when 40% of
        all have hatched by its hour (a steady shift of 7 days would say 20%)."""
        hours = np.concatenate([np.full(7 * 24, 20.0), np.full(24, 30.0)])
        found = generations(CYCLE, hours, SPRAYED)
        self.assertEqual(found.lays_on, date(2026, 6, 8))
        self.assertAlmostEqual(found.grown[8], 0.4, delta=0.01)

    def test_stages_with_their_own_thresholds(self) -> None:
        """Young 40 above 10 °C and adults 36 above 14 °C at 20 °C: 4 and 6 days, 10 in all."""
        own = (CYCLE.stages[0], Stage("y", Phase.YOUNG, 40, 10), Stage("a", Phase.LAYING, 36, 14))
        found = generations(LifeCycle(own, 5, 10), np.full(24, 20.0), SPRAYED)
        self.assertEqual(found.lays_on, date(2026, 6, 11))

    def test_below_the_threshold_nothing_moves(self) -> None:
        found = at(9)
        self.assertEqual((found.hatched_on, found.lays_on), (None, None))
        proposal = next_round(RoundRhythm.EGG_CYCLE, found, SPRAYED.date(), planned=None)
        self.assertIsNone(proposal.on)
        self.assertIn("too cold", proposal.reason)

    def test_without_eggs_missed_young_grow_up(self) -> None:
        found = generations(LifeCycle(CYCLE.stages[1:], 0, 7), np.full(24, 20.0), SPRAYED)
        self.assertEqual((found.eggs[0], found.young[0]), (0, 1))
        self.assertEqual(found.lays_on, date(2026, 6, 8))

    def test_impossible_stages_are_named(self) -> None:
        with self.assertRaises(InputError) as caught:
            check_cycle(LifeCycle((Stage("eggs", Phase.EGG, 0, 10),), 1, 1))
        self.assertEqual(caught.exception.field, "stages.0")


class Proposals(unittest.TestCase):
    def propose(self, school: RoundRhythm, *, heavy: bool = True) -> tuple[date | None, ...]:
        """First, last and proposed day after a spray on 1 June at 20 °C."""
        planned = date(2026, 6, 6)
        found = next_round(school, at(20), SPRAYED.date(), planned=planned, heavy=heavy)
        return found.first, found.last, found.on

    def test_between_hatching_and_laying(self) -> None:
        """Hatched on the 5th, laying on the 8th: the 5th to the 7th, proposed the middle."""
        days = (date(2026, 6, 5), date(2026, 6, 7), date(2026, 6, 6))
        self.assertEqual(self.propose(RoundRhythm.EGG_CYCLE), days)

    def test_survivors_lay_while_one_waits_for_eggs(self) -> None:
        """At 12 °C eggs take 25 days: only where hardly any are left does one wait for them."""
        cold, last = at(12), SPRAYED.date()
        for left, days in ((0.03, None), (0.16, 7), (None, 7)):
            found = next_round(RoundRhythm.EGG_CYCLE, cold, last, planned=None, left=left)
            gap = (found.on - last).days if found.on else 0
            self.assertTrue(gap == days if days else gap > 19, (left, gap))
        self.assertIn(
            "Some are left, and they lay before the eggs have hatched",
            next_round(RoundRhythm.EGG_CYCLE, cold, last, planned=None, left=0.16).reason,
        )

    def test_eggs_slower_than_young_want_two_sprays(self) -> None:
        slow = LifeCycle((Stage("eggs", Phase.EGG, 120, 10), *CYCLE.stages[1:]), 12, 7)
        found = next_round(
            RoundRhythm.EGG_CYCLE,
            generations(slow, np.full(24, 20.0), SPRAYED),
            SPRAYED.date(),
            planned=None,
        )
        self.assertEqual(found.on, date(2026, 6, 7))
        self.assertIn("once more when all have hatched", found.reason)

    def test_the_other_schools(self) -> None:
        june = [date(2026, 6, 1) + timedelta(days=k) for k in range(8)]
        self.assertEqual(self.propose(RoundRhythm.PLAN), (june[5],) * 3)
        self.assertEqual(self.propose(RoundRhythm.EVERY_3), (june[2], june[3], june[3]))
        self.assertEqual(self.propose(RoundRhythm.EVERY_3, heavy=False), (None,) * 3)
        self.assertEqual(self.propose(RoundRhythm.TWICE_WEEKLY), (june[3], june[4], june[4]))
        self.assertEqual(self.propose(RoundRhythm.WATCH), (None,) * 3)


class Stopping(unittest.TestCase):
    def decide(
        self,
        after: float,
        control: float | None = 120,
        done: int = 1,
        left: int = 1,
        slow: float = 90,
    ) -> Next:
        """What a look says when 100 became `after`, and the control's 100 `control`."""
        return after_look(
            [Course(100, after), Course(100, slow)],
            None if control is None else Course(100, control),
            threshold=0.6,
            rounds_done=done,
            rounds_left=left,
        ).action

    def test_each_end(self) -> None:
        self.assertIs(self.decide(30), Next.NEXT_ROUND)
        self.assertIs(self.decide(5, slow=4), Next.STOP)  # at most 5% left, everywhere
        self.assertIs(self.decide(5), Next.NEXT_ROUND)  # one clean remedy stops no slow one
        self.assertIs(self.decide(30, left=0), Next.STOP)
        self.assertIs(self.decide(30, control=20), Next.STOP)  # it goes by itself
        self.assertIs(self.decide(30, control=None), Next.NEXT_ROUND)

    def test_too_slow_only_after_two_rounds(self) -> None:
        """90 of 100 against a control of 120: 1 - 0.9 / 1.2 = 25%, below half of 60%."""
        self.assertIs(self.decide(95, done=1), Next.NEXT_ROUND)
        self.assertIs(self.decide(95, done=2), Next.CHANGE_PLAN)
        found = after_look(
            [Course(100, 90)], Course(100, 120), threshold=0.6, rounds_done=2, rounds_left=1
        )
        self.assertAlmostEqual(found.best_efficacy or 0, 0.25)

    def test_nothing_counted_decides_nothing(self) -> None:
        found = after_look([], None, threshold=0.6, rounds_done=1, rounds_left=1)
        self.assertIs(found.action, Next.LOOK_FIRST)


if __name__ == "__main__":
    unittest.main()
