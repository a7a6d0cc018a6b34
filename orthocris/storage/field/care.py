"""Batches, patch tests, and what happened to rounds."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict
from datetime import date, datetime

from orthocris.core.trial.batches import Batch, BatchPart, MixKind
from orthocris.core.trial.patches import Harm, PatchLook, PatchTest
from orthocris.core.trial.sprays import EventKind, RoundEvent, RoundStart


def keep_batch(connection: sqlite3.Connection, batch: Batch) -> int:
    """Keep a batch; its id is given here."""
    cursor = connection.execute(
        "INSERT INTO batch (trial_id, remedy_id, title, kind, recipe, volume, parts, mixed_at,"
        " use_by, acknowledged, mixed_by, cost, note) VALUES (:trial, :remedy, :title, :kind,"
        " :recipe, :volume, :parts, :mixed_at, :use_by, :acknowledged, :mixed_by, :cost, :note)",
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
        },
    )
    return int(cursor.lastrowid or 0)


def discard_batch(connection: sqlite3.Connection, batch_id: int, now: datetime) -> None:
    """Record that a batch was poured away."""
    connection.execute(
        "UPDATE batch SET discarded_at = coalesce(discarded_at, :now) WHERE id = :id",
        {"id": batch_id, "now": now.isoformat()},
    )


def batches(connection: sqlite3.Connection, trial_id: int) -> tuple[Batch, ...]:
    """Return the batches of a trial, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM batch WHERE trial_id = :t ORDER BY julianday(mixed_at), id", {"t": trial_id}
    )
    return tuple(
        Batch(
            id=r["id"],
            trial_id=r["trial_id"],
            remedy_id=r["remedy_id"],
            title=r["title"],
            kind=MixKind(r["kind"]),
            recipe=r["recipe"],
            volume=r["volume"],
            parts=tuple(BatchPart(**part) for part in json.loads(r["parts"])),
            mixed_at=datetime.fromisoformat(r["mixed_at"]),
            use_by=_time(r["use_by"]),
            acknowledged=tuple(json.loads(r["acknowledged"])),
            mixed_by=r["mixed_by"],
            cost=r["cost"],
            note=r["note"],
            discarded_at=_time(r["discarded_at"]),
        )
        for r in rows
    )


def keep_patch(connection: sqlite3.Connection, trial_id: int, test: PatchTest) -> int:
    """Keep a patch test; its id is given here."""
    cursor = connection.execute(
        "INSERT INTO patch_test (trial_id, remedy_id, leaf_kind, leaves, strength, hours,"
        " applied_at, treated_before, beside_before) VALUES (:trial, :remedy, :kind, :leaves,"
        " :strength, :hours, :applied_at, :treated, :beside)",
        {
            "trial": trial_id,
            "remedy": test.remedy_id,
            "kind": test.leaf_kind,
            "leaves": test.leaves,
            "strength": test.strength,
            "hours": json.dumps(test.hours),
            "applied_at": test.applied_at.isoformat(),
            "treated": test.treated_before,
            "beside": test.beside_before,
        },
    )
    return int(cursor.lastrowid or 0)


def withdraw_patch(connection: sqlite3.Connection, patch_id: int, now: datetime) -> None:
    """Take back a patch test entered by mistake; its trace stays."""
    connection.execute(
        "UPDATE patch_test SET withdrawn_at = :now WHERE id = :id",
        {"id": patch_id, "now": now.isoformat()},
    )


def keep_patch_look(connection: sqlite3.Connection, patch_id: int, look: PatchLook) -> None:
    """Keep a look at a patch test."""
    connection.execute(
        "INSERT INTO patch_look (patch_id, hours, seen_at, treated, beside, harm)"
        " VALUES (:patch, :hours, :seen_at, :treated, :beside, :harm)",
        {
            "patch": patch_id,
            "hours": look.hours,
            "seen_at": look.seen_at.isoformat(),
            "treated": look.treated,
            "beside": look.beside,
            "harm": look.harm.value,
        },
    )


