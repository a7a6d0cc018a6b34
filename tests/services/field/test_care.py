"""Patch tests, the schedule, the weather and the calendar as the services keep them."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime, timedelta
from fractions import Fraction
from zoneinfo import ZoneInfo

import numpy as np
from icalendar import Calendar

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.field.patchtest import PatchOutcome
from orthocris.core.field.progress import JobKind
from orthocris.core.field.stopping import Next
from orthocris.core.field.thread import State
from orthocris.core.pantry.costs import Price
from orthocris.core.trial.care import Care, Spot
from orthocris.core.trial.patches import Harm
from orthocris.core.trial.sprays import EventKind
from orthocris.core.trial.stages import Phase, RoundRhythm, Stage
from orthocris.core.weather.days import Breeze, Warmth, Wet
from orthocris.core.weather.hours import LIMITS, weather_from
from orthocris.core.weather.sunlight import Place, sun_times
from orthocris.core.weather.yard import WeatherSource, Yard
from orthocris.formats.weather_table import write_weather
from orthocris.services.field import batches, calendars, moves, patches, schedule
from orthocris.services.field.patches import PatchDraft
from orthocris.services.trial import overviews
from orthocris.services.verdict import judging as verdicts
from orthocris.services.weather import ribbons, weathering, yards
from tests.services.world import ServiceCase

LEAVES = "the trial's plants"


class Weathered(ServiceCase):
    """A laid-out trial in a yard whose weather the test writes."""

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.count_all(0, 30, 30)

    def weather(self, **changes: dict[int, float]) -> None:
        """Ten days from midnight of the 10th: 18 °C, dry, calm; changes by field and hour."""
        usual = {"temperature": 18.0, "humidity": 60.0, "rain": 0.0, "wind": 5.0, "sun": 0.0}
        values = {field: np.full(240, usual[field]) for field in LIMITS}
        for field, hours in changes.items():
            for hour, value in hours.items():
                values[field][hour] = value
        table = write_weather(weather_from(datetime(2026, 5, 10), values, 240))
        yards.read_in_weather(self.context, table)

    def care(self, **changes: object) -> None:
        """Change how the trial is cared for."""
        patches.change_care(self.context, self.trial_id, Care(**changes))  # type: ignore[arg-type]


class PatchTests(Weathered):
    def test_each_remedy_on_each_kind_is_planned(self) -> None:
        self.care(leaf_kinds=("green", "red"))
        plan = patches.patch_plan(self.context, self.trial_id)
        self.assertEqual(
            [(c.remedy.name, c.leaf_kind, c.hours) for c in plan.cells],
            [("Soap", "green", (24, 48)), ("Soap", "red", (24, 48))],
        )

    def test_looks_can_be_corrected_and_tests_withdrawn(self) -> None:
        soap = self.trial.remedies[1].id
        patch = patches.put_on(self.context, self.trial_id, PatchDraft(soap, LEAVES))
        self.later(1)

        def look(treated: int) -> PatchOutcome:
            return patches.look_at(
                self.context,
                self.trial_id,
                patch,
                hours=24,
                treated=treated,
                beside=0,
                harm=Harm.NONE,
            ).outcome

        self.assertIs(look(3), PatchOutcome.FAILED)
        self.assertIs(look(0), PatchOutcome.RUNNING)
        patches.withdraw(self.context, self.trial_id, patch)
        self.assertEqual(self.trial.patches, ())
        with self.context.database.reading() as connection:
            kept = connection.execute("SELECT count(*) AS n FROM patch_reading").fetchone()
        self.assertEqual(kept["n"], 2)

    def test_a_kind_that_failed_is_left_out_with_its_record(self) -> None:
        soap = self.trial.remedies[1].id
        patches.put_on(self.context, self.trial_id, PatchDraft(soap, LEAVES))
        self.care(leaf_kinds=("firm leaves",))
        fresh, old = patches.patch_plan(self.context, self.trial_id).cells
        self.assertEqual((fresh.leaf_kind, fresh.left_out, fresh.tests), ("firm leaves", False, ()))
        self.assertEqual((old.leaf_kind, old.left_out, len(old.tests)), (LEAVES, True, 1))

    def test_put_on_yesterday_it_is_looked_at_today_and_late_damage_counts(
        self,
    ) -> None:
        soap = self.trial.remedies[1].id
        on = self.now - timedelta(hours=25)
        draft = PatchDraft(soap, LEAVES, applied_at=on)
        patch = patches.put_on(self.context, self.trial_id, draft)

        def look(hours: int, treated: int) -> PatchOutcome:
            return patches.look_at(
                self.context,
                self.trial_id,
                patch,
                hours=hours,
                treated=treated,
                beside=0,
                harm=Harm.NONE,
            ).outcome

        self.assertIs(look(24, 0), PatchOutcome.RUNNING)
        with self.assertRaises(InputError):
            look(30, 0)  # between the planned ones
        self.later(1)
        self.assertIs(look(48, 0), PatchOutcome.PASSED)
        with self.assertRaises(InputError):
            look(120, 3)  # not yet
        self.later(4)
        self.assertIs(look(120, 3), PatchOutcome.FAILED)

    def test_what_is_tried_is_mixed_first_and_can_be_kept(self) -> None:
        (one,) = patches.test_mixes(self.context, self.trial_id)
        assert one.mix is not None
        self.assertEqual((one.remedy.name, one.volume), ("Soap", 100))
        batch = batches.record_batch(
            self.context,
            self.trial_id,
            one.remedy.id,
            batches.BatchDraft(volume=float(one.volume), note="test mix"),
        )
        self.assertEqual(batches.batch_of(self.context, self.trial_id, batch)[1].volume, 100)

    def test_what_cannot_be_put_on(self) -> None:
        water, soap = (r.id for r in self.trial.remedies)
        for draft, kind in (
            (PatchDraft(water, LEAVES), NotFoundError),
            (PatchDraft(soap, "cactus"), InputError),
            (PatchDraft(soap, LEAVES, leaves=0), InputError),
            (PatchDraft(soap, LEAVES, strength=1.5), InputError),
            (PatchDraft(soap, LEAVES, applied_at=self.now + timedelta(hours=1)), InputError),
            (PatchDraft(soap, LEAVES, applied_at=self.now - timedelta(days=90)), InputError),
        ):
            with self.subTest(draft), self.assertRaises(kind):
                patches.put_on(self.context, self.trial_id, draft)


class Ribbons(Weathered):
    def test_the_ribbon_shows_the_record_and_the_next_days(self) -> None:
        self.weather(rain={24 + 10: 2.0}, wind=dict.fromkeys(range(48, 72), 30.0))
        self.open_key()
        ribbon = ribbons.ribbon_of(self.context, self.trial_id)
        self.assertEqual(
            (ribbon.station, len(ribbon.hours), len(ribbon.days)), ("hourly record", 24, 6)
        )
        self.assertTrue(ribbon.hours[8].open)
        self.assertTrue(ribbon.hours[9].forecast)
        self.assertEqual(ribbon.hours[0].closed_by, "dark")
        self.assertIsNone(ribbon.days[2].best)
        self.assertEqual(ribbon.days[2].why, "wind")
        self.assertEqual([r.letter for r in ribbon.rows], [self.trial.remedies[1].letter])

    def test_limits_of_the_trial_rule(self) -> None:
        self.weather()
        self.care(high=17.0)
        hour = ribbons.ribbon_of(self.context, self.trial_id).hours[9]
        self.assertEqual(hour.closed_word, "too warm")

    def test_the_best_hour_goes_with_the_job(self) -> None:
        self.weather(temperature=dict.fromkeys(range(8, 18), 3.0))
        due = overviews.overview(self.context, self.trial_id).jobs
        spray = next(j for j in due if j.kind is JobKind.SPRAY)
        assert spray.at is not None
        self.assertEqual(spray.at.hour, 18)
        self.assertIsNone(next((j.at for j in due if j.kind is JobKind.COUNT), None))

    def test_a_day_by_hand_serves_where_there_is_no_station(self) -> None:
        self.assertFalse(ribbons.yard_ribbon(self.context).known)
        due = overviews.overview(self.context, self.trial_id).jobs
        self.assertFalse([j.note for j in due if "no open hour" in j.note])  # nobody knows
        yards.say_today(self.context, Warmth.MILD, Breeze.LEAVES, Wet.NONE)
        ribbon = ribbons.yard_ribbon(self.context)
        self.assertEqual((ribbon.known, ribbon.by_hand), (True, True))
        self.assertTrue(any(hour.open for hour in ribbon.hours))
        yards.say_today(self.context, Warmth.MILD, Breeze.LEAVES, Wet.LATER)  # it is 8 o'clock
        wet = [hour.rain for hour in ribbons.yard_ribbon(self.context).hours]
        self.assertEqual((wet[10], bool(wet[11])), (0.0, True))
        yards.say_today(self.context, Warmth.HOT, Breeze.BRANCHES, Wet.NONE)
        self.assertFalse(any(hour.open for hour in ribbons.yard_ribbon(self.context).hours))

    def test_indoors_the_lamp_alone_decides(self) -> None:
        self.care(spot=Spot(outdoors=False, lamp_from=6, lamp_to=20))
        ribbon = ribbons.ribbon_of(self.context, self.trial_id)
        self.assertEqual([h.open for h in ribbon.hours].index(True), 0)
        self.assertEqual(ribbon.hours[12].closed_word, "the lamp is on")
        self.assertTrue(ribbon.hours[21].open)


class AfterTheSpray(Weathered):
    def test_rain_is_logged_as_wash_off_and_brings_the_next_round_forward(self) -> None:
        """6 mm twelve hours after the spray; day 5 was planned, day 3 is the first allowed."""
        self.weather(rain={20: 6.0})
        self.spray_all()
        self.assertEqual(weathering.log_weather(self.context), 0)  # it has not fallen yet
        self.later(1)
        self.assertEqual(weathering.log_weather(self.context), 1)
        self.assertEqual(weathering.log_weather(self.context), 0)
        (event,) = self.trial.events
        self.assertIs(event.kind, EventKind.WASHED_OFF)
        self.assertAlmostEqual(event.amount, 6)
        moved = schedule.schedule_of(self.context, self.trial_id).moved
        assert moved is not None
        self.assertEqual(moved.on, date(2026, 5, 13))
        job = overviews.overview(self.context, self.trial_id).jobs[0]
        self.assertEqual((job.station, job.due_on), ("rounds", self.now.date()))
        self.assertIn("washed round 1 off", job.note)
        self.later(2)
        self.count_all(1, 3, 31)
        notes = verdicts.verdict_of(self.context, self.trial_id).notes
        self.assertIn("logged as wash-off", " ".join(notes))

    def test_little_rain_is_no_wash_off(self) -> None:
        self.weather(rain={20: 4.0, 60: 20.0})
        self.spray_all()
        self.later(2.9)
        self.assertEqual(weathering.log_weather(self.context), 0)

    def test_a_missed_day_is_moved_to_the_next_open_one(self) -> None:
        self.weather(wind=dict.fromkeys(range(6 * 24, 7 * 24), 40.0))
        self.spray_all()
        self.later(6)
        moved = schedule.schedule_of(self.context, self.trial_id).moved
        assert moved is not None
        self.assertEqual(moved.on, date(2026, 5, 17))
        self.assertIn("was missed", moved.reason)

    def test_generations_use_the_station_s_degrees(self) -> None:
        """Own stages: eggs 40 above 10 °C at 18 °C need 4.5 days for 90%, young 48 + 8 seven."""
        self.weather()
        self.care(
            round_rhythm=RoundRhythm.EGG_CYCLE,
            stages=(
                Stage("eggs", Phase.EGG, 40, 10),
                Stage("young", Phase.YOUNG, 48, 10),
                Stage("adults", Phase.LAYING, 8, 10),
            ),
        )
        self.spray_all()
        found = schedule.schedule_of(self.context, self.trial_id)
        assert found.generations is not None
        self.assertTrue(found.degree_days)
        self.assertEqual(found.generations.hatched_on, date(2026, 5, 14))
        self.assertEqual(found.generations.lays_on, date(2026, 5, 17))
        self.assertIs(found.proposals[0].rhythm, RoundRhythm.EGG_CYCLE)
        self.assertEqual(found.proposals[0].on, date(2026, 5, 15))

    def test_a_proposal_avoids_a_day_without_an_open_hour(self) -> None:
        """The 15th is proposed of the 14th to the 16th; a storm on it moves it to the 14th."""
        self.weather(wind=dict.fromkeys(range(5 * 24, 6 * 24), 50.0))
        self.care(
            round_rhythm=RoundRhythm.EGG_CYCLE,
            stages=(
                Stage("eggs", Phase.EGG, 40, 10),
                Stage("young", Phase.YOUNG, 48, 10),
                Stage("adults", Phase.LAYING, 8, 10),
            ),
        )
        self.spray_all()
        found = schedule.schedule_of(self.context, self.trial_id).proposals[0]
        self.assertEqual((found.first, found.on), (date(2026, 5, 14), date(2026, 5, 14)))
        self.later(12)  # what has passed is never proposed
        later = schedule.schedule_of(self.context, self.trial_id).proposals[0]
        self.assertEqual(later.on, self.now.date())

    def test_the_stopping_rule_reads_the_counts(self) -> None:
        self.spray_all()
        self.later(3)
        self.count_all(1, 12, 33)
        decision = schedule.schedule_of(self.context, self.trial_id).advice
        assert decision is not None
        self.assertIs(decision.action, Next.NEXT_ROUND)
        self.assertNotIn("Soap", decision.reason)
        self.count_all(1, 0, 33)
        found = schedule.schedule_of(self.context, self.trial_id).advice
        assert found is not None
        self.assertIs(found.action, Next.STOP)


class MovedRounds(Weathered):
    def move(self, number: int, on: date, reason: str = "rain") -> None:
        """Move a round."""
        moves.move_round(self.context, self.trial_id, number, on, reason)

    def test_a_move_is_kept_with_its_reason(self) -> None:
        self.spray_all()
        self.move(2, date(2026, 5, 16))
        self.assertEqual([r.day for r in self.trial.rounds], [0, 6])
        self.assertIn("from day 5 to day 6: rain", self.trial.events[0].text)
        self.assertEqual([look.day for look in self.trial.looks], [0, 3, 7])

    def test_a_round_behind_the_last_look_brings_a_look_with_it(self) -> None:
        self.spray_all()
        self.move(2, date(2026, 5, 18))
        self.assertEqual([look.day for look in self.trial.looks], [0, 3, 7, 11])
        self.move(3, date(2026, 5, 25), "still heavy")
        self.assertEqual([r.day for r in self.trial.rounds], [0, 8, 15])
        self.assertEqual(self.trial.looks[-1].day, 18)

    def test_a_round_is_left_out_as_the_look_says_and_brought_back(self) -> None:
        self.spray_all()
        self.later(3)
        self.count_all(1, 0, 33)
        due = overviews.overview(self.context, self.trial_id).jobs
        spray = next(j for j in due if j.kind is JobKind.SPRAY)
        self.assertEqual(spray.note, "the last look says: spray no more")
        leave = moves.leave_out
        leave(self.context, self.trial_id, 2, "as good as gone")
        kinds = [j.kind for j in overviews.overview(self.context, self.trial_id).jobs]
        self.assertEqual(kinds, [JobKind.COUNT])
        self.later(4)
        self.count_all(2, 0, 35)
        overview = overviews.overview(self.context, self.trial_id)
        self.assertEqual(overview.stations[5].state, State.DONE)
        notes = " ".join(verdicts.verdict_of(self.context, self.trial_id).notes)
        self.assertIn("Round 2 (day 5) was left out: as good as gone", notes)
        self.assertNotIn("was not sprayed", notes)
        self.move(2, date(2026, 5, 18), "they are back")
        self.assertFalse(self.trial.left_out(self.trial.rounds[1]))
        with self.assertRaises(ConflictError):
            leave(self.context, self.trial_id, 1, "no")

    def test_moves_that_cannot_be(self) -> None:
        self.spray_all()
        for number, on, reason, kind in (
            (1, date(2026, 5, 12), "rain", ConflictError),
            (2, date(2026, 5, 10), "rain", InputError),
            (2, date(2026, 5, 16), " ", InputError),
            (4, date(2026, 5, 16), "rain", NotFoundError),
            (2, date(2028, 5, 16), "rain", InputError),
        ):
            with self.subTest(on), self.assertRaises(kind):
                self.move(number, on, reason)
        self.assertEqual(self.trial.events, ())


class InTheCalendar(Weathered):
    def test_every_job_without_a_remedy_s_name(self) -> None:
        self.weather()
        raw = calendars.calendar_of(self.context)
        titles = [str(e["summary"]) for e in Calendar.from_ical(raw).walk("VEVENT")]
        self.assertIn("Spray, round 1: Gutters", titles)
        self.assertIn("Put on the patch tests: Gutters", titles)
        self.assertNotIn(b"Soap", raw)
        soap = self.trial.remedies[1].id
        kinds = replace(self.trial.care, leaf_kinds=("old", "young"))
        patches.change_care(self.context, self.trial_id, kinds)
        patches.put_on(self.context, self.trial_id, PatchDraft(soap, "old"))
        again = Calendar.from_ical(calendars.calendar_of(self.context))
        uids = [str(e["uid"]) for e in again.walk("VEVENT")]
        self.assertEqual(sum("-patch-" in uid for uid in uids), 2)  # put on, and look at
        self.assertEqual(len(set(uids)), len(uids))

    def test_hours_after_a_change_of_the_clock_are_those_of_the_clock(self) -> None:
        """The clocks go back in the night to 25 October: 8 o'clock is 07:00 UTC then, not 06:00."""
        berlin = ZoneInfo("Europe/Berlin")
        self.now = datetime(2026, 10, 22, 9, tzinfo=berlin)
        known = yards.yard_of(self.context)
        yards.change_yard(
            self.context,
            replace(known, weather_source=WeatherSource.SIMULATED, latitude=52, longitude=13),
        )
        days = ribbons.yard_ribbon(self.context).days
        offsets = {d.day: d.best.utcoffset() for d in days if d.best is not None}
        self.assertEqual(offsets[date(2026, 10, 23)], timedelta(hours=2))
        self.assertEqual(offsets[date(2026, 10, 26)], timedelta(hours=1))
        summer, winter = (
            sun_times(Place(52, 13, zone=berlin), date(2026, 10, d)).rise for d in (24, 25)
        )
        self.assertAlmostEqual(summer - winter, 1.0, delta=0.05)


