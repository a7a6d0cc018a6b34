"""The journal, and what the trials tell of when a pest was there."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import date, datetime

from orthocris.core.seasons.journal import Entry, EntryDraft, EntryKind, Level


def keep(connection: sqlite3.Connection, draft: EntryDraft, now: datetime) -> int:
    """Keep a line of the journal and return its id."""
    cursor = connection.execute(
        "INSERT INTO journal (kind, done_on, place, pest, level, helpers, what, note, humidity,"
        " every, kept_at) VALUES (:kind, :on, :place, :pest, :level, :helpers, :what, :note,"
        " :humidity, :every, :now)",
        {
            "kind": draft.kind.value,
            "on": draft.on.isoformat(),
            "place": draft.place,
            "pest": draft.pest,
            "level": draft.level,
            "helpers": draft.helpers,
            "what": draft.what,
            "note": draft.note,
            "humidity": draft.humidity,
            "every": draft.every,
            "now": now.isoformat(),
        },
    )
    return int(cursor.lastrowid or 0)


def take_back(connection: sqlite3.Connection, entry_id: int, now: datetime) -> bool:
    """Take a line back; its trace stays. False where there is none that holds."""
    cursor = connection.execute(
        "UPDATE journal SET undone_at = :now WHERE id = :id AND undone_at IS NULL",
        {"id": entry_id, "now": now.isoformat()},
    )
    return cursor.rowcount > 0


def set_photo(connection: sqlite3.Connection, entry_id: int, file: str) -> bool:
    """Name the picture of a line, in place of one before; False where there is no such line."""
    cursor = connection.execute(
        "UPDATE journal SET file = :file WHERE id = :id AND undone_at IS NULL",
        {"id": entry_id, "file": file},
    )
    return cursor.rowcount > 0


def photo_of(connection: sqlite3.Connection, entry_id: int) -> str | None:
    """Return the name of the picture of a line that holds, or None."""
    row = connection.execute(
        "SELECT file FROM journal WHERE id = :id AND undone_at IS NULL", {"id": entry_id}
    ).fetchone()
    return None if row is None else row["file"]


def open_task(connection: sqlite3.Connection, entry_id: int) -> Entry | None:
    """Return a task that is still to be done, or None."""
    row = connection.execute(
        "SELECT * FROM journal WHERE id = :id AND kind = 'task' AND undone_at IS NULL"
        " AND finished_on IS NULL",
        {"id": entry_id},
    ).fetchone()
    return None if row is None else _entry(row)


def finish(connection: sqlite3.Connection, entry_id: int, on: date) -> None:
    """Keep the day on which a task was done."""
    connection.execute(
        "UPDATE journal SET finished_on = :on WHERE id = :id",
        {"id": entry_id, "on": on.isoformat()},
    )


def entries(connection: sqlite3.Connection) -> tuple[Entry, ...]:
    """Return every line that holds, the oldest day first."""
    rows = connection.execute("SELECT * FROM journal WHERE undone_at IS NULL ORDER BY done_on, id")
    return tuple(_entry(row) for row in rows)


def _entry(row: sqlite3.Row) -> Entry:
    draft = EntryDraft(
        kind=EntryKind(row["kind"]),
        on=date.fromisoformat(row["done_on"]),
        place=row["place"],
        pest=row["pest"],
        level=None if row["level"] is None else Level(row["level"]),
        helpers=bool(row["helpers"]),
        what=row["what"],
        note=row["note"],
        humidity=row["humidity"],
        every=row["every"],
    )
    finished = row["finished_on"]
    on = None if finished is None else date.fromisoformat(finished)
    return Entry(row["id"], draft, on, row["file"])


@dataclass(frozen=True, slots=True)
class TrialSeen:
    """A trial whose pest was there when it was first sprayed; `verdict` where one is on record."""

    id: int
    name: str
    pest: str
    on: date
    verdict: str | None


def trials_seen(connection: sqlite3.Connection) -> tuple[TrialSeen, ...]:
    """Return the trials that began on plants with their pest, those put away too.

    One that asks what keeps a pest away begins without it.
    """
    rows = connection.execute(
        "SELECT t.id, t.name, t.pest, t.sprayed_on, (SELECT v.verdict FROM verdict_record v"
        " WHERE v.trial_id = t.id ORDER BY v.look_number DESC LIMIT 1) AS verdict"
        " FROM trial t WHERE t.sprayed_on IS NOT NULL"
        " AND json_extract(t.setup, '$.kind') IS NOT 'prevention' ORDER BY t.sprayed_on, t.id"
    )
    return tuple(
        TrialSeen(r["id"], r["name"], r["pest"], date.fromisoformat(r["sprayed_on"]), r["verdict"])
        for r in rows
    )