def patches(connection: sqlite3.Connection, trial_id: int) -> tuple[PatchTest, ...]:
    """Return the patch tests of a trial that were not withdrawn, with their newest looks."""
    rows = connection.execute(
        "SELECT l.* FROM patch_look l JOIN patch_test t ON t.id = l.patch_id"
        " WHERE t.trial_id = :t AND l.id = (SELECT max(o.id) FROM patch_look o"
        " WHERE o.patch_id = l.patch_id AND o.hours = l.hours) ORDER BY l.hours",
        {"t": trial_id},
    ).fetchall()
    looks: dict[int, list[PatchLook]] = {}
    for r in rows:
        seen = datetime.fromisoformat(r["seen_at"])
        look = PatchLook(r["hours"], seen, r["treated"], r["beside"], Harm(r["harm"]))
        looks.setdefault(r["patch_id"], []).append(look)
    tests = connection.execute(
        "SELECT * FROM patch_test WHERE trial_id = :t AND withdrawn_at IS NULL ORDER BY id",
        {"t": trial_id},
    )
    return tuple(
        PatchTest(
            id=r["id"],
            remedy_id=r["remedy_id"],
            leaf_kind=r["leaf_kind"],
            leaves=r["leaves"],
            strength=r["strength"],
            hours=tuple(json.loads(r["hours"])),
            applied_at=datetime.fromisoformat(r["applied_at"]),
            treated_before=r["treated_before"],
            beside_before=r["beside_before"],
            looks=tuple(looks.get(r["id"], ())),
        )
        for r in tests
    )


def keep_start(connection: sqlite3.Connection, start: RoundStart) -> None:
    """Record that a round was started, or taken up again."""
    connection.execute(
        "INSERT INTO round_start (round_id, started_at, batches, overruled, limits, done_on)"
        " VALUES (:round, :at, :batches, :overruled, :limits, :done_on)",
        {
            "round": start.round_id,
            "at": start.started_at.isoformat(),
            "batches": json.dumps(start.batches),
            "overruled": json.dumps(start.overruled),
            "limits": json.dumps(start.limits),
            "done_on": start.done_on.isoformat() if start.done_on else None,
        },
    )


def starts(connection: sqlite3.Connection, trial_id: int) -> tuple[RoundStart, ...]:
    """Return the starts of a trial's rounds, the oldest first."""
    rows = connection.execute(
        "SELECT s.* FROM round_start s JOIN round r ON r.id = s.round_id"
        " WHERE r.trial_id = :t ORDER BY s.id",
        {"t": trial_id},
    )
    return tuple(
        RoundStart(
            r["round_id"],
            datetime.fromisoformat(r["started_at"]),
            {int(k): v for k, v in json.loads(r["batches"]).items()},
            json.loads(r["overruled"]),
            json.loads(r["limits"]),
            date.fromisoformat(r["done_on"]) if r["done_on"] else None,
        )
        for r in rows
    )


def keep_event(connection: sqlite3.Connection, event: RoundEvent) -> None:
    """Record an event of a round; wash-off and heat are one line a round that only grows."""
    connection.execute(
        "INSERT INTO round_event (round_id, at, kind, amount, text)"
        " VALUES (:round, :at, :kind, :amount, :text)"
        " ON CONFLICT (round_id, kind) WHERE kind IN ('washed_off', 'heat_after_oil')"
        " DO UPDATE SET amount = excluded.amount, text = excluded.text"
        " WHERE excluded.amount > round_event.amount",
        {
            "round": event.round_id,
            "at": event.at.isoformat(),
            "kind": event.kind.value,
            "amount": event.amount,
            "text": event.text,
        },
    )


def events(connection: sqlite3.Connection, trial_id: int) -> tuple[RoundEvent, ...]:
    """Return the events of a trial's rounds, the oldest first."""
    rows = connection.execute(
        "SELECT e.* FROM round_event e JOIN round r ON r.id = e.round_id"
        " WHERE r.trial_id = :t ORDER BY e.id",
        {"t": trial_id},
    )
    return tuple(
        RoundEvent(
            r["round_id"],
            datetime.fromisoformat(r["at"]),
            EventKind(r["kind"]),
            r["amount"],
            r["text"],
        )
        for r in rows
    )


def _time(text: str | None) -> datetime | None:
    return datetime.fromisoformat(text) if text else None
