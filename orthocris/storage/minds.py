"""What the gardener minds."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping

from orthocris.core.trial.minds import USUAL_MINDS, Mind, Minds, Weight


def load(connection: sqlite3.Connection) -> Minds:
    """Return what was said, or what is usual where nobody has said anything."""
    rows = connection.execute("SELECT name, weight FROM mind")
    return {Mind(row["name"]): Weight(row["weight"]) for row in rows} or USUAL_MINDS


def save(connection: sqlite3.Connection, minds: Mapping[Mind, Weight]) -> None:
    """Keep what is minded, of each thing."""
    connection.executemany(
        "INSERT INTO mind (name, weight) VALUES (:name, :weight)"
        " ON CONFLICT (name) DO UPDATE SET weight = excluded.weight",
        [{"name": m.value, "weight": int(minds.get(m, Weight.NOT))} for m in Mind],
    )
