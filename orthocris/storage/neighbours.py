"""Trials of other gardens: kept as they came, with the verdict that was found here."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from orthocris.core.verdict.shared import Shared, shared_from


@dataclass(frozen=True, slots=True)
class Neighbour:
    """A trial of another garden, and what this program found in its numbers."""

    id: int
    garden: str
    trial: Shared
    verdict: Mapping[str, Any]


def keep(
    connection: sqlite3.Connection,
    digest: str,
    garden: str,
    trial: Shared,
    inputs: str,
    judged: tuple[str, Mapping[str, Any]],
    now: datetime,
) -> int:
    """Keep a trial with its table and (version, verdict); return its id."""
    version, verdict = judged
    cursor = connection.execute(
        "INSERT INTO neighbour (digest, garden, pest, trial, inputs, version, verdict, came_at)"
        " VALUES (:digest, :garden, :pest, :trial, :inputs, :version, :verdict, :now)",
        {
            "digest": digest,
            "garden": garden,
            "pest": trial.pest,
            "trial": json.dumps(trial.to_plain(), ensure_ascii=False),
            "inputs": inputs,
            "version": version,
            "verdict": json.dumps(verdict, ensure_ascii=False),
            "now": now.isoformat(),
        },
    )
    return int(cursor.lastrowid or 0)


def known(connection: sqlite3.Connection, digest: str) -> int | None:
    """Return the id of the trial with these very numbers, if it is here already."""
    row = connection.execute(
        "SELECT id FROM neighbour WHERE digest = :digest AND removed_at IS NULL", {"digest": digest}
    ).fetchone()
    return None if row is None else int(row["id"])


def kept(connection: sqlite3.Connection, pest: str | None = None) -> tuple[Neighbour, ...]:
    """Return the trials of other gardens, of one pest or of all, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM neighbour WHERE removed_at IS NULL AND (:pest IS NULL OR pest = :pest)"
        " ORDER BY json_extract(trial, '$.first_spray'), id",
        {"pest": pest},
    )
    return tuple(
        Neighbour(
            row["id"],
            row["garden"],
            shared_from(json.loads(row["trial"])),
            json.loads(row["verdict"]),
        )
        for row in rows
    )


def remove(connection: sqlite3.Connection, neighbour_id: int, now: datetime) -> bool:
    """Take a trial off; its trace stays. False where there is none."""
    cursor = connection.execute(
        "UPDATE neighbour SET removed_at = :now WHERE id = :id AND removed_at IS NULL",
        {"id": neighbour_id, "now": now.isoformat()},
    )
    return cursor.rowcount > 0
