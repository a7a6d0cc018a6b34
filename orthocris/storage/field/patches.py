"""Patch tests: what was put on which leaves, and what was seen."""

from __future__ import annotations

import json
import sqlite3
from datetime import datetime

from orthocris.core.trial.patches import Harm, PatchReading, PatchTest
from orthocris.storage.trial.scope import SCOPE, grouped


def keep(connection: sqlite3.Connection, trial_id: int, test: PatchTest) -> int:
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


def withdraw(connection: sqlite3.Connection, patch_id: int, now: datetime) -> None:
    """Take back a patch test entered by mistake; its trace stays."""
    connection.execute(
        "UPDATE patch_test SET withdrawn_at = :now WHERE id = :id",
        {"id": patch_id, "now": now.isoformat()},
    )


def keep_reading(connection: sqlite3.Connection, patch_id: int, look: PatchReading) -> None:
    """Keep a look at a patch test."""
    connection.execute(
        "INSERT INTO patch_reading (patch_id, hours, seen_at, treated, beside, harm)"
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


def of_trials(
    connection: sqlite3.Connection, trial_id: int | None
) -> dict[int, tuple[PatchTest, ...]]:
    """Return the tests of one trial, or (None) of all on the list, with their newest readings.

    Tests that were withdrawn are left out.
    """
    key = {"t": trial_id}
    readings = grouped(
        connection.execute(
            "SELECT l.* FROM patch_reading l JOIN patch_test t ON t.id = l.patch_id"  # noqa: S608
            f" WHERE t.trial_id IN {SCOPE} AND l.id = (SELECT max(o.id) FROM patch_reading o"
            " WHERE o.patch_id = l.patch_id AND o.hours = l.hours) ORDER BY l.hours",
            key,
        ),
        "patch_id",
    )
    tests = connection.execute(
        f"SELECT * FROM patch_test WHERE trial_id IN {SCOPE} AND withdrawn_at IS NULL ORDER BY id",  # noqa: S608
        key,
    )
    return {
        trial: tuple(_test(row, readings.get(row["id"], [])) for row in own)
        for trial, own in grouped(tests).items()
    }


def _test(r: sqlite3.Row, readings: list[sqlite3.Row]) -> PatchTest:
    return PatchTest(
        id=r["id"],
        remedy_id=r["remedy_id"],
        leaf_kind=r["leaf_kind"],
        leaves=r["leaves"],
        strength=r["strength"],
        hours=tuple(json.loads(r["hours"])),
        applied_at=datetime.fromisoformat(r["applied_at"]),
        treated_before=r["treated_before"],
        beside_before=r["beside_before"],
        readings=tuple(_reading(row) for row in readings),
    )


def _reading(r: sqlite3.Row) -> PatchReading:
    seen = datetime.fromisoformat(r["seen_at"])
    return PatchReading(r["hours"], seen, r["treated"], r["beside"], Harm(r["harm"]))
