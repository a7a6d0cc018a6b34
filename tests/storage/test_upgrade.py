"""Data written by an older version is brought up to date without losing anything."""

from __future__ import annotations

import json
import sqlite3
import tempfile
import unittest
from contextlib import closing
from datetime import date
from importlib.resources import files
from pathlib import Path

from orthocris.core.trial.care import Care, Spot
from orthocris.core.trial.patches import PatchWait
from orthocris.core.trial.plan import Traits
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.stages import Phase, RoundRhythm, Stage
from orthocris.storage import weather
from orthocris.storage.database import Database
from orthocris.storage.finding import inspections
from orthocris.storage.soundness import DatabaseError
from orthocris.storage.trial import reading
from orthocris.storage.trial.plain import (
    care_text,
    read_care,
    read_setup,
    read_traits,
    setup_text,
    traits_text,
)
from orthocris.storage.trial.standings import standings

LATER = [
    *("0002_planning.sql", "0003_care.sql", "0004_kept.sql", "0005_scale.sql"),
    *("0006_programmes.sql", "0007_verdicts.sql", "0008_samples.sql"),
    "0009_door.sql",
    *("0010_paper.sql", "0011_deaths.sql", "0012_notebook.sql", "0013_hours.sql"),
    *("0014_counters.sql", "0015_mess.sql", "0016_steps.sql", "0017_own_pests.sql"),
    *("0018_layouts_due.sql", "0019_eaten.sql", "0020_told.sql", "0021_goes_on.sql"),
    *("0022_rest.sql", "0023_journal.sql", "0024_neighbour.sql", "0025_minds.sql"),
    *("0026_journal_photo.sql", "0027_no_nonsense.sql", "0028_second_pest.sql"),
    "0029_grown.sql",
]


class OldFile(unittest.TestCase):
    """A file as an older version left it: its migrations, and lines written by it."""

    def leave(self, migrations: list[str], lines: str) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "old.sqlite"
        with closing(sqlite3.connect(self.path)) as old:
            old.execute(
                "CREATE TABLE migration (number INTEGER PRIMARY KEY, name TEXT NOT NULL,"
                " applied_at TEXT NOT NULL) STRICT"
            )
            for number, name in enumerate(migrations, 1):
                old.executescript(
                    files("orthocris.storage").joinpath(f"migrations/{name}").read_text()
                )
                old.execute("INSERT INTO migration VALUES (?, ?, '2026-05-01')", (number, name))
            old.commit()
            old.executescript(lines)


class Upgrade(OldFile):
    def setUp(self) -> None:
        self.leave(
            ["0001_trials.sql"],
            """
            INSERT INTO trial VALUES (1, 'Old one', 'aphids', 'live', 0.6, '2026-05-10',
                '2026-05-10', 7, '2026-05-01T08:00:00+00:00');
            INSERT INTO remedy VALUES (1, 1, 0, 'Water', 'control', '', 'A', 1);
            INSERT INTO plant VALUES (1, 1, 'S1', 1, 1, 12.0, NULL, 1, 1);
            INSERT INTO look VALUES (1, 1, 0, 0);
            INSERT INTO tally VALUES (1, 1, 1, 'live', 'session-1', 3, 12.0, NULL, 1.0, 1,
                '2026-05-10T08:00:00+00:00');
            INSERT INTO round VALUES (1, 1, 1, 0);
            INSERT INTO spray VALUES (1, 1, 1, '2026-05-10T09:00:00+00:00', NULL);
            INSERT INTO spray VALUES (2, 1, 1, '2026-05-10T08:50:00+00:00',
                '2026-05-10T08:55:00+00:00');
            """,
        )

    def test_an_old_trial_is_whole_with_usual_settings(self) -> None:
        database = Database(self.path)
        self.assertEqual(database.migrate(), LATER)
        with database.reading() as connection:
            trial = reading.load_counted(connection, 1)
        self.assertEqual(trial.name, "Old one")
        self.assertEqual(trial.setup, Setup())
        self.assertEqual(trial.remedies[0].traits, Traits())
        self.assertIsNone(trial.plants[0].size)
        self.assertEqual(trial.tallies[0].value, 12)
        self.assertEqual(trial.tallies[0].counted_on.isoformat(), "2026-05-10")
        self.assertEqual(trial.care, Care())
        (mark,) = trial.sprays
        self.assertIs(mark.kind, SprayKind.SPRAYED)
        self.assertEqual((mark.volume, mark.batch_id, mark.undersides), (None, None, True))
        self.assertEqual((trial.batches, trial.patches, trial.starts), ((), (), ()))

    def test_a_table_made_anew_keeps_what_refers_to_it_and_loses_nothing_unseen(self) -> None:
        with closing(sqlite3.connect(self.path)) as old:  # references asleep: a plant of no trial
            old.execute("INSERT INTO plant VALUES (9, 77, 'S9', 1, 9, 1.0, NULL, NULL, NULL)")
            old.commit()
        database = Database(self.path)
        with self.assertRaises(DatabaseError) as caught:
            database.migrate()
        self.assertIn("plant without what it refers to", caught.exception.message)
        with closing(sqlite3.connect(self.path)) as old:
            self.assertEqual(old.execute("SELECT count(*) FROM tally").fetchone(), (1,))
            old.execute("DELETE FROM plant WHERE id = 9")
            old.commit()
        self.assertEqual(database.migrate(), LATER)
        with database.atomic() as connection:
            connection.execute("DELETE FROM look")  # references are awake again
            (left,) = connection.execute("SELECT count(*) FROM tally").fetchone()
        self.assertEqual(left, 0)

    def test_an_interrupted_upgrade_is_begun_again(self) -> None:
        with closing(sqlite3.connect(self.path)) as old:
            old.execute("CREATE TABLE overrule (x)")  # in the way of the second step
            old.commit()
        database = Database(self.path)
        with self.assertRaises(Exception):  # noqa: B017 - any error will do
            database.migrate()
        with closing(sqlite3.connect(self.path)) as old:
            columns = [row[1] for row in old.execute("PRAGMA table_info(trial)")]
            self.assertNotIn("setup", columns)  # nothing of the step was kept
            old.execute("DROP TABLE overrule")
            old.commit()
        self.assertEqual(database.migrate(), LATER)


