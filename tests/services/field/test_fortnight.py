"""The whole program through a fortnight, hour by hour, with each kind of weather station."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from orthocris.core.field.rounds import Checks
from orthocris.core.weather.days import DayEntry, Sky
from orthocris.core.weather.yard import WeatherSource
from orthocris.services.field import calendars, patches, rounds, schedule
from orthocris.services.trial import overviews
from orthocris.services.verdict import judging as verdicts
from orthocris.services.weather import ribbons, weathering, yards
from tests.services.world import ServiceCase

HOURS = 15 * 24
BERLIN = ZoneInfo("Europe/Berlin")


class Fortnight(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        # The clocks are set back in the night to 25 October 2026, in the middle of it.
        self.now = datetime(2026, 10, 18, 0, 30, tzinfo=BERLIN)
        self.plant_and_draw()

    def station(self, kind: WeatherSource) -> None:
        """Choose the yard's weather station."""
        known = yards.yard_of(self.context)
        yards.change_yard(self.context, replace(known, weather_source=kind, latitude=50.0))

    def hour_by_hour(self) -> None:
        """Look at every page each hour; count and spray on the days planned."""
        self.count_all(0, 30, 30)
        self.spray_all()
        for hour in range(HOURS):
            self.now = (self.now.astimezone(ZoneInfo("UTC")) + timedelta(hours=1)).astimezone(
                BERLIN
            )
            self.look_at_pages(hour)
            if hour == 3 * 24 + 8:
                self.count_all(1, 4, 31)
            if hour == 5 * 24 + 9:
                self.spray_all(2)
            if hour == 7 * 24 + 8:
                self.count_all(2, 1, 33)
                self.assertTrue(verdicts.verdict_of(self.context, self.trial_id).final)

    def look_at_pages(self, hour: int) -> None:
        """Today each hour; the others in turn, each at every hour of the day in the end."""
        weathering.log_weather(self.context)
        self.assertEqual(len(overviews.today(self.context).trials), 1)
        pages = (
            lambda: overviews.overview(self.context, self.trial_id),
            lambda: self.assertEqual(len(ribbons.ribbon_of(self.context, self.trial_id).hours), 24),
            lambda: ribbons.yard_ribbon(self.context),
            lambda: schedule.schedule_of(self.context, self.trial_id),
            lambda: calendars.calendar_of(self.context),
            lambda: rounds.what_blocks(self.context, self.trial_id, 2, self.checks(batches={})),
            lambda: yards.weather_table(self.context, 7),
        )
        pages[hour % len(pages)]()  # 7 and 24 share no factor

    def checks(self, **changes: object) -> Checks:
        """Everything in order; bottles are mixed only when a round is really started."""
        if changes.get("batches") == {}:
            return Checks(weather_looked=True)
        return super().checks(**changes)

    def test_without_a_station(self) -> None:
        self.station(WeatherSource.NONE)
        self.hour_by_hour()

    def test_with_the_simulated_station(self) -> None:
        self.station(WeatherSource.SIMULATED)
        self.hour_by_hour()

    def test_with_an_hourly_record_that_has_gaps(self) -> None:
        lines = ["time,temperature,rain,wind"]
        start = datetime(2026, 10, 17)
        for k in range(0, 20 * 24, 3):
            at = start + timedelta(hours=k)
            lines.append(f"{at:%Y-%m-%dT%H:%M},{10 + k % 9},{'' if k % 5 else 0.4},{k % 20}")
        self.assertEqual(yards.read_in_weather(self.context, "\n".join(lines).encode()), 160)
        self.hour_by_hour()

    def test_with_days_entered_by_hand(self) -> None:
        for day in (date(2026, 9, 1), *(date(2026, 10, d) for d in (16, 18, 19, 21, 25))):
            yards.enter_day(self.context, DayEntry(day, 6, 14, 8, Sky.MIXED, 2.0, 3, 6))
        self.hour_by_hour()

    def test_indoors_under_a_lamp(self) -> None:
        spot = replace(self.trial.care.spot, outdoors=False, lamp_from=8.0, lamp_to=20.0)
        patches.change_care(self.context, self.trial_id, replace(self.trial.care, spot=spot))
        self.station(WeatherSource.SIMULATED)
        self.hour_by_hour()
