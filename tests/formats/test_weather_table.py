"""Hourly weather as a table: out and in again, and faults by line and column."""

from __future__ import annotations

import unittest
from datetime import datetime

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.weather.hours import LIMITS
from orthocris.core.weather.sunlight import Place
from orthocris.devices.simulated_weather import SimulatedStation
from orthocris.formats.weather_table import known_hours, read_weather, write_weather

HEADER = "time,temperature,humidity,rain,wind,sun\n"


class WeatherTable(unittest.TestCase):
    def test_what_is_written_reads_back(self) -> None:
        start = datetime(2026, 5, 1)
        weather = SimulatedStation(Place(48, 0), 2).read(start, 200, datetime(2027, 1, 1))
        found = read_weather(write_weather(weather))
        self.assertEqual((found.start, found.hours), (start, 200))
        for field in LIMITS:
            np.testing.assert_allclose(
                getattr(found, field), getattr(weather, field), rtol=1e-5, atol=1e-6
            )

    def test_gaps_and_order_do_not_matter(self) -> None:
        found = read_weather(b"\xef\xbb\xbfTime,Rain\n2026-05-01T03:00,1\n2026-05-01T00:20,\n")
        self.assertEqual(found.hours, 4)
        self.assertEqual(found.rain[3], 1)
        self.assertTrue(np.isnan(found.rain[:3]).all() and np.isnan(found.wind).all())

    def test_parts_of_an_hour_make_one_and_rain_is_added_up(self) -> None:
        quarters = "".join(f"2026-05-01T07:{m:02d},{12 + m / 15},1,{m}\n" for m in (0, 15, 30, 45))
        found = read_weather(("time,temperature,rain,wind\n" + quarters).encode())
        self.assertEqual(found.hours, 1)
        self.assertEqual((found.rain[0], found.temperature[0], found.wind[0]), (4, 13.5, 22.5))

    def test_a_line_that_stands_there_twice_counts_once(self) -> None:
        found = read_weather(b"time,rain\n" + b"2026-05-01T07:00,2\n" * 3)
        self.assertEqual(found.rain[0], 2)

    def test_only_hours_with_a_reading_are_counted(self) -> None:
        found = read_weather(b"time,rain\n2021-05-01T07:00,1\n2026-04-01T07:00,2\n")
        self.assertEqual(known_hours(found), 2)

    def test_line_ends_of_any_system(self) -> None:
        for end in ("\n", "\r\n", "\r"):
            text = end.join(("time,rain", "2026-05-01T07:00,1", "2026-05-01T08:00,2", ""))
            self.assertEqual(read_weather(text.encode()).rain.tolist(), [1, 2])

    def test_faults_name_line_and_column(self) -> None:
        for text, said in (
            ("rain\n1\n", "header"),
            (HEADER, "no line"),
            (HEADER + "yesterday,1,1,1,1,1\n", "line 2, time"),
            (HEADER + "2026-05-01T00:00,warm,1,1,1,1\n", "line 2, temperature"),
            (HEADER + "2026-05-01T00:00,1,1,nan,1,1\n", "line 2, rain"),
            (HEADER + "2026-05-01T00:00,1,140,1,1,1\n", "humidity at 2026-05-01 00:00 is 140"),
            (HEADER + "1026-05-01T00:00,1,1,1,1,1\n2026-05-01T00:00,1,1,1,1,1\n", "spans"),
        ):
            with self.subTest(said), self.assertRaisesRegex(InputError, said):
                read_weather(text.encode())
        with self.assertRaisesRegex(InputError, "UTF-8"):
            read_weather(b"time,rain\n\xff\xfe")


if __name__ == "__main__":
    unittest.main()