class TheYard(ServiceCase):
    def test_settings_and_prices_are_kept(self) -> None:
        wanted = Yard(
            name="Steps", latitude=-33.9, bottles=(750.0,), weather_source=WeatherSource.SIMULATED
        )
        yards.change_yard(self.context, wanted)
        self.assertEqual(yards.yard_of(self.context), wanted)
        packs = [Price("soap", Fraction(500), Fraction("3.95"))]
        yards.change_prices(self.context, packs)
        self.assertEqual(list(yards.prices_of(self.context)), packs)

    def test_what_cannot_be_a_yard(self) -> None:
        for yard, field in (
            (Yard(latitude=95), "latitude"),
            (Yard(name=" "), "name"),
            (Yard(bottles=()), "bottles"),
            (Yard(tools=("ladle",)), "tools"),
            (Yard(drop=5), "drop"),
        ):
            with self.subTest(field), self.assertRaises(InputError) as caught:
                yards.change_yard(self.context, yard)
            self.assertEqual(caught.exception.field, field)
        for prices in (
            [Price("soap", Fraction(0), Fraction(1))],
            [Price("soap", Fraction(5), Fraction(-1))],
            [Price("oil", Fraction(5), Fraction(1)), Price(" Oil", Fraction(5), Fraction(1))],
        ):
            with self.assertRaises(InputError):
                yards.change_prices(self.context, prices)

    def test_the_weather_can_be_taken_along(self) -> None:
        yards.change_yard(self.context, Yard(weather_source=WeatherSource.SIMULATED, seed=9))
        table = yards.weather_table(self.context, 3)
        hours = yards.read_in_weather(self.context, table)
        self.assertEqual(hours, (3 + 6) * 24)
        self.assertIs(yards.yard_of(self.context).weather_source, WeatherSource.RECORD)
        self.now += timedelta(hours=1)
        self.assertTrue(ribbons.yard_ribbon(self.context).known)
