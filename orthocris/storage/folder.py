"""The data folder: nobody else reads it, and one server at a time writes into it."""

from __future__ import annotations

import contextlib
import json
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from orthocris.storage.soundness import DatabaseError

LOCK = "orthocris.lock"
FOLDER_MODE, FILE_MODE = 0o700, 0o600


def keep_private(folder: Path) -> None:
    """Make the folder and what is in it readable by its owner alone, as far as it is ours."""
    with contextlib.suppress(OSError):  # somebody else's folder, or one without such rights
        folder.chmod(FOLDER_MODE)
    for file in folder.glob("orthocris.sqlite*"):
        with contextlib.suppress(OSError):
            file.chmod(FILE_MODE)


@contextmanager
def claimed(folder: Path, address: str) -> Iterator[None]:
    """Hold the folder for this program until the end.

    The lock is the system's own: it ends with the program, however that ends.

    Raises
    ------
    DatabaseError
        When another server holds it, naming that one; when the folder cannot be written to.
    """
    place = folder / LOCK
    try:
        handle = os.open(place, os.O_RDWR | os.O_CREAT, FILE_MODE)
    except OSError as error:
        raise DatabaseError(
            f"{folder} cannot be written to ({error.strerror})",
            code="read_only",
            fix="Give yourself the right to write there, or name another folder with --data.",
        ) from error
    with os.fdopen(handle, "r+", encoding="utf-8") as file:
        if not _lock(file):
            raise DatabaseError(
                f"another Orthocris uses {folder}{_who(file)}",
                code="folder_in_use",
                fix="Use that one, end it, or name another folder with --data.",
            )
        file.seek(0)
        file.truncate()
        json.dump({"process": os.getpid(), "address": address}, file)
        file.flush()
        yield


def _who(file: IO[str]) -> str:
    try:
        found = json.loads(file.read() or "{}")
        return f": process {int(found['process'])}, at {str(found['address'])[:80]}"
    except (ValueError, KeyError, TypeError, OSError):
        return ""


def _lock(file: IO[str]) -> bool:
    """Take the lock without waiting; False where another has it."""
    try:
        if os.name == "nt":
            import msvcrt

            # Far behind the text, which the other program may read.
            file.seek(1 << 20)
            msvcrt.locking(file.fileno(), msvcrt.LK_NBLCK, 1)  # type: ignore[attr-defined,unused-ignore]
            file.seek(0)
        else:
            import fcntl

            fcntl.flock(file.fileno(), fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        file.seek(0)
        return False
    return True
