"""Tallies: what was counted, nothing of it ever overwritten unseen."""

from __future__ import annotations

import sqlite3
from datetime import date, datetime

from orthocris.core.counting import TallyEntry
from orthocris.core.trial.trial import Tally


def keep(connection: sqlite3.Connection, entry: TallyEntry, now: datetime) -> None:
    """Keep a tally: the same session moves its own line on, a new session adds a line."""
    connection.execute(
        "INSERT INTO tally (look_id, plant_id, measure, session, step, value, total, effort,"
        " finished, counted_at, counted_on) VALUES (:look, :plant, :measure, :session, :step,"
        " :value, :total, :effort, :finished, :now, :on)"
        " ON CONFLICT (session, look_id, plant_id, measure) DO UPDATE SET step = excluded.step,"
        " value = excluded.value, total = excluded.total, effort = excluded.effort,"
        " finished = excluded.finished, counted_at = excluded.counted_at,"
        " counted_on = excluded.counted_on"
        " WHERE excluded.step > tally.step",
        {
            "look": entry.look_id,
            "plant": entry.plant_id,
            "measure": entry.measure,
            "session": entry.session,
            "step": entry.step,
            "value": entry.value,
            "total": entry.of,
            "effort": entry.effort,
            "finished": int(entry.finished),
            "now": now.isoformat(),
            "on": (entry.counted_on or now.date()).isoformat(),
        },
    )


def current(connection: sqlite3.Connection, trial_id: int) -> tuple[Tally, ...]:
    """Return the newest tally of every plant, look and measure of a trial."""
    rows = connection.execute(
        "SELECT t.*, (SELECT f.counted_at FROM tally f WHERE f.look_id = t.look_id"
        " AND f.plant_id = t.plant_id AND f.measure = t.measure ORDER BY f.id LIMIT 1)"
        " AS first_counted_at"
        " FROM tally t JOIN look l ON l.id = t.look_id WHERE l.trial_id = :t AND t.id ="
        " (SELECT max(o.id) FROM tally o WHERE o.look_id = t.look_id"
        " AND o.plant_id = t.plant_id AND o.measure = t.measure) ORDER BY t.id",
        {"t": trial_id},
    )
    return tuple(_tally(row) for row in rows)


def history(
    connection: sqlite3.Connection, look_id: int, plant_id: int, measure: str
) -> tuple[Tally, ...]:
    """Return every tally kept for one plant, look and measure, the oldest first."""
    rows = connection.execute(
        "SELECT *, counted_at AS first_counted_at FROM tally WHERE look_id = :look"
        " AND plant_id = :plant AND measure = :measure ORDER BY id",
        {"look": look_id, "plant": plant_id, "measure": measure},
    )
    return tuple(_tally(row) for row in rows)


def any_kept(connection: sqlite3.Connection, trial_id: int) -> bool:
    """Tell whether anything was ever counted in a trial."""
    found = connection.execute(
        "SELECT 1 FROM tally t JOIN look l ON l.id = t.look_id WHERE l.trial_id = :t LIMIT 1",
        {"t": trial_id},
    ).fetchone()
    return found is not None


def _tally(row: sqlite3.Row) -> Tally:
    return Tally(
        id=row["id"],
        look_id=row["look_id"],
        plant_id=row["plant_id"],
        measure=row["measure"],
        value=row["value"],
        of=row["total"],
        effort=row["effort"],
        finished=bool(row["finished"]),
        counted_at=datetime.fromisoformat(row["counted_at"]),
        counted_on=date.fromisoformat(row["counted_on"]),
        first_counted_at=datetime.fromisoformat(row["first_counted_at"]),
    )
