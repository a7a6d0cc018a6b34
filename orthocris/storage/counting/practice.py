"""Practice sessions and what was counted in them."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict
from datetime import datetime

from orthocris.core.counting.practice import Counted, Session
from orthocris.core.errors import NotFoundError

SESSIONS = "SELECT id, key, pest, fill, person, seed, leaves, begun_at FROM practice"


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
    row = connection.execute(SESSIONS + " WHERE id = :id", {"id": session_id}).fetchone()
    if row is None:
        raise NotFoundError(
            f"there is no practice session {session_id}",
            code="no_such_practice",
            fix="Begin a new one.",
        )
    return _session(connection, row)


def sessions(connection: sqlite3.Connection) -> tuple[Session, ...]:
    """Return every session, the oldest first."""
    rows = connection.execute(SESSIONS + " ORDER BY id").fetchall()
    return tuple(_session(connection, row) for row in rows)


def keep_leaf(
    connection: sqlite3.Connection, session_id: int, number: int, counted: Counted, now: datetime
) -> None:
    """Keep what was counted on a leaf, unless that is known: the truth was shown after it."""
    connection.execute(
        "INSERT INTO practice_leaf (practice_id, number, counted, seconds, kept_at)"
        " VALUES (:id, :number, :counted, :seconds, :now)"
        " ON CONFLICT (practice_id, number) DO NOTHING",
        {
            "id": session_id,
            "number": number,
            "counted": json.dumps(asdict(counted)),
            "seconds": counted.seconds,
            "now": now.isoformat(),
        },
    )


def _session(connection: sqlite3.Connection, row: sqlite3.Row) -> Session:
    counted = connection.execute(
        "SELECT number, counted FROM practice_leaf WHERE practice_id = :id ORDER BY number",
        {"id": row["id"]},
    )
    return Session(
        id=row["id"],
        key=row["key"],
        pest=row["pest"],
        fill=row["fill"],
        person=row["person"],
        seed=row["seed"],
        leaves=row["leaves"],
        begun_at=datetime.fromisoformat(row["begun_at"]),
        counted={leaf["number"]: Counted(**json.loads(leaf["counted"])) for leaf in counted},
    )
