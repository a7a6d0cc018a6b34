"""Sun, drying and windows, against days worked by hand."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, datetime

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.trial.care import Spot
from orthocris.core.weather.hours import (
    Weather,
    check_weather,
    drying_hours,
    evaporation,
    unknown_weather,
    weather_from,
    wet_leaves,
)
from orthocris.core.weather.sunlight import (
    Place,
    check_place,
    clear_sun,
    light_enough,
    sun_times,
)
from orthocris.core.weather.window_words import explain, main_sign, remarks, why_closed
from orthocris.core.weather.windows import Sign, bees_fly, best_hour, together, windows

MIDNIGHT = datetime(2026, 6, 10)


def day(**changes: dict[int, float]) -> Weather:
    """A mild dry day of 20 °C, 60% humidity and 10 km/h of wind; `changes` by field and hour."""
    usual = {"temperature": 20.0, "humidity": 60.0, "rain": 0.0, "wind": 10.0, "sun": 0.0}
    values = {field: np.full(24, value) for field, value in usual.items()}
    for field, hours in changes.items():
        for hour, value in hours.items():
            values[field][hour] = value
    return weather_from(MIDNIGHT, values, 24)


class Sun(unittest.TestCase):
    def test_known_days(self) -> None:
        """Almanac, local clock: 51.5 N 0 E in June (+1 h) 04:43 to 21:21, in December 08:04 to
        15:53; 33.87 S 151.2 E (+11 h) on 21 December 05:41 to 20:05. Right to 3 minutes."""
        for place, on, rise, down in (
            (Place(51.5, 0, 1), date(2026, 6, 21), 4 + 43 / 60, 21 + 21 / 60),
            (Place(51.5, 0, 0), date(2026, 12, 21), 8 + 4 / 60, 15 + 53 / 60),
            (Place(-33.87, 151.2, 11), date(2026, 12, 21), 5 + 41 / 60, 20 + 5 / 60),
        ):
            found = sun_times(place, on)
            self.assertAlmostEqual(found.rise, rise, delta=0.05)
            self.assertAlmostEqual(found.set, down, delta=0.05)

    def test_midnight_sun_and_polar_night(self) -> None:
        north = Place(75, 20, 1)
        self.assertEqual((sun_times(north, date(2026, 6, 21)).set), 24)
        dark = sun_times(north, date(2026, 12, 21))
        self.assertEqual(dark.rise, dark.set)
        self.assertFalse(light_enough(north, datetime(2026, 12, 21), 24).any())

    def test_light_from_half_an_hour_before_sunrise(self) -> None:
        """Sun 6:07 to 18:14 on the equator in March: the middles of hours 6 to 18 are light."""
        lit = np.flatnonzero(light_enough(Place(0, 0), datetime(2026, 3, 20), 24))
        self.assertEqual((lit[0], lit[-1]), (6, 18))

    def test_clear_sun_is_highest_at_noon_and_gone_at_night(self) -> None:
        """Haurwitz with the sun overhead: 1098 exp(-0.059) = 1035 W/m²."""
        sun = clear_sun(Place(0, 0), datetime(2026, 3, 20), 24)
        self.assertAlmostEqual(float(sun.max()), 1035, delta=12)
        self.assertEqual(float(sun[0]), 0)

    def test_places_off_the_globe(self) -> None:
        with self.assertRaises(InputError) as caught:
            check_place(Place(91, 0))
        self.assertEqual(caught.exception.field, "latitude")


class Drying(unittest.TestCase):
    def test_a_film_by_hand(self) -> None:
        """es(20 °C) = 23.38 hPa = 17.54 mmHg, deficit at 60% 7.015; 10 km/h = 2.778 m/s:
        0.35 (1 + 1.5) 7.015 / 24 = 0.2558 mm/h, so 0.1 mm needs 0.391 h and 0.4 mm 1.564 h."""
        lost = evaporation(day())
        self.assertAlmostEqual(float(lost[3]), 0.2558, places=3)
        self.assertAlmostEqual(float(drying_hours(lost, 0.1)[3]), 0.391, places=2)
        self.assertAlmostEqual(float(drying_hours(lost, 0.4)[3]), 1.564, places=2)

    @given(film=st.floats(0.01, 1.0), more=st.floats(1.01, 5.0))
    def test_more_water_dries_no_sooner(self, film: float, more: float) -> None:
        lost = evaporation(day(humidity=dict.fromkeys(range(8), 95)))
        self.assertTrue((drying_hours(lost, film * more) >= drying_hours(lost, film)).all())

    def test_rain_and_dew_wet_the_leaves(self) -> None:
        """1 mm at 17 o'clock leaves 0.2 mm, gone within the next hour of 0.256 mm."""
        weather = day(rain={17: 1.0}, humidity={5: 97.0})
        wet = np.flatnonzero(wet_leaves(weather, evaporation(weather)))
        self.assertEqual(wet.tolist(), [6, 18])

    def test_a_broken_sensor_is_not_believed(self) -> None:
        with self.assertRaisesRegex(InputError, "humidity at 2026-06-10 04:00 is 180"):
            check_weather(day(humidity={4: 180.0}))


