"""Rules of remedies, and the part of a remedy that a round gives."""

from __future__ import annotations

import json
import sqlite3


def has_rules(connection: sqlite3.Connection, trial_id: int) -> bool:
    """Tell whether a remedy of a trial has a step that waits for a count."""
    row = connection.execute(
        "SELECT 1 FROM remedy r, json_each(r.traits, '$.steps') s WHERE r.trial_id = :t"
        " AND r.left_out_at IS NULL AND json_extract(s.value, '$.above') IS NOT NULL LIMIT 1",
        {"t": trial_id},
    ).fetchone()
    return row is not None


def give_part(connection: sqlite3.Connection, round_id: int, remedy_id: int, part: int) -> None:
    """Give another part of a remedy in a round (0: the first)."""
    row = connection.execute(
        "SELECT steps FROM round WHERE id = :round", {"round": round_id}
    ).fetchone()
    others = [[r, step] for r, step in json.loads(row["steps"] or "[]") if r != remedy_id]
    steps = [*others, *([[remedy_id, part]] if part else [])]
    connection.execute(
        "UPDATE round SET steps = :steps WHERE id = :round",
        {"round": round_id, "steps": json.dumps(steps) if steps else None},
    )
