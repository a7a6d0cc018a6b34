"""Reading trials: the plan alone, with its bench, or with every number that holds."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable
from dataclasses import fields
from datetime import date, datetime
from typing import Any, TypeVar

from orthocris.core.errors import NotFoundError
from orthocris.core.trial.lookup import find_round
from orthocris.core.trial.plan import Look, Remedy, Role, Round, TrialPlan
from orthocris.core.trial.trial import CountedTrial, Trial
from orthocris.storage.counting import counts
from orthocris.storage.field import batches, patches, rounds, sprays
from orthocris.storage.trial import plants
from orthocris.storage.trial.plain import read_care, read_setup, read_traits
from orthocris.storage.trial.scope import SCOPE, grouped

T = TypeVar("T")


def load_plan(connection: sqlite3.Connection, trial_id: int) -> TrialPlan:
    """Return the plan of a trial, or raise NotFoundError."""
    found = plans(connection, trial_id)
    if not found:
        raise NotFoundError(
            f"there is no trial {trial_id}", code="no_such_trial", fix="Choose one from Today."
        )
    return found[0]


def load(connection: sqlite3.Connection, trial_id: int) -> Trial:
    """Return a trial with its bench, or raise NotFoundError."""
    return Trial(**_bench(connection, trial_id))


def load_round(connection: sqlite3.Connection, trial_id: int, number: int) -> Trial:
    """Return a trial with the marks, starts and events of one round only."""
    plan = load_plan(connection, trial_id)
    round_id = find_round(plan, number).id
    return Trial(
        **{field.name: getattr(plan, field.name) for field in fields(TrialPlan)},
        plants=plants.of_trial(connection, trial_id),
        sprays=sprays.of_trial(connection, trial_id, round_id),
        starts=rounds.starts(connection, trial_id),
        events=rounds.events(connection, trial_id),
    )


def load_counted(connection: sqlite3.Connection, trial_id: int) -> CountedTrial:
    """Return a trial with every number that holds now, or raise NotFoundError."""
    bench = _bench(connection, trial_id)
    return CountedTrial(**bench, tallies=counts.current(connection, trial_id))


def load_parts(connection: sqlite3.Connection, trial_id: int) -> tuple[CountedTrial, ...]:
    """Return a trial with every number that holds now, behind those from which it goes on."""
    parts = [load_counted(connection, trial_id)]
    while (before := parts[0].goes_on) is not None:
        parts.insert(0, load_counted(connection, before))
    return tuple(parts)


def plans(connection: sqlite3.Connection, trial_id: int | None) -> tuple[TrialPlan, ...]:
    """Return the plan of one trial, or (None) of all that are not put away, the newest first."""
    key = {"t": trial_id}
    rows = connection.execute(
        f"SELECT * FROM trial WHERE id IN {SCOPE} ORDER BY julianday(created_at) DESC, id DESC",  # noqa: S608
        key,
    ).fetchall()
    remedies = grouped(
        connection.execute(
            f"SELECT * FROM remedy WHERE trial_id IN {SCOPE} ORDER BY position, id",  # noqa: S608
            key,
        )
    )
    rounds_ = grouped(
        connection.execute(f"SELECT * FROM round WHERE trial_id IN {SCOPE} ORDER BY number", key)  # noqa: S608
    )
    looks = grouped(
        connection.execute(f"SELECT * FROM look WHERE trial_id IN {SCOPE} ORDER BY number", key)  # noqa: S608
    )
    return tuple(
        _plan(r, remedies.get(r["id"], []), rounds_.get(r["id"], []), looks.get(r["id"], []))
        for r in rows
    )


def _bench(connection: sqlite3.Connection, trial_id: int) -> dict[str, Any]:
    plan = load_plan(connection, trial_id)
    return {
        **{field.name: getattr(plan, field.name) for field in fields(TrialPlan)},
        "plants": plants.of_trial(connection, trial_id),
        "sprays": sprays.of_trial(connection, trial_id),
        "batches": batches.of_trials(connection, trial_id).get(trial_id, ()),
        "patches": patches.of_trials(connection, trial_id).get(trial_id, ()),
        "starts": rounds.starts(connection, trial_id),
        "events": rounds.events(connection, trial_id),
    }


def _plan(
    row: sqlite3.Row,
    remedies: list[sqlite3.Row],
    rounds_: list[sqlite3.Row],
    looks: list[sqlite3.Row],
) -> TrialPlan:
    return TrialPlan(
        id=row["id"],
        name=row["name"],
        pest=row["pest"],
        measure=row["measure"],
        threshold=row["threshold"],
        start_on=date.fromisoformat(row["start_on"]),
        sprayed_on=_if(row["sprayed_on"], date.fromisoformat),
        seed=row["seed"],
        remedies=tuple(_remedy(r) for r in remedies if r["left_out_at"] is None),
        left_out_remedies=tuple(_remedy(r) for r in remedies if r["left_out_at"] is not None),
        rounds=tuple(_round(r) for r in rounds_),
        looks=tuple(Look(r["id"], r["number"], r["day"], r["hours"]) for r in looks),
        setup=read_setup(row["setup"]),
        key_opened_at=_if(row["key_opened_at"], datetime.fromisoformat),
        care=read_care(row["care"]),
        put_away_at=_if(row["put_away_at"], datetime.fromisoformat),
        goes_on=row["goes_on"],
    )


def _round(row: sqlite3.Row) -> Round:
    given = frozenset(json.loads(row["remedies"])) if row["remedies"] is not None else None
    steps = tuple((r, step) for r, step in json.loads(row["steps"] or "[]"))
    return Round(row["id"], row["number"], row["day"], given, steps)


def _if(text: str | None, read: Callable[[str], T]) -> T | None:
    return read(text) if text else None


def _remedy(row: sqlite3.Row) -> Remedy:
    return Remedy(
        row["id"],
        row["was_called"] or row["name"],
        Role(row["role"]),
        row["recipe"],
        row["letter"],
        row["notches"],
        read_traits(row["traits"]),
    )
