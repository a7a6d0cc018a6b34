"""Copies of the garden: made each day, before an upgrade and on request; put back when needed."""

from __future__ import annotations

import contextlib
import shutil
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC
from pathlib import Path

from orthocris.core.errors import NotFoundError
from orthocris.services.context import Context
from orthocris.storage import backups, door
from orthocris.storage.backups import Backup, Reason
from orthocris.storage.counting import notebook
from orthocris.storage.database import Database
from orthocris.storage.salvage import Salvaged, salvage
from orthocris.storage.soundness import DatabaseError

DRAFT = "orthocris.sqlite.restoring"


@dataclass(frozen=True, slots=True)
class Restored:
    """What became of the data before: a copy, or, damaged, a file set aside; and what is missing.

    `pictures_missing`: how many pictures of notes are no longer there, as they were taken away
    since.
    """

    kept: Backup | None
    set_aside: str | None
    pictures_missing: int


def backups_of(context: Context) -> tuple[Backup, ...]:
    """Return the copies there are, the newest first."""
    return backups.backups_of(context.database.path)


def folder_of(context: Context) -> Path:
    """Return the folder of the copies."""
    return backups.folder_of(context.database.path)


def make_backup(context: Context, reason: Reason = Reason.ASKED) -> Backup:
    """Make a copy now; raises DatabaseError where none can be made."""
    damage = context.database.damage
    if damage is not None:
        raise damage
    made = backups.make(context.database.path, reason, context.now())
    backups.thin(context.database.path, context.now())
    return made


def make_daily(context: Context) -> Backup | None:
    """Make the copy of the day where one is due."""
    if context.database.damage is None and backups.is_due(context.database.path, context.now()):
        return make_backup(context, Reason.DAILY)
    return None


def place_of(context: Context, name: str) -> Path:
    """Return the file of a copy, or raise NotFoundError."""
    if not any(one.name == name for one in backups_of(context)):
        raise NotFoundError(
            "there is no such copy (any more)", code="no_such_backup", fix="Choose one of the list."
        )
    return folder_of(context) / name


def remove_backup(context: Context, name: str) -> None:
    """Remove a copy."""
    place_of(context, name).unlink(missing_ok=True)


def restore(context: Context, source: Path) -> Restored:
    """Put a copy in the place of the data; what is there now is kept.

    The copy is looked through and brought up to date beside the data first, so that what fails
    changes nothing. Other devices must come in anew: who was sent out since is not let in again.

    Raises
    ------
    DatabaseError
        When the copy is damaged, of a newer version or of another program; when there is no room.
    """
    file = context.database.path
    draft = file.with_name(DRAFT)
    try:
        _prepare(source, draft)
        kept, set_aside = context.database.put_in_place(draft, lambda: _keep_what_is_there(context))
    except OSError as error:
        raise DatabaseError(
            f"the copy could not be put back ({error.strerror}); nothing was changed",
            code="no_room",
            fix=f"Make room, and see that {file.parent} can be written to.",
        ) from error
    finally:
        for left in file.parent.glob(f"{DRAFT}*"):
            with contextlib.suppress(OSError):
                left.unlink()
    _bring_pictures(source, file)
    return Restored(kept, set_aside, pictures_missing(context))


def _prepare(source: Path, draft: Path) -> None:
    with contextlib.suppress(FileNotFoundError):
        draft.unlink()
    backups.copy_whole(source, draft)
    if not backups.is_garden(draft):
        raise DatabaseError(
            f"{source.name} is no garden of Orthocris",
            code="not_ours",
            fix="Choose another copy; nothing was changed.",
        )
    with closing(Database(draft)) as database:
        database.migrate()
        with database.atomic() as connection:
            door.forget_all(connection)
    # Closed, its journal is in the file.


def _keep_what_is_there(context: Context) -> tuple[Backup | None, str | None]:
    file, now = context.database.path, context.now()
    if not file.exists():
        return None, None
    if context.database.damage is None:
        return backups.make(file, Reason.RESTORE, now), None
    aside = file.with_name(f"{file.name}.damaged-{now.astimezone(UTC):%Y%m%dT%H%M%SZ}")
    for end in ("", "-wal"):
        part = file.with_name(file.name + end)
        if part.exists():
            shutil.copy2(part, aside.with_name(aside.name + end))
    return None, aside.name


def _bring_pictures(source: Path, file: Path) -> None:
    """Bring the pictures beside a copy that was made for another place."""
    for picture in (source.parent / notebook.FOLDER).glob("*.jpg"):
        place = file.parent / notebook.FOLDER / picture.name
        if not place.exists():
            place.parent.mkdir(exist_ok=True)
            shutil.copy2(picture, place)


def pictures_missing(context: Context) -> int:
    """Return how many pictures of notes have no file."""
    with context.database.reading() as connection:
        named = notebook.files_named(connection)
    folder = context.database.path.parent / notebook.FOLDER
    return sum(not (folder / f"{name}.jpg").exists() for name in named)


def copy_elsewhere(context: Context, folder: Path) -> Path:
    """Copy the garden with its pictures to another folder, such as one on a stick.

    That folder is a data folder itself. A copy that is there is replaced when the new one is whole.
    """
    folder.mkdir(parents=True, exist_ok=True)
    place = folder / context.database.path.name
    backups.copy_whole(context.database.path, place)
    _bring_pictures(context.database.path, place)
    return place


def repair(context: Context) -> tuple[Restored, tuple[Salvaged, ...]]:
    """Put what can be read of a damaged file in its place; the damaged one is kept beside it."""
    file = context.database.path
    draft = file.with_name("orthocris.sqlite.salvaged")
    with contextlib.suppress(FileNotFoundError):
        draft.unlink()
    try:
        found = salvage(file, draft)
        return restore(context, draft), found
    finally:
        draft.unlink(missing_ok=True)
