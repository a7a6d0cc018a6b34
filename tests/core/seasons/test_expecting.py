"""When a pest is expected: by warmth and by the calendar, and what comes before it."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

import numpy as np

from orthocris.core.seasons.expecting import (
    Expected,
    Sighting,
    Step,
    expect,
    expected_words,
    firsts,
    next_step,
)
from orthocris.core.seasons.warmth import Season, daily, season_name, season_start

NAN = float("nan")


def season(year: int, each_day: float, days: int = 365) -> Season:
    return Season(date(year, 1, 1), np.full(days, each_day))


class Warmth(unittest.TestCase):
    def test_a_day_gives_its_mean_above_the_threshold_with_a_ceiling(self) -> None:
        hours = np.concatenate([np.full(24, 15.0), np.full(24, 40.0), np.full(24, 2.0)])
        np.testing.assert_allclose(daily(hours, 5.0), [10.0, 28.0, 0.0])

    def test_a_day_with_few_hours_is_not_known_and_a_gap_of_one_is_borne(self) -> None:
        hours = np.full(48, 15.0)
        hours[:7] = NAN
        hours[30:34] = NAN
        found = daily(hours, 5.0)
        self.assertTrue(np.isnan(found[0]))
        self.assertEqual(found[1], 10.0)

    def test_a_sum_is_known_while_nine_days_of_ten_are(self) -> None:
        days = np.full(100, 2.0)
        days[:10] = NAN
        year = Season(date(2026, 1, 1), days)
        self.assertIsNone(year.sum_until(date(2026, 1, 20)))
        self.assertAlmostEqual(year.sum_until(date(2026, 4, 10)) or 0, 200.0)
        self.assertIsNone(year.sum_until(date(2026, 6, 1)))  # still to come

    def test_the_year_begins_at_midwinter_of_either_half_of_the_earth(self) -> None:
        self.assertEqual(season_start(date(2026, 5, 1), 41), date(2026, 1, 1))
        self.assertEqual(season_start(date(2026, 5, 1), -41), date(2025, 7, 1))
        self.assertEqual(season_start(date(2026, 12, 1), -41), date(2026, 7, 1))
        self.assertEqual(season_name(date(2026, 1, 1)), "2026")
        self.assertEqual(season_name(date(1999, 7, 1)), "1999/00")


class Expecting(unittest.TestCase):
    def expected(self, this: Season, *earlier: Season, days: tuple[int, ...]) -> Expected:
        seen = [
            Sighting(year.start + timedelta(days=day), "Stairs")
            for year, day in zip(earlier, days, strict=True)
        ]
        found = expect(firsts(seen, earlier), this, earlier)
        assert found is not None
        return found

    def test_a_warmer_year_brings_it_forward(self) -> None:
        """4 a day in the years before and on day 100: 404 of them. Of 5 a day that takes 81."""
        found = self.expected(season(2026, 5.0, 90), season(2025, 4.0), days=(100,))
        self.assertEqual((found.on - date(2026, 1, 1)).days, 80)
        self.assertEqual((found.ahead, found.years), (20, 1))
        # Sixty days of 5 give 300; the rest comes at the pace of the year before, 4 a day.
        early = self.expected(season(2026, 5.0, 60), season(2025, 4.0), days=(100,))
        self.assertEqual((early.on - date(2026, 1, 1)).days, 60 + 25)

    def test_without_warmth_it_is_the_middle_of_the_calendar(self) -> None:
        dark = season(2026, NAN, 60)
        found = self.expected(dark, season(2024, NAN), season(2025, NAN), days=(100, 120))
        self.assertEqual(found.on, date(2026, 1, 1) + timedelta(days=110))
        self.assertIsNone(found.ahead)
        self.assertEqual((found.latest - found.earliest).days, 20)

    def test_a_year_too_cold_to_reach_it_falls_back_on_the_calendar(self) -> None:
        found = self.expected(season(2026, 0.1, 90), season(2025, 4.0, 100), days=(99,))
        self.assertEqual((found.on - date(2026, 1, 1)).days, 99)
        self.assertIsNone(found.ahead)

    def test_only_the_first_of_each_year_counts(self) -> None:
        year = season(2025, 4.0)
        seen = [Sighting(date(2025, 6, 1), "Rail"), Sighting(date(2025, 5, 1), "Stairs", 3)]
        (first,) = firsts(seen, [season(2024, 4.0), year])
        self.assertEqual((first.sighting.place, first.day), ("Stairs", 120))
        self.assertEqual(firsts([Sighting(date(2024, 12, 31), "Rail")], [year]), ())
        self.assertIsNone(expect((), year, ()))


class Before(unittest.TestCase):
    expected = Expected(date(2026, 5, 29), date(2026, 5, 20), date(2026, 6, 2), 6, 2)

    def step(
        self,
        today: date,
        looked: tuple[date, ...] = (),
        treated: tuple[date, ...] = (),
        mm: float = 0,
    ) -> Step | None:
        return next_step(self.expected, today, looked=looked, treated=treated, rain_since=mm)

    def test_it_begins_four_weeks_before_and_ends_two_after(self) -> None:
        self.assertIsNone(self.step(date(2026, 4, 30)))
        self.assertIsNone(self.step(date(2026, 6, 13)))
        begun = self.step(date(2026, 5, 1))
        assert begun is not None
        self.assertEqual((begun.treat, begun.on), (False, date(2026, 5, 1)))
        self.assertIn("by this year's warmth, 6 days earlier", begun.why)

    def test_whoever_looks_is_asked_again_after_a_week(self) -> None:
        # A look before its time does not put off the first.
        for looked, on in ((date(2026, 4, 20), 1), (date(2026, 5, 3), 10)):
            step = self.step(date(2026, 5, 4), looked=(looked,))
            assert step is not None
            self.assertEqual((step.treat, step.on), (False, date(2026, 5, on)))

    def test_whoever_prevents_is_asked_after_two_weeks_and_after_one_with_rain(self) -> None:
        done = (date(2026, 5, 2),)
        for mm, on in ((0.0, 16), (9.9, 16), (10.0, 9)):
            step = self.step(date(2026, 5, 4), treated=done, mm=mm)
            assert step is not None
            self.assertEqual((step.treat, step.on), (True, date(2026, 5, on)))

    def test_words_say_how_it_is_known(self) -> None:
        self.assertEqual(
            expected_words(self.expected, date(2026, 5, 19)),
            "it is expected in 10 days, by this year's warmth, 6 days earlier",
        )
        self.assertIn("about now", expected_words(self.expected, date(2026, 5, 30)))
        plain = Expected(date(2026, 5, 29), date(2026, 5, 29), date(2026, 5, 29), None, 1)
        self.assertEqual(
            expected_words(plain, date(2026, 6, 3)), "it was expected 5 days ago, by the calendar"
        )
