"""Opening the one SQLite file, transactions and migrations."""

from __future__ import annotations

import contextlib
import queue
import re
import sqlite3
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from importlib.resources import files
from pathlib import Path

from orthocris.core.errors import OrthocrisError

Connection = sqlite3.Connection
# What SQLite says of a damaged schema may itself be no text.
BROKEN = (sqlite3.DatabaseError, UnicodeDecodeError)
WAIT = 10.0  # seconds to wait for others who write
CHECKED_AT_ONCE = 8_000_000  # bytes; a larger file would hold the start up
MIGRATION = re.compile(r"(\d{4})_\w+\.sql")


class DatabaseError(OrthocrisError):
    """The data file cannot be used; the message says why."""

    default_code = "database"


class Database:
    """The gardener's data: one file, one kept connection that writes, a few that read.

    A reader sees one unchanging state and never waits for the writer, nor the writer for it.
    Connections belong to whoever uses them at the moment, in whatever thread. One that was
    opened on a file that is no longer there (moved, put back) is closed, not written to.

    Parameters
    ----------
    path:
        The SQLite file; made by `migrate` when absent.
    durable:
        True: a committed change survives a power cut (synchronous = FULL). False is for
        building throw-away data quickly.
    readers:
        How many may read at once; more wait. Few are enough: reading is short, and many at
        once would only take the processor from whoever counts.
    trace:
        Called with every statement that is run, for tests.
    """

    def __init__(
        self,
        path: Path,
        *,
        durable: bool = True,
        readers: int = 2,
        trace: Callable[[str], None] | None = None,
    ) -> None:
        self.path = path
        self._durable = durable
        self._trace = trace
        self._count = readers
        self.commits = 0  # how often something was written: what was read before may be old
        self._file: tuple[int, int] | None = None
        self._damage: DatabaseError | None = None
        self._checkpointed = 0
        self._marked = False
        self._checked_later = _is_large(path) and not path.with_name(f"{path.name}-wal").exists()
        self._following = threading.Lock()
        self._turn_to_write = threading.Lock()
        self._patience = WAIT  # of the writing connection
        self._writer = _Kept(self._connect)
        self._readers: queue.LifoQueue[_Kept] = queue.LifoQueue()
        for _ in range(readers):
            self._readers.put(_Kept(self._connect))

    @contextmanager
    def reading(self) -> Iterator[sqlite3.Connection]:
        """Yield a connection that sees one unchanging state of the data."""
        self._follow_file()
        kept = self._readers.get()
        try:
            connection = kept.open()
            connection.execute("BEGIN")
            try:
                yield connection
            finally:
                connection.rollback()
        finally:
            self._readers.put(kept)

    @contextmanager
    def atomic(self) -> Iterator[sqlite3.Connection]:
        """Yield a connection whose changes are all kept on leaving, or none on an error."""
        self._follow_file()
        until = time.monotonic() + WAIT
        if not self._turn_to_write.acquire(timeout=WAIT):
            raise sqlite3.OperationalError("database is locked")
        try:
            connection = self._writer.open()
            # All who wait for another program wait together, not each anew after the other.
            left = round(max(until - time.monotonic(), 0), 1)
            if left != self._patience:
                connection.execute(f"PRAGMA busy_timeout = {round(1000 * left)}")
                self._patience = left
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
                connection.commit()
                self.commits += 1
                if not self._marked:
                    self._mark(running=True)
            except BaseException:
                connection.rollback()
                raise
        finally:
            self._turn_to_write.release()

    def close(self) -> None:
        """Close all connections; the file is then whole by itself, without its journal."""
        taken = [self._readers.get() for _ in range(self._count)]
        with self._turn_to_write:
            # Into the file these connections have open, wherever it was moved: SQLite itself leaves
            # the journal of a moved file behind, where the next file of that name would find it.
            self._writer.empty_journal()
            for kept in (self._writer, *taken):
                kept.close()
            self._patience = WAIT
            self._mark(running=False)
        for kept in taken:
            self._readers.put(kept)

    def _follow_file(self) -> None:
        """Let go of a file that was moved or replaced, before anything is read or written."""
        if self._damage is not None:
            raise self._damage
        if _file_id(self.path) == self._file:
            return
        with self._following:
            found = _file_id(self.path)
            if found != self._file:
                self.close()
                self.commits += 1
                self._file = found

    def migrate(self) -> list[str]:
        """Check the file and bring its schema up to date, one transaction a migration.

        Makes the file when there is none; nothing else does. Returns the migrations applied. The
        quick check is done at once (of a large file that was left in good order by `check`
        instead), the full one beside the first requests (`check`).

        Raises
        ------
        DatabaseError
            When it is damaged, no data of this program, or of a newer one; when an empty file is
            where a garden was, or its journal is gone after a crash.
        """
        _check_place(self.path)
        try:
            with closing(self._connect("rwc")) as connection:
                _check_ours(connection, self.path)
                if not self._checked_later:
                    _check_quickly(connection, self.path)
                connection.execute("PRAGMA journal_mode = WAL")
                return _apply_all(connection)
        except BROKEN as error:
            raise DatabaseError(
                f"{self.path} cannot be opened as Orthocris data ({error})",
                fix="Name another folder with --data, or put back a copy of the file.",
            ) from error

    def checkpoint(self) -> None:
        """Bring what was written since the last time into the file itself, waiting for nobody.

        Whoever copies the file while the program runs then has all but the last seconds.
        """
        if self._checkpointed == self.commits:
            return
        seen = self.commits
        with closing(self._connect()) as connection:
            connection.execute("PRAGMA wal_checkpoint(PASSIVE)").fetchall()
        self._checkpointed = seen

    def check(self) -> None:
        """Check the file as a whole, indexes too; found damaged, it is no longer used."""
        try:
            with closing(self._connect()) as connection:
                _check_whole(connection, self.path)
        except DatabaseError as error:
            self._damage = error
        except BROKEN as error:
            self._damage = _damaged(self.path, str(error))

    def _mark(self, *, running: bool) -> None:
        """Note beside the file that it is in use: what its journal holds may be needed.

        After a crash the note is still there; a file without its journal then has lost what was
        written last.
        """
        note = _note_of(self.path)
        self._marked = running
        with contextlib.suppress(OSError):  # a read-only folder is told of where it is written to
            if running:
                note.write_text("in use\n")
            else:
                note.unlink(missing_ok=True)

    def copy_to(self, path: Path) -> None:
        """Write a whole copy into a file that must not exist yet."""
        with closing(self._connect()) as connection:
            connection.execute("VACUUM INTO :path", {"path": str(path)})

    def _connect(self, mode: str = "rw") -> sqlite3.Connection:
        # "rw" never makes a file: data moved away while running is missed, not begun anew.
        address = f"{self.path.resolve().as_uri()}?mode={mode}"
        connection = sqlite3.connect(
            address,
            uri=True,
            timeout=WAIT,
            isolation_level=None,
            check_same_thread=False,  # one user at a time: the pool and the lock see to it
            cached_statements=256,
        )
        connection.row_factory = sqlite3.Row
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute(f"PRAGMA synchronous = {'FULL' if self._durable else 'OFF'}")
        connection.set_trace_callback(self._trace)
        return connection


