"""Practice sessions and what was counted in them."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict
from datetime import datetime

from orthocris.core.counting.leaf.scene import Truth
from orthocris.core.counting.practice import Counted, Session
from orthocris.core.errors import NotFoundError

SESSIONS = (
    "SELECT p.id, p.key, p.pest, p.fill, p.person, p.seed, p.leaves, p.begun_at,"
    " l.number, l.counted, l.truth"
    " FROM practice p LEFT JOIN practice_leaf l ON l.practice_id = p.id"
    " WHERE (:id IS NULL OR p.id = :id) AND (:pest IS NULL OR p.pest = :pest)"
    " ORDER BY p.id, l.number"
)


def add_session(connection: sqlite3.Connection, session: Session) -> int:
    """Add a session (its id is given here) and return its id; one known by its key stays."""
    connection.execute(
        "INSERT INTO practice (key, pest, fill, person, seed, leaves, begun_at)"
        " VALUES (:key, :pest, :fill, :person, :seed, :leaves, :at) ON CONFLICT (key) DO NOTHING",
        {
            "key": session.key,
            "pest": session.pest,
            "fill": session.fill,
            "person": session.person,
            "seed": session.seed,
            "leaves": session.leaves,
            "at": session.begun_at.isoformat(),
        },
    )
    row = connection.execute("SELECT id FROM practice WHERE key = :key", {"key": session.key})
    return int(row.fetchone()["id"])


def session(connection: sqlite3.Connection, session_id: int) -> Session:
    """Return one session with what was counted in it, or raise NotFoundError."""
    found = _read(connection, {"id": session_id, "pest": None})
    if not found:
        raise NotFoundError(
            f"there is no practice session {session_id}",
            code="no_such_practice",
            fix="Begin a new one.",
        )
    return found[0]


def sessions(connection: sqlite3.Connection, pest: str | None = None) -> tuple[Session, ...]:
    """Return every session, or those with one pest, the oldest first."""
    return _read(connection, {"id": None, "pest": pest})


def _read(connection: sqlite3.Connection, wanted: dict[str, object]) -> tuple[Session, ...]:
    found: dict[int, Session] = {}
    for row in connection.execute(SESSIONS, wanted):
        one = found.setdefault(row["id"], _session(row))
        if row["number"] is not None:
            one.counted[row["number"]] = (
                Counted(**json.loads(row["counted"])),
                Truth(**json.loads(row["truth"])),
            )
    return tuple(found.values())


def keep_leaf(
    connection: sqlite3.Connection,
    session_id: int,
    number: int,
    counted: Counted,
    truth: Truth,
    now: datetime,
) -> None:
    """Keep what was counted on a leaf, unless that is known: the truth was shown after it."""
    connection.execute(
        "INSERT INTO practice_leaf (practice_id, number, counted, truth, seconds, kept_at)"
        " VALUES (:id, :number, :counted, :truth, :seconds, :now)"
        " ON CONFLICT (practice_id, number) DO NOTHING",
        {
            "id": session_id,
            "number": number,
            "counted": json.dumps(asdict(counted)),
            "truth": json.dumps(asdict(truth)),
            "seconds": counted.seconds,
            "now": now.isoformat(),
        },
    )


def _session(row: sqlite3.Row) -> Session:
    return Session(
        id=row["id"],
        key=row["key"],
        pest=row["pest"],
        fill=row["fill"],
        person=row["person"],
        seed=row["seed"],
        leaves=row["leaves"],
        begun_at=datetime.fromisoformat(row["begun_at"]),
    )
