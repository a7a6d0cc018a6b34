"""Notes and pictures of plants: their rows, and the files of the pictures beside the data."""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import sqlite3
import tempfile
from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime, timedelta
from pathlib import Path

from orthocris.core.counting.notebook import Mark, Note, NoteEntry, Picture
from orthocris.core.errors import NotFoundError
from orthocris.storage.soundness import DatabaseError

FOLDER = "pictures"
NOTES = (
    "SELECT id, key, trial_id, plant_id, look_number, sample, said, seen, noted_at, removed_at,"
    " file, width, height, source, marks FROM note"
)


def keep_file(beside: Path, content: bytes) -> str:
    """Keep a picture in the folder beside the data, whole or not at all; return its name.

    Raises
    ------
    DatabaseError
        Where the folder cannot be written to, or is full.
    """
    name = hashlib.sha256(content).hexdigest()
    folder = beside.parent / FOLDER
    place = folder / f"{name}.jpg"
    try:
        if not place.exists():
            folder.mkdir(exist_ok=True)
            _write_whole(place, content)
    except OSError as error:
        raise DatabaseError(
            f"the picture cannot be kept ({error.strerror})",
            code="no_room",
            fix=f'Make room, and see that the folder "{FOLDER}" beside the data can be written to; '
            "the device keeps the picture and sends it again.",
        ) from error
    return name


def _write_whole(place: Path, content: bytes) -> None:
    handle, draft = tempfile.mkstemp(dir=place.parent, suffix=".part")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        Path(draft).replace(place)
    except BaseException:
        with contextlib.suppress(OSError):
            Path(draft).unlink()
        raise


def file_content(beside: Path, name: str) -> bytes:
    """Return the content of a kept picture, or raise NotFoundError where its file is gone."""
    try:
        return (beside.parent / FOLDER / f"{name}.jpg").read_bytes()
    except OSError:
        raise NotFoundError(
            "the file of this picture is not there",
            code="picture_gone",
            fix=f'Put the folder "{FOLDER}" back beside the data file, or remove the note.',
        ) from None


def sweep_files(
    connection: sqlite3.Connection, beside: Path, now: datetime, grace: timedelta
) -> int:
    """Remove pictures that nothing names any more, and drafts of a crash; return how many.

    A note taken away keeps its picture for a grace, in which it can be put back whole; a file that
    no row names yet may be on its way into one for as long.
    """
    connection.execute(
        "UPDATE note SET file = NULL, width = NULL, height = NULL, source = NULL, marks = '[]'"
        " WHERE file IS NOT NULL AND removed_at IS NOT NULL"
        " AND julianday(removed_at) < julianday(:before)",
        {"before": (now - grace).isoformat()},
    )
    named = files_named(connection)
    folder = beside.parent / FOLDER
    gone = 0
    for place in folder.glob("*") if folder.is_dir() else ():
        if place.stem in named or place.suffix not in (".jpg", ".part"):
            continue
        with contextlib.suppress(OSError):  # another may be sweeping, or it is being written
            if now.timestamp() - place.stat().st_mtime > grace.total_seconds():
                place.unlink()
                gone += 1
    return gone


def files_named(connection: sqlite3.Connection) -> set[str]:
    """Return the names of the pictures that notes and lines of the journal have."""
    found = connection.execute(
        "SELECT file FROM note WHERE file NOT NULL"
        " UNION SELECT file FROM journal WHERE file NOT NULL AND undone_at IS NULL"
    )
    return {row[0] for row in found}


