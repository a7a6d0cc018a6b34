"""Trials, their remedies, rounds and looks."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from orthocris.core.trial.care import Care
from orthocris.core.trial.plan import Round, day_and_hours
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.setup import Setup
from orthocris.storage.trial.plain import (
    care_text,
    read_setup,
    setup_text,
    traits_text,
)
from orthocris.storage.trial.recount import recount_trial


def insert(
    connection: sqlite3.Connection,
    question: Question,
    start_on: date,
    now: datetime,
    goes_on: int | None = None,
) -> int:
    """Keep a new trial without remedies and days (`goes_on`: from that one); return its id."""
    cursor = connection.execute(
        "INSERT INTO trial (name, pest, measure, threshold, start_on, setup, created_at, goes_on)"
        " VALUES (:name, :pest, :measure, :threshold, :start_on, :setup, :now, :goes_on)",
        {
            "goes_on": goes_on,
            "name": question.name.strip(),
            "pest": question.pest,
            "measure": question.measure,
            "threshold": question.threshold,
            "start_on": start_on.isoformat(),
            "setup": setup_text(question.setup),
            "now": now.isoformat(),
        },
    )
    return int(cursor.lastrowid or 0)


def update(
    connection: sqlite3.Connection, trial_id: int, question: Question, start_on: date
) -> None:
    """Change the trial's own fields."""
    connection.execute(
        "UPDATE trial SET name = :name, pest = :pest, measure = :measure,"
        " threshold = :threshold, start_on = :start_on, setup = :setup WHERE id = :id",
        {
            "id": trial_id,
            "name": question.name.strip(),
            "pest": question.pest,
            "measure": question.measure,
            "threshold": question.threshold,
            "start_on": start_on.isoformat(),
            "setup": setup_text(question.setup),
        },
    )
    recount_trial(connection, trial_id)


def rename(connection: sqlite3.Connection, trial_id: int, name: str) -> None:
    """Change the trial's name."""
    connection.execute(
        "UPDATE trial SET name = :name WHERE id = :id", {"id": trial_id, "name": name.strip()}
    )


def respell(connection: sqlite3.Connection, names: Mapping[int, str]) -> None:
    """Give remedies other names, by their ids."""
    rows = [(name, remedy) for remedy, name in names.items()]
    connection.executemany("UPDATE remedy SET name = ? WHERE id = ?", rows)


def put_away(connection: sqlite3.Connection, trial_id: int, now: datetime | None) -> None:
    """Put a trial away (None: bring it back); nothing of it is deleted."""
    connection.execute(
        "UPDATE trial SET put_away_at = :now WHERE id = :id",
        {"id": trial_id, "now": now.isoformat() if now else None},
    )


def put_away_name(connection: sqlite3.Connection, trial_id: int) -> str | None:
    """Return the name of a trial that was put away; None for one on the list, or for none."""
    row = connection.execute(
        "SELECT name FROM trial WHERE id = :id AND put_away_at IS NOT NULL", {"id": trial_id}
    ).fetchone()
    return None if row is None else str(row["name"])


def gone_on(connection: sqlite3.Connection, trial_id: int) -> int | None:
    """Return the id of the trial that goes on from this one, put away or not; None without one."""
    row = connection.execute(
        "SELECT id FROM trial WHERE goes_on = :id", {"id": trial_id}
    ).fetchone()
    return None if row is None else int(row["id"])


@dataclass(frozen=True, slots=True)
class TrialRow:
    """A trial in a list."""

    id: int
    name: str
    pest: str
    measure: str
    start_on: date
    sprayed_on: date | None
    put_away_at: datetime | None


def rows(connection: sqlite3.Connection, *, limit: int, after: int) -> tuple[TrialRow, ...]:
    """Return up to `limit` trials with ids above `after`, by id."""
    found = connection.execute(
        "SELECT id, name, pest, measure, start_on, sprayed_on, put_away_at FROM trial"
        " WHERE id > :after ORDER BY id LIMIT :limit",
        {"after": after, "limit": limit},
    )
    return tuple(
        TrialRow(
            id=r["id"],
            name=r["name"],
            pest=r["pest"],
            measure=r["measure"],
            start_on=date.fromisoformat(r["start_on"]),
            sprayed_on=date.fromisoformat(r["sprayed_on"]) if r["sprayed_on"] else None,
            put_away_at=datetime.fromisoformat(r["put_away_at"]) if r["put_away_at"] else None,
        )
        for r in found
    )


def setups(connection: sqlite3.Connection) -> tuple[tuple[date, Setup], ...]:
    """Return the start and setup of every trial, the newest first."""
    rows = connection.execute("SELECT start_on, setup FROM trial ORDER BY id DESC")
    return tuple((date.fromisoformat(r["start_on"]), read_setup(r["setup"])) for r in rows)


