"""The door for other devices: its passcode, its sessions, and wrong passcodes."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True)
class DoorRow:
    """The digest of the passcode, and whether the door was left open."""

    passcode: str
    open: bool


@dataclass(frozen=True, slots=True)
class Session:
    """A device that was let in; `token` is the digest of what it carries."""

    id: int
    device: str
    made_at: datetime
    seen_at: datetime


def load(connection: sqlite3.Connection) -> DoorRow | None:
    """Return the door as kept, None before it was ever opened."""
    row = connection.execute("SELECT passcode, open FROM door").fetchone()
    return DoorRow(row["passcode"], bool(row["open"])) if row else None


def keep(connection: sqlite3.Connection, passcode: str, now: datetime, *, is_open: bool) -> None:
    """Keep the passcode's digest and whether the door is open."""
    connection.execute(
        "INSERT OR REPLACE INTO door (id, passcode, open, changed_at)"
        " VALUES (1, :passcode, :open, :now)",
        {"passcode": passcode, "open": int(is_open), "now": now.isoformat()},
    )


def begin_session(connection: sqlite3.Connection, token: str, device: str, now: datetime) -> None:
    """Let a device in."""
    connection.execute(
        "INSERT INTO door_session (token, device, made_at, seen_at)"
        " VALUES (:token, :device, :now, :now)",
        {"token": token, "device": device, "now": now.isoformat()},
    )


def session_of(
    connection: sqlite3.Connection, token: str, unused_since: datetime
) -> Session | None:
    """Return the session of a digest, None where there is none, it was ended, or not used since."""
    row = connection.execute(
        "SELECT * FROM door_session WHERE token = :token AND ended_at IS NULL"
        " AND julianday(seen_at) > julianday(:since)",
        {"token": token, "since": unused_since.isoformat()},
    ).fetchone()
    return _session(row) if row else None


def sessions(connection: sqlite3.Connection, unused_since: datetime) -> tuple[Session, ...]:
    """Return the devices that are let in and were here since, the last seen first."""
    rows = connection.execute(
        "SELECT * FROM door_session WHERE ended_at IS NULL"
        " AND julianday(seen_at) > julianday(:since) ORDER BY seen_at DESC",
        {"since": unused_since.isoformat()},
    )
    return tuple(_session(row) for row in rows)


def touch_session(connection: sqlite3.Connection, session: int, now: datetime) -> None:
    """Note that a device was here."""
    connection.execute(
        "UPDATE door_session SET seen_at = :now WHERE id = :id",
        {"id": session, "now": now.isoformat()},
    )


def end_sessions(connection: sqlite3.Connection, session: int | None, now: datetime) -> int:
    """End one session, or (None) all; return how many were ended."""
    return connection.execute(
        "UPDATE door_session SET ended_at = :now WHERE ended_at IS NULL"
        " AND (:id IS NULL OR id = :id)",
        {"id": session, "now": now.isoformat()},
    ).rowcount


def note_miss(connection: sqlite3.Connection, origin: str, now: datetime) -> None:
    """Note a wrong passcode; those of days before, or of a day that is yet to come, are dropped."""
    connection.execute(
        "INSERT INTO door_miss (origin, at) VALUES (:origin, :now)",
        {"origin": origin, "now": now.isoformat()},
    )
    connection.execute(
        "DELETE FROM door_miss WHERE abs(julianday(at) - julianday(:now)) > 1",
        {"now": now.isoformat()},
    )


def misses(connection: sqlite3.Connection) -> list[tuple[str, datetime]]:
    """Return from where and when wrong passcodes came."""
    rows = connection.execute("SELECT origin, at FROM door_miss")
    return [(row["origin"], datetime.fromisoformat(row["at"])) for row in rows]


def forget_misses(connection: sqlite3.Connection, origin: str | None) -> None:
    """Forget the wrong passcodes of a device that knew the right one, or (None) all."""
    connection.execute(
        "DELETE FROM door_miss WHERE :origin IS NULL OR origin = :origin", {"origin": origin}
    )


def forget_all(connection: sqlite3.Connection) -> None:
    """Let nobody in until a new passcode is made."""
    connection.execute("DELETE FROM door_session")
    connection.execute("DELETE FROM door_miss")
    connection.execute("DELETE FROM door")


def _session(row: sqlite3.Row) -> Session:
    return Session(
        row["id"],
        row["device"],
        datetime.fromisoformat(row["made_at"]),
        datetime.fromisoformat(row["seen_at"]),
    )
