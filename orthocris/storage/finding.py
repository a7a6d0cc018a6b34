"""Inspections and overruled findings."""

from __future__ import annotations

import json
import sqlite3
from datetime import datetime

from orthocris.core.finding.inspection import Inspection
from orthocris.core.planning.overrule import Overrule


def keep_inspection(connection: sqlite3.Connection, look: Inspection) -> int:
    """Keep an inspection; its id is given here."""
    cursor = connection.execute(
        "INSERT INTO inspection (seen_at, place, pest, signs, looked, affected, helpers, vigorous,"
        " wilting, action, reason) VALUES (:seen_at, :place, :pest, :signs, :looked, :affected,"
        " :helpers, :vigorous, :wilting, :action, :reason)",
        {
            "seen_at": look.seen_at.isoformat(),
            "place": look.place,
            "pest": look.pest,
            "signs": json.dumps(look.signs),
            "looked": look.looked,
            "affected": look.affected,
            "helpers": look.helpers,
            "vigorous": int(look.vigorous),
            "wilting": int(look.wilting),
            "action": look.action,
            "reason": look.reason,
        },
    )
    return int(cursor.lastrowid or 0)


def inspections(connection: sqlite3.Connection) -> tuple[Inspection, ...]:
    """Return all inspections, the newest first."""
    rows = connection.execute("SELECT * FROM inspection ORDER BY julianday(seen_at) DESC, id DESC")
    return tuple(_inspection(row) for row in rows)


def last_inspection(connection: sqlite3.Connection, pest: str, place: str) -> Inspection | None:
    """Return the newest look round for a pest at a place."""
    row = connection.execute(
        "SELECT * FROM inspection WHERE pest = :pest AND place = :place"
        " ORDER BY julianday(seen_at) DESC, id DESC LIMIT 1",
        {"pest": pest, "place": place},
    ).fetchone()
    return None if row is None else _inspection(row)


def overrule(connection: sqlite3.Connection, trial_id: int, entry: Overrule) -> int:
    """Record that a finding was overruled; return the id. Earlier reasons stay on record."""
    cursor = connection.execute(
        "INSERT INTO overrule (trial_id, code, finding, reason, made_at)"
        " VALUES (:t, :code, :finding, :reason, :at)",
        {
            "t": trial_id,
            "code": entry.code,
            "finding": entry.finding,
            "reason": entry.reason,
            "at": entry.made_at.isoformat(),
        },
    )
    return int(cursor.lastrowid or 0)


def overruled(connection: sqlite3.Connection, trial_id: int) -> tuple[Overrule, ...]:
    """Return every overruling of a trial, the oldest first; a finding may be there again."""
    rows = connection.execute(
        "SELECT code, finding, reason, made_at FROM overrule WHERE trial_id = :t ORDER BY id",
        {"t": trial_id},
    )
    return tuple(
        Overrule(r["code"], r["finding"], r["reason"], datetime.fromisoformat(r["made_at"]))
        for r in rows
    )


def _inspection(row: sqlite3.Row) -> Inspection:
    return Inspection(
        id=row["id"],
        seen_at=datetime.fromisoformat(row["seen_at"]),
        place=row["place"],
        pest=row["pest"],
        signs=tuple(json.loads(row["signs"])),
        looked=row["looked"],
        affected=row["affected"],
        helpers=row["helpers"],
        vigorous=bool(row["vigorous"]),
        wilting=bool(row["wilting"]),
        action=row["action"],
        reason=row["reason"],
    )