class UpgradeOfAnEarlierVersion(OldFile):
    """Words were renamed and sums laid beside the record: all that was known is known still."""

    def setUp(self) -> None:
        care = {
            "leaf_kinds": ["lupin leaves"],
            "patch_school": "week",
            "round_school": "egg_cycle",
            "high": 27.0,
            "stages": [{"name": "eggs", "part": "egg", "k": 60.0, "t0": 11.0}],
        }
        yard = {"name": "Quillon Yard", "latitude": 41.0, "longitude": 0.0, "station": "entered"}
        day = "2026-05-10T08:0"
        self.leave(
            ["0001_trials.sql", *LATER[: LATER.index("0005_scale.sql")]],
            f"""
            INSERT INTO yard VALUES (1, '{json.dumps(yard)}');
            INSERT INTO trial VALUES (1, 'Lupins', 'aphids', 'live', 0.6, '2026-05-10',
                '2026-05-10', 7, '2026-05-01T08:00:00+00:00', '{{}}', NULL, '{json.dumps(care)}',
                NULL);
            INSERT INTO remedy (id, trial_id, position, name, role, recipe, letter, notches)
            VALUES (1, 1, 0, 'Water', 'control', '', 'A', 1),
                (2, 1, 1, 'Soap', 'remedy', '', 'B', 2);
            INSERT INTO plant VALUES (1, 1, 'L1', 1, 1, 12.0, NULL, 1, 1, NULL),
                (2, 1, 'L2', 1, 2, 12.0, NULL, 1, 2, NULL),
                (3, 1, 'L3', 1, 3, 12.0, 'a pot fell', 1, 2, NULL);
            INSERT INTO look VALUES (1, 1, 0, 0), (2, 1, 1, 3);
            INSERT INTO tally VALUES
                (1, 1, 1, 'live', 'session1', 3, 12, NULL, 1, 1, '{day}0:00+00:00', '2026-05-10'),
                (2, 1, 2, 'live', 'session2', 1, 30, NULL, 1, 1, '{day}1:00+00:00', '2026-05-10'),
                (3, 1, 2, 'live', 'session3', 1, 13, NULL, 1, 1, '{day}2:00+00:00', '2026-05-10'),
                (4, 1, 3, 'live', 'session4', 1, 9, NULL, 1, 1, '{day}3:00+00:00', '2026-05-10'),
                (5, 2, 1, 'live', 'session5', 1, 8, NULL, 1, 0, '{day}4:00+00:00', '2026-05-13');
            INSERT INTO round VALUES (1, 1, 1, 0);
            INSERT INTO spray (id, round_id, plant_id, sprayed_at, undone_at, kind) VALUES
                (1, 1, 1, '{day}7:00+00:00', NULL, 'sprayed'),
                (2, 1, 2, '{day}5:00+00:00', '{day}6:00+00:00', 'sprayed'),
                (3, 1, 2, '{day}8:00+00:00', NULL, 'skipped');
            INSERT INTO patch_test VALUES (1, 1, 2, 'lupin leaves', 2, 1, '[24, 48]',
                '2026-05-08T08:00:00+00:00', 0, 0, NULL);
            INSERT INTO patch_look VALUES (1, 1, 24, '2026-05-09T08:00:00+00:00', 1, 0, 'none');
            INSERT INTO quick_look VALUES (1, '2026-05-01T08:00:00+00:00', 'rail', 'aphids', '[]',
                10, 3, 0, 1, 0, 'trial', 'three of ten');
            """,
        )
        database = Database(self.path)
        self.assertEqual(database.migrate(), LATER[LATER.index("0005_scale.sql") :])
        with database.reading() as connection:
            self.trial = reading.load_counted(connection, 1)
            (self.standing,) = standings(connection, 1)
            self.yard = weather.load(connection)
            self.inspections = inspections(connection)
            (self.lines,) = connection.execute("SELECT count(*) FROM tally").fetchone()

    def test_what_was_set_up_is_set_up_still(self) -> None:
        care = self.trial.care
        self.assertEqual((care.patch_wait, care.high), (PatchWait.WEEK, 27))
        self.assertIs(care.round_rhythm, RoundRhythm.EGG_CYCLE)
        self.assertEqual(care.stages, (Stage("eggs", Phase.EGG, 60, 11),))
        self.assertEqual((self.yard.name, self.yard.weather_source), ("Quillon Yard", "entered"))

    def test_what_was_seen_is_known_still(self) -> None:
        self.assertEqual([t.value for t in self.trial.tallies], [12, 13, 9, 8])
        self.assertEqual(self.lines, 5)  # the corrected 30 is on record still
        self.assertEqual([(r.hours, r.treated) for r in self.trial.patches[0].readings], [(24, 1)])
        (seen,) = self.inspections
        self.assertEqual((seen.affected, seen.looked, seen.reason), (3, 10, "three of ten"))

    def test_the_sums_are_those_of_the_record(self) -> None:
        """L3 is set aside, the count of day 3 is not finished, one spray was undone."""
        day_0, day_3 = self.standing.looks
        self.assertEqual((day_0.counted, day_3.counted), (2, 0))
        (round_1,) = self.standing.rounds
        self.assertEqual((round_1.sprayed, round_1.done), (1, 2))

    def test_every_round_was_for_all_and_is_still(self) -> None:
        (round_1,) = self.trial.rounds
        self.assertIsNone(round_1.remedies)
        self.assertEqual(self.standing.due_in(round_1), self.standing.allotted)
        self.assertEqual([r.traits.programme.own for r in self.trial.remedies], [False, False])
        self.assertEqual({p.host for p in self.trial.plants}, {None})


