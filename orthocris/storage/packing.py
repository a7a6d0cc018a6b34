"""The garden as plain tables, told by the schema itself: read out, laid into an empty file, and
put beside what another file holds."""

from __future__ import annotations

import json
import sqlite3
import uuid
from collections.abc import Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from datetime import datetime

from orthocris.core.errors import bad_package
from orthocris.core.shapes import Cell, Column, Row, Shape
from orthocris.storage.counting.keeping import refresh_all
from orthocris.storage.trial.recount import recount_trial

# What lets devices in, what answers a request sent twice, and what is made anew of the rest.
STAYS = frozenset({"migration", "receipt", "door", "door_session", "door_miss", "layout_set"})
SUMS = frozenset({"tally_now", "sample_now", "look_count", "round_count"})
# One line a key, of which the garden's own stays.
OWN_STAYS = frozenset({"yard", "price", "mind", "weather_day", "weather_hour", "neighbour"})
Rows = dict[Shape, list[Row]]
NAMED = frozenset({"own_pest", "own_remedy"})  # a name is there once


def shapes(connection: sqlite3.Connection, *, sums: bool = False) -> tuple[Shape, ...]:
    """Return the tables that a garden is moved by, each behind those that it refers to.

    With `sums` also those that hold what others add up to.
    """
    found = {
        row["name"]: _shape(connection, row["name"])
        for row in connection.execute(
            "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"
            " ORDER BY name"
        ).fetchall()
        if row["name"] not in STAYS and (sums or row["name"] not in SUMS)
    }
    order: dict[str, Shape] = {}

    def add(name: str) -> None:
        if name not in order:
            for parent in found[name].refers.values():
                if parent != name:
                    add(parent)
            order[name] = found[name]

    for name in found:
        add(name)
    return tuple(order.values())


def _shape(connection: sqlite3.Connection, table: str) -> Shape:
    told = connection.execute(
        'SELECT name, type, pk, "notnull" FROM pragma_table_info(:t)', {"t": table}
    ).fetchall()
    ties = connection.execute(
        'SELECT "from", "table" FROM pragma_foreign_key_list(:t) ORDER BY id', {"t": table}
    )
    return Shape(
        table,
        tuple(Column(r["name"], r["type"], bool(r["notnull"] or r["pk"])) for r in told),
        tuple(r["name"] for r in sorted(told, key=lambda r: int(r["pk"])) if r["pk"]),
        {tie["from"]: tie["table"] for tie in ties},
    )


def step_of(connection: sqlite3.Connection) -> int:
    """Return the step of the schema that a file is at."""
    return int(connection.execute("SELECT max(number) FROM migration").fetchone()[0])


def lines_in(connection: sqlite3.Connection) -> dict[str, int]:
    """Return how many lines there are in the tables that are no trial's."""
    return {
        shape.name: n
        for shape in shapes(connection)
        if not shape.refers
        and shape.name != "trial"
        and (n := connection.execute(f"SELECT count(*) FROM {shape.name}").fetchone()[0])  # noqa: S608
    }


def numbers_in(connection: sqlite3.Connection) -> dict[int, int]:
    """Return how many numbers were kept of each trial."""
    rows = connection.execute(
        "SELECT l.trial_id, count(*) FROM tally t JOIN look l ON l.id = t.look_id GROUP BY 1"
    )
    return {row[0]: row[1] for row in rows}


def read_out(connection: sqlite3.Connection, trials: Sequence[int] | None = None) -> Rows:
    """Return the rows of each table, in the order of its key; of some trials alone what is theirs.

    An own pest that these trials are about goes with them.
    """
    known = shapes(connection)
    by_name = {shape.name: shape for shape in known}
    found: Rows = {}
    for shape in known:
        which = "TRUE" if trials is None else _belongs(shape, by_name)
        if which is not None:
            rows = connection.execute(
                f"SELECT {', '.join(_quoted(shape.names))} FROM {shape.name} WHERE {which}"  # noqa: S608
                f" ORDER BY {', '.join(_quoted(shape.key))}",
                {"trials": json.dumps(trials)},
            )
            found[shape] = [tuple(row) for row in rows]
    due = by_name["layout_due"]
    kept = connection.execute(
        "SELECT trial_id FROM layout_set UNION SELECT trial_id FROM layout_due ORDER BY trial_id"
    )
    found[due] = [tuple(row) for row in kept if trials is None or row[0] in trials]
    return found


