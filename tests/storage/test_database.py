"""The data file: strict, migrated step by step, all or nothing."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from pathlib import Path

from orthocris.storage.database import Database, DatabaseError


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

    def test_data_of_a_newer_program_is_left_alone(self) -> None:
        with self.database.atomic() as connection:
            connection.execute("INSERT INTO migration VALUES (9999, 'later', 'now')")
        with self.assertRaisesRegex(DatabaseError, "newer"):
            self.database.migrate()


if __name__ == "__main__":
    unittest.main()
