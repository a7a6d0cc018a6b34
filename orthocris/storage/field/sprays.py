"""Sprays: what each plant got in each round; a mark taken back leaves its trace."""

from __future__ import annotations

import sqlite3
from datetime import date, datetime

from orthocris.core.field.clashes import SprayedBefore
from orthocris.core.trial.sprays import SprayEntry, SprayKind
from orthocris.core.trial.trial import Spray
from orthocris.storage.trial.recount import recount_round
from orthocris.storage.trial.scope import SCOPE


def keep(
    connection: sqlite3.Connection,
    round_id: int,
    entry: SprayEntry,
    batch_id: int | None,
    now: datetime,
) -> None:
    """Keep what one plant got; a tap sent twice (the same key) is kept once."""
    connection.execute(
        "INSERT INTO spray (round_id, plant_id, sprayed_at, kind, batch_id, volume, undersides,"
        " drifted, neighbour_id, deviation, note, key) VALUES (:round, :plant, :now, :kind,"
        " :batch, :volume, :undersides, :drifted, :neighbour, :deviation, :note, :key)"
        " ON CONFLICT (key) WHERE key IS NOT NULL DO NOTHING",
        {
            "round": round_id,
            "plant": entry.plant_id,
            "now": now.isoformat(),
            "kind": entry.kind.value,
            "batch": batch_id,
            "volume": entry.volume,
            "undersides": int(entry.undersides),
            "drifted": int(entry.drifted),
            "neighbour": entry.neighbour_id,
            "deviation": entry.deviation.strip(),
            "note": entry.note.strip(),
            "key": entry.key,
        },
    )
    recount_round(connection, round_id)


def sprayed_elsewhere(
    connection: sqlite3.Connection, trial_id: int, since: date
) -> tuple[SprayedBefore, ...]:
    """Return what was sprayed in other trials since a day, put away or not, with its last day."""
    rows = connection.execute(
        "SELECT t.name AS trial, m.name || ' ' || m.recipe || coalesce((SELECT group_concat("
        " ' ' || (j.value ->> 'name') || ' ' || (j.value ->> 'recipe'))"
        " FROM json_each(m.traits, '$.steps') j), '') AS said, max(s.sprayed_at) AS at"
        " FROM spray s JOIN plant p ON p.id = s.plant_id JOIN trial t ON t.id = p.trial_id"
        " JOIN remedy m ON m.id = p.remedy_id WHERE t.id <> :t AND s.undone_at IS NULL"
        " AND s.kind <> 'skipped' AND s.sprayed_at >= :since GROUP BY m.id ORDER BY m.id",
        {"t": trial_id, "since": since.isoformat()},
    )
    return tuple(
        SprayedBefore(row["trial"], row["said"], datetime.fromisoformat(row["at"]).date())
        for row in rows
    )


def last_given(connection: sqlite3.Connection, trial_id: int | None) -> dict[int, dict[int, date]]:
    """Return the last day each remedy was given, by trial; of trials whose plants are eaten."""
    rows = connection.execute(
        "SELECT p.trial_id, p.remedy_id, max(substr(s.sprayed_at, 1, 10)) AS day"  # noqa: S608
        " FROM trial t JOIN plant p ON p.trial_id = t.id JOIN spray s ON s.plant_id = p.id"
        f" WHERE t.id IN {SCOPE} AND json_extract(t.setup, '$.eaten') AND s.undone_at IS NULL"
        " AND s.kind <> 'skipped' AND p.remedy_id IS NOT NULL GROUP BY p.trial_id, p.remedy_id",
        {"t": trial_id},
    )
    found: dict[int, dict[int, date]] = {}
    for row in rows:
        found.setdefault(row["trial_id"], {})[row["remedy_id"]] = date.fromisoformat(row["day"])
    return found


def kept_under(connection: sqlite3.Connection, key: str) -> tuple[int, int, str] | None:
    """Return round, plant and kind of what was kept under a tap's name; None for a new name."""
    found = connection.execute(
        "SELECT round_id, plant_id, kind FROM spray WHERE key = :key", {"key": key}
    ).fetchone()
    return None if found is None else tuple(found)


def undo(
    connection: sqlite3.Connection,
    round_id: int,
    plant_id: int | None,
    now: datetime,
    reason: str = "",
) -> int:
    """Take back the marks of a plant (None: of the whole round); return how many there were."""
    cursor = connection.execute(
        "UPDATE spray SET undone_at = :now, undo_reason = :reason WHERE round_id = :round"
        " AND (:plant IS NULL OR plant_id = :plant) AND undone_at IS NULL",
        {"round": round_id, "plant": plant_id, "now": now.isoformat(), "reason": reason},
    )
    recount_round(connection, round_id)
    return cursor.rowcount


def first_day(connection: sqlite3.Connection, trial_id: int) -> date | None:
    """Return the day of the first spray on record that was not taken back; None without one."""
    rows = connection.execute(
        "SELECT c.begun_at FROM round r JOIN round_count c ON c.round_id = r.id"
        " WHERE r.trial_id = :t AND c.begun_at IS NOT NULL",
        {"t": trial_id},
    )
    return min((datetime.fromisoformat(r["begun_at"]).date() for r in rows), default=None)


def of_plant(connection: sqlite3.Connection, plant_id: int) -> tuple[Spray, ...]:
    """Return the marks in force of one plant, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM spray WHERE plant_id = :plant AND undone_at IS NULL ORDER BY id",
        {"plant": plant_id},
    )
    return tuple(_spray(r) for r in rows)


def of_trial(
    connection: sqlite3.Connection, trial_id: int, round_id: int | None = None
) -> tuple[Spray, ...]:
    """Return the marks in force in a trial, or in one round of it, the oldest first."""
    rows = connection.execute(
        "SELECT s.* FROM spray s JOIN round r ON r.id = s.round_id"
        " WHERE r.trial_id = :t AND (:round IS NULL OR r.id = :round) AND s.undone_at IS NULL"
        " ORDER BY s.id",
        {"t": trial_id, "round": round_id},
    )
    return tuple(_spray(r) for r in rows)


def _spray(r: sqlite3.Row) -> Spray:
    return Spray(
        round_id=r["round_id"],
        plant_id=r["plant_id"],
        sprayed_at=datetime.fromisoformat(r["sprayed_at"]),
        kind=SprayKind(r["kind"]),
        batch_id=r["batch_id"],
        volume=r["volume"],
        undersides=bool(r["undersides"]),
        drifted=bool(r["drifted"]),
        neighbour_id=r["neighbour_id"],
        deviation=r["deviation"],
        note=r["note"],
    )
