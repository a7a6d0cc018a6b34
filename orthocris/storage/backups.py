"""Copies of the data file: made while it is used, looked through, thinned by age."""

from __future__ import annotations

import contextlib
import os
import re
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from enum import StrEnum
from pathlib import Path

from orthocris.storage.soundness import BACKUPS, BROKEN, DatabaseError, check_whole

NAME = re.compile(r"(\d{8}T\d{12}Z)-(daily|upgrade|asked|restore)\.sqlite", re.ASCII)
STAMP = "%Y%m%dT%H%M%S%fZ"
EACH = timedelta(days=7)  # younger ones all stay
WEEKLY = timedelta(days=60)  # then one of each week
MONTHLY = timedelta(days=730)  # then one of each month, and in the end one of each year


class Reason(StrEnum):
    """Why a copy was made; one that was asked for stays until its owner removes it."""

    DAILY = "daily"
    UPGRADE = "upgrade"  # before the schema was changed
    ASKED = "asked"
    RESTORE = "restore"  # before another copy was put back


@dataclass(frozen=True, slots=True)
class Backup:
    """One copy; `name` is that of its file, `size` in bytes."""

    name: str
    made_at: datetime
    reason: Reason
    size: int


def backups_of(file: Path) -> tuple[Backup, ...]:
    """Return the copies of a data file, the newest first."""
    found = []
    with contextlib.suppress(OSError):
        for place in folder_of(file).glob("*.sqlite"):
            told = NAME.fullmatch(place.name)
            if told is None:
                continue
            with contextlib.suppress(ValueError, OSError):  # no such day; gone meanwhile
                made_at = datetime.strptime(told[1], STAMP).replace(tzinfo=UTC)
                found.append(Backup(place.name, made_at, Reason(told[2]), place.stat().st_size))
    return tuple(sorted(found, key=lambda one: one.made_at, reverse=True))


def folder_of(file: Path) -> Path:
    """Return the folder of the copies, beside the data file."""
    return file.with_name(BACKUPS)


def make(file: Path, reason: Reason, now: datetime) -> Backup:
    """Copy the file as it is at one moment, while others read and write it; whole, or not at all.

    The copy is one file without a journal, looked through as a whole before it gets its name.

    Raises
    ------
    DatabaseError
        When the file is damaged, or the copy cannot be written.
    """
    name = f"{now.astimezone(UTC).strftime(STAMP)}-{reason}.sqlite"
    place = folder_of(file) / name
    try:
        place.parent.mkdir(mode=0o700, exist_ok=True)
        copy_whole(file, place)
    except OSError as error:
        raise DatabaseError(
            f"no copy of the data could be made ({error.strerror})",
            code="no_backup",
            fix=f"Make room, and see that {place.parent} can be written to.",
        ) from error
    return Backup(name, now, reason, place.stat().st_size)


def copy_whole(file: Path, place: Path) -> None:
    """Copy a data file by SQLite's own means, look it through, and give it its name at last.

    Raises
    ------
    DatabaseError
        When what was copied is damaged or cannot be read.
    OSError
        When the copy cannot be written.
    """
    draft = place.with_name(f"{place.name}.part")
    try:
        os.close(os.open(draft, os.O_CREAT | os.O_WRONLY | os.O_TRUNC, 0o600))
        with (
            closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode=ro", uri=True)) as source,
            closing(sqlite3.connect(draft, isolation_level=None)) as copy,
        ):
            source.backup(copy)
            copy.execute("PRAGMA journal_mode = DELETE").fetchall()
            check_whole(copy, file)
        _to_disk(draft)
        draft.replace(place)
        _to_disk(place.parent)
    except sqlite3.OperationalError as error:
        raise OSError(0, str(error)) from error
    except BROKEN as error:
        raise DatabaseError(
            f"{file} cannot be copied: it is damaged ({error})",
            code="data_damaged",
            fix="Put back an earlier copy.",
        ) from error
    finally:
        for left in (draft, draft.with_name(f"{draft.name}-journal")):
            with contextlib.suppress(OSError):
                left.unlink(missing_ok=True)


def _to_disk(place: Path) -> None:
    with contextlib.suppress(PermissionError):  # a folder, on systems that open none
        handle = os.open(place, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def is_garden(file: Path) -> bool:
    """Tell whether a whole file holds a garden, not another program's data or nothing."""
    with closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode=ro", uri=True)) as connection:
        rows = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        return {"migration", "trial"} <= {row[0] for row in rows}


def is_due(file: Path, now: datetime) -> bool:
    """Tell whether a day's copy is to be made: the data changed since the last of nearly a day."""
    if not file.exists():
        return False
    newest = next((one.made_at for one in backups_of(file)), None)
    if newest is None:
        return True
    journal = file.with_name(f"{file.name}-wal")
    changed = max(place.stat().st_mtime for place in (file, journal) if place.exists())
    return now - newest >= timedelta(hours=20) and changed > newest.timestamp()


def thin(file: Path, now: datetime) -> None:
    """Remove the copies that have had their time (see `superfluous`), and drafts of a crash."""
    for draft in folder_of(file).glob("*.part*"):
        with contextlib.suppress(OSError):
            if now.timestamp() - draft.stat().st_mtime > timedelta(days=1).total_seconds():
                draft.unlink()
    for one in superfluous(backups_of(file), now):
        with contextlib.suppress(OSError):
            (folder_of(file) / one.name).unlink()


def superfluous(backups: tuple[Backup, ...], now: datetime) -> tuple[Backup, ...]:
    """Return the copies that a newer one of the same week, month or year stands for."""
    taken: set[tuple[object, ...]] = set()
    found = []
    for one in sorted(backups, key=lambda one: one.made_at, reverse=True):
        age = now - one.made_at
        day = one.made_at
        if one.reason is Reason.ASKED or age <= EACH:
            continue
        if age <= WEEKLY:
            span: tuple[object, ...] = ("week", *day.isocalendar()[:2])
        elif age <= MONTHLY:
            span = ("month", day.year, day.month)
        else:
            span = ("year", day.year)
        if span in taken:
            found.append(one)
        taken.add(span)
    return tuple(found)
