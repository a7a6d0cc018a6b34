"""Opening the one SQLite file, transactions and migrations."""

from __future__ import annotations

import contextlib
import queue
import sqlite3
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import TypeVar

from orthocris.storage.soundness import (
    BROKEN,
    PUT_BACK,
    DatabaseError,
    check_ours,
    check_place,
    check_quickly,
    check_whole,
    damaged,
    note_of,
)
from orthocris.storage.upgrade import apply_all

Connection = sqlite3.Connection
Kept = TypeVar("Kept")
WAIT = 10.0  # seconds to wait for others who write
CHECKED_AT_ONCE = 8_000_000  # bytes; a larger file would hold the start up


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
            damage = self._damage  # told anew: one that is raised again keeps all earlier callers
            raise DatabaseError(damage.message, code=damage.code, fix=damage.fix)
        if _file_id(self.path) == self._file:
            return
        with self._following:
            found = _file_id(self.path)
            if found != self._file:
                self.close()
                self.commits += 1
                self._file = found

    def migrate(
        self, before_upgrade: Callable[[], object] | None = None, until: int | None = None
    ) -> list[str]:
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
        check_place(self.path)
        try:
            with closing(self._connect("rwc")) as connection:
                check_ours(connection, self.path)
                if not self._checked_later:
                    check_quickly(connection, self.path)
                connection.execute("PRAGMA journal_mode = WAL")
                return apply_all(connection, before_upgrade, until)
        except BROKEN as error:
            raise DatabaseError(
                f"{self.path} cannot be opened as Orthocris data ({error})",
                code="data_damaged",
                fix=PUT_BACK,
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

    def refuse(self, damage: DatabaseError) -> None:
        """Let nobody read or write, and tell each why, until another file is put in its place."""
        self._damage = damage

    @property
    def damage(self) -> DatabaseError | None:
        """Why the file is not used, None where all is well."""
        return self._damage

    def put_in_place(self, whole: Path, keep: Callable[[], Kept]) -> Kept:
        """Put a whole file in the place of this one, at a moment when nobody reads or writes.

        `keep` is called at that moment, to keep what is there: nothing is written between. What it
        raises leaves all as it is; what it returns is returned.

        Raises
        ------
        DatabaseError
            When another program has the file open: its journal would be taken for that of the new.
        """
        taken = [self._readers.get() for _ in range(self._count)]
        try:
            with self._turn_to_write:
                if self._damage is None:
                    self._writer.empty_journal()
                for kept in (self._writer, *taken):
                    kept.close()
                self._patience = WAIT
                kept_before = keep()
                left = [self.path.with_name(f"{self.path.name}-{end}") for end in ("wal", "shm")]
                if self._damage is None and any(_size(place) for place in left[:1]):
                    raise DatabaseError(
                        f"another program has {self.path} open",
                        code="file_in_use",
                        fix="Close it, and put the copy back then.",
                    )
                for place in left:
                    place.unlink(missing_ok=True)
                whole.replace(self.path)
                self._damage = None
                self._file = _file_id(self.path)
                self._mark(running=False)
                self.commits += 1
                return kept_before
        finally:
            for kept in taken:
                self._readers.put(kept)

    def check(self) -> None:
        """Check the file as a whole, indexes too; found damaged, it is no longer used."""
        try:
            with closing(self._connect()) as connection:
                check_whole(connection, self.path)
        except DatabaseError as error:
            self._damage = error
        except BROKEN as error:
            self._damage = damaged(self.path, str(error))

    def _mark(self, *, running: bool) -> None:
        """Note beside the file that it is in use: what its journal holds may be needed.

        After a crash the note is still there; a file without its journal then has lost what was
        written last.
        """
        note = note_of(self.path)
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


def _size(path: Path) -> int:
    return path.stat().st_size if path.exists() else 0


def _file_id(path: Path) -> tuple[int, int] | None:
    """Return what tells a file from another that takes its name; None when there is none."""
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_dev, found.st_ino
