"""The journal as it is written: a line kept, a line taken back, all of it as a table."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from orthocris.core.errors import NotFoundError
from orthocris.core.seasons.journal import (
    LEVEL_WORDS,
    EntryDraft,
    EntryKind,
    check_entry,
    next_task,
)
from orthocris.formats.tidy_table import guarded_table
from orthocris.services.context import Context
from orthocris.services.receipts import once
from orthocris.storage import journal
from orthocris.storage.counting import notebook

COLUMNS = (
    *("day", "kind", "place", "pest", "how_many", "helpers", "what", "note"),
    *("humidity", "every", "finished_on"),
)
NAMELESS = (EntryKind.LOOK, EntryKind.AIR)  # lines that name no thing


def write_entry(context: Context, draft: EntryDraft, key: str | None = None) -> int:
    """Keep a line of the journal and return its id; sent twice with a key it is kept once.

    Raises
    ------
    InputError
        For a day to come, and for what its kind needs and lacks.
    """
    plain = _plain(draft)
    now: datetime = context.now()
    check_entry(plain, now.date())
    with context.database.atomic() as connection:
        return once(
            connection, key, "journal", plain, now, lambda: journal.keep(connection, plain, now)
        )


def _plain(draft: EntryDraft) -> EntryDraft:
    """A line with only what its kind tells."""
    look, task = draft.kind is EntryKind.LOOK, draft.kind is EntryKind.TASK
    of_pest = draft.kind in (EntryKind.LOOK, EntryKind.TREATED)
    return replace(
        draft,
        place=" ".join(draft.place.split()),
        pest=" ".join(draft.pest.split()) if of_pest else "",
        level=draft.level if look else None,
        helpers=draft.helpers and look,
        what="" if draft.kind in NAMELESS else " ".join(draft.what.split()),
        note=draft.note.strip(),
        humidity=draft.humidity if draft.kind is EntryKind.AIR else None,
        every=draft.every if task else None,
    )


def take_back(context: Context, entry_id: int) -> None:
    """Take a line back; its trace stays on record.

    Raises
    ------
    NotFoundError
        When there is none, or it was taken back before.
    """
    with context.database.atomic() as connection:
        if not journal.take_back(connection, entry_id, context.now()):
            raise _no_line(entry_id)


def keep_photo(context: Context, entry_id: int, content: bytes) -> None:
    """Give a line a photo, made smaller and without what a phone writes into it.

    Raises
    ------
    InputError
        When it is no picture.
    NotFoundError
        When there is no such line, or it was taken back.
    """
    from orthocris.formats.picture_reading import as_kept  # loaded when a picture comes

    # The file first: a row never names one that is not there.
    name = notebook.keep_file(context.database.path, as_kept(content).content)
    with context.database.atomic() as connection:
        if not journal.set_photo(connection, entry_id, name):
            raise _no_line(entry_id)


def photo_content(context: Context, entry_id: int) -> bytes:
    """Return the photo of a line (JPEG), or raise NotFoundError."""
    with context.database.reading() as connection:
        name = journal.photo_of(connection, entry_id)
    if name is None:
        raise _no_line(entry_id, "with a photo")
    return notebook.file_content(context.database.path, name)


def _no_line(entry_id: int, which: str = "") -> NotFoundError:
    return NotFoundError(
        " ".join(f"the journal has no line {entry_id} {which}".split()),
        code="no_such_entry",
        fix="Reload the year: it was taken back already.",
    )


def finish_task(context: Context, entry_id: int) -> None:
    """Keep that a task was done today; one that comes again is written for its next day.

    Raises
    ------
    NotFoundError
        When there is no such task, or it was done before.
    """
    today = context.now().date()
    with context.database.atomic() as connection:
        task = journal.open_task(connection, entry_id)
        if task is None:
            raise NotFoundError(
                f"there is no task {entry_id} to be done",
                code="no_such_entry",
                fix="Reload the year: it was done or taken back already.",
            )
        journal.finish(connection, entry_id, today)
        following = next_task(task.draft, today)
        if following is not None:
            journal.keep(connection, following, context.now())


def journal_table(context: Context) -> bytes:
    """Return every line as a table (CSV) that a spreadsheet opens without running a formula."""
    with context.database.reading() as connection:
        entries = journal.entries(connection)
    rows = [
        (
            e.on.isoformat(),
            e.kind.value,
            e.place,
            e.pest,
            "" if e.level is None else LEVEL_WORDS[e.level],
            "yes" if e.helpers else "",
            e.what,
            e.note,
            "" if e.humidity is None else f"{e.humidity:g}",
            "" if e.every is None else e.every,
            "" if line.finished_on is None else line.finished_on.isoformat(),
        )
        for line in entries
        if (e := line.draft)
    ]
    return guarded_table(COLUMNS, rows)