def _belongs(shape: Shape, known: Mapping[str, Shape]) -> str | None:
    if shape.name == "trial":
        return "id IN (SELECT value FROM json_each(:trials))"
    if shape.name == "own_pest":
        asked = "SELECT pest FROM trial WHERE id IN (SELECT value FROM json_each(:trials))"
        return f"removed_at IS NULL AND name IN ({asked})"
    for column, parent in shape.refers.items():
        inner = _belongs(known[parent], known)
        if inner is not None:
            return f"{column} IN (SELECT id FROM {parent} WHERE {inner})"  # noqa: S608
    return None


def lay_in(connection: sqlite3.Connection, shape: Shape, lines: Iterator[tuple[int, Row]]) -> None:
    """Write rows into an empty table; raises InputError for the first that breaks a rule.

    Parameters
    ----------
    lines:
        The line of the file that each row stands on, and its cells in the order of the columns.
    """
    sql = _insert(shape)
    for line, row in lines:
        with _refusing(f"in tables/{shape.name}.csv, line {line}: "):
            connection.execute(sql, row)


@contextmanager
def _refusing(place: str) -> Iterator[None]:
    """Say where a row breaks a rule; what is wrong with the disk or the file is no fault of it."""
    try:
        yield
    except (sqlite3.IntegrityError, sqlite3.DataError, OverflowError) as error:
        raise bad_package(f"{place}{_why(str(error))}") from None
    except sqlite3.OperationalError as error:
        if "JSON" not in str(error):
            raise
        raise bad_package(f"{place}{error}") from None
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise bad_package(f"{place}it names what it should not ({error})") from None


def _why(told: str) -> str:
    """Say what SQLite says of a row that it refuses; its own rules speak plainly."""
    for sign, words in (
        ("FOREIGN KEY", "it refers to what is not there"),
        ("UNIQUE", "it is there twice"),
        ("CHECK", "it has a value that cannot be"),
    ):
        if told.startswith(sign):
            return f"{words} ({told})"
    return told


def check_times(connection: sqlite3.Connection, now: datetime) -> None:
    """Refuse, in a file just laid in, what was kept at no time or at one that is still to come."""
    for shape in shapes(connection):
        for column in shape.names:
            if not column.endswith("_at"):
                continue
            row = connection.execute(
                f"SELECT {column} AS at FROM {shape.name} WHERE {column} IS NOT NULL"  # noqa: S608
                f" AND coalesce(julianday({column}) > julianday(:now) + 1, TRUE) LIMIT 1",
                {"now": now.isoformat()},
            ).fetchone()
            if row is not None:
                raise bad_package(
                    f"in tables/{shape.name}.csv: {column} {row['at'][:40]!r} is no time, or one "
                    "that is still to come"
                )


def add_up(connection: sqlite3.Connection) -> None:
    """Make anew, in a file just laid in, what other rows add up to; raises InputError."""
    with _refusing("its counts cannot be added up: "):
        refresh_all(connection)
        for row in connection.execute("SELECT id FROM trial").fetchall():
            recount_trial(connection, row["id"])


def put_beside(
    source: sqlite3.Connection, garden: sqlite3.Connection, named: Mapping[int, str]
) -> dict[int, int]:
    """Write all rows of a file into another, beside what is there; return the new ids of trials.

    Every id moves behind the highest one there is, so that nothing meets; of what there is one of
    (the yard, a price, a day's weather), what the garden has stays. `named` are other names that
    trials get, by their ids in the source. Nothing is written elsewhere than in this transaction.
    """
    known = shapes(source, sums=True)
    by = {shape.name: _highest(garden, shape) for shape in known}
    garden.execute("PRAGMA defer_foreign_keys = ON")
    for shape in known:
        insert = _insert(shape, "OR IGNORE " if shape.name in OWN_STAYS else "")
        rows = source.execute(f"SELECT {', '.join(_quoted(shape.names))} FROM {shape.name}")  # noqa: S608
        with _refusing(f"in tables/{shape.name}.csv: "):
            garden.executemany(insert, _fitted(garden, shape, _moved(shape, rows, by)))
    for trial, name in named.items():
        garden.execute(
            "UPDATE trial SET name = :name WHERE id = :id",
            {"id": trial + by["trial"], "name": name},
        )
    return {row["id"]: row["id"] + by["trial"] for row in source.execute("SELECT id FROM trial")}