def all_names(connection: sqlite3.Connection) -> tuple[tuple[int, str], ...]:
    """Return id and name of every trial, those put away too."""
    return tuple(tuple(row) for row in connection.execute("SELECT id, name FROM trial ORDER BY id"))


def put_away_trials(connection: sqlite3.Connection) -> tuple[tuple[int, str, datetime], ...]:
    """Return id, name and time of every trial put away, the newest first."""
    rows = connection.execute(
        "SELECT id, name, put_away_at FROM trial WHERE put_away_at IS NOT NULL"
        " ORDER BY julianday(put_away_at) DESC, id DESC"
    )
    return tuple(
        (r["id"], r["name"], datetime.fromisoformat(r["put_away_at"])) for r in rows.fetchall()
    )


def set_start(connection: sqlite3.Connection, trial_id: int, day: date) -> None:
    """Change the day planned for the first spray."""
    connection.execute(
        "UPDATE trial SET start_on = :day WHERE id = :id", {"id": trial_id, "day": day.isoformat()}
    )


def set_first_spray(connection: sqlite3.Connection, trial_id: int, day: date | None) -> None:
    """Record the day of the first spray, from which all days are counted."""
    connection.execute(
        "UPDATE trial SET sprayed_on = :day WHERE id = :id",
        {"id": trial_id, "day": day.isoformat() if day else None},
    )


def open_key(connection: sqlite3.Connection, trial_id: int, now: datetime) -> None:
    """Record when the key of the tags was first opened."""
    connection.execute(
        "UPDATE trial SET key_opened_at = coalesce(key_opened_at, :now) WHERE id = :id",
        {"id": trial_id, "now": now.isoformat()},
    )


def save_care(connection: sqlite3.Connection, trial_id: int, care_: Care) -> None:
    """Keep how a trial is cared for."""
    connection.execute(
        "UPDATE trial SET care = :care WHERE id = :id", {"id": trial_id, "care": care_text(care_)}
    )


def move_round(connection: sqlite3.Connection, round_id: int, day: int) -> None:
    """Move a planned round to another day."""
    connection.execute("UPDATE round SET day = :day WHERE id = :id", {"id": round_id, "day": day})


def add_round(
    connection: sqlite3.Connection,
    trial_id: int,
    number: int,
    day: int,
    like: Round,
) -> int:
    """Add a round behind those planned, with what is given in another; return its id."""
    cursor = connection.execute(
        "INSERT INTO round (trial_id, number, day, remedies, steps)"
        " VALUES (:t, :number, :day, :given, :steps)",
        {
            "t": trial_id,
            "number": number,
            "day": day,
            "given": None if like.remedies is None else json.dumps(sorted(like.remedies)),
            "steps": json.dumps(like.steps) if like.steps else None,
        },
    )
    return int(cursor.lastrowid or 0)


def add_look(connection: sqlite3.Connection, trial_id: int, number: int, day: int) -> None:
    """Add a look behind those planned."""
    connection.execute(
        "INSERT INTO look (trial_id, number, day) VALUES (:t, :number, :day)",
        {"t": trial_id, "number": number, "day": day},
    )


def seal_key(connection: sqlite3.Connection, trial_id: int) -> None:
    """Seal the key again, after new letters were drawn."""
    connection.execute("UPDATE trial SET key_opened_at = NULL WHERE id = :id", {"id": trial_id})


def set_seed(connection: sqlite3.Connection, trial_id: int, seed: int | None) -> None:
    """Record the seed of the layout in force, or that there is none."""
    connection.execute(
        "UPDATE trial SET seed = :seed WHERE id = :id", {"id": trial_id, "seed": seed}
    )


def replace_remedies(
    connection: sqlite3.Connection, trial_id: int, remedies: Sequence[RemedyDraft], now: datetime
) -> None:
    """Make the remedies those given: known ids are changed, new ones added, others removed.

    A removed remedy with patch tests or batches is left out instead, and comes back when its
    id is given again.
    """
    kept = {r.id for r in remedies if r.id is not None}
    rows = connection.execute(
        "SELECT r.id, r.left_out_at IS NULL AS there,"
        " EXISTS (SELECT 1 FROM patch_test p WHERE p.remedy_id = r.id)"
        " OR EXISTS (SELECT 1 FROM batch b WHERE b.remedy_id = r.id) AS has_record"
        " FROM remedy r WHERE r.trial_id = :t",
        {"t": trial_id},
    ).fetchall()
    known = {row["id"] for row in rows}
    for row in rows:
        if row["there"] and row["id"] not in kept:
            _leave_out(connection, row["id"], now, has_record=bool(row["has_record"]))
    # Names may be exchanged between remedies, and the control may change: free both first.
    connection.execute(
        "UPDATE remedy SET name = hex(randomblob(16)), role = 'remedy'"
        " WHERE trial_id = :t AND left_out_at IS NULL",
        {"t": trial_id},
    )
    for position, remedy in enumerate(remedies):
        values = {
            "id": remedy.id if remedy.id in known else None,
            "trial": trial_id,
            "position": position,
            "name": remedy.name.strip(),
            "role": remedy.role.value,
            "recipe": remedy.recipe.strip(),
            "traits": traits_text(remedy.traits),
        }
        connection.execute(
            "INSERT INTO remedy (id, trial_id, position, name, role, recipe, traits)"
            " VALUES (:id, :trial, :position, :name, :role, :recipe, :traits)"
            " ON CONFLICT (id) DO UPDATE SET position = excluded.position, name = excluded.name,"
            " role = excluded.role, recipe = excluded.recipe, traits = excluded.traits,"
            " left_out_at = NULL, was_called = NULL",
            values,
        )


