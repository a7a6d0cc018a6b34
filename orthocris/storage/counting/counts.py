"""Tallies: what was counted, what holds now of it, and how each remedy went."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from datetime import date, datetime
from functools import partial
from itertools import pairwise, repeat

from orthocris.core.counting.sheet import Contest, Side
from orthocris.core.field.stopping import Course
from orthocris.core.trial.standing import DAYS_OFF
from orthocris.core.trial.trial import Tally

OF_A_PLANT = (0, "held", "", 0, False)  # sample and what follows, of a number that is no leaf's
LONGEST_LEAF = 300.0  # seconds; whoever takes longer was called away


def current(connection: sqlite3.Connection, trial_id: int) -> tuple[Tally, ...]:
    """Return the newest tally of every plant, look and measure of a trial."""
    cursor = connection.cursor()
    cursor.row_factory = None  # bare rows, unpacked: of a large trial there are fifteen thousand
    rows = cursor.execute(
        "SELECT n.tally_id, n.look_id, n.plant_id, n.measure, n.value, n.total, n.effort,"
        " n.finished, n.counted_at, n.counted_on, nullif(n.first_counted_at, n.counted_at)"
        " FROM look l JOIN tally_now n ON n.look_id = l.id WHERE l.trial_id = :t",
        {"t": trial_id},
    ).fetchall()
    if not rows:
        return ()
    *as_kept, finished, at, on, first = zip(*sorted(rows), strict=True)
    when = list(map(datetime.fromisoformat, at))
    days = {day: date.fromisoformat(day) for day in set(on)}
    firsts = [
        w if f is None else datetime.fromisoformat(f) for f, w in zip(first, when, strict=True)
    ]
    columns = (*as_kept, map(bool, finished), when, map(days.__getitem__, on), firsts)
    rest = map(repeat, OF_A_PLANT)
    return tuple(map(partial(tuple.__new__, Tally), zip(*columns, *rest)))  # noqa: B905


def at_look(connection: sqlite3.Connection, look_id: int) -> tuple[Tally, ...]:
    """Return the newest tally of every plant and measure at one look."""
    rows = connection.execute(
        "SELECT *, tally_id AS id FROM tally_now WHERE look_id = :look ORDER BY tally_id",
        {"look": look_id},
    )
    return tuple(_tally(row) for row in rows)


def samples_at(connection: sqlite3.Connection, look_id: int) -> tuple[Tally, ...]:
    """Return what holds of every sample, plant and measure at one look."""
    rows = connection.execute(
        "SELECT s.*, s.tally_id AS id, s.counted_at AS first_counted_at, t.session, t.standing,"
        " t.step"
        " FROM sample_now s JOIN tally t ON t.id = s.tally_id WHERE s.look_id = :look"
        " ORDER BY s.tally_id",
        {"look": look_id},
    )
    return tuple(_line(row) for row in rows)


def seconds_at(
    connection: sqlite3.Connection, look_id: int, person: str | None = None
) -> dict[str, tuple[Tally, ...]]:
    """Return what second people (or one of them) counted at a look, the newest of each sample."""
    rows = connection.execute(
        "SELECT t.*, max(t.id), t.counted_at AS first_counted_at FROM tally t"
        " WHERE t.look_id = :look AND t.person <> '' AND (:person IS NULL OR t.person = :person)"
        " GROUP BY t.person, t.plant_id, t.measure, t.sample ORDER BY t.id",
        {"look": look_id, "person": person},
    )
    found: dict[str, list[Tally]] = {}
    for row in rows:
        found.setdefault(row["person"], []).append(_line(row))
    return {name: tuple(lines) for name, lines in found.items()}


def classed_at(connection: sqlite3.Connection, look_id: int) -> int:
    """Return how many numbers that hold at a look were told as classes."""
    row = connection.execute(
        "SELECT count(*) FROM sample_now s JOIN tally t ON t.id = s.tally_id"
        " WHERE s.look_id = :look AND t.classed = 1 AND s.value IS NOT NULL",
        {"look": look_id},
    ).fetchone()
    return int(row[0])


def contests_at(connection: sqlite3.Connection, look_id: int) -> tuple[Contest, ...]:
    """Return the samples that two devices counted without knowing of each other."""
    rows = connection.execute(
        "SELECT t.* FROM tally t WHERE t.look_id = :look AND t.standing <> 'set_aside'"
        " AND t.person = ''"
        " AND EXISTS (SELECT 1 FROM tally c WHERE c.look_id = t.look_id"
        " AND c.plant_id = t.plant_id AND c.sample = t.sample AND c.standing = 'contested')"
        " AND (t.standing = 'contested' OR EXISTS (SELECT 1 FROM sample_now s"
        " WHERE s.tally_id = t.id)) ORDER BY t.plant_id, t.sample, t.id",
        {"look": look_id},
    ).fetchall()
    found: dict[tuple[int, int], dict[str, list[sqlite3.Row]]] = {}
    for row in rows:
        sides = found.setdefault((row["plant_id"], row["sample"]), {})
        sides.setdefault(row["session"], []).append(row)
    return tuple(
        Contest(plant, sample, tuple(_side(session, lines) for session, lines in sides.items()))
        for (plant, sample), sides in found.items()
    )


def _side(session: str, lines: Sequence[sqlite3.Row]) -> Side:
    return Side(
        session,
        {row["measure"]: row["value"] for row in lines},
        max(datetime.fromisoformat(row["counted_at"]) for row in lines),
        held=any(row["standing"] == "held" for row in lines),
        device=lines[-1]["device"],
    )


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


def damage_before(connection: sqlite3.Connection, trial_id: int) -> dict[int, float]:
    """Return the leaf damage that was scored before the first spray, by plant id."""
    rows = connection.execute(
        "SELECT n.plant_id, n.value FROM look l JOIN tally_now n ON n.look_id = l.id"
        " WHERE l.trial_id = :t AND l.number = 0 AND n.measure = 'damage'"
        " AND n.value IS NOT NULL",
        {"t": trial_id},
    )
    return {row[0]: row[1] for row in rows}


def leaves_of(
    connection: sqlite3.Connection, trial_id: int, measure: str
) -> dict[tuple[int, int], list[float]]:
    """Return the finished counts of single leaves, by look and plant."""
    rows = connection.execute(
        "SELECT s.look_id, s.plant_id, s.value FROM look l JOIN sample_now s ON s.look_id = l.id"
        " AND s.measure = :measure AND s.sample > 0 WHERE l.trial_id = :t AND s.finished = 1"
        " AND s.value IS NOT NULL",
        {"t": trial_id, "measure": measure},
    )
    found: dict[tuple[int, int], list[float]] = {}
    for row in rows:
        found.setdefault((row[0], row[1]), []).append(row[2])
    return found


def seconds_a_leaf(connection: sqlite3.Connection, trial_id: int) -> tuple[float, ...]:
    """Return what single leaves took, from the last tap of one to the last tap of the next."""
    rows = connection.execute(
        "SELECT t.look_id, max(julianday(p.tapped_at)) * 86400.0 AS at FROM look l"
        " JOIN tally t ON t.look_id = l.id AND t.sample > 0 JOIN tap p ON p.tally_id = t.id"
        " WHERE l.trial_id = :t GROUP BY t.look_id, t.plant_id, t.sample, t.session"
        " ORDER BY t.look_id, at",
        {"t": trial_id},
    ).fetchall()
    steps = [b["at"] - a["at"] for a, b in pairwise(rows) if a["look_id"] == b["look_id"]]
    return tuple(step for step in steps if 1 <= step <= LONGEST_LEAF)


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
        " AND plant_id = :plant AND measure = :measure AND person = '' ORDER BY id",
        {"look": look_id, "plant": plant_id, "measure": measure},
    )
    return tuple(_line(row) for row in rows)


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
    """Tell whether anything was ever counted on a plant, by whomever."""
    found = connection.execute(
        "SELECT 1 FROM look l JOIN tally t ON t.look_id = l.id AND t.plant_id = :plant"
        " WHERE l.trial_id = (SELECT trial_id FROM plant WHERE id = :plant) LIMIT 1",
        {"plant": plant_id},
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


def _line(row: sqlite3.Row) -> Tally:
    """A line of one sample, which a plant's sum is not."""
    return _tally(row)._replace(
        sample=row["sample"],
        standing=row["standing"],
        session=row["session"],
        step=row["step"],
        last=bool(row["last"]),
    )
