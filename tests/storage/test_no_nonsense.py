"""The data file itself refuses what cannot be, whatever writes to it."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path
from typing import Any

from orthocris.storage.database import Database
from tests.storage.test_every_upgrade import LINES, write

OTHERS: tuple[tuple[str, dict[str, Any]], ...] = (
    ("remedy", {"id": 2, "trial_id": 2, "position": 0, "name": "Oil", "role": "remedy"}
     | {"recipe": "", "letter": "A", "notches": 1}),
    ("plant", {"id": 2, "trial_id": 2, "name": "M1", "row": 1, "place": 1, "block": 1}
     | {"remedy_id": 2}),
    ("look", {"id": 3, "trial_id": 2, "number": 1, "day": 3}),
    ("round", {"id": 2, "trial_id": 2, "number": 1, "day": 0}),
)  # fmt: skip
# By table: what is changed of its own line to make nonsense of it.
NONSENSE: tuple[tuple[str, dict[str, Any]], ...] = (
    ("tally", {"look_id": 3}),
    ("tally", {"plant_id": 2}),
    ("tally", {"measure": "nonsense"}),
    ("tally", {"counted_at": "yesterday"}),
    ("spray", {"plant_id": 2}),
    ("spray", {"round_id": 2}),
    ("spray", {"sprayed_at": "yesterday"}),
    ("plant", {"remedy_id": 2}),
    ("batch", {"remedy_id": 2}),
    ("batch", {"mixed_at": "soon"}),
    ("patch_test", {"remedy_id": 2}),
    ("treatment", {"remedy_id": 2}),
    ("round_mess", {"remedy_id": 2}),
    ("round", {"remedies": "[999999]"}),
    ("round", {"remedies": "[2]"}),
    ("note", {"plant_id": 2}),
    ("note", {"look_number": 999}),
    ("own_remedy", {"name": "NETTLE tea"}),
    ("own_pest", {"name": "grey flies"}),
)


class NoNonsense(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "garden.sqlite"
        Database(path).migrate()
        self.data = self.enterContext(closing(sqlite3.connect(path, isolation_level=None)))
        for table, row in (*LINES, *OTHERS):
            write(self.data, table, row)

    def again(self, table: str, **changes: Any) -> None:
        """Write the table's own line once more, under another id and name, with changes."""
        row = next(row for name, row in LINES if name == table)
        fresh = {"id": 77, "key": "another-key", "session": "session-77", "number": 77, "place": 9}
        own = {k: v for k, v in fresh.items() if k in row}
        if table in ("plant", "own_remedy", "own_pest"):
            own["name"] = "Another"
        self.data.execute("SAVEPOINT try")
        try:
            write(self.data, table, row | own | changes)
        finally:
            self.data.execute("ROLLBACK TO try")

    def test_what_makes_sense_is_taken(self) -> None:
        for table in {table for table, _ in NONSENSE} - {"round_mess"}:
            with self.subTest(table):
                self.again(table)

    def test_what_cannot_be_is_refused(self) -> None:
        for table, changes in NONSENSE:
            with self.subTest(table, **changes), self.assertRaises(sqlite3.IntegrityError):
                self.again(table, **changes)
        for change in ("remedy_id = 2 WHERE id = 1", "remedy_id = 1 WHERE id = 2"):
            with self.assertRaises(sqlite3.IntegrityError):
                self.data.execute(f"UPDATE plant SET {change}")

    def test_what_was_kept_before_is_left_as_it_is(self) -> None:
        """A rule looks at what comes: an old line of a time in words goes on to be read."""
        self.data.execute("UPDATE tally SET counted_at = 'noon' WHERE id = 1")
        self.data.execute("UPDATE tally SET value = 3 WHERE id = 1")
        self.assertEqual(self.data.execute("SELECT counted_at FROM tally").fetchone(), ("noon",))


if __name__ == "__main__":
    unittest.main()
