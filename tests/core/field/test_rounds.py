"""What holds a round back, what rain and heat do to it, and what the verdict says of it."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.field.batches import missing_acknowledgements, use_by
from orthocris.core.field.patchtest import Held, PatchOutcome
from orthocris.core.field.rounds import (
    BottleNeed,
    Checks,
    HourNow,
    blockers,
    heat_after,
    rain_after,
)
from orthocris.core.pantry.recipe_cards import own_card
from orthocris.core.trial.batches import Batch, MixKind
from orthocris.core.trial.deviations import round_notes
from orthocris.core.trial.plan import Round
from orthocris.core.trial.sprays import EventKind, RoundEvent, RoundStart, SprayKind
from orthocris.core.trial.trial import Plant, Spray, Trial
from orthocris.core.weather.hours import LIMITS, Weather, weather_from

NOW = datetime(2026, 5, 10, 8, tzinfo=UTC)
NEED = BottleNeed(7, "B", ("alcohol",))
BATCH = Batch(
    id=3,
    trial_id=1,
    remedy_id=7,
    title="Spirit",
    kind=MixKind.MIX,
    recipe="150 ml alcohol in 1 litre",
    volume=500,
    parts=(),
    mixed_at=NOW - timedelta(hours=2),
    use_by=NOW + timedelta(hours=6),
    acknowledged=("alcohol",),
)
ALL = Checks(True, True, True, True, {7: 3}, {})
OPEN = HourNow()


class HeldBack(unittest.TestCase):
    def codes(
        self,
        checks: Checks = ALL,
        batch: Batch = BATCH,
        *,
        held: tuple[Held, ...] = (),
        hour: HourNow = OPEN,
        first: bool = True,
        now: datetime = NOW,
    ) -> list[str]:
        """Codes of what blocks."""
        found = blockers([NEED], [batch], held if first else (), hour, checks, now)
        return [b.code for b in found]

    def test_all_in_order(self) -> None:
        self.assertEqual(self.codes(), [])

    def test_each_tick_counts(self) -> None:
        for field, code in (
            ("shaken", "shaken"),
            ("cautions_read", "cautions"),
            ("bees_looked", "bees"),
            ("fruit_looked", "fruit"),
        ):
            self.assertEqual(self.codes(replace(ALL, **{field: False})), [code])  # type: ignore[arg-type]

    def test_nothing_to_shake_without_a_bottle(self) -> None:
        dry = replace(ALL, shaken=False, batches={})
        self.assertEqual(blockers([], [], (), OPEN, dry, NOW), ())

    def test_the_right_bottle_in_its_life_with_its_caution_read(self) -> None:
        self.assertEqual(self.codes(replace(ALL, batches={})), ["no_batch"])
        self.assertEqual(self.codes(batch=replace(BATCH, remedy_id=8)), ["no_batch"])
        self.assertEqual(self.codes(batch=replace(BATCH, discarded_at=NOW)), ["no_batch"])
        self.assertEqual(self.codes(batch=replace(BATCH, acknowledged=())), ["not_acknowledged"])
        late = NOW + timedelta(hours=7)
        self.assertEqual(self.codes(now=late), ["expired"])
        reason = replace(ALL, reasons={"expired": "smelled fine", "no_batch": "no"})
        self.assertEqual(self.codes(reason, now=late), [])

    def test_patch_tests_hold_the_first_round_only(self) -> None:
        held = (Held(7, "green", PatchOutcome.RUNNING, "next look after 48 hours"),)
        self.assertEqual(self.codes(held=held), ["patch_tests"])
        self.assertEqual(self.codes(held=held, first=False), [])
        self.assertEqual(self.codes(replace(ALL, reasons={"patch_tests": "go"}), held=held), [])
        self.assertEqual(
            self.codes(replace(ALL, reasons={"patch_tests": "  "}), held=held), ["patch_tests"]
        )

    def test_a_closed_window_says_why(self) -> None:
        windy = HourNow(("wind 20 km/h, above 15",))
        (found,) = blockers([], [], (), windy, ALL, NOW)
        self.assertIn("wind 20 km/h", found.text)
        self.assertTrue(found.overrulable)

    def test_without_any_weather_a_look_outside_is_enough(self) -> None:
        unknown = HourNow((), known=False)
        self.assertEqual(self.codes(hour=unknown), ["weather"])
        self.assertEqual(self.codes(replace(ALL, weather_looked=True), hour=unknown), [])

    def test_a_round_done_days_ago_asks_for_no_open_hour_now(self) -> None:
        done = replace(ALL, done_on=NOW.date() - timedelta(days=2))
        late = NOW + timedelta(hours=7)
        self.assertEqual(self.codes(done, hour=HourNow(("dark",), known=False), now=late), [])

    def test_a_start_holds_for_six_hours(self) -> None:
        start = RoundStart(1, NOW, {}, {})
        self.assertTrue(start.holds(NOW + timedelta(hours=6)))
        self.assertFalse(start.holds(NOW + timedelta(hours=6, minutes=1)))
        self.assertFalse(start.holds(NOW - timedelta(minutes=1)))


class Batches(unittest.TestCase):
    def test_life_by_the_card_or_the_gardener(self) -> None:
        card = own_card("x", (), "spray")
        self.assertEqual(use_by(card, NOW, None), NOW + timedelta(hours=8))
        self.assertEqual(use_by(card, NOW, 48), NOW + timedelta(hours=48))
        self.assertIsNone(use_by(replace(card, life_hours=None), NOW, None))
        for hours in (0, -1, 10_000):
            with self.assertRaises(InputError):
                use_by(card, NOW, hours)

    def test_eight_hours_are_eight_hours_when_the_clock_is_set_back(self) -> None:
        card, berlin = own_card("x", (), "spray"), ZoneInfo("Europe/Berlin")
        for mixed, ends in (
            (datetime(2026, 10, 24, 23, tzinfo=berlin), datetime(2026, 10, 25, 6, tzinfo=berlin)),
            (datetime(2026, 3, 28, 23, tzinfo=berlin), datetime(2026, 3, 29, 8, tzinfo=berlin)),
        ):
            self.assertEqual(use_by(card, mixed, None), ends)

    def test_cautions_still_to_be_read(self) -> None:
        self.assertEqual(missing_acknowledgements(["alcohol", "neem"], BATCH), ("neem",))


class AfterTheSpray(unittest.TestCase):
    start = datetime(2026, 5, 10, 8)

    def weather(self, field: str, hours: dict[int, float], read: int = 48) -> Weather:
        """Two days of nothing but these hours of one field, of which some are read."""
        values = {name: np.zeros(48) for name in LIMITS}
        for hour, value in hours.items():
            values[field][hour] = value
        return weather_from(self.start, values, read)

    def test_five_millimetres_are_not_yet_a_wash_off(self) -> None:
        self.assertEqual(rain_after(self.weather("rain", {2: 3, 23: 2}), self.start), (5, False))
        self.assertEqual(rain_after(self.weather("rain", {2: 3, 23: 3}), self.start), (6, True))

    def test_the_next_day_s_rain_and_a_forecast_do_not_count(self) -> None:
        self.assertEqual(rain_after(self.weather("rain", {24: 50}), self.start)[0], 0)
        self.assertEqual(rain_after(self.weather("rain", {12: 50}, read=10), self.start)[0], 0)

    def test_unknown_hours_are_left_out(self) -> None:
        weather = self.weather("rain", {2: float("nan"), 3: 7})
        self.assertEqual(rain_after(weather, self.start), (7, True))

    def test_heat_after_an_oil(self) -> None:
        hot = self.weather("temperature", {20: 30.5, 30: 35})
        self.assertEqual(heat_after(hot, self.start, 24, 27), 30.5)
        self.assertIsNone(heat_after(hot, self.start, 12, 27))
        self.assertIsNone(heat_after(hot, self.start, 24, 31))


class Sentences(unittest.TestCase):
    def setUp(self) -> None:
        plants = tuple(Plant(k, f"S{k}", 1, k, remedy_id=7, block=1) for k in range(1, 5))
        self.round = Round(1, 2, 5)
        self.trial = Trial(
            1, "T", "aphids", "live", 0.6, date(2026, 5, 10), None, 1, plants=plants,
            rounds=(self.round,),
        )  # fmt: skip

    def notes(self, *marks: Spray, **changes: object) -> str:
        """The sentences of the round."""
        trial = replace(self.trial, sprays=marks, **changes)  # type: ignore[arg-type]
        return " ".join(round_notes(trial, self.round))

    def mark(self, plant: int, **changes: object) -> Spray:
        """A plant's record."""
        return replace(Spray(1, plant, NOW, volume=40.0), **changes)  # type: ignore[arg-type]

    def test_a_plain_round_says_nothing(self) -> None:
        self.assertEqual(self.notes(*(self.mark(k) for k in range(1, 5))), "")

    def test_skipped_twice_uneven_and_drifted(self) -> None:
        said = self.notes(
            self.mark(1),
            self.mark(2, volume=60.0, undersides=False),
            self.mark(3, kind=SprayKind.SKIPPED, note="a bee", volume=None),
            self.mark(4, drifted=True, neighbour_id=1),
            self.mark(1, kind=SprayKind.AGAIN, deviation="slipped"),
        )
        self.assertIn("skipped S3: a bee", said)
        self.assertIn("S1 sprayed twice against the plan: slipped", said)
        self.assertIn("S2 got another volume than the usual 40 ml", said)
        self.assertIn("undersides were not reached on S2", said)
        self.assertIn("spray for S4 hit S1", said)

    def test_a_plant_skipped_first_and_sprayed_later_is_no_deviation(self) -> None:
        skip = self.mark(1, kind=SprayKind.SKIPPED, note="wet", volume=None)
        self.assertNotIn("skipped", self.notes(skip, self.mark(1)))

    def test_starts_and_events_are_told(self) -> None:
        start = RoundStart(1, NOW, {}, {"window_closed": "no other hour"})
        event = RoundEvent(1, NOW, EventKind.WASHED_OFF, 8, "Round 2: 8 mm of rain.")
        said = self.notes(starts=(start,), events=(event,))
        self.assertIn("outside an open window: no other hour", said)
        self.assertIn("8 mm of rain", said)

    def test_other_rounds_are_not_mixed_in(self) -> None:
        other = replace(self.mark(1), round_id=9, deviation="elsewhere")
        self.assertEqual(self.notes(other), "")


if __name__ == "__main__":
    unittest.main()
