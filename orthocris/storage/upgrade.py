"""Bringing the schema of a data file up to date, one transaction a migration."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Callable, Iterator
from importlib.resources import files

from orthocris.storage.soundness import DatabaseError

MIGRATION = re.compile(r"(\d{4})_\w+\.sql")


def apply_all(
    connection: sqlite3.Connection,
    before_upgrade: Callable[[], object] | None = None,
    until: int | None = None,
) -> list[str]:
    """Apply what is missing; references sleep meanwhile, so that a table can be made anew.

    `until` is the last step to make, for data that is still to come in as it then was.

    `before_upgrade` is called before data of an older version is changed; what it raises ends the
    upgrade before its first step.
    """
    connection.execute(
        "CREATE TABLE IF NOT EXISTS migration ("
        "number INTEGER PRIMARY KEY, name TEXT NOT NULL, applied_at TEXT NOT NULL) STRICT"
    )
    known = {row["number"] for row in connection.execute("SELECT number FROM migration")}
    missing = [one for one in _missing(known) if until is None or int(one[0][:4]) <= until]
    if known and missing and before_upgrade is not None:
        before_upgrade()
    connection.execute("PRAGMA foreign_keys = OFF")
    try:
        for name, script in missing:
            _apply(connection, name, script)
    finally:
        connection.execute("PRAGMA foreign_keys = ON")
    return [name for name, _ in missing]


def _missing(known: set[int]) -> list[tuple[str, str]]:
    """Return the names and scripts of the steps that are still to be made."""
    folder = files("orthocris.storage").joinpath("migrations")
    scripts = sorted(f.name for f in folder.iterdir() if MIGRATION.fullmatch(f.name))
    newest = int(scripts[-1][:4])
    if known and max(known) > newest:
        raise DatabaseError(
            f"the data is of a newer Orthocris (step {max(known)}, this one knows {newest})",
            fix="Start the newer program, or name another folder with --data.",
        )
    return [
        (name, folder.joinpath(name).read_text("utf-8"))
        for name in scripts
        if int(name[:4]) not in known
    ]


def _apply(connection: sqlite3.Connection, name: str, script: str) -> None:
    number = int(name[:4])
    connection.execute("BEGIN IMMEDIATE")
    try:
        for statement in _statements(script):
            connection.execute(statement)
        lost = connection.execute("PRAGMA foreign_key_check").fetchone()
        if lost is not None:
            raise DatabaseError(
                f"step {number} would leave {lost['table']} without what it refers to",
                fix="Keep the file as it is, and put back a copy of it.",
            )
        connection.execute(
            "INSERT INTO migration VALUES (:number, :name, datetime('now'))",
            {"number": number, "name": name},
        )
    except BaseException:
        connection.rollback()
        raise
    connection.commit()


def _statements(script: str) -> Iterator[str]:
    """Split a script where SQLite says a statement ends; `executescript` would commit."""
    statement = ""
    for line in script.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""
    if statement.strip():
        yield statement
