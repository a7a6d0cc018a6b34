"""The other layouts that a lot could have drawn, kept with their trial, and those still due."""

from __future__ import annotations

import json
import sqlite3

from orthocris.core.planning.drawn_layouts import DrawnLayouts


def note_due(connection: sqlite3.Connection, trial_id: int) -> None:
    """Note that a trial's layouts are to be drawn; those of an earlier drawing are forgotten."""
    connection.execute("DELETE FROM layout_set WHERE trial_id = :t", {"t": trial_id})
    connection.execute("INSERT OR IGNORE INTO layout_due (trial_id) VALUES (:t)", {"t": trial_id})


def is_due(connection: sqlite3.Connection, trial_id: int) -> bool:
    """Tell whether a trial's layouts are still to be drawn."""
    query = "SELECT 1 FROM layout_due WHERE trial_id = :t"
    return connection.execute(query, {"t": trial_id}).fetchone() is not None


def due(connection: sqlite3.Connection) -> tuple[int, ...]:
    """Return the trials whose layouts are still to be drawn."""
    rows = connection.execute("SELECT trial_id FROM layout_due ORDER BY trial_id")
    return tuple(row["trial_id"] for row in rows)


def keep(connection: sqlite3.Connection, trial_id: int, drawn: DrawnLayouts | None) -> None:
    """Keep the layouts, one byte for each plant, and nothing is due; None: the lot is free."""
    connection.execute("DELETE FROM layout_set WHERE trial_id = :t", {"t": trial_id})
    connection.execute("DELETE FROM layout_due WHERE trial_id = :t", {"t": trial_id})
    if drawn is None:
        return
    connection.execute(
        "INSERT INTO layout_set (trial_id, plants, layouts) VALUES (:t, :plants, :layouts)",
        {
            "t": trial_id,
            "plants": json.dumps(drawn.plants),
            "layouts": drawn.packed,
        },
    )


def kept(connection: sqlite3.Connection, trial_id: int) -> DrawnLayouts | None:
    """Return the layouts that the lot could have drawn, or None where it was free."""
    row = connection.execute(
        "SELECT plants, layouts FROM layout_set WHERE trial_id = :t", {"t": trial_id}
    ).fetchone()
    if row is None:
        return None
    return DrawnLayouts(tuple(json.loads(row["plants"])), row["layouts"])