def add_note(
    connection: sqlite3.Connection, trial_id: int, look_number: int, entry: NoteEntry, now: datetime
) -> int:
    """Add a note and return its id; one that is known by its key is left as it is."""
    connection.execute(
        "INSERT INTO note"
        " (key, trial_id, plant_id, look_number, sample, said, seen, noted_at, kept_at)"
        " VALUES (:key, :trial, :plant, :look, :sample, :said, :seen, :noted, :now)"
        " ON CONFLICT (key) DO NOTHING",
        {
            "key": entry.key,
            "trial": trial_id,
            "plant": entry.plant_id,
            "look": look_number,
            "sample": entry.sample,
            "said": entry.said,
            "seen": None if entry.seen is None else json.dumps(entry.seen),
            "noted": entry.noted_at.isoformat(),
            "now": now.isoformat(),
        },
    )
    (found,) = connection.execute("SELECT id FROM note WHERE key = :key", {"key": entry.key})
    return int(found["id"])


def has_plant(connection: sqlite3.Connection, trial_id: int, plant_id: int) -> bool:
    """Tell whether a plant is one of the trial's, set aside or not."""
    found = connection.execute(
        "SELECT 1 FROM plant WHERE id = :p AND trial_id = :t", {"p": plant_id, "t": trial_id}
    )
    return found.fetchone() is not None


def number_kept(connection: sqlite3.Connection, trial_id: int, plant_id: int | None = None) -> int:
    """Return how many notes there are of a trial, or of one plant, those taken away among them."""
    row = connection.execute(
        "SELECT count(*) FROM note WHERE trial_id = :t AND (:p IS NULL OR plant_id = :p)",
        {"t": trial_id, "p": plant_id},
    ).fetchone()
    return int(row[0])


def note(connection: sqlite3.Connection, note_id: int) -> Note:
    """Return one note, or raise NotFoundError."""
    row = connection.execute(
        NOTES + " WHERE id = :id",
        {"id": note_id},
    ).fetchone()
    if row is None:
        raise NotFoundError(
            f"there is no note {note_id}", code="no_such_note", fix="Read the notes anew."
        )
    return _note(row)


def notes_of(
    connection: sqlite3.Connection, trial_id: int, look_number: int | None = None
) -> tuple[Note, ...]:
    """Return the notes of a trial, or of one look, that were not removed; the oldest first."""
    rows = connection.execute(
        NOTES + " WHERE trial_id = :trial AND removed_at IS NULL"
        " AND (:look IS NULL OR look_number = :look) ORDER BY noted_at, id",
        {"trial": trial_id, "look": look_number},
    )
    return tuple(_note(row) for row in rows)


def set_picture(connection: sqlite3.Connection, note_id: int, picture: Picture) -> None:
    """Give a note its picture."""
    connection.execute(
        "UPDATE note SET file = :file, width = :width, height = :height, source = :source,"
        " marks = '[]' WHERE id = :id",
        {
            "id": note_id,
            "file": picture.file,
            "width": picture.width,
            "height": picture.height,
            "source": picture.source,
        },
    )


def set_marks(connection: sqlite3.Connection, note_id: int, marks: Sequence[Mark]) -> None:
    """Keep the marks on a picture."""
    connection.execute(
        "UPDATE note SET marks = :marks WHERE id = :id",
        {"id": note_id, "marks": json.dumps([asdict(mark) for mark in marks])},
    )


def set_removed(connection: sqlite3.Connection, note_id: int, at: datetime | None) -> None:
    """Take a note away, or (None) put it back."""
    connection.execute(
        "UPDATE note SET removed_at = :at WHERE id = :id",
        {"id": note_id, "at": None if at is None else at.isoformat()},
    )


def _note(row: sqlite3.Row) -> Note:
    picture = None
    if row["file"] is not None:
        marks = tuple(Mark(**mark) for mark in json.loads(row["marks"]))
        picture = Picture(row["file"], row["width"], row["height"], row["source"], marks)
    return Note(
        id=row["id"],
        key=row["key"],
        trial_id=row["trial_id"],
        plant_id=row["plant_id"],
        look_number=row["look_number"],
        sample=row["sample"],
        said=row["said"],
        noted_at=datetime.fromisoformat(row["noted_at"]),
        removed_at=datetime.fromisoformat(row["removed_at"]) if row["removed_at"] else None,
        picture=picture,
        seen=None if row["seen"] is None else tuple(json.loads(row["seen"])),
    )
