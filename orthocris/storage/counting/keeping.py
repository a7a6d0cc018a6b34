"""Keeping tallies: nothing is ever overwritten unseen, no tap counts twice, and what holds now."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from datetime import date, datetime

from orthocris.core.counting.tally import CountPlace, Line, TallyEntry, Tap
from orthocris.core.errors import NotFoundError
from orthocris.storage.trial.recount import recount_look

_PLACE = (
    "SELECT t.name, t.measure, t.start_on, t.sprayed_on, t.setup ->> '$.samples' AS samples,"
    " l.id AS look_id, (SELECT count(*) FROM look x WHERE x.trial_id = t.id) AS looks,"
    " EXISTS (SELECT 1 FROM plant p WHERE p.id = :plant AND p.trial_id = t.id"
    " AND p.set_aside IS NULL AND p.remedy_id IS NOT NULL) AS takes_part,"
    " n.counted_on AS known_on, n.finished AS known_finished,"
    " h.id AS held_id, h.session AS held_session, h.step AS held_step,"
    " o.id AS own_id, o.sample AS own_sample, o.step AS own_step"
    " FROM trial t LEFT JOIN look l ON l.trial_id = t.id AND l.number = :number"
    " LEFT JOIN tally_now n ON n.look_id = l.id AND n.measure = :measure"
    " AND n.plant_id = :plant AND n.value IS NOT NULL"
    " LEFT JOIN sample_now s ON s.look_id = l.id AND s.plant_id = :plant"
    " AND s.measure = :measure AND s.sample = :sample AND s.value IS NOT NULL"
    " LEFT JOIN tally h ON h.id = s.tally_id"
    " LEFT JOIN tally o ON o.session = :session AND o.look_id = l.id AND o.plant_id = :plant"
    " AND o.measure = :measure WHERE t.id = :t"
)


def place_of(
    connection: sqlite3.Connection, trial_id: int, number: int, entry: TallyEntry
) -> CountPlace:
    """Return where a number goes, or raise NotFoundError naming what is not there."""
    row = connection.execute(
        _PLACE,
        {
            "t": trial_id,
            "number": number,
            "plant": entry.plant_id,
            "measure": entry.measure,
            "sample": entry.sample,
            "session": entry.session,
        },
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
            f"plant {entry.plant_id} takes no part in {row['name']}",
            code="no_such_plant",
            fix="Draw the layout first, or choose a plant that has a tag.",
        )
    held = row["held_id"] and Line(
        row["held_id"], row["held_session"], entry.sample, row["held_step"]
    )
    own = row["own_id"] and Line(row["own_id"], entry.session, row["own_sample"], row["own_step"])
    return CountPlace(
        look_id=row["look_id"],
        number=number,
        measure=row["measure"],
        start_on=date.fromisoformat(row["start_on"]),
        sprayed_on=date.fromisoformat(row["sprayed_on"]) if row["sprayed_on"] else None,
        known_on=date.fromisoformat(row["known_on"]) if row["known_on"] else None,
        known_finished=bool(row["known_finished"]),
        samples=row["samples"] or 0,
        held=held or None,
        own=own or None,
    )


def keep(
    connection: sqlite3.Connection,
    place: CountPlace,
    entry: TallyEntry,
    on: date,
    now: datetime,
    *,
    contested: bool = False,
) -> int:
    """Keep a tally: the same session moves its own line on, a new session adds a line.

    Returns the id of the line.
    """
    line = place.own.id if place.own else None
    if place.own is None or entry.step > place.own.step:
        line = _write(connection, place, entry, on, now, contested=contested)
        if entry.person:
            return line
        refresh(connection, place, entry.plant_id, entry.measure, entry.sample)
        if entry.measure == place.measure and (entry.finished or place.known_finished):
            recount_look(connection, place.look_id)
    return int(line or 0)


def _write(
    connection: sqlite3.Connection,
    place: CountPlace,
    entry: TallyEntry,
    on: date,
    now: datetime,
    *,
    contested: bool,
) -> int:
    row = connection.execute(
        "INSERT INTO tally (look_id, plant_id, measure, sample, session, step, value, total,"
        " effort, finished, last, standing, counted_at, counted_on, classed, person) VALUES (:look,"
        " :plant, :measure, :sample, :session, :step, :value, :total, :effort, :finished, :last,"
        " iif(:contested, 'contested', 'held'), :now, :on, :classed, :person)"
        " ON CONFLICT (session, look_id, plant_id, measure) DO UPDATE SET step = excluded.step,"
        " value = excluded.value, total = excluded.total, effort = excluded.effort,"
        " finished = excluded.finished, last = excluded.last, counted_at = excluded.counted_at,"
        " counted_on = excluded.counted_on, classed = excluded.classed,"
        " standing = iif(:contested, 'contested', standing) RETURNING id",
        {
            "look": place.look_id,
            "plant": entry.plant_id,
            "measure": entry.measure,
            "sample": entry.sample,
            "session": entry.session,
            "step": entry.step,
            "value": entry.value,
            "total": entry.of,
            "effort": entry.effort,
            "finished": int(entry.finished),
            "last": int(entry.last),
            "contested": int(contested),
            "classed": int(entry.classed),
            "person": entry.person,
            "now": now.isoformat(),
            "on": on.isoformat(),
        },
    ).fetchone()
    return int(row["id"])


def refresh(
    connection: sqlite3.Connection, place: CountPlace, plant_id: int, measure: str, sample: int
) -> None:
    """Write anew what holds of a sample and of its plant.

    Of all lines of a sample the newest that is not contested holds. A plant's number is its
    samples added up (averaged for scores), or that of the plant as a whole where it is newer.
    """
    key = {
        "look": place.look_id,
        "plant": plant_id,
        "measure": measure,
        "sample": sample,
        "samples": place.samples,
    }
    connection.execute(
        "INSERT OR REPLACE INTO sample_now (look_id, plant_id, measure, sample, tally_id, value,"
        " total, effort, finished, last, counted_at, counted_on) SELECT look_id, plant_id,"
        " measure, sample, id, value, total, effort, finished, last, counted_at, counted_on"
        " FROM tally WHERE look_id = :look AND plant_id = :plant AND measure = :measure"
        " AND sample = :sample AND standing = 'held' AND person = '' ORDER BY id DESC LIMIT 1",
        key,
    )
    connection.execute(
        "INSERT OR REPLACE INTO tally_now (look_id, measure, plant_id, tally_id, value, total,"
        " effort, finished, counted_at, counted_on, first_counted_at)"
        " SELECT :look, :measure, :plant, max(tally_id),"
        " iif(:measure IN ('cover', 'rating', 'damage'), avg(value), sum(value)), sum(total),"
        " coalesce(sum(effort) FILTER (WHERE value IS NOT NULL), 1),"
        " min(iif(value IS NULL, 1, finished)) AND max(value IS NOT NULL) AND (max(sample) = 0"
        " OR max(last) OR count(*) FILTER (WHERE value IS NOT NULL) >= :samples),"
        " max(counted_at), max(counted_on), (SELECT f.counted_at FROM tally f"
        " WHERE f.look_id = :look AND f.plant_id = :plant AND f.measure = :measure"
        " AND f.person = '' ORDER BY f.id LIMIT 1)"
        " FROM sample_now s WHERE look_id = :look AND plant_id = :plant"
        " AND measure = :measure AND (sample > 0) = (SELECT w.sample > 0 FROM sample_now w"
        " WHERE w.look_id = :look AND w.plant_id = :plant AND w.measure = :measure"
        " ORDER BY w.tally_id DESC LIMIT 1) HAVING count(*) > 0",
        key,
    )


def known_taps(connection: sqlite3.Connection, keys: Sequence[str]) -> set[str]:
    """Return those of some taps that are kept already."""
    rows = connection.execute(
        "SELECT key FROM tap WHERE key IN (SELECT value FROM json_each(:keys))",
        {"keys": json.dumps(keys)},
    )
    return {row["key"] for row in rows}


def keep_taps(
    connection: sqlite3.Connection, line: int, taps: Sequence[Tap], now: datetime
) -> None:
    """Keep every tap of a line under its own name; one kept already is left as it is."""
    connection.executemany(
        "INSERT OR IGNORE INTO tap (key, tally_id, step, value, tapped_at, kept_at)"
        " VALUES (:key, :line, :step, :value, :at, :now)",
        [
            {
                "key": tap.key,
                "line": line,
                "step": tap.entry.step,
                "value": tap.entry.value,
                "at": tap.tapped_at.isoformat(),
                "now": now.isoformat(),
            }
            for tap in taps
        ],
    )


def settle(
    connection: sqlite3.Connection, place: CountPlace, plant_id: int, sample: int, session: str
) -> bool:
    """Let one session's count of a sample hold and set the others aside; all stay on record.

    Returns False when that session has not counted it.
    """
    key = {"look": place.look_id, "plant": plant_id, "sample": sample, "session": session}
    where = "look_id = :look AND plant_id = :plant AND sample = :sample AND person = ''"
    measures = connection.execute(
        f"SELECT measure, max(iif(session = :session, id, 0)) AS chosen FROM tally"  # noqa: S608
        f" WHERE {where} GROUP BY measure",
        key,
    ).fetchall()
    if not any(row["chosen"] for row in measures):
        return False
    for row in measures:
        line = {**key, "measure": row["measure"], "chosen": row["chosen"]}
        # Whatever is newer than the line chosen would else hold in its place.
        connection.execute(
            f"UPDATE tally SET standing = 'set_aside' WHERE {where}"  # noqa: S608
            " AND measure = :measure AND session <> :session"
            " AND (standing = 'contested' OR (:chosen > 0 AND id > :chosen))",
            line,
        )
        connection.execute("UPDATE tally SET standing = 'held' WHERE id = :chosen", line)
        refresh(connection, place, plant_id, row["measure"], sample)
    recount_look(connection, place.look_id)
    return True