class _Kept:
    """A connection that is opened at its first use and kept."""

    def __init__(self, connect: Callable[[], sqlite3.Connection]) -> None:
        self._connect = connect
        self._open: sqlite3.Connection | None = None

    def open(self) -> sqlite3.Connection:
        """Return the connection."""
        if self._open is None:
            self._open = self._connect()
        return self._open

    def empty_journal(self) -> None:
        """Write what the journal holds into the file."""
        if self._open is not None:
            with contextlib.suppress(sqlite3.OperationalError):  # another program reads: it is kept
                self._open.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()

    def close(self) -> None:
        """Close it; the next use opens it again."""
        if self._open is not None:
            self._open.close()
            self._open = None


def _is_large(path: Path) -> bool:
    return path.is_file() and path.stat().st_size > CHECKED_AT_ONCE


def _file_id(path: Path) -> tuple[int, int] | None:
    """Return what tells a file from another that takes its name; None when there is none."""
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_dev, found.st_ino


def _note_of(path: Path) -> Path:
    return path.with_name(f"{path.name}.in-use")


def _check_place(path: Path) -> None:
    """Refuse an empty file where a garden was, and one whose journal is gone after a crash."""
    there = path.is_file()
    journal = path.with_name(f"{path.name}-wal")
    known = _note_of(path).exists() or (path.parent / "pictures").exists() or journal.exists()
    if there and path.stat().st_size == 0 and (known or not _is_new(path)):
        raise DatabaseError(
            f"{path} is empty, and a garden was kept here",
            code="data_empty",
            fix="Put back a copy of the file; to begin anew here, move the empty file away.",
        )
    if there and path.stat().st_size and _note_of(path).exists() and not journal.exists():
        raise DatabaseError(
            f"the program was stopped, and the journal beside {path} is gone: what was written "
            "last is not in the file",
            code="journal_gone",
            fix=f"Put {journal.name} back beside it; if it is lost, remove {_note_of(path).name} "
            "and go on with what there is.",
        )


def _is_new(path: Path) -> bool:
    """True for an empty file alone in its folder, as somebody may have made it."""
    return not any(other != path for other in path.parent.iterdir())


def _check_ours(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse another program's file before anything is written into it."""
    rows = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
    tables = {row[0] for row in rows}
    if tables - {"migration"} and not {"migration", "trial"} <= tables:
        raise DatabaseError(
            f"{path} is a database of another program",
            code="not_ours",
            fix="Name another folder with --data; this file is left as it is.",
        )


def _check_quickly(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse a damaged file at the start, before anything is written into it."""
    found = str(connection.execute("PRAGMA quick_check(1)").fetchone()[0])
    if found != "ok":
        raise _damaged(path, found)


def _check_whole(connection: sqlite3.Connection, path: Path) -> None:
    """Refuse a file whose indexes or references do not agree with its rows either."""
    found = str(connection.execute("PRAGMA integrity_check(1)").fetchone()[0])
    if found != "ok":
        raise _damaged(path, found)
    lost = connection.execute("PRAGMA foreign_key_check").fetchone()
    if lost is not None:
        raise _damaged(path, f"{lost[0]} refers to what is not there")


def _damaged(path: Path, found: str) -> DatabaseError:
    return DatabaseError(
        f"{path} is damaged ({found})",
        code="data_damaged",
        fix="Put back a copy of the file, and keep the damaged one; or name another folder "
        "with --data.",
    )


def _apply_all(connection: sqlite3.Connection) -> list[str]:
    """Apply what is missing; references sleep meanwhile, so that a table can be made anew."""
    connection.execute("PRAGMA foreign_keys = OFF")
    try:
        return _apply_missing(connection)
    finally:
        connection.execute("PRAGMA foreign_keys = ON")


def _apply_missing(connection: sqlite3.Connection) -> list[str]:
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