class HandWorkedDay(unittest.TestCase):
    """Light 6 to 19; wind 20 at 8; sun 300 W/m² 10 to 15; 28 °C at 13 and 14; rain at 17."""

    def setUp(self) -> None:
        self.weather = day(
            sun=dict.fromkeys(range(10, 16), 300.0),
            temperature={13: 28.0, 14: 28.0},
            wind={8: 20.0},
            rain={17: 1.0},
        )
        self.light = np.array([6 <= k <= 19 for k in range(24)])
        self.quick, self.slow = SprayRules(film=0.1), SprayRules(film=0.4)
        rules = [self.quick, self.slow, SprayRules(wets=False, high=30)]
        self.table = windows(self.weather, self.light, Spot(bees=False), rules)

    def test_open_hours(self) -> None:
        """Dry within the hour: 6, 7, 9, 16, 19. With 1.6 h to dry, sun closes 9, rain 16, and
        8 and 9's neighbours stay; a dust minds neither sun nor wet leaves."""
        quick, slow, dust = (np.flatnonzero(row).tolist() for row in self.table.open())
        self.assertEqual(quick, [6, 7, 9, 16, 19])
        self.assertEqual(slow, [6, 7, 19])
        self.assertEqual(dust, [6, 7, 9, 10, 11, 12, 13, 14, 15, 16, 18, 19])

    def test_every_closed_hour_says_why(self) -> None:
        self.assertIn(
            "direct sun on the bench before the leaves are dry", explain(self.table, 1, 9)
        )
        self.assertEqual(explain(self.table, 0, 8), ("wind 20 km/h, above 15 km/h",))
        self.assertIn("up to 28 °C before dry, above 27 °C", explain(self.table, 0, 13))
        self.assertIn(
            "rain is expected before the leaves are dry (1.6 h)", explain(self.table, 1, 16)
        )
        self.assertIn("leaves are still wet from rain or dew", explain(self.table, 0, 18))
        self.assertEqual(explain(self.table, 0, 2), ("too dark to see the undersides",))
        self.assertEqual(explain(self.table, 0, 7), ())
        for k in np.flatnonzero(~self.table.open()[0]):
            self.assertTrue(explain(self.table, 0, int(k)))

    def test_rain_later_in_the_day_warns_only(self) -> None:
        self.assertEqual(
            remarks(self.table, 0, 7), ("rain is expected within 24 hours and may wash it off",)
        )
        self.assertEqual(remarks(self.table, 0, 19), ())

    def test_best_hour_avoids_the_rain_ahead(self) -> None:
        self.assertEqual(best_hour(self.table, 0, 0, 24), 19)
        self.assertEqual(best_hour(self.table, 0, 0, 18), 16)  # dries fastest after the sun
        self.assertIsNone(best_hour(self.table, 0, 10, 15))

    def test_what_chiefly_closes(self) -> None:
        self.assertEqual(main_sign(self.table, 0, 13), ("hot", "too warm"))
        self.assertIsNone(main_sign(self.table, 0, 7))
        self.assertEqual(why_closed(self.table, 0, range(10, 16)), "in full sun")
        self.assertEqual(why_closed(self.table, 0, range(20, 24)), "no daylight is left")


