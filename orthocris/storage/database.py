"""Opening the one SQLite file, transactions and migrations."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from importlib.resources import files
from pathlib import Path

from orthocris.core.errors import OrthocrisError

Connection = sqlite3.Connection
MIGRATION = re.compile(r"(\d{4})_\w+\.sql")


class DatabaseError(OrthocrisError):
    """The data file cannot be used; the message says why."""

    default_code = "database"


class Database:
    """The gardener's data: one file, opened anew for each use.

    Parameters
    ----------
    path:
        The SQLite file; made when absent.
    durable:
        True: a committed change survives a power cut (synchronous = FULL). False is for
        building throw-away data quickly.
    """

    def __init__(self, path: Path, *, durable: bool = True) -> None:
        self.path = path
        self._durable = durable

    @contextmanager
    def reading(self) -> Iterator[sqlite3.Connection]:
        """Yield a connection that sees one unchanging state of the data."""
        with closing(self._connect()) as connection:
            connection.execute("BEGIN")
            try:
                yield connection
            finally:
                connection.rollback()

    @contextmanager
    def atomic(self) -> Iterator[sqlite3.Connection]:
        """Yield a connection whose changes are all kept on leaving, or none on an error."""
        with closing(self._connect()) as connection:
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
            except BaseException:
                connection.rollback()
                raise
            connection.commit()

    def migrate(self) -> list[str]:
        """Check the file and bring its schema up to date, one transaction a migration.

        Makes the file when there is none; nothing else does. Returns the migrations applied.

        Raises
        ------
        DatabaseError
            When it is damaged, no data of this program, or of a newer one.
        """
        try:
            with closing(self._connect("rwc")) as connection:
                _check_whole(connection, self.path)
                connection.execute("PRAGMA journal_mode = WAL")
                return _apply_all(connection)
        except sqlite3.DatabaseError as error:
            raise DatabaseError(
                f"{self.path} cannot be opened as Orthocris data ({error})",
                fix="Name another folder with --data, or put back a copy of the file.",
            ) from error

    def copy_to(self, path: Path) -> None:
        """Write a whole copy into a file that must not exist yet."""
        with closing(self._connect()) as connection:
            connection.execute("VACUUM INTO :path", {"path": str(path)})

    def _connect(self, mode: str = "rw") -> sqlite3.Connection:
        # "rw" never makes a file: data moved away while running is missed, not begun anew.
        address = f"{self.path.resolve().as_uri()}?mode={mode}"
        connection = sqlite3.connect(address, uri=True, timeout=10, isolation_level=None)
        connection.row_factory = sqlite3.Row
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute(f"PRAGMA synchronous = {'FULL' if self._durable else 'OFF'}")
        return connection


def _check_whole(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse a damaged file at the start, before anything is written into it."""
    found = str(connection.execute("PRAGMA quick_check(1)").fetchone()[0])
    if found != "ok":
        raise DatabaseError(
            f"{path} is damaged ({found})",
            code="data_damaged",
            fix="Put back a copy of the file, and keep the damaged one; or name another folder "
            "with --data.",
        )


def _apply_all(connection: sqlite3.Connection) -> list[str]:
    connection.execute(
        "CREATE TABLE IF NOT EXISTS migration ("
        "number INTEGER PRIMARY KEY, name TEXT NOT NULL, applied_at TEXT NOT NULL) STRICT"
    )
    known = {row["number"] for row in connection.execute("SELECT number FROM migration")}
    folder = files("orthocris.storage").joinpath("migrations")
    scripts = sorted(f.name for f in folder.iterdir() if MIGRATION.fullmatch(f.name))
    newest = int(scripts[-1][:4])
    if known and max(known) > newest:
        raise DatabaseError(
            f"the data is of a newer Orthocris (step {max(known)}, this one knows {newest})",
            fix="Start the newer program, or name another folder with --data.",
        )
    applied = []
    for name in scripts:
        number = int(name[:4])
        if number in known:
            continue
        connection.execute("BEGIN IMMEDIATE")
        try:
            for statement in _statements(folder.joinpath(name).read_text("utf-8")):
                connection.execute(statement)
            connection.execute(
                "INSERT INTO migration VALUES (:number, :name, datetime('now'))",
                {"number": number, "name": name},
            )
        except BaseException:
            connection.rollback()
            raise
        connection.commit()
        applied.append(name)
    return applied


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