def _highest(garden: sqlite3.Connection, shape: Shape) -> int:
    if shape.key != ("id",) or shape.name in OWN_STAYS - {"neighbour"}:
        return 0
    found = garden.execute(f"SELECT coalesce(max(id), 0) AS n FROM {shape.name}").fetchone()  # noqa: S608
    return int(found["n"])


def _moved(shape: Shape, rows: Iterable[Row], by: Mapping[str, int]) -> Iterator[list[Cell]]:
    """Move the ids in rows, and those within their JSON."""
    targets = {"id": shape.name} | dict(shape.refers)
    steps = [(k, by[targets[n]]) for k, n in enumerate(shape.names) if n in targets]
    within = [(shape.names.index(name), name) for name in WITHIN.get(shape.name, ())]
    for row in rows:
        moved = list(row)
        for place, step in steps:
            number = moved[place]
            if isinstance(number, int):
                moved[place] = number + step
        for place, name in within:
            text = moved[place]
            if isinstance(text, str):
                moved[place] = json.dumps(_within(shape.name, name, json.loads(text), by))
        yield moved


# Columns whose JSON names rows of other tables.
WITHIN = {
    "round": ("remedies", "steps"),
    "round_start": ("batches",),
    "mend": ("before", "after"),
}


def _within(table: str, column: str, plain: object, by: Mapping[str, int]) -> object:
    remedy = by["remedy"]
    match table, column, plain:
        case "round", "remedies", list():
            return [one + remedy for one in plain]
        case "round", "steps", list():
            return [[one + remedy, step] for one, step in plain]
        case "round_start", _, dict():
            return {str(int(one) + remedy): bottle + by["batch"] for one, bottle in plain.items()}
        case "mend", _, dict():
            for one in plain["question"]["remedies"]:
                one["id"] = None if one["id"] is None else one["id"] + remedy
            return plain | {"plant_ids": [one + by["plant"] for one in plain["plant_ids"]]}
    return plain


def _fitted(
    garden: sqlite3.Connection, shape: Shape, rows: Iterable[list[Cell]]
) -> Iterator[list[Cell]]:
    """Leave out own pests and remedies of a name that is here, and name anew what was sent twice.

    A request's or tap's own key tells that it was kept already; here it came another way.
    """
    if shape.name in NAMED:
        name, removed = shape.names.index("name"), shape.names.index("removed_at")
        asked = (
            f"SELECT 1 FROM {shape.name} WHERE removed_at IS NULL AND lower(name) = lower(:name)"  # noqa: S608
        )
        for row in rows:
            here = garden.execute(asked, {"name": row[name]}).fetchone()
            if here is None or row[removed] is not None:
                yield row
    elif "key" in shape.names and shape.name not in OWN_STAYS:
        place = shape.names.index("key")
        keys = {row["key"] for row in garden.execute(f"SELECT key FROM {shape.name}")}  # noqa: S608
        for row in rows:
            if row[place] in keys and row[place] is not None:
                row[place] = uuid.uuid4().hex
            yield row
    else:
        yield from rows


def _insert(shape: Shape, otherwise: str = "") -> str:
    marks = ", ".join("?" * len(shape.columns))
    names = ", ".join(_quoted(shape.names))
    return f"INSERT {otherwise}INTO {shape.name} ({names}) VALUES ({marks})"  # noqa: S608


def _quoted(names: Sequence[str]) -> list[str]:
    """Names of the program's own schema, some of which SQL knows as words."""
    return [f'"{name}"' for name in names]
