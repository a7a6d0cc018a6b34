"""How far trials have come, of one or of all on the list: a constant number of statements."""

from __future__ import annotations

import json
import sqlite3
from collections import Counter
from datetime import date, datetime
from typing import Any

from orthocris.core.trial.plan import Look, Round, TrialPlan
from orthocris.core.trial.standing import (
    BottleKey,
    BottleStanding,
    LookStanding,
    RoundStanding,
    Standing,
    is_early,
)
from orthocris.storage.field import patches, sprays
from orthocris.storage.trial.reading import plans
from orthocris.storage.trial.scope import SCOPE, Grouped, grouped

NO_PLANTS: dict[str, Any] = {
    "listed": 0,
    "active": 0,
    "uncounted": 0,
    "allotted": 0,
    "blocks": 0,
    "laid_out": 0,
    "read": 0,
    "by_remedy": None,
}


def standings(connection: sqlite3.Connection, trial_id: int | None) -> tuple[Standing, ...]:
    """Return the standing of one trial, or (None) of all on the list, the newest first."""
    numbers = _plants(connection, trial_id)
    counts = _look_counts(connection, trial_id)
    rounds = _round_counts(connection, trial_id)
    mixed = _bottles(connection, trial_id)
    tested = patches.of_trials(connection, trial_id)
    given = sprays.last_given(connection, trial_id)
    return tuple(
        Standing(
            plan=plan,
            **_numbers(numbers.get(plan.id, NO_PLANTS)),
            looks=tuple(_look(plan, look, counts) for look in plan.looks),
            rounds=tuple(_round(round_, rounds.get(round_.id)) for round_ in plan.rounds),
            bottles=mixed.get(plan.id, {}),
            patches=tested.get(plan.id, ()),
            given=given.get(plan.id, {}),
        )
        for plan in plans(connection, trial_id)
    )


def _plants(connection: sqlite3.Connection, trial_id: int | None) -> dict[int, sqlite3.Row]:
    rows = connection.execute(
        "SELECT trial_id, count(*) AS listed, sum(set_aside IS NULL) AS active,"  # noqa: S608
        " sum(set_aside IS NULL AND match_count IS NULL) AS uncounted,"
        " sum(set_aside IS NULL AND remedy_id IS NOT NULL) AS allotted,"
        " count(DISTINCT CASE WHEN set_aside IS NULL AND remedy_id IS NOT NULL THEN block END)"
        " AS blocks, max(remedy_id IS NOT NULL) AS laid_out,"
        " EXISTS (SELECT 1 FROM verdict_record v WHERE v.trial_id = plant.trial_id)"
        " OR EXISTS (SELECT 1 FROM trial t WHERE t.goes_on = plant.trial_id) AS read,"
        " group_concat(CASE WHEN set_aside IS NULL THEN remedy_id END) AS by_remedy"
        f" FROM plant WHERE trial_id IN {SCOPE} GROUP BY trial_id",
        {"t": trial_id},
    )
    return {row["trial_id"]: row for row in rows}


def _numbers(row: sqlite3.Row | dict[str, Any]) -> dict[str, Any]:
    plain = {k: row[k] for k in NO_PLANTS}
    plain["laid_out"] = bool(row["laid_out"])
    plain["read"] = bool(row["read"])
    given = (row["by_remedy"] or "").split(",")
    plain["by_remedy"] = Counter(int(text) for text in given if text)
    return plain


def _look_counts(connection: sqlite3.Connection, trial_id: int | None) -> Grouped:
    rows = connection.execute(
        "SELECT c.look_id, c.counted_on, c.finished FROM look_count c"  # noqa: S608
        f" JOIN look l ON l.id = c.look_id WHERE l.trial_id IN {SCOPE}",
        {"t": trial_id},
    )
    return grouped(rows, "look_id")


def _round_counts(connection: sqlite3.Connection, trial_id: int | None) -> dict[int, sqlite3.Row]:
    rows = connection.execute(
        "SELECT r.id AS round_id, c.sprayed, c.done, c.begun_at,"  # noqa: S608
        " (SELECT e.amount FROM round_event e WHERE e.round_id = r.id AND e.kind = 'washed_off')"
        " AS washed_off,"
        " (SELECT e.kind FROM round_event e WHERE e.round_id = r.id"
        " AND e.kind IN ('left_out', 'moved') ORDER BY e.id DESC LIMIT 1) AS last_move"
        f" FROM round r LEFT JOIN round_count c ON c.round_id = r.id WHERE r.trial_id IN {SCOPE}",
        {"t": trial_id},
    )
    return {row["round_id"]: row for row in rows}


def _bottles(
    connection: sqlite3.Connection, trial_id: int | None
) -> dict[int, dict[BottleKey, BottleStanding]]:
    """Of the batches not poured away the one that lasts longest; one that keeps outlasts all.

    SQLite takes a bare column of a group from the row in which its `max` is found.
    """
    rows = connection.execute(
        "SELECT trial_id, remedy_id, step, count(*) AS mixed, use_by,"  # noqa: S608
        " json_group_array(DISTINCT recipe) AS recipes,"
        " max(CASE WHEN discarded_at IS NULL THEN coalesce(julianday(use_by), 1e9) ELSE 0 END)"
        " AS lasts"
        f" FROM batch WHERE trial_id IN {SCOPE} GROUP BY trial_id, remedy_id, step",
        {"t": trial_id},
    )
    found: dict[int, dict[BottleKey, BottleStanding]] = {}
    for row in rows:
        usable = row["lasts"] > 0
        until = datetime.fromisoformat(row["use_by"]) if usable and row["use_by"] else None
        recipes = frozenset(json.loads(row["recipes"]))
        bottle = BottleStanding(row["mixed"], usable, until, recipes)
        found.setdefault(row["trial_id"], {})[row["remedy_id"], row["step"]] = bottle
    return found


def _look(plan: TrialPlan, look: Look, counts: Grouped) -> LookStanding:
    rows = counts.get(look.id, [])
    in_time = sum(
        row["finished"]
        for row in rows
        if not is_early(plan, look, date.fromisoformat(row["counted_on"]))
    )
    return LookStanding(look, sum(row["finished"] for row in rows), in_time)


def _round(round_: Round, row: sqlite3.Row | None) -> RoundStanding:
    if row is None:
        return RoundStanding(round_)
    begun = row["begun_at"]
    return RoundStanding(
        round=round_,
        sprayed=row["sprayed"] or 0,
        done=row["done"] or 0,
        begun_at=datetime.fromisoformat(begun) if begun else None,
        left_out=row["last_move"] == "left_out",
        washed_off=row["washed_off"],
    )
