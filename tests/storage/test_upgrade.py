"""Data written by an older version is brought up to date without losing anything."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from contextlib import closing
from importlib.resources import files
from pathlib import Path

from orthocris.core.trial.care import Care, Spot
from orthocris.core.trial.patches import PatchWait
from orthocris.core.trial.plan import Traits
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.stages import Phase, RoundRhythm, Stage
from orthocris.storage.database import Database
from orthocris.storage.trial import reading
from orthocris.storage.trial.plain import (
    care_text,
    read_care,
    read_setup,
    read_traits,
    setup_text,
    traits_text,
)

LATER = ["0002_planning.sql", "0003_care.sql", "0004_kept.sql", "0005_scale.sql"]


class Upgrade(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "old.sqlite"
        script = files("orthocris.storage").joinpath("migrations/0001_trials.sql").read_text()
        with closing(sqlite3.connect(self.path)) as old:
            old.executescript(script)
            old.executescript(
                """
                CREATE TABLE migration (number INTEGER PRIMARY KEY, name TEXT NOT NULL,
                    applied_at TEXT NOT NULL) STRICT;
                INSERT INTO migration VALUES (1, '0001_trials.sql', '2026-05-01');
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
                """
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


class Plain(unittest.TestCase):
    def test_setups_and_traits_come_back_equal(self) -> None:
        setup = Setup(place_cm=12.5, stressed=True, harvest_days=4)
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
