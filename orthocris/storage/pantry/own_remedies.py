"""The gardener's own remedies, kept beside the shipped ones."""

from __future__ import annotations

import sqlite3
from datetime import datetime

from orthocris.core.pantry.own import OwnRemedy
from orthocris.storage.trial.plain import read_traits, traits_text


def all_kept(connection: sqlite3.Connection) -> tuple[OwnRemedy, ...]:
    """Return those on the list, by name."""
    rows = connection.execute(
        "SELECT id, name, recipe, traits FROM own_remedy WHERE removed_at IS NULL"
        " ORDER BY lower(name), id"
    )
    return tuple(OwnRemedy(r["id"], r["name"], r["recipe"], read_traits(r["traits"])) for r in rows)


def keep(connection: sqlite3.Connection, remedy: OwnRemedy, now: datetime) -> int:
    """Add a remedy, or (with its id) change one; return the id."""
    values = {
        "id": remedy.id or None,
        "name": remedy.name.strip(),
        "recipe": remedy.recipe.strip(),
        "traits": traits_text(remedy.traits),
        "now": now.isoformat(),
    }
    cursor = connection.execute(
        "INSERT INTO own_remedy (id, name, recipe, traits, made_at)"
        " VALUES (:id, :name, :recipe, :traits, :now)"
        " ON CONFLICT (id) DO UPDATE SET name = excluded.name, recipe = excluded.recipe,"
        " traits = excluded.traits, removed_at = NULL",
        values,
    )
    return remedy.id or int(cursor.lastrowid or 0)


def remove(connection: sqlite3.Connection, remedy_id: int, now: datetime) -> None:
    """Take a remedy off the list; trials that use it keep it as it is."""
    connection.execute(
        "UPDATE own_remedy SET removed_at = :now WHERE id = :id",
        {"id": remedy_id, "now": now.isoformat()},
    )
