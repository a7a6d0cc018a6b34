"""Whether the data file can be used: whole, ours, and with its journal."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from orthocris.core.errors import OrthocrisError

# What SQLite says of a damaged schema may itself be no text.
BROKEN = (sqlite3.DatabaseError, UnicodeDecodeError)
BACKUPS = "backups"  # the folder of copies beside the file
PUT_BACK = (
    'Put back a copy: in the Yard under "Copies", or with the command restore; the damaged file is '
    "kept beside it. Or name another folder with --data."
)
# What a copy mends; anything else is told and left alone.
MENDED = frozenset({"data_damaged", "data_empty", "data_missing", "journal_gone"})


class DatabaseError(OrthocrisError):
    """The data file cannot be used; the message says why."""

    default_code = "database"


def note_of(path: Path) -> Path:
    """Return the note beside the file that says it is in use."""
    return path.with_name(f"{path.name}.in-use")


def check_place(path: Path) -> None:
    """Refuse an empty file where a garden was, and one whose journal is gone after a crash."""
    there = path.is_file()
    if not there and any((path.parent / BACKUPS).glob("*.sqlite")):
        raise DatabaseError(
            f"{path} is not there, but copies of it are", code="data_missing", fix=PUT_BACK
        )
    journal = path.with_name(f"{path.name}-wal")
    known = note_of(path).exists() or (path.parent / "pictures").exists() or journal.exists()
    if there and path.stat().st_size == 0 and (known or not _is_new(path)):
        raise DatabaseError(
            f"{path} is empty, and a garden was kept here",
            code="data_empty",
            fix=f"{PUT_BACK} To begin anew here, move the empty file away.",
        )
    if there and path.stat().st_size and note_of(path).exists() and not journal.exists():
        raise DatabaseError(
            f"the program was stopped, and the journal beside {path} is gone: what was written "
            "last is not in the file",
            code="journal_gone",
            fix=f"Put {journal.name} back beside it; if it is lost, remove {note_of(path).name} "
            "and go on with what there is, or put back a copy.",
        )


def _is_new(path: Path) -> bool:
    """True for an empty file alone in its folder, as somebody may have made it."""
    return not any(other != path for other in path.parent.iterdir())


def check_ours(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse another program's file before anything is written into it."""
    rows = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
    tables = {row[0] for row in rows}
    if tables - {"migration"} and not {"migration", "trial"} <= tables:
        raise DatabaseError(
            f"{path} is a database of another program",
            code="not_ours",
            fix="Name another folder with --data; this file is left as it is.",
        )


def check_quickly(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse a damaged file at the start, before anything is written into it."""
    found = str(connection.execute("PRAGMA quick_check(1)").fetchone()[0])
    if found != "ok":
        raise damaged(path, found)


def check_whole(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse a file whose indexes or references do not agree with its rows either."""
    found = str(connection.execute("PRAGMA integrity_check(1)").fetchone()[0])
    if found != "ok":
        raise damaged(path, found)
    lost = connection.execute("PRAGMA foreign_key_check").fetchone()
    if lost is not None:
        raise damaged(path, f"{lost[0]} refers to what is not there")


def damaged(path: Path, found: str) -> DatabaseError:
    """Return what is said of a damaged file; `found` is what SQLite says of it."""
    return DatabaseError(f"{path} is damaged ({found})", code="data_damaged", fix=PUT_BACK)


def damage_of(path: Path) -> DatabaseError | None:
    """Look through a file as a whole, without writing; return what is wrong, if anything is."""
    try:
        check_place(path)
        if path.exists():
            address = f"{path.resolve().as_uri()}?mode=ro"
            with closing(sqlite3.connect(address, uri=True)) as connection:
                check_whole(connection, path)
    except DatabaseError as error:
        return error
    except BROKEN as error:
        return damaged(path, str(error))
    return None
