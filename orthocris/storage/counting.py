"""Tallies: what was counted, nothing of it ever overwritten unseen; and what holds now."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from datetime import date, datetime

from orthocris.core.counting.tally import CountPlace, TallyEntry
from orthocris.core.errors import NotFoundError
from orthocris.core.field.stopping import Course
from orthocris.core.trial.standing import DAYS_OFF
from orthocris.core.trial.trial import Tally
from orthocris.storage.trial.recount import recount_look


def place_of(
    connection: sqlite3.Connection, trial_id: int, number: int, plant_id: int, measure: str
) -> CountPlace:
    """Return where a number goes, or raise NotFoundError naming what is not there."""
    row = connection.execute(
        "SELECT t.name, t.measure, t.start_on, t.sprayed_on, l.id AS look_id,"
        " (SELECT count(*) FROM look x WHERE x.trial_id = t.id) AS looks,"
        " EXISTS (SELECT 1 FROM plant p WHERE p.id = :plant AND p.trial_id = t.id"
        " AND p.set_aside IS NULL AND p.remedy_id IS NOT NULL) AS takes_part,"
        " n.counted_on AS known_on, n.finished AS known_finished"
        " FROM trial t LEFT JOIN look l ON l.trial_id = t.id AND l.number = :number"
        " LEFT JOIN tally_now n ON n.look_id = l.id AND n.measure = :measure"
        " AND n.plant_id = :plant AND n.value IS NOT NULL WHERE t.id = :t",
        {"t": trial_id, "number": number, "plant": plant_id, "measure": measure},
    ).fetchone()
    if row is None:
        raise NotFoundError(
            f"there is no trial {trial_id}", code="no_such_trial", fix="Choose one from Today."
        )
    if row["look_id"] is None:
        raise NotFoundError(
            f"{row['name']} has no look {number}",
            code="no_such_look",
            fix=f"Its looks are 0 (before) to {row['looks'] - 1}.",
        )
    if not row["takes_part"]:
        raise NotFoundError(
            f"plant {plant_id} takes no part in {row['name']}",
            code="no_such_plant",
            fix="Draw the layout first, or choose a plant that has a tag.",
        )
    return CountPlace(
        look_id=row["look_id"],
        number=number,
        measure=row["measure"],
        start_on=date.fromisoformat(row["start_on"]),
        sprayed_on=date.fromisoformat(row["sprayed_on"]) if row["sprayed_on"] else None,
        known_on=date.fromisoformat(row["known_on"]) if row["known_on"] else None,
        known_finished=bool(row["known_finished"]),
    )


def keep(
    connection: sqlite3.Connection, place: CountPlace, entry: TallyEntry, on: date, now: datetime
) -> None:
    """Keep a tally: the same session moves its own line on, a new session adds a line."""
    key = {"look": place.look_id, "plant": entry.plant_id, "measure": entry.measure}
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
            **key,
            "session": entry.session,
            "step": entry.step,
            "value": entry.value,
            "total": entry.of,
            "effort": entry.effort,
            "finished": int(entry.finished),
            "now": now.isoformat(),
            "on": on.isoformat(),
        },
    )
    # Of all lines the newest holds, whichever of them was moved on just now.
    connection.execute(
        "INSERT OR REPLACE INTO tally_now (look_id, measure, plant_id, tally_id, value, total,"
        " effort, finished, counted_at, counted_on, first_counted_at)"
        " SELECT look_id, measure, plant_id, id, value, total, effort, finished, counted_at,"
        " counted_on, (SELECT f.counted_at FROM tally f WHERE f.look_id = :look"
        " AND f.plant_id = :plant AND f.measure = :measure ORDER BY f.id LIMIT 1)"
        " FROM tally WHERE look_id = :look AND plant_id = :plant AND measure = :measure"
        " ORDER BY id DESC LIMIT 1",
        key,
    )
    if entry.measure == place.measure and (entry.finished or place.known_finished):
        recount_look(connection, place.look_id)


def current(connection: sqlite3.Connection, trial_id: int) -> tuple[Tally, ...]:
    """Return the newest tally of every plant, look and measure of a trial."""
    rows = connection.execute(
        "SELECT n.tally_id AS id, n.look_id, n.plant_id, n.measure, n.value, n.total, n.effort,"
        " n.finished, n.counted_at, n.counted_on, n.first_counted_at"
        " FROM look l JOIN tally_now n ON n.look_id = l.id WHERE l.trial_id = :t"
        " ORDER BY n.tally_id",
        {"t": trial_id},
    )
    return tuple(_tally(row) for row in rows)


def at_look(connection: sqlite3.Connection, look_id: int) -> tuple[Tally, ...]:
    """Return the newest tally of every plant and measure at one look."""
    rows = connection.execute(
        "SELECT *, tally_id AS id FROM tally_now WHERE look_id = :look ORDER BY tally_id",
        {"look": look_id},
    )
    return tuple(_tally(row) for row in rows)


def early_at(connection: sqlite3.Connection, look_id: int) -> tuple[int, ...]:
    """Return the ids of plants counted more than a day before their look's day."""
    rows = connection.execute(
        "SELECT n.plant_id FROM look l JOIN trial t ON t.id = l.trial_id"
        " JOIN tally_now n ON n.look_id = l.id AND n.measure = t.measure"
        " WHERE l.id = :look AND l.number > 0 AND n.value IS NOT NULL AND n.counted_on <"
        " date(coalesce(t.sprayed_on, t.start_on), (l.day - :off) || ' days')",
        {"look": look_id, "off": DAYS_OFF},
    )
    return tuple(row["plant_id"] for row in rows)


