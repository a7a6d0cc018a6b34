"""Stand-ins for the weather station: the same weather whenever it is asked for."""

from __future__ import annotations

import unittest
from datetime import date, datetime, timedelta

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.weather.days import DayEntry, Sky, check_entry, day_weather
from orthocris.core.weather.hours import LIMITS, Weather, check_weather, weather_from
from orthocris.core.weather.sunlight import Place
from orthocris.devices.replayed_weather import EnteredDays, ReplayedStation
from orthocris.devices.simulated_weather import Climate, SimulatedStation
from orthocris.devices.weather_station import WeatherStation

HERE = Place(48.0, 0.0)
JULY = datetime(2026, 7, 1)


def stations() -> list[WeatherStation]:
    """One of each kind."""
    values = {field: np.arange(24.0) for field in LIMITS}
    entry = DayEntry(JULY.date(), 12, 25, 8, Sky.CLEAR)
    return [
        SimulatedStation(HERE, 3),
        ReplayedStation(weather_from(JULY, values, 24)),
        EnteredDays([entry], HERE),
    ]


class EveryStation(unittest.TestCase):
    def test_hours_do_not_depend_on_how_they_are_asked_for(self) -> None:
        later = datetime(2027, 1, 1)
        for station in stations():
            with self.subTest(station.name):
                whole = station.read(JULY, 48, later)
                part = station.read(datetime(2026, 7, 1, 10), 5, later)
                for field in LIMITS:
                    np.testing.assert_array_equal(
                        getattr(whole, field)[10:15], getattr(part, field)
                    )
                check_weather(whole)

    def test_what_is_to_come_is_a_forecast(self) -> None:
        for station in stations():
            found = station.read(JULY, 24, datetime(2026, 7, 1, 9, 30))
            self.assertEqual(found.forecast_from, 10, station.name)
            self.assertEqual(station.read(JULY, 24, datetime(2026, 6, 1)).forecast_from, 0)

    def test_a_forecast_of_any_length_however_short(self) -> None:
        for station in stations():
            for hours in range(1, 30):
                now = JULY + timedelta(hours=hours - 1)
                for ahead in (0, 1, 5, 6):
                    found = station.read(JULY, hours + ahead, now)
                    self.assertEqual(found.hours, hours + ahead, station.name)
                    check_weather(found)

    def test_days_far_from_what_is_asked_for(self) -> None:
        days = [DayEntry(date(2026, month, 1), 2, 9, 4, Sky.CLOUDY) for month in (1, 7, 12)]
        found = EnteredDays(days, HERE).read(JULY, 48, JULY)
        self.assertEqual(int(found.known().sum()), 24)


class Simulated(unittest.TestCase):
    def year(self, seed: int = 3, latitude: float = 48.0) -> Weather:
        """A whole year of readings."""
        station = SimulatedStation(Place(latitude, 0.0), seed, Climate(12, 8))
        return station.read(datetime(2026, 1, 1), 8760, datetime(2027, 1, 1))

    def test_seasons_are_real(self) -> None:
        found = self.year()
        months = found.temperature.reshape(365, 24).mean(axis=1)
        self.assertGreater(months[181:212].mean(), months[:31].mean() + 8)
        self.assertAlmostEqual(float(found.temperature.mean()), 12, delta=1.5)
        self.assertGreater(float(found.rain.sum()), 150)
        self.assertLess(float((found.rain > 0.1).mean()), 0.2)
        hours = found.temperature.reshape(365, 24).mean(axis=0)
        self.assertIn(int(np.argmax(hours)), (14, 15))
        self.assertGreater(float(found.humidity[found.rain > 0].mean()), 90)

    def test_the_south_has_its_summer_in_january(self) -> None:
        months = self.year(latitude=-35).temperature.reshape(365, 24).mean(axis=1)
        self.assertGreater(months[:31].mean(), months[181:212].mean() + 8)

    def test_a_seed_is_a_world(self) -> None:
        self.assertFalse(np.array_equal(self.year(3).rain, self.year(4).rain))

    def test_forecasts_blur_with_distance(self) -> None:
        station = SimulatedStation(HERE, 3)
        truth = station.read(JULY, 240, datetime(2027, 1, 1)).temperature
        errors = []
        for day in range(1, 29):
            now = datetime(2026, 6, day)
            seen = station.read(now, 24 * 5, now).temperature
            real = station.read(now, 24 * 5, datetime(2027, 1, 1)).temperature
            errors.append(np.abs(seen - real).reshape(5, 24).mean(axis=1))
        mean = np.mean(errors, axis=0)
        self.assertGreater(mean[4], mean[0])
        self.assertEqual(len(truth), 240)


class ByHand(unittest.TestCase):
    def test_a_day_is_spread_over_its_hours(self) -> None:
        entry = DayEntry(JULY.date(), 12, 25, 8, Sky.CLOUDY, 6.0, 14, 17)
        found = day_weather(entry, HERE)
        self.assertAlmostEqual(float(found.temperature.max()), 25, delta=0.3)
        self.assertAlmostEqual(float(found.temperature.min()), 12, delta=0.3)
        self.assertEqual(found.rain.tolist()[13:18], [0, 2, 2, 2, 0])
        clear = day_weather(DayEntry(JULY.date(), 12, 25, 8, Sky.CLEAR), HERE)
        self.assertGreater(float(clear.sun.max()), 3 * float(found.sun.max()))

    def test_days_not_entered_stay_unknown(self) -> None:
        station = EnteredDays([DayEntry(date(2026, 7, 2), 12, 25, 8, Sky.MIXED)], HERE)
        known = station.read(JULY, 72, JULY).known().reshape(3, 24).all(axis=1)
        self.assertEqual(known.tolist(), [False, True, False])

    def test_days_that_cannot_be(self) -> None:
        for changes, field in (
            ({"low": 30}, "low"),
            ({"rain": -1}, "rain"),
            ({"rain_from": 20, "rain_to": 4}, "rain_to"),
            ({"wind": 400}, "wind"),
        ):
            usual = {"day": JULY.date(), "low": 12, "high": 25, "wind": 8, "sky": Sky.CLEAR}
            with self.subTest(changes), self.assertRaises(InputError) as caught:
                check_entry(DayEntry(**{**usual, **changes}))  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
