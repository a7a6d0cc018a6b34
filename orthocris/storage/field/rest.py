"""The rest of the garden: treatments outside the trials, and what was done in them."""

from __future__ import annotations

import json
import sqlite3
from datetime import date, datetime

from orthocris.core.field.rest import Act, Done, Promise, RestDraft, Treatment, Which
from orthocris.core.trial.stages import RoundRhythm
from orthocris.storage.trial.scope import SCOPE, grouped


def keep(
    connection: sqlite3.Connection, trial_id: int, draft: RestDraft, shown: Promise, now: datetime
) -> int:
    """Keep a treatment that begins, with what the trial had shown of its remedy."""
    cursor = connection.execute(
        "INSERT INTO treatment (trial_id, remedy_id, which, place, plants, ml_each, kinds, eaten,"
        " start_on, rhythm, removes, low, high, made_at) VALUES (:trial, :remedy, :which, :place,"
        " :plants, :ml_each, :kinds, :eaten, :start_on, :rhythm, :removes, :low, :high, :made_at)",
        {
            "trial": trial_id,
            "remedy": draft.remedy_id,
            "which": draft.which.value,
            "place": draft.place.strip(),
            "plants": draft.plants,
            "ml_each": draft.ml_each,
            "kinds": json.dumps([kind.strip() for kind in draft.kinds], ensure_ascii=False),
            "eaten": draft.eaten,
            "start_on": draft.start_on.isoformat(),
            "rhythm": draft.rhythm.value,
            "removes": shown.removes,
            "low": shown.low,
            "high": shown.high,
            "made_at": now.isoformat(),
        },
    )
    return int(cursor.lastrowid or 0)


def keep_act(connection: sqlite3.Connection, treatment_id: int, done: Done, now: datetime) -> int:
    """Keep what was done."""
    cursor = connection.execute(
        "INSERT INTO treatment_act (treatment_id, act, done_on, pests, looked_at, harmed, reason,"
        " kept_at) VALUES (:treatment, :act, :on, :pests, :looked_at, :harmed, :reason, :now)",
        {
            "treatment": treatment_id,
            "act": done.act.value,
            "on": done.on.isoformat(),
            "pests": done.pests,
            "looked_at": done.looked_at,
            "harmed": done.harmed,
            "reason": done.reason,
            "now": now.isoformat(),
        },
    )
    return int(cursor.lastrowid or 0)


def take_back(connection: sqlite3.Connection, treatment_id: int, now: datetime) -> bool:
    """Take the last act back; its trace stays. False where nothing was done."""
    cursor = connection.execute(
        "UPDATE treatment_act SET undone_at = :now WHERE id = (SELECT max(id) FROM treatment_act"
        " WHERE treatment_id = :id AND undone_at IS NULL)",
        {"id": treatment_id, "now": now.isoformat()},
    )
    return cursor.rowcount > 0


def end(connection: sqlite3.Connection, treatment_id: int, on: date | None) -> None:
    """End a treatment on a day, or (None) take it up again."""
    connection.execute(
        "UPDATE treatment SET ended_on = :on WHERE id = :id",
        {"id": treatment_id, "on": None if on is None else on.isoformat()},
    )


def of_trials(
    connection: sqlite3.Connection, trial_id: int | None
) -> dict[int, tuple[tuple[Treatment, Promise], ...]]:
    """Return the treatments of one trial, or (None) of all on the list, the oldest first."""
    key = {"t": trial_id}
    rows = grouped(
        connection.execute(
            f"SELECT * FROM treatment WHERE trial_id IN {SCOPE} ORDER BY id",  # noqa: S608
            key,
        )
    )
    if not rows:
        return {}
    acts = grouped(
        connection.execute(
            "SELECT a.* FROM treatment_act a JOIN treatment r ON r.id = a.treatment_id"  # noqa: S608
            f" WHERE r.trial_id IN {SCOPE} AND a.undone_at IS NULL ORDER BY a.id",
            key,
        ),
        "treatment_id",
    )
    return {
        trial: tuple((_treatment(row, acts.get(row["id"], [])), _promise(row)) for row in own)
        for trial, own in rows.items()
    }


def _treatment(row: sqlite3.Row, acts: list[sqlite3.Row]) -> Treatment:
    return Treatment(
        id=row["id"],
        trial_id=row["trial_id"],
        draft=RestDraft(
            remedy_id=row["remedy_id"],
            which=Which(row["which"]),
            place=row["place"],
            plants=row["plants"],
            start_on=date.fromisoformat(row["start_on"]),
            ml_each=row["ml_each"],
            kinds=tuple(json.loads(row["kinds"])),
            eaten=bool(row["eaten"]),
            rhythm=RoundRhythm(row["rhythm"]),
        ),
        done=tuple(_done(act) for act in acts),
        ended_on=None if row["ended_on"] is None else date.fromisoformat(row["ended_on"]),
    )


def _promise(row: sqlite3.Row) -> Promise:
    return Promise(row["removes"], row["low"], row["high"])


def _done(row: sqlite3.Row) -> Done:
    return Done(
        act=Act(row["act"]),
        on=date.fromisoformat(row["done_on"]),
        pests=row["pests"],
        looked_at=row["looked_at"],
        harmed=bool(row["harmed"]),
        reason=row["reason"],
    )
