"""Keeping tallies: nothing is ever overwritten unseen, no tap counts twice, and what holds now."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from datetime import date, datetime
from typing import NamedTuple

from orthocris.core.counting.contest import Outcome, Told, day_corrected, outcome
from orthocris.core.counting.tally import CountPlace, Line, TallyEntry, Tap
from orthocris.core.errors import ConflictError, NotFoundError
from orthocris.storage.trial.recount import recount_look

_PLACE = (
    "SELECT t.name, t.measure, t.start_on, t.sprayed_on, t.setup ->> '$.samples' AS samples,"
    " l.id AS look_id, (SELECT count(*) FROM look x WHERE x.trial_id = t.id) AS looks,"
    " EXISTS (SELECT 1 FROM plant p WHERE p.id = :plant AND p.trial_id = t.id"
    " AND p.set_aside IS NULL AND p.remedy_id IS NOT NULL) AS takes_part,"
    " t.put_away_at, n.finished AS known_finished, o.id AS own_id, o.sample AS own_sample,"
    " o.step AS own_step, o.value, o.total, o.effort, o.finished, o.last, o.counted_on"
    " FROM trial t LEFT JOIN look l ON l.trial_id = t.id AND l.number = :number"
    " LEFT JOIN tally_now n ON n.look_id = l.id AND n.measure = :measure"
    " AND n.plant_id = :plant AND n.value IS NOT NULL"
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
            "session": entry.session,
        },
    ).fetchone()
    if row is None:
        raise NotFoundError(
            f"there is no trial {trial_id}", code="no_such_trial", fix="Choose one from Today."
        )
    if row["put_away_at"] is not None:
        raise ConflictError(
            f"{row['name']} was put away",
            code="put_away",
            fix="Bring it back from Today, then send this again.",
        )
    if row["look_id"] is None:
        raise NotFoundError(
            f"{row['name']} has no look {number}",
            code="no_such_look",
            fix=f"Its looks are 0 (before) to {row['looks'] - 1}.",
        )
    if not row["takes_part"]:
        raise NotFoundError(
            f"this plant takes no part in {row['name']}",
            code="no_such_plant",
            fix="Draw the layout first, or choose a plant that has a tag.",
        )
    own = row["own_id"] and Line(
        row["own_id"],
        entry.session,
        row["own_sample"],
        row["own_step"],
        (row["value"], row["total"], row["effort"], bool(row["finished"]), bool(row["last"])),
        date.fromisoformat(row["counted_on"]),
    )
    lines = _lines(
        connection, row["look_id"], entry.plant_id, entry.measure, entry.sample, entry.person
    )
    return CountPlace(
        look_id=row["look_id"],
        number=number,
        measure=row["measure"],
        start_on=date.fromisoformat(row["start_on"]),
        sprayed_on=date.fromisoformat(row["sprayed_on"]) if row["sprayed_on"] else None,
        known_finished=bool(row["known_finished"]),
        samples=row["samples"] or 0,
        own=own or None,
        corrects_on=day_corrected(lines, entry.session, entry.known),
        lines=lines,
    )


def _lines(
    connection: sqlite3.Connection,
    look_id: int,
    plant_id: int,
    measure: str,
    sample: int,
    person: str = "",
) -> tuple[Told, ...]:
    rows = connection.execute(
        "SELECT id, session, step, begun_at, counted_at, counted_on, knows, standing, value"
        " FROM tally WHERE look_id = :look AND plant_id = :plant AND measure = :measure"
        " AND sample = :sample AND person = :person ORDER BY id",
        {
            "look": look_id,
            "plant": plant_id,
            "measure": measure,
            "sample": sample,
            "person": person,
        },
    )
    return tuple(_told(row) for row in rows)


def _told(row: sqlite3.Row) -> Told:
    return Told(
        id=row["id"],
        session=row["session"],
        step=row["step"],
        begun_at=datetime.fromisoformat(row["begun_at"] or row["counted_at"]),
        knows=None if row["knows"] is None else json.loads(row["knows"]),
        set_aside=row["standing"] == "set_aside",
        counted_on=None if row["value"] is None else date.fromisoformat(row["counted_on"]),
    )


def keep(
    connection: sqlite3.Connection,
    place: CountPlace,
    entry: TallyEntry,
    on: date,
    now: datetime,
    device: str = "",
) -> tuple[int, bool]:
    """Keep a tally: the same session moves its own line on, a new session adds a line.

    Returns the id of the line, and whether it and another contradict one another.
    """
    if place.own is not None and entry.step <= place.own.step:
        line = place.own.id
        begun_at(connection, line, now)  # it comes after what was tapped later
    else:
        line = _write(connection, place, entry, on, now, device)
    if entry.person:
        return line, False
    alone = all(told.session == entry.session for told in place.lines)
    sample = Sample(place.look_id, entry.plant_id, entry.measure, entry.sample)
    found = refresh(
        connection, sample, place.samples, Outcome(line, frozenset()) if alone else None
    )
    if entry.measure == place.measure and (entry.finished or place.known_finished):
        recount_look(connection, place.look_id)
    return line, bool(found.contested) and line in (found.holds, *found.contested)


def begun_at(connection: sqlite3.Connection, line: int, at: datetime) -> None:
    """Note that a line was begun earlier than is known so far."""
    connection.execute(
        "UPDATE tally SET begun_at = :at WHERE id = :id"
        " AND julianday(coalesce(begun_at, counted_at)) > julianday(:at)",
        {"id": line, "at": at.isoformat()},
    )


def _write(
    connection: sqlite3.Connection,
    place: CountPlace,
    entry: TallyEntry,
    on: date,
    now: datetime,
    device: str,
) -> int:
    known = _known(place, entry)
    row = connection.execute(
        "INSERT INTO tally (look_id, plant_id, measure, sample, session, step, value, total,"
        " effort, finished, last, counted_at, begun_at, counted_on, classed, person, knows, device)"
        " VALUES (:look, :plant, :measure, :sample, :session, :step, :value, :total, :effort,"
        " :finished, :last, :now, :now, :on, :classed, :person, :knows, :device)"
        " ON CONFLICT (session, look_id, plant_id, measure) DO UPDATE SET step = excluded.step,"
        " value = excluded.value, total = excluded.total, effort = excluded.effort,"
        " finished = excluded.finished, last = excluded.last, counted_at = excluded.counted_at,"
        " counted_on = excluded.counted_on, classed = excluded.classed, knows = excluded.knows,"
        " begun_at = iif(julianday(begun_at) < julianday(excluded.begun_at), begun_at,"
        " excluded.begun_at), standing = 'held' RETURNING id",
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
            "classed": int(entry.classed),
            "person": entry.person,
            "knows": None if known is None else json.dumps(known),
            "device": device[:120],
            "now": now.isoformat(),
            "on": on.isoformat(),
        },
    ).fetchone()
    return int(row["id"])


def _known(place: CountPlace, entry: TallyEntry) -> dict[str, int | None] | None:
    """What an entry knew of the other sessions; None where that is not said.

    Where no step is said, it is the step that the session had when it was first named.
    """
    if entry.known is None:
        return None
    now = {line.session: line.step for line in place.lines}
    own = next((line.knows for line in place.lines if line.session == entry.session), None)
    return {
        session: step if step is not None else (own or {}).get(session, now.get(session))
        for session, step in entry.known.items()
    }


class Sample(NamedTuple):
    """What one number is of: a leaf of a plant, or (0) the plant as a whole."""

    look: int
    plant: int
    measure: str
    sample: int


def refresh_all(connection: sqlite3.Connection) -> None:
    """Write anew what holds of every sample there is."""
    rows = connection.execute(
        "SELECT n.look_id, n.plant_id, n.measure, n.sample, t.setup ->> '$.samples' AS samples,"
        " count(*) AS lines, min(n.id) AS first, max(n.standing <> 'held') AS contested"
        " FROM tally n JOIN look l ON l.id = n.look_id JOIN trial t ON t.id = l.trial_id"
        " WHERE n.person = '' GROUP BY n.look_id, n.plant_id, n.measure, n.sample"
    )
    for row in rows.fetchall():
        alone = row["lines"] == 1 and not row["contested"]
        known = Outcome(row["first"], frozenset()) if alone else None
        refresh(connection, Sample(*row[:4]), row["samples"] or 0, known)


def refresh(
    connection: sqlite3.Connection, of: Sample, samples: int, found: Outcome | None = None
) -> Outcome:
    """Write anew what holds of a sample and of its plant; return what holds of the sample.

    Which line of a sample holds is told by `contest.outcome`, unless it is known. A plant's number
    is its samples added up (averaged for scores), or that of the plant as a whole where it was
    counted later; `samples` is how many the trial plans of each plant.
    """
    if found is None:
        found = outcome(_lines(connection, *of))
        connection.execute(
            "UPDATE tally SET standing = iif(id IN (SELECT value FROM json_each(:contested)),"
            " 'contested', 'held') WHERE look_id = :look AND plant_id = :plant"
            " AND measure = :measure AND sample = :sample AND person = ''"
            " AND standing <> 'set_aside'",
            {
                **of._asdict(),
                "contested": json.dumps(sorted(found.contested)),
            },
        )
    key = {**of._asdict(), "samples": samples, "holds": found.holds}
    connection.execute(
        "INSERT OR REPLACE INTO sample_now (look_id, plant_id, measure, sample, tally_id, value,"
        " total, effort, finished, last, counted_at, counted_on) SELECT look_id, plant_id,"
        " measure, sample, id, value, total, effort, finished, last, counted_at,"
        " coalesce(counted_on, substr(counted_at, 1, 10)) FROM tally WHERE id = :holds",
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
        " AND f.person = '' ORDER BY julianday(f.counted_at), f.id LIMIT 1)"
        " FROM sample_now s WHERE look_id = :look AND plant_id = :plant"
        " AND measure = :measure AND (sample > 0) = (SELECT w.sample > 0 FROM sample_now w"
        " WHERE w.look_id = :look AND w.plant_id = :plant AND w.measure = :measure"
        " ORDER BY julianday(w.counted_at) DESC, w.tally_id DESC LIMIT 1) HAVING count(*) > 0",
        key,
    )
    return found


def known_taps(
    connection: sqlite3.Connection, keys: Sequence[str]
) -> dict[str, tuple[object, ...]]:
    """Return those of some taps that are kept already, each with what it said of which line."""
    rows = connection.execute(
        "SELECT p.key, p.step, p.value, t.session, t.plant_id, t.sample, t.measure FROM tap p"
        " JOIN tally t ON t.id = p.tally_id"
        " WHERE p.key IN (SELECT value FROM json_each(:keys))",
        {"keys": json.dumps(keys)},
    )
    return {row["key"]: tuple(row)[1:] for row in rows}


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
        # Whoever chooses has seen them all: the others step back, in whatever order they came.
        connection.execute(
            f"UPDATE tally SET standing = 'set_aside' WHERE {where}"  # noqa: S608
            " AND measure = :measure AND session <> :session AND (standing = 'contested'"
            " OR :chosen > 0)",
            line,
        )
        connection.execute("UPDATE tally SET standing = 'held' WHERE id = :chosen", line)
        refresh(connection, Sample(place.look_id, plant_id, row["measure"], sample), place.samples)
    recount_look(connection, place.look_id)
    return True