def _leave_out(
    connection: sqlite3.Connection, remedy_id: int, now: datetime, *, has_record: bool
) -> None:
    """Take a remedy out of the question; what hangs on it is never deleted with it."""
    if not has_record:
        connection.execute("DELETE FROM remedy WHERE id = :id", {"id": remedy_id})
        return
    connection.execute(
        "UPDATE remedy SET left_out_at = :now, was_called = name, name = hex(randomblob(16)),"
        " role = 'remedy', letter = NULL, notches = NULL WHERE id = :id",
        {"id": remedy_id, "now": now.isoformat()},
    )


def set_codes(connection: sqlite3.Connection, codes: Mapping[int, tuple[str, int] | None]) -> None:
    """Give remedies (by id) their letter and notches, or take them away."""
    for remedy_id, code in codes.items():
        connection.execute(
            "UPDATE remedy SET letter = :letter, notches = :notches WHERE id = :id",
            {
                "id": remedy_id,
                "letter": code[0] if code else None,
                "notches": code[1] if code else None,
            },
        )


def replace_days(
    connection: sqlite3.Connection,
    trial_id: int,
    look_days: Sequence[float],
    round_days: Sequence[int],
    table_: Mapping[int, Mapping[int, int]] | None = None,
) -> None:
    """Make the planned days those given; looks and rounds keep their numbers and records.

    `table_` has for each day the places of the remedies given, in the order of the question, and
    which part of each; None when all are given on each of `round_days`.
    """
    days_given = tuple(table_) if table_ is not None else tuple(round_days)
    _replace_days(connection, trial_id, look_days, days_given)
    connection.execute(
        "UPDATE round SET remedies = NULL, steps = NULL WHERE trial_id = :t", {"t": trial_id}
    )
    ids = [
        row["id"]
        for row in connection.execute(
            "SELECT id FROM remedy WHERE trial_id = :t AND left_out_at IS NULL"
            " ORDER BY position, id",
            {"t": trial_id},
        )
    ]
    for day, parts in (table_ or {}).items():
        later = [(ids[place], part) for place, part in sorted(parts.items()) if part]
        connection.execute(
            "UPDATE round SET remedies = :given, steps = :steps WHERE trial_id = :t AND day = :day",
            {
                "t": trial_id,
                "day": day,
                "given": json.dumps([ids[place] for place in sorted(parts)]),
                "steps": json.dumps(later) if later else None,
            },
        )


def _replace_days(
    connection: sqlite3.Connection,
    trial_id: int,
    look_days: Sequence[float],
    round_days: Sequence[int],
) -> None:
    for table, count in (("look", 1 + len(look_days)), ("round", 1 + len(round_days))):
        connection.execute(
            f"DELETE FROM {table} WHERE trial_id = :t AND number >= :end",  # noqa: S608
            {"t": trial_id, "end": count},
        )
    for number, moment in enumerate((0, *look_days)):
        day, hours = day_and_hours(moment)
        connection.execute(
            "INSERT INTO look (trial_id, number, day, hours) VALUES (:t, :number, :day, :hours)"
            " ON CONFLICT (trial_id, number)"
            " DO UPDATE SET day = excluded.day, hours = excluded.hours",
            {"t": trial_id, "number": number, "day": day, "hours": hours},
        )
    for number, day in enumerate(round_days, start=1):
        connection.execute(
            "INSERT INTO round (trial_id, number, day) VALUES (:t, :number, :day)"
            " ON CONFLICT (trial_id, number) DO UPDATE SET day = excluded.day",
            {"t": trial_id, "number": number, "day": day},
        )


def begun_on(connection: sqlite3.Connection, pest: str, day: date) -> tuple[int, ...]:
    """Return the ids of the trials of a pest that began on a day, those put away too."""
    rows = connection.execute(
        "SELECT id FROM trial WHERE pest = :pest AND coalesce(sprayed_on, start_on) = :day",
        {"pest": pest, "day": day.isoformat()},
    )
    return tuple(row["id"] for row in rows)