class UpgradeOfAHarvest(OldFile):
    """Days to a harvest told two things at once; a mend had made eaten plants into uneaten ones."""

    def test_eaten_or_not_is_a_fact_and_the_harvest_a_day(self) -> None:
        plan = {"start_on": "2026-05-10", "question": {"setup": {"harvest_days": 6}}}
        self.leave(
            ["0001_trials.sql", *LATER[: LATER.index("0019_eaten.sql")]],
            "".join(
                "INSERT INTO trial (id, name, pest, measure, threshold, start_on, created_at,"
                " setup)"
                f" VALUES ({k}, 'T{k}', 'aphids', 'live', 0.6, '2026-05-10',"
                f" '2026-05-01T08:00:00+00:00', '{json.dumps(setup)}');"
                for k, setup in enumerate(({"harvest_days": 6}, {"harvest_days": None}, {}), 1)
            )
            + "INSERT INTO mend (trial_id, code, label, made_at, before, after) VALUES (3,"
            f" 'near_harvest', 'x', '2026-05-01T08:00:00+00:00', '{json.dumps(plan)}', '{{}}');",
        )
        database = Database(self.path)
        self.assertEqual(database.migrate(), LATER[LATER.index("0019_eaten.sql") :])
        with database.reading() as connection:
            setups = [reading.load(connection, k).setup for k in (1, 2, 3)]
            mended = json.loads(connection.execute("SELECT before FROM mend").fetchone()[0])
        self.assertEqual(setups[0], Setup(eaten=True, harvest_on=date(2026, 5, 16)))
        self.assertEqual(setups[1], Setup())
        self.assertEqual(setups[2], Setup(eaten=True))
        self.assertEqual(mended["question"]["setup"], {"eaten": True, "harvest_on": "2026-05-16"})


class Plain(unittest.TestCase):
    def test_setups_and_traits_come_back_equal(self) -> None:
        setup = Setup(place_cm=12.5, stressed=True, eaten=True, harvest_on=date(2026, 7, 1))
        self.assertEqual(read_setup(setup_text(setup)), setup)
        traits = Traits("mild_soap", "dab", (), 0.0, 9, False)
        self.assertEqual(read_traits(traits_text(traits)), traits)
        self.assertEqual((read_setup("{}"), read_traits("{}")), (Setup(), Traits()))

    def test_care_comes_back_equal(self) -> None:
        care = Care(
            leaf_kinds=("green", "red"),
            patch_wait=PatchWait.WEEK,
            round_rhythm=RoundRhythm.EGG_CYCLE,
            spot=Spot(outdoors=False, lamp_from=6, lamp_to=20),
            high=24.5,
            stages=(Stage("eggs", Phase.EGG, 60, 11),),
        )
        self.assertEqual(read_care(care_text(care)), care)
        self.assertEqual(read_care("{}"), Care())

    def test_stages_no_pest_has_kept_by_an_older_version_do_not_stop_a_trial(self) -> None:
        broken = Care(high=30, stages=(Stage("eggs", Phase.EGG, -1, 11),))
        self.assertEqual(read_care(care_text(broken)), Care(high=30))


if __name__ == "__main__":
    unittest.main()
