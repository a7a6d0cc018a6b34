"""A trial with its notes and pictures in one file."""

from __future__ import annotations

from collections.abc import Mapping

from orthocris.core.trial.standing import standing_of
from orthocris.core.verdict.frozen import FrozenVerdict
from orthocris.formats.bundle import Whole, bundle
from orthocris.formats.tidy_table import write_table
from orthocris.services.context import Context
from orthocris.services.moving import kept_pictures, tables_of
from orthocris.services.verdict.judging import last_look
from orthocris.services.verdict.sharing import bare, numbers_of, shared_of
from orthocris.storage import verdicts
from orthocris.storage.counting import notebook
from orthocris.storage.trial import reading


def bundle_of(context: Context, trial_id: int, *, without_names: bool = False) -> bytes:
    """Return a trial as a ZIP file; its numbers are left out while the key of the tags is sealed.

    A picture whose file is gone is left out, too; its note stays. Without names the plants are P1,
    P2 and so on, the trial is called by its pest and plants, and notes, photos and the verdict on
    record, which may name plants, are not in it.
    """
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
        trial = parts[-1]
        notes = () if without_names else notebook.notes_of(connection, trial_id)
        sealed = standing_of(trial).sealed
        told = None if sealed else shared_of(connection, parts)
        look = last_look(trial)
        record = verdicts.kept_verdict(connection, trial_id, look.number) if look else None
        whole = not (sealed or without_names)
        tables = tables_of(connection, [part.id for part in parts]) if whole else None
    if told is not None and without_names:
        told = bare(told)
    return bundle(
        told.name if told else "A trial" if without_names else trial.name,
        None if sealed else write_table(numbers_of(parts, names=not without_names)),
        notes,
        {p.id: p.name for p in trial.plants},
        kept_pictures(context, sorted(n.picture.file for n in notes if n.picture is not None)),
        None if told is None else told.to_plain(),
        None if tables is None else Whole(tables, None if record is None else _recorded(record)),
    )


def _recorded(record: FrozenVerdict) -> Mapping[str, object]:
    return {
        "made_at": record.made_at.isoformat(),
        "version": record.version,
        "seed": record.seed,
        "verdict": record.verdict,
    }
