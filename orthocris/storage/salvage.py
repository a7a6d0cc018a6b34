"""Reading what can still be read of a damaged data file."""

from __future__ import annotations

import contextlib
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from orthocris.storage.soundness import BROKEN, DatabaseError, check_whole

Row = tuple[object, ...]


@dataclass(frozen=True, slots=True)
class Salvaged:
    """What was read of one table; `whole` is False where something between is lost."""

    table: str
    rows: int
    whole: bool


def salvage(file: Path, place: Path) -> tuple[Salvaged, ...]:
    """Write what can be read of a damaged file into a new one, which is whole.

    Each table is read from its first row on and, where that breaks off, from its last row back.
    Rows that refer to what is lost are left out.

    Raises
    ------
    DatabaseError
        When not even the list of the tables can be read.
    """
    with (
        closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode=ro", uri=True)) as source,
        closing(sqlite3.connect(place, isolation_level=None)) as made,
    ):
        made.execute("PRAGMA foreign_keys = OFF")
        made.execute("BEGIN")
        try:
            told = source.execute(
                "SELECT type, name, sql FROM sqlite_master WHERE sql IS NOT NULL"
                " AND name NOT LIKE 'sqlite_%' ORDER BY type = 'table' DESC"
            ).fetchall()
            for kind, _, sql in told:
                if kind != "trigger":  # they look at tables whose rows are yet to come
                    made.execute(sql)
        except BROKEN as error:
            raise DatabaseError(
                f"nothing of {file} can be read ({error})",
                code="nothing_salvaged",
                fix="Put back a copy with the command restore.",
            ) from error
        found = [_moved(source, made, name) for kind, name, _ in told if kind == "table"]
        lost = _drop_orphans(made)
        for kind, _, sql in told:
            if kind == "trigger":
                made.execute(sql)
        made.execute("COMMIT")
        check_whole(made, place)
    return tuple(
        Salvaged(one.table, one.rows - lost.get(one.table, 0), one.whole and one.table not in lost)
        for one in found
    )


def _moved(source: sqlite3.Connection, made: sqlite3.Connection, table: str) -> Salvaged:
    rows, whole = _readable(source, table)
    kept = 0
    for row in rows:
        marks = ", ".join("?" * len(row))
        with contextlib.suppress(sqlite3.DatabaseError):  # a row that breaks a rule is no row
            made.execute(f"INSERT INTO {_quoted(table)} VALUES ({marks})", row)  # noqa: S608
            kept += 1
    return Salvaged(table, kept, whole and kept == len(rows))


def _readable(source: sqlite3.Connection, table: str) -> tuple[list[Row], bool]:
    """Return the rows that can be reached from either end, and whether those are all."""
    columns = source.execute(f"PRAGMA table_info({_quoted(table)})").fetchall()
    key = [_quoted(name) for _, name, _, _, _, place in columns if place] or ["rowid"]
    found: dict[Row, Row] = {}
    for order in ("ASC", "DESC"):
        way = ", ".join(f"{column} {order}" for column in key)
        asked = f"SELECT {', '.join(key)}, * FROM {_quoted(table)} ORDER BY {way}"  # noqa: S608
        try:
            for row in source.execute(asked):
                found[tuple(row[: len(key)])] = tuple(row[len(key) :])
        except BROKEN:
            continue
        return list(found.values()), order == "ASC"
    return list(found.values()), False


def _drop_orphans(made: sqlite3.Connection) -> dict[str, int]:
    """Leave out rows whose reference is lost, and those that refer to them; return how many."""
    gone: dict[str, int] = {}
    while lost := {(row[0], row[3]) for row in made.execute("PRAGMA foreign_key_check")}:
        for table, number in lost:
            told = made.execute(f"PRAGMA foreign_key_list({_quoted(table)})").fetchall()
            ties = [row for row in told if row[0] == number]
            child, parent = _quoted(table), _quoted(ties[0][2])
            own = [f"{child}.{_quoted(tie[3])}" for tie in ties]
            theirs = [f"p.{_quoted(tie[4] or 'id')}" for tie in ties]
            same = " AND ".join(f"{a} = {b}" for a, b in zip(own, theirs, strict=True))
            known = " AND ".join(f"{column} IS NOT NULL" for column in own)
            without = f"NOT EXISTS (SELECT 1 FROM {parent} p WHERE {same})"  # noqa: S608
            rule = f"DELETE FROM {child} WHERE {known} AND {without}"  # noqa: S608
            gone[table] = gone.get(table, 0) + made.execute(rule).rowcount
    return gone


def _quoted(name: str) -> str:
    """A name of the file's own schema, as SQL takes any name."""
    doubled = name.replace('"', '""')
    return f'"{doubled}"'