def totals_before(
    connection: sqlite3.Connection, trial_id: int, number: int, measure: str
) -> dict[int, float]:
    """Return how many there were out of which each plant was counted, by the looks before one."""
    rows = connection.execute(
        "SELECT n.plant_id, n.total FROM look l JOIN tally_now n ON n.look_id = l.id"
        " WHERE l.trial_id = :t AND l.number < :number AND n.measure = :measure"
        " AND n.total IS NOT NULL ORDER BY l.number",
        {"t": trial_id, "number": number, "measure": measure},
    )
    return {row["plant_id"]: row["total"] for row in rows}


def values(
    connection: sqlite3.Connection, trial_id: int, measure: str
) -> list[tuple[int, int, float]]:
    """Return plant id, number of look and finished value: per effort, or the share of a total."""
    rows = connection.execute(
        "SELECT n.plant_id, l.number, n.value / coalesce(n.total, n.effort) FROM look l"
        " JOIN tally_now n ON n.look_id = l.id AND n.measure = :measure"
        " WHERE l.trial_id = :t AND n.finished = 1 AND n.value IS NOT NULL",
        {"t": trial_id, "measure": measure},
    )
    return [(row[0], row[1], row[2]) for row in rows]


def courses(
    connection: sqlite3.Connection, asked: Sequence[tuple[int, int, str]]
) -> dict[int, Course]:
    """Return how each remedy went from one look to another, by remedy id.

    Means over its plants that take part and were counted both times, of what is left of the
    pest: per effort, or for shares the share alive or not hatched.

    Parameters
    ----------
    asked:
        Look before, look after and measure, of one trial or of several.
    """
    rows = connection.execute(
        "SELECT p.remedy_id, avg(iif(b.total > 0, iif(b.measure = 'dead', b.total - b.value,"
        " b.value) / b.total, b.value / b.effort)) AS before,"
        " avg(iif(a.total > 0, iif(a.measure = 'dead', a.total - a.value, a.value) / a.total,"
        " a.value / a.effort)) AS after"
        " FROM json_each(:asked) k"
        " CROSS JOIN tally_now b ON b.look_id = k.value ->> 0 AND b.measure = k.value ->> 2"
        " CROSS JOIN tally_now a ON a.look_id = k.value ->> 1 AND a.measure = b.measure"
        " AND a.plant_id = b.plant_id"
        " CROSS JOIN plant p ON p.id = b.plant_id"
        " WHERE b.value IS NOT NULL AND a.value IS NOT NULL AND p.set_aside IS NULL"
        " AND p.remedy_id IS NOT NULL GROUP BY p.remedy_id",
        {"asked": json.dumps(asked)},
    )
    return {row["remedy_id"]: Course(row["before"], row["after"]) for row in rows}


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


def number_kept(connection: sqlite3.Connection, trial_id: int) -> int:
    """Return how many numbers hold in a trial."""
    row = connection.execute(
        "SELECT count(*) FROM look l JOIN tally_now n ON n.look_id = l.id WHERE l.trial_id = :t",
        {"t": trial_id},
    ).fetchone()
    return int(row[0])


def counted_after(connection: sqlite3.Connection, trial_id: int) -> bool:
    """Tell whether a count after the first spray is finished in a trial."""
    found = connection.execute(
        "SELECT 1 FROM look l JOIN trial t ON t.id = l.trial_id"
        " JOIN tally_now n ON n.look_id = l.id AND n.measure = t.measure"
        " WHERE t.id = :t AND l.number > 0 AND n.finished = 1 AND n.value IS NOT NULL LIMIT 1",
        {"t": trial_id},
    ).fetchone()
    return found is not None


def plant_counted(connection: sqlite3.Connection, plant_id: int) -> bool:
    """Tell whether anything was ever counted on a plant."""
    found = connection.execute(
        "SELECT 1 FROM tally_now WHERE plant_id = :plant LIMIT 1", {"plant": plant_id}
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
