"""A line in each table, as each version wrote it, is there after the upgrade, unchanged."""

from __future__ import annotations

import sqlite3
import unittest
from contextlib import closing
from typing import Any

from orthocris.storage.database import Database
from orthocris.storage.soundness import check_whole
from tests.storage.test_upgrade import LATER, OldFile

FIRST = "0001_trials.sql"
AT, ON = "2026-05-10T08:00:00+00:00", "2026-05-10"
# One line of each table, in the order in which they refer to each other; a version writes those
# columns that it had.
LINES: tuple[tuple[str, dict[str, Any]], ...] = (
    ("trial", {"id": 1, "name": "Lupins", "pest": "aphids", "measure": "live", "threshold": 0.6}
     | {"start_on": ON, "sprayed_on": ON, "seed": 7, "created_at": AT, "key_opened_at": AT}),
    ("trial", {"id": 2, "name": "More lupins", "pest": "aphids", "measure": "live"}
     | {"threshold": 0.6, "start_on": ON, "created_at": AT, "put_away_at": AT, "goes_on": 1}),
    ("remedy", {"id": 1, "trial_id": 1, "position": 0, "name": "Soap", "role": "remedy"}
     | {"recipe": "10 ml soap", "letter": "B", "notches": 2, "was_called": "Sop"}),
    ("plant", {"id": 1, "trial_id": 1, "name": "L1", "row": 1, "place": 1, "match_count": 12.0}
     | {"block": 1, "remedy_id": 1, "size": 30.0, "host": "bench", "died_on": ON}),
    ("look", {"id": 1, "trial_id": 1, "number": 1, "day": 3}),
    ("look", {"id": 2, "trial_id": 1, "number": 2, "day": 7, "hours": 3}),
    ("round", {"id": 1, "trial_id": 1, "number": 1, "day": 0, "remedies": "[1]", "steps": "[0]"}),
    ("tally", {"id": 1, "look_id": 1, "plant_id": 1, "measure": "live", "session": "session-1"}
     | {"step": 2, "value": 9.0, "total": None, "effort": 3.0, "finished": 1, "counted_at": AT}
     | {"counted_on": ON, "sample": 0, "person": "Bram", "device": "Bram's phone"}),
    ("batch", {"id": 1, "trial_id": 1, "remedy_id": 1, "title": "Soap", "kind": "mix"}
     | {"recipe": "10 ml soap", "volume": 1000.0, "parts": "[]", "mixed_at": AT, "note": "warm"}
     | {"acknowledged": "[]", "mixed_by": "Bram", "cost": 0.4, "use_by": AT}),
    ("spray", {"id": 1, "round_id": 1, "plant_id": 1, "sprayed_at": AT, "kind": "again"}
     | {"batch_id": 1, "volume": 40.0, "undersides": 0, "drifted": 1, "note": "a gust"}),
    ("layout_event", {"id": 1, "trial_id": 1, "made_at": AT, "kind": "drawn", "seed": 7}
     | {"reason": "first"}),
    ("layout_set", {"trial_id": 1, "plants": "[1]", "layouts": b"\x00"}),
    ("layout_due", {"trial_id": 2}),
    ("overrule", {"id": 1, "trial_id": 1, "code": "few_plants", "finding": "Few plants."}
     | {"reason": "No more here.", "made_at": AT}),
    ("quick_look", {"id": 1, "seen_at": AT, "place": "rail", "pest": "aphids", "signs": "[]"}
     | {"looked": 10, "affected": 3, "helpers": 0, "vigorous": 1, "wilting": 0}
     | {"action": "trial", "reason": "three of ten"}),
    ("inspection", {"id": 2, "seen_at": AT, "place": "rail", "pest": "aphids", "signs": "[]"}
     | {"looked": 10, "affected": 3, "helpers": 0, "vigorous": 1, "wilting": 0}
     | {"action": "trial", "reason": "three of ten"}),
    ("patch_test", {"id": 1, "trial_id": 1, "remedy_id": 1, "leaf_kind": "lupin", "leaves": 2}
     | {"strength": 1.0, "hours": "[24]", "applied_at": AT, "treated_before": 0}
     | {"beside_before": 0}),
    ("patch_look", {"id": 1, "patch_id": 1, "hours": 24, "seen_at": AT, "treated": 1}
     | {"beside": 0, "harm": "none"}),
    ("patch_reading", {"id": 2, "patch_id": 1, "hours": 24, "seen_at": AT, "treated": 1}
     | {"beside": 0, "harm": "none"}),
    ("yard", {"id": 1, "settings": '{"name": "Quillon Yard"}'}),
    ("price", {"name": "soap", "pack": 500.0, "price": 4.0}),
    ("weather_hour", {"at": "2026-05-10T08:00", "temperature": 14.0, "humidity": 60.0}
     | {"rain": 0.2, "wind": 1.0, "sun": 300.0}),
    ("weather_day", {"day": ON, "low": 8.0, "high": 17.0, "wind": 2.0, "sky": "mixed"}
     | {"rain": 1.0, "rain_from": 3, "rain_to": 5}),
    ("round_event", {"id": 1, "round_id": 1, "at": AT, "kind": "washed_off", "amount": 3.0}
     | {"text": "3 mm of rain"}),
    ("round_start", {"id": 1, "round_id": 1, "started_at": AT, "batches": "[1]"}
     | {"overruled": "{}", "limits": '{"high": 30}', "done_on": ON}),
    ("round_mess", {"round_id": 1, "remedy_id": 1, "kinds": '["smell"]', "noted_at": AT}),
    ("change", {"id": 1, "trial_id": 1, "made_at": AT, "what": "care", "before": "{}"}
     | {"after": '{"high": 28}'}),
    ("mend", {"id": 1, "trial_id": 1, "code": "few_plants", "label": "Drop one", "made_at": AT}
     | {"before": "{}", "after": "{}"}),
    ("receipt", {"key": "key-12345", "scope": "taps", "payload": "x", "made": 1, "made_at": AT}),
    ("own_remedy", {"id": 1, "name": "Nettle tea", "recipe": "1 l nettles", "traits": "{}"}
     | {"made_at": AT}),
    ("own_pest", {"id": 1, "name": "Grey flies", "facts": "{}", "made_at": AT}),
    ("verdict_record", {"id": 1, "trial_id": 1, "look_number": 2, "made_at": AT, "version": "0.2"}
     | {"seed": 7, "inputs": "plant,value", "verdict": '{"outcome": "winner"}'}),
    ("tap", {"key": "tap-12345", "tally_id": 1, "step": 2, "value": 9.0, "tapped_at": AT}
     | {"kept_at": AT}),
    ("door", {"id": 1, "passcode": "digest", "open": 1, "changed_at": AT}),
    ("door_session", {"id": 1, "token": "t" * 64, "device": "phone", "made_at": AT, "seen_at": AT}),
    ("door_miss", {"id": 1, "origin": "192.0.2.7", "at": AT}),
    ("note", {"id": 1, "key": "note-12345", "trial_id": 1, "plant_id": 1, "look_number": 1}
     | {"said": "sooty", "seen": "[]", "noted_at": AT, "kept_at": AT}),
    ("practice", {"id": 1, "key": "practice-1", "pest": "aphids", "fill": "few", "person": "Bram"}
     | {"seed": 3, "leaves": 5, "begun_at": AT}),
    ("practice_leaf", {"practice_id": 1, "number": 1, "counted": "{}", "truth": "{}"}
     | {"seconds": 12.0, "kept_at": AT}),
    ("treatment", {"id": 1, "trial_id": 1, "remedy_id": 1, "which": "all", "place": "the yard"}
     | {"plants": 9, "ml_each": 40.0, "kinds": "[]", "eaten": 0, "start_on": ON, "rhythm": "7"}
     | {"removes": 0.9, "low": 0.7, "high": 0.97, "made_at": AT}),
    ("treatment_act", {"id": 1, "treatment_id": 1, "act": "spray", "done_on": ON, "harmed": 0}
     | {"reason": "", "kept_at": AT}),
    ("journal", {"id": 1, "kind": "look", "done_on": ON, "place": "rail", "pest": "aphids"}
     | {"level": 2, "helpers": 1, "what": "", "note": "", "kept_at": AT, "file": "f" * 64}),
    ("neighbour", {"id": 1, "digest": "d", "garden": "Osk", "pest": "aphids", "trial": "{}"}
     | {"inputs": "plant,value", "version": "0.3", "verdict": "{}", "came_at": AT}),
    ("mind", {"name": "smell", "weight": 2}),
)  # fmt: skip
NOW_CALLED = {"quick_look": "inspection", "patch_look": "patch_reading"}
# What the counts add up to is laid beside them by the upgrade itself, and checked by the program.
SUMS = {"tally_now", "sample_now", "look_count", "round_count", "migration"}


