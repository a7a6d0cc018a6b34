"""Verdicts on record: written once, never changed."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from orthocris.core.verdict.frozen import FrozenVerdict
from orthocris.storage.database import Connection


def keep_verdict(
    connection: Connection, trial_id: int, look_number: int, record: FrozenVerdict
) -> None:
    """Put a verdict on record, unless this look has one."""
    connection.execute(
        "INSERT INTO verdict_record"
        " (trial_id, look_number, made_at, version, seed, inputs, verdict)"
        " VALUES (:t, :look, :at, :version, :seed, :inputs, :verdict)"
        " ON CONFLICT (trial_id, look_number) DO NOTHING",
        {
            "t": trial_id,
            "look": look_number,
            "at": record.made_at.isoformat(),
            "version": record.version,
            "seed": record.seed,
            "inputs": record.inputs,
            "verdict": json.dumps(record.verdict, ensure_ascii=False),
        },
    )


def first_look_on_record(connection: Connection, trial_id: int) -> int | None:
    """Return the number of the first look whose verdict was put on record, or None."""
    row = connection.execute(
        "SELECT min(look_number) AS first FROM verdict_record WHERE trial_id = :t", {"t": trial_id}
    ).fetchone()
    return None if row["first"] is None else int(row["first"])


@dataclass(frozen=True, slots=True)
class OnRecord:
    """The last verdict on record of a trial, with the pest it is about."""

    trial_id: int
    pest: str
    verdict: Mapping[str, Any]


def last_on_record(connection: Connection, pest: str | None = None) -> tuple[OnRecord, ...]:
    """Return the last verdict of each trial on the list, of one pest or of all, the oldest first.

    A trial from which another went on, whose verdict is on record too, is in that one.
    """
    rows = connection.execute(
        "SELECT t.id, t.pest, v.verdict FROM trial t JOIN verdict_record v ON v.trial_id = t.id"
        " WHERE t.put_away_at IS NULL AND (:pest IS NULL OR t.pest = :pest)"
        " AND v.look_number = (SELECT max(look_number) FROM verdict_record WHERE trial_id = t.id)"
        " AND NOT EXISTS (SELECT 1 FROM trial n JOIN verdict_record w ON w.trial_id = n.id"
        " WHERE n.goes_on = t.id AND n.put_away_at IS NULL) ORDER BY t.start_on, t.id",
        {"pest": pest},
    )
    return tuple(OnRecord(row["id"], row["pest"], json.loads(row["verdict"])) for row in rows)


def last_of(connection: Connection, trial_id: int) -> Mapping[str, Any] | None:
    """Return the last verdict on record of a trial as plain data, or None."""
    row = connection.execute(
        "SELECT verdict FROM verdict_record WHERE trial_id = :t ORDER BY look_number DESC LIMIT 1",
        {"t": trial_id},
    ).fetchone()
    return None if row is None else json.loads(row["verdict"])


def kept_verdict(connection: Connection, trial_id: int, look_number: int) -> FrozenVerdict | None:
    """Return the verdict on record of a look, or None."""
    row = connection.execute(
        "SELECT made_at, version, seed, inputs, verdict FROM verdict_record"
        " WHERE trial_id = :t AND look_number = :look",
        {"t": trial_id, "look": look_number},
    ).fetchone()
    if row is None:
        return None
    return FrozenVerdict(
        datetime.fromisoformat(row["made_at"]),
        row["version"],
        row["seed"],
        row["inputs"],
        json.loads(row["verdict"]),
    )
