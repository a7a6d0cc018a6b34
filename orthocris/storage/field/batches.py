"""Batches: bottles as they were really mixed."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict
from datetime import datetime
from functools import lru_cache

from orthocris.core.trial.batches import Batch, MixKind, PouredPart
from orthocris.storage.trial.scope import SCOPE, grouped


def keep(connection: sqlite3.Connection, batch: Batch) -> int:
    """Keep a batch; its id is given here."""
    cursor = connection.execute(
        "INSERT INTO batch (trial_id, remedy_id, title, kind, recipe, volume, parts, mixed_at,"
        " use_by, acknowledged, mixed_by, cost, note, step) VALUES (:trial, :remedy, :title, :kind,"
        " :recipe, :volume, :parts, :mixed_at, :use_by, :acknowledged, :mixed_by, :cost, :note,"
        " :step)",
        {
            "trial": batch.trial_id,
            "remedy": batch.remedy_id,
            "title": batch.title,
            "kind": batch.kind.value,
            "recipe": batch.recipe,
            "volume": batch.volume,
            "parts": json.dumps([asdict(part) for part in batch.parts]),
            "mixed_at": batch.mixed_at.isoformat(),
            "use_by": batch.use_by.isoformat() if batch.use_by else None,
            "acknowledged": json.dumps(batch.acknowledged),
            "mixed_by": batch.mixed_by,
            "cost": batch.cost,
            "note": batch.note,
            "step": batch.step,
        },
    )
    return int(cursor.lastrowid or 0)


def discard(connection: sqlite3.Connection, batch_id: int, now: datetime) -> None:
    """Record that a batch was poured away."""
    connection.execute(
        "UPDATE batch SET discarded_at = coalesce(discarded_at, :now) WHERE id = :id",
        {"id": batch_id, "now": now.isoformat()},
    )


def of_trials(connection: sqlite3.Connection, trial_id: int | None) -> dict[int, tuple[Batch, ...]]:
    """Return the batches of one trial, or (None) of all on the list, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM batch WHERE trial_id IN"  # noqa: S608
        f" {SCOPE} ORDER BY trial_id, julianday(mixed_at), id",
        {"t": trial_id},
    )
    return {trial: tuple(_batch(row) for row in own) for trial, own in grouped(rows).items()}


def _batch(r: sqlite3.Row) -> Batch:
    return Batch(
        id=r["id"],
        trial_id=r["trial_id"],
        remedy_id=r["remedy_id"],
        title=r["title"],
        kind=MixKind(r["kind"]),
        recipe=r["recipe"],
        volume=r["volume"],
        parts=_parts(r["parts"]),
        mixed_at=datetime.fromisoformat(r["mixed_at"]),
        use_by=_time(r["use_by"]),
        acknowledged=tuple(json.loads(r["acknowledged"])),
        mixed_by=r["mixed_by"],
        cost=r["cost"],
        note=r["note"],
        discarded_at=_time(r["discarded_at"]),
        step=r["step"],
    )


@lru_cache(maxsize=1024)
def _parts(text: str) -> tuple[PouredPart, ...]:
    return tuple(PouredPart(**part) for part in json.loads(text))


def _time(text: str | None) -> datetime | None:
    return datetime.fromisoformat(text) if text else None
