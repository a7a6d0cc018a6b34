"""The data file: strict, migrated step by step, all or nothing."""

from __future__ import annotations

import random
import sqlite3
import tempfile
import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from unittest import mock

from orthocris.storage import database
from orthocris.storage.database import Database
from orthocris.storage.soundness import DatabaseError


class TheFile(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.database = Database(Path(folder.name) / "data.sqlite")
        self.database.migrate()

    def test_migrating_twice_changes_nothing(self) -> None:
        self.assertEqual(self.database.migrate(), [])

    def test_durable_and_guarded(self) -> None:
        with self.database.reading() as connection:
            pragma = {
                name: connection.execute(f"PRAGMA {name}").fetchone()[0]
                for name in ("journal_mode", "foreign_keys", "synchronous")
            }
            tables = connection.execute(
                "SELECT name FROM sqlite_master WHERE type = 'table' AND sql NOT LIKE '%STRICT%'"
            ).fetchall()
        self.assertEqual(pragma, {"journal_mode": "wal", "foreign_keys": 1, "synchronous": 2})
        self.assertEqual([t["name"] for t in tables], [])

    def test_an_error_keeps_nothing(self) -> None:
        insert = (
            "INSERT INTO trial (name, pest, measure, threshold, start_on, created_at)"
            " VALUES ('x', 'aphids', 'live', :threshold, '2026-05-01', 'now')"
        )
        with self.assertRaises(sqlite3.IntegrityError), self.database.atomic() as connection:
            connection.execute(insert, {"threshold": 0.5})
            connection.execute(insert, {"threshold": 1.5})
        with self.database.reading() as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM trial").fetchone()[0], 0)

    def test_all_who_wait_for_another_program_wait_together(self) -> None:
        def tap(_: int) -> float:
            began = time.monotonic()
            with self.assertRaises(sqlite3.OperationalError), self.database.atomic():
                self.fail("another program writes")
            return time.monotonic() - began

        other = sqlite3.connect(self.database.path, isolation_level=None)
        self.addCleanup(other.close)
        other.execute("BEGIN IMMEDIATE")
        with mock.patch.object(database, "WAIT", 0.6), ThreadPoolExecutor(6) as crowd:
            waited = list(crowd.map(tap, range(6)))
        self.assertLess(max(waited), 1.2)
        other.execute("ROLLBACK")
        with self.database.atomic() as connection:  # and the next is kept again
            connection.execute("SELECT 1")

    def again(self) -> list[str]:
        """Start anew on the same file."""
        return Database(self.database.path).migrate()

    def test_another_program_s_file_is_not_written_to(self) -> None:
        other = self.database.path.with_name("other.sqlite")
        with closing(sqlite3.connect(other)) as made:
            made.execute("CREATE TABLE song (name TEXT)")
            made.commit()
        before = other.read_bytes()
        with self.assertRaises(DatabaseError) as caught:
            Database(other).migrate()
        self.assertEqual((caught.exception.code, other.read_bytes()), ("not_ours", before))

    def test_an_empty_file_where_a_garden_was_is_no_new_garden(self) -> None:
        self.database.close()
        (self.database.path.parent / "pictures").mkdir()
        self.database.path.write_bytes(b"")
        with self.assertRaisesRegex(DatabaseError, "a garden was kept here"):
            self.again()
        self.assertEqual(self.database.path.stat().st_size, 0)
        with tempfile.TemporaryDirectory() as name:  # alone in its folder it may be begun in
            alone = Path(name) / "data.sqlite"
            alone.touch()
            self.assertTrue(Database(alone).migrate())

    def test_a_journal_that_is_gone_after_a_crash_is_noticed(self) -> None:
        with self.database.atomic() as connection:
            connection.execute("DELETE FROM price")
        journal = self.database.path.with_name("data.sqlite-wal")
        self.assertTrue(journal.exists())
        with tempfile.TemporaryDirectory() as name:  # as a crash leaves it
            left = Path(name)
            for file in self.database.path.parent.iterdir():
                (left / file.name).write_bytes(file.read_bytes())
            self.assertEqual(Database(left / "data.sqlite").migrate(), [])
            for file in self.database.path.parent.iterdir():
                (left / file.name).write_bytes(file.read_bytes())
            (left / "data.sqlite-wal").unlink()
            with self.assertRaises(DatabaseError) as caught:
                Database(left / "data.sqlite").migrate()
            self.assertEqual(caught.exception.code, "journal_gone")
        self.database.close()  # in good order nothing is missing
        self.assertFalse(journal.exists())
        self.assertEqual(self.again(), [])

    def test_the_full_check_finds_what_the_quick_one_passes(self) -> None:
        """An index that does not agree with its rows, and a row that refers to nothing."""
        self.database.check()
        with self.database.reading():
            pass
        with closing(sqlite3.connect(self.database.path)) as other:
            other.execute(
                "INSERT INTO remedy (trial_id, position, name, role, recipe, traits)"
                " VALUES (77, 0, 'x', 'remedy', '', '{}')"
            )
            other.commit()
        self.assertEqual(self.again(), [])  # the quick check passes it
        self.database.check()
        with self.assertRaises(DatabaseError) as caught, self.database.reading():
            pass
        self.assertEqual(caught.exception.code, "data_damaged")

    def test_of_316_damaged_files_none_passes_and_none_gives_a_traceback(self) -> None:
        """Bytes turned over in every part: refused in words wherever SQLite itself can tell."""
        self.database.close()
        whole = self.database.path.read_bytes()
        rng = random.Random(7)
        refused = 0
        for _ in range(316):
            bytes_ = bytearray(whole)
            page = 4096 * rng.randrange(
                len(whole) // 4096 - 1
            )  # mostly where pages tell their order
            start = page + rng.choice((0, 8, rng.randrange(40), rng.randrange(4096 - 600)))
            for k in range(start, start + rng.choice((1, 40, 600))):
                bytes_[k] = rng.randrange(256)
            self.database.path.write_bytes(bytes(bytes_))
            told = self.told_whole()
            damaged = Database(self.database.path)
            try:
                damaged.migrate()
                damaged.check()
                with damaged.reading():
                    self.assertTrue(told, f"damage at byte {start} passed")
            except DatabaseError as error:
                refused += 1
                self.assertTrue(error.fix)
            damaged.close()
        self.assertGreater(refused, 100)

    def told_whole(self) -> bool:
        """What SQLite's own full check says of the file."""
        with closing(sqlite3.connect(self.database.path)) as other:
            try:
                return bool(other.execute("PRAGMA integrity_check(1)").fetchone()[0] == "ok")
            except (sqlite3.DatabaseError, UnicodeDecodeError):
                return False

    def test_data_of_a_newer_program_is_left_alone(self) -> None:
        with self.database.atomic() as connection:
            connection.execute("INSERT INTO migration VALUES (9999, 'later', 'now')")
        with self.assertRaisesRegex(DatabaseError, "newer"):
            self.database.migrate()


if __name__ == "__main__":
    unittest.main()
