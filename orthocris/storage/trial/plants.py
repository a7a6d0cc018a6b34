"""Plants of a trial, and the record of its layouts."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from datetime import date, datetime

from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.trial.trial import Plant
from orthocris.storage.trial.recount import recount_trial

COLUMNS = "id, name, row, place, match_count, set_aside, block, remedy_id, size, host, died_on"


def of_trial(connection: sqlite3.Connection, trial_id: int) -> tuple[Plant, ...]:
    """Return the plants of a trial, row by row."""
    rows = connection.execute(
        f"SELECT {COLUMNS} FROM plant WHERE trial_id = :t ORDER BY row, place",  # noqa: S608
        {"t": trial_id},
    )
    return tuple(_plant(row) for row in rows)


def one(connection: sqlite3.Connection, trial_id: int, plant_id: int) -> Plant | None:
    """Return a plant of a trial; None when it has no such plant."""
    row = connection.execute(
        f"SELECT {COLUMNS} FROM plant WHERE id = :plant AND trial_id = :t",  # noqa: S608
        {"plant": plant_id, "t": trial_id},
    ).fetchone()
    return None if row is None else _plant(row)


def _plant(row: sqlite3.Row) -> Plant:
    found = dict(row)
    died_on = found.pop("died_on")
    return Plant(**found, died_on=date.fromisoformat(died_on) if died_on else None)


def insert(
    connection: sqlite3.Connection,
    trial_id: int,
    name: str,
    row: int,
    place: int,
    host: str | None = None,
) -> int:
    """Add a plant (`host`: a unit on that plant) and return its id."""
    cursor = connection.execute(
        "INSERT INTO plant (trial_id, name, row, place, host)"
        " VALUES (:t, :name, :row, :place, :host)",
        {"t": trial_id, "name": name.strip(), "row": row, "place": place, "host": host},
    )
    return int(cursor.lastrowid or 0)


def update(connection: sqlite3.Connection, trial_id: int, plant: Plant) -> None:
    """Keep name, place, match count and set-aside reason of a plant."""
    connection.execute(
        "UPDATE plant SET name = :name, row = :row, place = :place, match_count = :match_count,"
        " set_aside = :set_aside, size = :size, host = :host, died_on = :died_on WHERE id = :id",
        {
            "id": plant.id,
            "name": plant.name.strip(),
            "row": plant.row,
            "place": plant.place,
            "match_count": plant.match_count,
            "set_aside": plant.set_aside,
            "size": plant.size,
            "host": plant.host.strip() if plant.host else None,
            "died_on": plant.died_on.isoformat() if plant.died_on else None,
        },
    )
    recount_trial(connection, trial_id)


def move(connection: sqlite3.Connection, steps: Sequence[tuple[int, tuple[int, int]]]) -> None:
    """Put plants (by id) at new rows and places, one after the other."""
    for plant_id, (row, place) in steps:
        connection.execute(
            "UPDATE plant SET row = :row, place = :place WHERE id = :id",
            {"id": plant_id, "row": row, "place": place},
        )


def delete(connection: sqlite3.Connection, plant_id: int) -> None:
    """Remove a plant."""
    connection.execute("DELETE FROM plant WHERE id = :id", {"id": plant_id})


def clear_layout(connection: sqlite3.Connection, trial_id: int) -> None:
    """Take every plant out of its block."""
    connection.execute(
        "UPDATE plant SET block = NULL, remedy_id = NULL WHERE trial_id = :t", {"t": trial_id}
    )
    recount_trial(connection, trial_id)


def set_layout(
    connection: sqlite3.Connection,
    trial_id: int,
    block_of: Mapping[int, int],
    remedy_of: Mapping[int, int],
) -> None:
    """Put plants (by id) into blocks with their remedy's id."""
    for plant_id, block in block_of.items():
        connection.execute(
            "UPDATE plant SET block = :block, remedy_id = :remedy WHERE id = :id",
            {"id": plant_id, "block": block, "remedy": remedy_of[plant_id]},
        )
    recount_trial(connection, trial_id)


def record_layout(connection: sqlite3.Connection, trial_id: int, event: LayoutEvent) -> None:
    """Add a line to the record of layouts."""
    connection.execute(
        "INSERT INTO layout_event (trial_id, made_at, kind, seed, reason)"
        " VALUES (:t, :at, :kind, :seed, :reason)",
        {
            "t": trial_id,
            "at": event.made_at.isoformat(),
            "kind": event.kind,
            "seed": event.seed,
            "reason": event.reason,
        },
    )


def layout_events(connection: sqlite3.Connection, trial_id: int) -> tuple[LayoutEvent, ...]:
    """Return the record of layouts, the oldest first."""
    rows = connection.execute(
        "SELECT made_at, kind, seed, reason FROM layout_event WHERE trial_id = :t ORDER BY id",
        {"t": trial_id},
    )
    return tuple(
        LayoutEvent(datetime.fromisoformat(r["made_at"]), r["kind"], r["seed"], r["reason"])
        for r in rows
    )
