"""Copies of the data: of one moment, looked through, thinned by age; and what is read of damage."""

from __future__ import annotations

import errno
import sqlite3
import tempfile
import threading
import unittest
from contextlib import closing
from datetime import UTC, datetime, timedelta
from importlib.resources import files
from itertools import pairwise
from pathlib import Path
from unittest import mock

from orthocris.storage import backups, upgrade
from orthocris.storage.backups import Backup, Reason
from orthocris.storage.database import Database
from orthocris.storage.salvage import salvage
from orthocris.storage.soundness import DatabaseError

NOW = datetime(2026, 5, 10, 8, tzinfo=UTC)
PAGE = 4096


class Copies(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "orthocris.sqlite"
        self.database = Database(self.file, durable=False)
        self.database.migrate()
        self.addCleanup(self.database.close)

    def write(self, *notes: str) -> None:
        """Keep a line each in one transaction."""
        with self.database.atomic() as connection:
            for said in notes:
                connection.execute("INSERT INTO door_miss (origin, at) VALUES (?, 'now')", (said,))

    def lines(self, file: Path) -> list[str]:
        """What a file holds."""
        with closing(sqlite3.connect(file)) as connection:
            return [
                row[0] for row in connection.execute("SELECT origin FROM door_miss ORDER BY id")
            ]

    def test_a_copy_is_of_one_moment_while_others_write(self) -> None:
        done = threading.Event()

        def writes() -> None:
            k = 0
            while not done.is_set():
                self.write(f"{k}a", f"{k}b")
                k += 1

        writer = threading.Thread(target=writes)
        writer.start()
        try:
            for k in range(8):
                made = backups.make(self.file, Reason.ASKED, NOW + timedelta(seconds=k))
                found = self.lines(backups.folder_of(self.file) / made.name)
                self.assertEqual(len(found) % 2, 0)
                self.assertEqual(found, [f"{n}{e}" for n in range(len(found) // 2) for e in "ab"])
        finally:
            done.set()
            writer.join()
        beside = {place.suffix for place in backups.folder_of(self.file).iterdir()}
        self.assertEqual(beside, {".sqlite"})  # no journal and no draft: each is whole by itself

    def test_damaged_data_is_not_copied_over_good_copies(self) -> None:
        self.write("kept")
        good = backups.make(self.file, Reason.DAILY, NOW)
        self.database.close()
        content = bytearray(self.file.read_bytes())
        content[3 * PAGE : 6 * PAGE] = b"\xff" * (3 * PAGE)
        self.file.write_bytes(content)
        with self.assertRaises(DatabaseError) as caught:
            backups.make(self.file, Reason.DAILY, NOW + timedelta(days=1))
        self.assertEqual(caught.exception.code, "data_damaged")
        self.assertEqual([p.name for p in backups.folder_of(self.file).iterdir()], [good.name])

    def test_a_full_disk_is_told_and_leaves_no_half_copy(self) -> None:
        full = OSError(errno.ENOSPC, "No space left on device")
        with mock.patch("os.fsync", side_effect=full), self.assertRaises(DatabaseError) as caught:
            backups.make(self.file, Reason.ASKED, NOW)
        self.assertEqual(caught.exception.code, "no_backup")
        self.assertIn("No space left", caught.exception.message)
        self.assertEqual(list(backups.folder_of(self.file).iterdir()), [])

    def test_one_is_due_a_day_and_only_where_something_changed(self) -> None:
        now = datetime.now(UTC) + timedelta(seconds=2)  # a copy is named to the second
        self.assertTrue(backups.is_due(self.file, now))
        backups.make(self.file, Reason.DAILY, now)
        self.assertFalse(backups.is_due(self.file, now + timedelta(hours=2)))
        self.assertFalse(backups.is_due(self.file, now + timedelta(days=9)))
        backups.make(self.file, Reason.DAILY, now - timedelta(days=1))
        (backups.folder_of(self.file) / backups.backups_of(self.file)[0].name).unlink()
        self.write("later")
        self.assertTrue(backups.is_due(self.file, now))

    def test_three_years_leave_a_week_of_days_then_weeks_months_and_years(self) -> None:
        kept: tuple[Backup, ...] = (Backup("mine", NOW, Reason.ASKED, 1),)
        for day in range(3 * 365):
            now = NOW + timedelta(days=day)
            kept = (*kept, Backup(f"{day}", now, Reason.DAILY, 1))
            gone = backups.superfluous(kept, now)
            kept = tuple(one for one in kept if one not in gone)
            self.assertEqual(kept[-1].made_at, now)
        ages = sorted((now - one.made_at).days for one in kept if one.reason is Reason.DAILY)
        self.assertEqual(ages[:8], list(range(8)))
        self.assertLessEqual(len(ages), 8 + 9 + 24 + 2)
        gaps = [(a, b - a) for a, b in pairwise(ages)]
        self.assertLessEqual(max(gap for age, gap in gaps if age < 60), 13)
        self.assertLessEqual(max(gap for age, gap in gaps if age < 700), 61)
        self.assertGreater(ages[-1], 700)
        self.assertIn("mine", [one.name for one in kept])  # what was asked for stays

    def test_drafts_of_a_crash_are_swept(self) -> None:
        backups.make(self.file, Reason.ASKED, NOW)
        draft = backups.folder_of(self.file) / "20260510T080000000000Z-daily.sqlite.part"
        draft.write_bytes(b"half")
        backups.thin(self.file, datetime.now(UTC) + timedelta(hours=2))
        self.assertTrue(draft.exists())  # it may be on its way
        backups.thin(self.file, datetime.now(UTC) + timedelta(days=2))
        self.assertFalse(draft.exists())

    def test_strange_files_in_the_folder_are_no_copies(self) -> None:
        folder = backups.folder_of(self.file)
        folder.mkdir()
        for name in ("a.sqlite", "20261399T000000000000Z-daily.sqlite", "20260510T080000000000Z-x"):
            (folder / name).touch()
        self.assertEqual(backups.backups_of(self.file), ())

    def test_a_file_another_program_writes_is_not_replaced(self) -> None:
        self.write("now")
        made = backups.make(self.file, Reason.ASKED, NOW)
        source = backups.folder_of(self.file) / made.name
        with closing(sqlite3.connect(self.file, isolation_level=None)) as other:
            other.execute("BEGIN")
            other.execute("SELECT count(*) FROM door_miss").fetchall()
            self.write("later")
            with self.assertRaises(DatabaseError) as caught:
                self.database.put_in_place(source, lambda: None)
            self.assertEqual(caught.exception.code, "file_in_use")
        self.assertEqual(self.lines(self.file), ["now", "later"])
        self.assertEqual(self.database.put_in_place(source, lambda: "kept"), "kept")
        with self.database.reading() as connection:
            found = connection.execute("SELECT origin FROM door_miss").fetchall()
        self.assertEqual([row[0] for row in found], ["now"])

    def test_before_data_is_brought_up_to_date_a_copy_is_made_or_nothing_is_done(self) -> None:
        self.write("of the older version")
        self.database.close()
        step = upgrade.MIGRATION
        newer = files("orthocris.storage").joinpath("migrations")
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name) / "migrations"
            folder.mkdir()
            for script in newer.iterdir():
                if step.fullmatch(script.name):
                    (folder / script.name).write_text(script.read_text("utf-8"))
            (folder / "9000_more.sql").write_text("CREATE TABLE more (id INTEGER PRIMARY KEY);")
            with mock.patch.object(upgrade, "files", return_value=Path(name)):
                full = DatabaseError("no room")
                with self.assertRaises(DatabaseError):
                    self.database.migrate(mock.Mock(side_effect=full))
                with closing(sqlite3.connect(self.file)) as connection:
                    tables = connection.execute("SELECT name FROM sqlite_master").fetchall()
                self.assertNotIn(("more",), tables)
                self.database.migrate(lambda: backups.make(self.file, Reason.UPGRADE, NOW))
                copy = mock.Mock()
                self.database.migrate(copy)
                copy.assert_not_called()
        (made,) = backups.backups_of(self.file)
        self.assertEqual(made.reason, Reason.UPGRADE)
        self.assertEqual(
            self.lines(backups.folder_of(self.file) / made.name), ["of the older version"]
        )

    def test_of_damaged_data_what_can_be_read_is_saved(self) -> None:
        self.write(*(f"{k:06d}" for k in range(20_000)))
        self.database.close()
        content = bytearray(self.file.read_bytes())
        middle = content.index(b"010000") // PAGE
        content[middle * PAGE : (middle + 2) * PAGE] = b"\xff" * (2 * PAGE)
        self.file.write_bytes(content)
        place = self.file.with_name("salvaged.sqlite")
        found = {one.table: one for one in salvage(self.file, place)}
        told = found["door_miss"]
        self.assertFalse(told.whole)
        self.assertGreater(told.rows, 19_000)
        saved = self.lines(place)
        self.assertEqual((saved[0], saved[-1], len(saved)), ("000000", "019999", told.rows))
        self.assertTrue(found["migration"].whole)
        self.assertEqual(Database(place).migrate(), [])

    def test_rows_whose_reference_is_lost_are_left_out(self) -> None:
        self.database.close()
        with closing(sqlite3.connect(self.file, isolation_level=None)) as connection:
            connection.execute(
                "INSERT INTO practice_leaf VALUES (7, 1, '{}', '{}', 1.0, '2026-05-10')"
            )
        found = {one.table: one for one in salvage(self.file, self.file.with_name("s.sqlite"))}
        self.assertEqual((found["practice_leaf"].rows, found["practice_leaf"].whole), (0, False))
