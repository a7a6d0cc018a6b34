"""What happened to rounds: their starts and events."""

from __future__ import annotations

import json
import sqlite3
from datetime import date, datetime

from orthocris.core.trial.sprays import EventKind, RoundEvent, RoundStart


def keep_start(connection: sqlite3.Connection, start: RoundStart) -> None:
    """Record that a round was started, or taken up again."""
    connection.execute(
        "INSERT INTO round_start (round_id, started_at, batches, overruled, limits, done_on)"
        " VALUES (:round, :at, :batches, :overruled, :limits, :done_on)",
        {
            "round": start.round_id,
            "at": start.started_at.isoformat(),
            "batches": json.dumps(start.batches),
            "overruled": json.dumps(start.overruled),
            "limits": json.dumps(start.limits),
            "done_on": start.done_on.isoformat() if start.done_on else None,
        },
    )


def starts(connection: sqlite3.Connection, trial_id: int) -> tuple[RoundStart, ...]:
    """Return the starts of a trial's rounds, the oldest first."""
    rows = connection.execute(
        "SELECT s.* FROM round_start s JOIN round r ON r.id = s.round_id"
        " WHERE r.trial_id = :t ORDER BY s.id",
        {"t": trial_id},
    )
    return tuple(_start(r) for r in rows)


def last_start(connection: sqlite3.Connection, round_id: int) -> RoundStart | None:
    """Return the newest start of a round; None before."""
    row = connection.execute(
        "SELECT * FROM round_start WHERE round_id = :round ORDER BY id DESC LIMIT 1",
        {"round": round_id},
    ).fetchone()
    return None if row is None else _start(row)


def _start(r: sqlite3.Row) -> RoundStart:
    return RoundStart(
        r["round_id"],
        datetime.fromisoformat(r["started_at"]),
        {int(k): v for k, v in json.loads(r["batches"]).items()},
        json.loads(r["overruled"]),
        json.loads(r["limits"]),
        date.fromisoformat(r["done_on"]) if r["done_on"] else None,
    )


def keep_event(connection: sqlite3.Connection, event: RoundEvent) -> None:
    """Record an event of a round; wash-off and heat are one line a round that only grows."""
    connection.execute(
        "INSERT INTO round_event (round_id, at, kind, amount, text)"
        " VALUES (:round, :at, :kind, :amount, :text)"
        " ON CONFLICT (round_id, kind) WHERE kind IN ('washed_off', 'heat_after_oil')"
        " DO UPDATE SET amount = excluded.amount, text = excluded.text"
        " WHERE excluded.amount > round_event.amount",
        {
            "round": event.round_id,
            "at": event.at.isoformat(),
            "kind": event.kind.value,
            "amount": event.amount,
            "text": event.text,
        },
    )


def weather_events(
    connection: sqlite3.Connection, trial_id: int
) -> dict[int, dict[EventKind, float]]:
    """Return the amount of rain or heat logged on each round of a trial, by round id."""
    rows = connection.execute(
        "SELECT e.round_id, e.kind, e.amount FROM round_event e JOIN round r ON r.id = e.round_id"
        " WHERE r.trial_id = :t AND e.kind IN ('washed_off', 'heat_after_oil')",
        {"t": trial_id},
    )
    found: dict[int, dict[EventKind, float]] = {}
    for row in rows:
        found.setdefault(row["round_id"], {})[EventKind(row["kind"])] = row["amount"]
    return found


def events(connection: sqlite3.Connection, trial_id: int) -> tuple[RoundEvent, ...]:
    """Return the events of a trial's rounds, the oldest first."""
    rows = connection.execute(
        "SELECT e.* FROM round_event e JOIN round r ON r.id = e.round_id"
        " WHERE r.trial_id = :t ORDER BY e.id",
        {"t": trial_id},
    )
    return tuple(
        RoundEvent(
            r["round_id"],
            datetime.fromisoformat(r["at"]),
            EventKind(r["kind"]),
            r["amount"],
            r["text"],
        )
        for r in rows
    )
