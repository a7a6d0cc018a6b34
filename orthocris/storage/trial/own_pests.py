"""The gardener's own pests, kept beside the shipped ones."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import datetime

from pydantic import TypeAdapter

from orthocris.core.trial.own_pests import OwnPest

FACTS = TypeAdapter(OwnPest)


def all_kept(connection: sqlite3.Connection) -> tuple[OwnPest, ...]:
    """Return those on the list, by name."""
    rows = connection.execute(
        "SELECT id, name, facts FROM own_pest WHERE removed_at IS NULL ORDER BY lower(name), id"
    )
    return tuple(replace(FACTS.validate_json(r["facts"]), id=r["id"], name=r["name"]) for r in rows)


def keep(connection: sqlite3.Connection, pest: OwnPest, now: datetime) -> int:
    """Add a pest, or (with its id) change one; return the id."""
    cursor = connection.execute(
        "INSERT INTO own_pest (id, name, facts, made_at) VALUES (:id, :name, :facts, :now)"
        " ON CONFLICT (id) DO UPDATE SET name = excluded.name, facts = excluded.facts",
        {
            "id": pest.id or None,
            "name": pest.name,
            "facts": FACTS.dump_json(pest).decode(),
            "now": now.isoformat(),
        },
    )
    return pest.id or int(cursor.lastrowid or 0)


def remove(connection: sqlite3.Connection, pest_id: int, now: datetime) -> None:
    """Take a pest off the list; trials of it keep its name."""
    connection.execute(
        "UPDATE own_pest SET removed_at = :now WHERE id = :id",
        {"id": pest_id, "now": now.isoformat()},
    )
