"""A trial with its notes and pictures in one file."""

from __future__ import annotations

from orthocris.core.errors import NotFoundError
from orthocris.core.trial.standing import standing_of
from orthocris.formats.bundle import bundle
from orthocris.formats.tidy_table import write_table
from orthocris.services.context import Context
from orthocris.services.verdict.table import observations
from orthocris.storage.counting import notebook
from orthocris.storage.trial import reading


def bundle_of(context: Context, trial_id: int) -> bytes:
    """Return a trial as a ZIP file; its table is left out while the key of the tags is sealed.

    A picture whose file is gone is left out, too; its note stays.
    """
    with context.database.reading() as connection:
        trial = reading.load_counted(connection, trial_id)
        notes = notebook.notes_of(connection, trial_id)
    table = None if standing_of(trial).sealed else write_table(observations(trial))
    pictures: dict[str, bytes] = {}
    for name in {note.picture.file for note in notes if note.picture is not None}:
        try:
            pictures[name] = notebook.file_content(context.database.path, name)
        except NotFoundError:
            continue
    return bundle(trial.name, table, notes, {p.id: p.name for p in trial.plants}, pictures)