class EveryVersion(OldFile):
    def test_all_that_was_kept_is_kept_still(self) -> None:
        steps = [FIRST, *LATER]
        for count in range(1, len(steps)):
            with self.subTest(upgraded_from=steps[count - 1]):
                self.leave(steps[:count], "")
                with closing(sqlite3.connect(self.path)) as old:
                    written = [line for table, row in LINES if (line := write(old, table, row))]
                    old.commit()
                database = Database(self.path)
                self.assertEqual(database.migrate(), steps[count:])
                with database.reading() as connection:
                    for table, row in written:
                        self.assertIn(row, kept(connection, table, row), f"{table} of {row}")
                    check_whole(connection, self.path)

    def test_no_table_is_left_out(self) -> None:
        self.leave([FIRST, *LATER], "")
        with closing(sqlite3.connect(self.path)) as newest:
            tables = {
                name
                for (name,) in newest.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
            }
        self.assertEqual(tables - SUMS, {NOW_CALLED.get(table, table) for table, _ in LINES})


def write(old: sqlite3.Connection, table: str, row: dict[str, Any]) -> Any:
    """Write a line as that version could; its table's name today and what was written, or None."""
    had = {name for _, name, *_ in old.execute(f"PRAGMA table_info({table})")}
    if not had:
        return None
    own = {name: value for name, value in row.items() if name in had}
    places = ", ".join("?" * len(own))
    columns = ", ".join(f'"{name}"' for name in own)
    old.execute(f'INSERT INTO "{table}" ({columns}) VALUES ({places})', list(own.values()))
    return NOW_CALLED.get(table, table), own


def kept(connection: sqlite3.Connection, table: str, row: dict[str, Any]) -> list[dict[str, Any]]:
    """The lines of a table today, in the columns that were written."""
    columns = ", ".join(f'"{name}"' for name in row)
    lines = connection.execute(f'SELECT {columns} FROM "{table}"')
    return [dict(zip(row, line, strict=True)) for line in lines]


if __name__ == "__main__":
    unittest.main()
