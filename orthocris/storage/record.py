"""What stays on record beside the trial: changes, mends, receipts of requests."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from datetime import datetime
from typing import Any

from orthocris.core.trial.record import Change, MendRecord
from orthocris.core.trial.trial_plan import KeptPlan
from orthocris.storage.trial.plain import plan_text, read_plan


def record_change(connection: sqlite3.Connection, trial_id: int | None, change: Change) -> None:
    """Keep what a setting was and what it became; equal ones are no change."""
    if change.before == change.after:
        return
    connection.execute(
        "INSERT INTO change (trial_id, made_at, what, before, after)"
        " VALUES (:t, :at, :what, :before, :after)",
        {
            "t": trial_id,
            "at": change.made_at.isoformat(),
            "what": change.what,
            "before": json.dumps(change.before),
            "after": json.dumps(change.after),
        },
    )


def changes(connection: sqlite3.Connection, trial_id: int | None) -> tuple[Change, ...]:
    """Return the changes of a trial, or (None) of the yard; the oldest first."""
    rows = connection.execute(
        "SELECT made_at, what, before, after FROM change WHERE trial_id IS :t ORDER BY id",
        {"t": trial_id},
    )
    return tuple(
        Change(
            datetime.fromisoformat(r["made_at"]),
            r["what"],
            _mapping(r["before"]),
            _mapping(r["after"]),
        )
        for r in rows
    )


def keep_mend(connection: sqlite3.Connection, trial_id: int, mend: MendRecord) -> None:
    """Keep a mend with the plan before and after it; its id is given here."""
    connection.execute(
        "INSERT INTO mend (trial_id, code, label, made_at, before, after)"
        " VALUES (:t, :code, :label, :at, :before, :after)",
        {
            "t": trial_id,
            "code": mend.code,
            "label": mend.label,
            "at": mend.made_at.isoformat(),
            "before": plan_text(mend.before),
            "after": plan_text(mend.after),
        },
    )


def last_mend(connection: sqlite3.Connection, trial_id: int) -> MendRecord | None:
    """Return the newest mend that was not taken back."""
    row = connection.execute(
        "SELECT * FROM mend WHERE trial_id = :t AND undone_at IS NULL ORDER BY id DESC LIMIT 1",
        {"t": trial_id},
    ).fetchone()
    if row is None:
        return None
    before: KeptPlan = read_plan(row["before"])
    return MendRecord(
        row["id"],
        row["code"],
        row["label"],
        datetime.fromisoformat(row["made_at"]),
        before,
        read_plan(row["after"]),
    )


def undo_mend(connection: sqlite3.Connection, mend_id: int, now: datetime) -> None:
    """Mark a mend as taken back; its record stays."""
    connection.execute(
        "UPDATE mend SET undone_at = :now WHERE id = :id", {"id": mend_id, "now": now.isoformat()}
    )


def receipt(connection: sqlite3.Connection, key: str) -> tuple[str, str, int] | None:
    """Return scope, payload's digest and what was made for a request's key, if it was kept."""
    row = connection.execute(
        "SELECT scope, payload, made FROM receipt WHERE key = :key", {"key": key}
    ).fetchone()
    return None if row is None else (row["scope"], row["payload"], row["made"])


def keep_receipt(
    connection: sqlite3.Connection, key: str, scope: str, payload: str, made: int, now: datetime
) -> None:
    """Keep what a request with a key of its own has made."""
    connection.execute(
        "INSERT INTO receipt (key, scope, payload, made, made_at)"
        " VALUES (:key, :scope, :payload, :made, :now)",
        {"key": key, "scope": scope, "payload": payload, "made": made, "now": now.isoformat()},
    )


def _mapping(text: str) -> Mapping[str, Any]:
    found: Mapping[str, Any] = json.loads(text)
    return found
