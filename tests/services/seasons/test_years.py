"""A garden's year: written down from week to week, expected the year after, due on Today."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.finding.triage import Sighting
from orthocris.core.seasons.journal import EntryDraft, EntryKind, Level
from orthocris.core.trial.setup import Kind, Setup
from orthocris.core.verdict.frozen import FrozenVerdict
from orthocris.core.weather.days import DayEntry, Sky
from orthocris.core.weather.yard import WeatherSource
from orthocris.services.field.calendars import calendar_of
from orthocris.services.finding import keep_inspection
from orthocris.services.seasons.writing import finish_task, journal_table, take_back, write_entry
from orthocris.services.seasons.years import GardenJob, Lane, garden_jobs, garden_year
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import today
from orthocris.services.weather import yards
from orthocris.storage import verdicts
from orthocris.storage import weather as yard
from tests.services.world import QUESTION, ServiceCase


class Seasons(ServiceCase):
    def look(
        self, on: date, level: Level = Level.SOME, place: str = "Stairs", pest: str = "thrips"
    ) -> int:
        """A look round."""
        return write_entry(self.context, EntryDraft(EntryKind.LOOK, on, place, pest, level), None)

    def lane(self, place: str = "") -> Lane:
        """The one lane there is."""
        (found,) = garden_year(self.context, None, place).lanes
        return found

    def jobs(self) -> list[GardenJob]:
        """What is due in the garden."""
        with self.context.database.reading() as connection:
            return garden_jobs(connection, self.now, yard.load(connection))

    def test_what_came_last_year_is_looked_for_before_it_comes_again(self) -> None:
        self.look(date(2025, 5, 30))
        lane = self.lane()
        assert lane.expected is not None
        self.assertEqual(
            (lane.name, lane.this, lane.expected.on), ("Thrips", None, date(2026, 5, 30))
        )
        self.assertIn("one year says little", lane.said)
        (job,) = self.jobs()
        self.assertEqual((job.title, job.due_on), ("Look for thrips at Stairs", date(2026, 5, 2)))
        self.assertEqual([job.key for job in today(self.context).garden], ["lane-thrips"])
        self.look(date(2026, 5, 9), Level.NONE, "stairs")
        (job,) = self.jobs()
        self.assertEqual(job.due_on, date(2026, 5, 16))
        self.assertIn(b"Look for thrips at Stairs", calendar_of(self.context))
        self.look(date(2026, 5, 10), Level.FEW)
        self.assertEqual(self.jobs(), [])  # it is here: now it is for Find out and a trial
        self.assertIsNone(self.lane().expected)

    def test_whoever_prevents_is_asked_to_do_it_again_and_sooner_after_rain(self) -> None:
        self.look(date(2025, 5, 30))
        draft = EntryDraft(EntryKind.TREATED, date(2026, 5, 3), "Stairs", "thrips", what="Soap")
        write_entry(self.context, draft)
        yards.enter_day(
            self.context, DayEntry(date(2026, 5, 4), 8.0, 18.0, 5.0, Sky.CLEAR, 0.0, 0, 24)
        )
        self.now = datetime(2026, 5, 12, 8, tzinfo=UTC)
        (job,) = self.jobs()
        self.assertEqual((job.title, job.due_on), ("Prevent thrips at Stairs", date(2026, 5, 17)))
        yards.enter_day(
            self.context, DayEntry(date(2026, 5, 5), 8.0, 18.0, 5.0, Sky.CLEAR, 12.0, 8, 12)
        )
        (job,) = self.jobs()  # an hour that came is read, though the year was read before
        self.assertEqual(job.due_on, date(2026, 5, 10))

    def test_a_warm_spring_brings_it_forward_and_hours_changed_later_are_read(self) -> None:
        yard = yards.yard_of(self.context)
        yards.change_yard(
            self.context, replace(yard, weather_source=WeatherSource.SIMULATED, seed=3, latitude=50)
        )
        self.look(date(2025, 6, 10))
        usual = self.lane().expected
        self.look(date(2026, 2, 20))
        found = garden_year(self.context)
        (first,) = [lane.this for lane in found.lanes]
        assert first is not None  # one number for a day, in the band and in the journal
        self.assertEqual(list(found.gathered.values()), [first.degree_days])
        take_back(self.context, found.entries[0].id or 0)
        yards.change_yard(
            self.context,
            replace(yard, weather_source=WeatherSource.SIMULATED, seed=4, latitude=50, mild=14),
        )
        other = self.lane().expected
        assert usual is not None and other is not None
        self.assertIsNotNone(usual.ahead)
        self.assertNotEqual(usual.on, other.on)

    def test_trials_are_sightings_but_those_that_ask_what_keeps_it_away(self) -> None:
        with self.context.database.atomic() as connection:
            connection.execute("UPDATE trial SET sprayed_on = '2026-05-01'")
        kept_away = questions.create_trial(
            self.context,
            replace(QUESTION, name="Clean ones", setup=Setup(kind=Kind.PREVENTION)),
            self.now.date(),
        )
        with self.context.database.atomic() as connection:
            connection.execute(
                "UPDATE trial SET sprayed_on = '2026-04-01' WHERE id = :id", {"id": kept_away}
            )
        lane = self.lane()
        assert lane.this is not None
        self.assertEqual((lane.pest, lane.this.sighting.on), ("spider_mites", date(2026, 5, 1)))
        self.assertEqual([mark.words for mark in lane.trials], ["Gutters"])
        self.assertEqual(garden_year(self.context, None, "Stairs").lanes, ())
        verdict = {
            "outcome": "winner",
            "recommended": "Soap",
            "remedies": [{"name": "Soap", "efficacy": 0.86}],
        }
        with self.context.database.atomic() as connection:
            record = FrozenVerdict(self.now, "1", 77, "", verdict)
            verdicts.keep_verdict(connection, self.trial_id, 1, record)
        self.assertEqual(self.lane().trials[0].words, "Soap, 86%")

    def test_south_of_the_equator_the_year_turns_in_july(self) -> None:
        yards.change_yard(self.context, replace(yards.yard_of(self.context), latitude=-41))
        self.look(date(2025, 6, 30))
        self.look(date(2025, 7, 1), Level.FEW)
        year = garden_year(self.context)
        self.assertEqual((year.name, year.start), ("2025/26", date(2025, 7, 1)))
        self.assertEqual(year.years, (date(2024, 7, 1), date(2025, 7, 1)))
        (lane,) = year.lanes
        self.assertEqual([first.sighting.on for first in lane.firsts], [date(2025, 6, 30)])
        before = garden_year(self.context, date(2024, 7, 1))
        self.assertEqual([entry.draft.on for entry in before.entries], [date(2025, 6, 30)])
        with self.assertRaises(NotFoundError):
            garden_year(self.context, date(2024, 1, 1))

    def test_an_old_notebook_of_twenty_years_and_a_pest_nobody_knows(self) -> None:
        for year in range(2006, 2026):
            self.look(date(year, 5, 20), pest="Leaf rollers of sorts", place="Ferns")
        lane = self.lane()
        assert lane.expected is not None
        self.assertEqual((len(lane.firsts), lane.expected.years), (20, 20))
        self.assertEqual(lane.name, "Leaf rollers of sorts")
        self.assertIn("from 20 years", lane.said)

    def test_what_was_found_out_is_a_look_round_too(self) -> None:
        for place, affected in (("Stairs", 4), ("", 10), ("Rail", 0)):
            keep_inspection(self.context, "thrips", place, ["bumps"], Sighting(10, affected))
        year = garden_year(self.context)
        told = {(e.id, e.draft.place, e.draft.level) for e in year.entries}
        self.assertEqual(told, {(None, "Rail", Level.NONE), (None, "Stairs", Level.SOME)})
        lane = self.lane()
        assert lane.this is not None
        self.assertEqual(lane.this.sighting.place, "Stairs")

    def test_a_newcomer_is_due_each_week(self) -> None:
        write_entry(
            self.context,
            EntryDraft(EntryKind.NEWCOMER, self.now.date(), "Sill", what="A fuchsia"),
        )
        (job,) = self.jobs()
        self.assertEqual(job.due_on, self.now.date() + timedelta(days=7))
        self.assertEqual((job.title, job.place), ("Look at the newcomer: A fuchsia", "Sill"))

    def test_a_task_stands_on_today_until_it_is_done_and_comes_again(self) -> None:
        draft = EntryDraft(
            EntryKind.TASK, self.now.date() + timedelta(days=2), "Sill", what="Refill", every=14
        )
        made = write_entry(self.context, draft)
        (job,) = today(self.context).garden
        self.assertEqual((job.title, job.due_on, job.note), ("Refill", draft.on, "every 14 days"))
        self.later(5)
        finish_task(self.context, made)
        year = garden_year(self.context)
        self.assertEqual([e.finished_on for e in year.entries], [self.now.date()])
        (task,) = year.tasks
        self.assertEqual(task.draft.on, self.now.date() + timedelta(days=14))
        with self.assertRaises(NotFoundError):
            finish_task(self.context, made)
        write_entry(self.context, EntryDraft(EntryKind.AIR, self.now.date(), "Sill", humidity=72.5))
        self.assertIn("72%, the mean of 1", garden_year(self.context).air)
        self.assertIn(",air,Sill,,,,,,72.5,,", journal_table(self.context).decode())

    def test_a_line_is_kept_once_is_taken_back_and_leaves_a_trace(self) -> None:
        draft = EntryDraft(EntryKind.LOOK, self.now.date(), " The  stairs ", "thrips", Level.FEW)
        made = write_entry(self.context, draft, "one key of mine")
        self.assertEqual(write_entry(self.context, draft, "one key of mine"), made)
        with self.assertRaises(ConflictError):
            write_entry(self.context, replace(draft, level=Level.MANY), "one key of mine")
        (entry,) = garden_year(self.context).entries
        self.assertEqual(entry.draft.place, "The stairs")
        take_back(self.context, made)
        self.assertEqual(garden_year(self.context).entries, ())
        with self.assertRaises(NotFoundError):
            take_back(self.context, made)
        with self.context.database.reading() as connection:
            (row,) = connection.execute("SELECT undone_at FROM journal").fetchall()
        self.assertIsNotNone(row["undone_at"])
        with self.assertRaises(InputError):
            write_entry(self.context, replace(draft, on=self.now.date() + timedelta(days=1)))

    def test_the_table_runs_no_formula(self) -> None:
        draft = EntryDraft(EntryKind.TREATED, self.now.date(), "=1+1", "thrips", what='@soap"')
        write_entry(self.context, replace(draft, note="two\nlines"))
        lines = journal_table(self.context).decode()
        self.assertIn('2026-05-10,treated,\'=1+1,thrips,,,"\'@soap""","two\nlines"', lines)