class Spots(unittest.TestCase):
    light = np.ones(24, dtype=bool)

    def test_shade_in_the_afternoon_opens_it(self) -> None:
        sunny = day(sun=dict.fromkeys(range(24), 500.0))
        shaded = windows(sunny, self.light, Spot(bees=False, sun_to=12), [SprayRules()])
        self.assertEqual(np.flatnonzero(shaded.open()[0]).tolist(), list(range(12, 24)))

    def test_bees_need_warmth_and_light(self) -> None:
        weather = day(sun=dict.fromkeys(range(8, 18), 200.0), temperature={8: 10.0}, rain={9: 1.0})
        self.assertEqual(np.flatnonzero(bees_fly(weather)).tolist(), list(range(10, 18)))
        table = windows(weather, self.light, Spot(), [SprayRules()])
        self.assertEqual(main_sign(table, 0, 12), ("bees", "bees about"))

    def test_heat_after_an_oil_is_marked(self) -> None:
        weather = day(temperature={20: 31.0})
        rules = [SprayRules(), SprayRules(heat_hours=24)]
        table = windows(weather, self.light, Spot(bees=False), rules)
        self.assertEqual(remarks(table, 0, 9), ())
        self.assertEqual(remarks(table, 1, 9), ("heat above 27 °C follows within 24 h",))

    def closed(self, weather: Weather, spot: Spot, rules: SprayRules) -> list[int]:
        """The hours that are closed."""
        light = np.ones(24, dtype=bool)
        return list(np.flatnonzero(~windows(weather, light, spot, [rules]).open()[0]))

    def test_a_jet_minds_neither_sun_nor_wet_leaves(self) -> None:
        wet = day(rain={3: 2.0}, sun=dict.fromkeys(range(8, 18), 700.0))
        jet = SprayRules(wind=25, high=32, wets=False)
        self.assertEqual(self.closed(wet, Spot(bees=False), jet), [3])

    def test_dust_is_closed_by_wet_leaves_and_by_rain_to_come(self) -> None:
        """Rain at 15 closes the eleven hours before it, itself, and the hours until dry."""
        dust = SprayRules(wets=False, needs_dry=True)
        closed = self.closed(day(rain={15: 2.0}), Spot(bees=False), dust)
        self.assertEqual(closed[:12], list(range(4, 16)))
        self.assertIn(16, closed)
        self.assertNotIn(3, closed)

    def test_under_cover_neither_rain_nor_wind_reaches_it(self) -> None:
        storm = day(rain={10: 5.0}, wind=dict.fromkeys(range(24), 50.0))
        self.assertEqual(self.closed(storm, Spot(bees=False, covered=True), SprayRules()), [])
        self.assertEqual(len(self.closed(storm, Spot(bees=False), SprayRules())), 24)

    def test_a_closed_tunnel_is_warmer_than_outside_in_the_sun(self) -> None:
        """22 °C outside, 37 in the sun: no spray then; by night and under cloud as outside."""
        sunny = day(
            temperature=dict.fromkeys(range(24), 22.0), sun=dict.fromkeys(range(9, 17), 700.0)
        )
        shade = Spot(bees=False, covered=True, sun_to=0)
        closed = self.closed(sunny, shade, SprayRules(high=27))
        self.assertTrue(set(range(9, 17)) <= set(closed), closed)
        self.assertNotIn(20, closed)
        self.assertEqual(self.closed(sunny, replace(shade, rise=2.0), SprayRules(high=27)), [])
        table = windows(sunny, np.ones(24, dtype=bool), shade, [SprayRules(high=27)])
        self.assertIn("up to 37 °C before dry, above 27 °C", explain(table, 0, 12))
        dim = replace(sunny, sun=np.full(24, np.nan))  # not known: by day it is taken to shine
        self.assertTrue(set(range(9, 17)) <= set(self.closed(dim, shade, SprayRules(high=27))))

    def test_at_night_only_for_those_who_spray_by_lamplight(self) -> None:
        dark = np.zeros(24, dtype=bool)
        for night, open_ in ((False, 0), (True, 24)):
            table = windows(day(), dark, Spot(bees=True, night=night), [SprayRules()])
            self.assertEqual(int(table.open().sum()), open_)

    def test_indoors_only_the_lamp_counts(self) -> None:
        """Lamp 18 to 23: with 1.7 h to dry in still unknown air, 17 and 16 are closed too."""
        spot = Spot(outdoors=False, lamp_from=18, lamp_to=23)
        table = windows(unknown_weather(MIDNIGHT, 24), self.light, spot, [SprayRules()])
        closed = np.flatnonzero(~table.open()[0]).tolist()
        self.assertEqual(closed, [17, 18, 19, 20, 21, 22])
        none = windows(
            unknown_weather(MIDNIGHT, 24), self.light, Spot(outdoors=False), [SprayRules()]
        )
        self.assertTrue(none.open().all())

    def test_outdoors_the_unknown_is_not_called_open(self) -> None:
        table = windows(unknown_weather(MIDNIGHT, 24), self.light, Spot(), [SprayRules()])
        self.assertFalse(table.open().any())
        self.assertIn("no weather is known for this hour", explain(table, 0, 9))

    def test_one_round_keeps_the_strictest_limits(self) -> None:
        both = together([SprayRules(low=5, high=27, wind=15), SprayRules(low=8, high=25, wind=20)])
        self.assertEqual((both.low, both.high, both.wind), (8, 25, 15))
        table = windows(day(temperature={9: 26.0}), self.light, Spot(bees=False), [both])
        self.assertTrue(int(table.signs[0, 9]) & Sign.HOT)


if __name__ == "__main__":
    unittest.main()
