"""The notebook of a trial: what is written or photographed at a plant, and counted by marks.

What reads pictures is loaded at its first use: it takes longer than all the rest of a start.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

import numpy as np

from orthocris.core.counting.leaf.looks import CREATURES, PATCHES
from orthocris.core.counting.leaf.scene import LeafPlan
from orthocris.core.counting.notebook import (
    Mark,
    Note,
    NoteEntry,
    Picture,
    check_marks,
    check_note,
)
from orthocris.core.counting.tally import time_of_tap
from orthocris.core.errors import ConflictError, NotFoundError
from orthocris.core.trial.lookup import find_look
from orthocris.devices.leaf_camera import LeafCamera
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera
from orthocris.services.context import Context
from orthocris.storage.counting import notebook
from orthocris.storage.database import Connection
from orthocris.storage.trial import reading

if TYPE_CHECKING:
    from orthocris.core.counting.leaf.cover import Cover
    from orthocris.formats.picture_reading import KeptPicture

GRACE = timedelta(days=1)  # for a note that is put back
FOR_COVER = 800  # pixels of the longest side: areas need no more, and the slider is felt


def keep_note(context: Context, trial_id: int, look_number: int, entry: NoteEntry) -> Note:
    """Keep a note under its own name, once however often it is sent.

    Raises
    ------
    InputError, NotFoundError
        For a note that is too long, or a plant or look the trial does not have.
    ConflictError
        Where another note has this name.
    """
    check_note(entry)
    with context.database.atomic() as connection:
        return _kept(connection, context, trial_id, look_number, entry)


def notes_of(context: Context, trial_id: int, look_number: int | None = None) -> tuple[Note, ...]:
    """Return the notes of a trial, or of one look, the oldest first."""
    with context.database.reading() as connection:
        reading.load_plan(connection, trial_id)
        return notebook.notes_of(connection, trial_id, look_number)


def remove_note(context: Context, note_id: int) -> None:
    """Take a note away; it can be put back."""
    _set_removed(context, note_id, context.now())


def restore_note(context: Context, note_id: int) -> None:
    """Put a note back."""
    _set_removed(context, note_id, None)


def keep_picture(context: Context, note_id: int, content: bytes) -> Note:
    """Give a note a picture, made smaller and without what a phone writes into it."""
    from orthocris.formats.picture_reading import as_kept

    return _with_picture(context, note_id, as_kept(content), "file")


def take_picture(context: Context, note_id: int, camera: LeafCamera | None = None) -> Note:
    """Give a note the picture of what lies under the lens now."""
    from orthocris.formats.picture_reading import as_kept

    with context.database.reading() as connection:
        found = notebook.note(connection, note_id)
        pest = reading.load_plan(connection, found.trial_id).pest
    lens = camera or lens_for(context, pest)
    return _with_picture(context, note_id, as_kept(lens.take()), "lens")


def lens_for(context: Context, pest: str) -> LeafCamera:
    """Return the lens that is connected: for now the simulated one, over a leaf of its own."""
    seed = context.new_seed()
    rng = np.random.default_rng([seed, 80])
    if pest in PATCHES:
        return SimulatedLeafCamera(seed, LeafPlan(pest, cover=float(rng.uniform(2, 45))))
    few = [int(number) for number in np.minimum(rng.poisson(rng.gamma(1.5, 8), 4), 90)]
    known = pest if pest in CREATURES else "aphids"
    return SimulatedLeafCamera(seed, LeafPlan(known, *few))


def sweep_pictures(context: Context) -> int:
    """Remove the pictures of notes taken away a day ago, and those no note has; return how many."""
    with context.database.atomic() as connection:
        return notebook.sweep_files(connection, context.database.path, context.now(), GRACE)


def picture_content(context: Context, note_id: int) -> bytes:
    """Return the picture of a note (JPEG); that of a note taken away is gone."""
    with context.database.reading() as connection:
        found = notebook.note(connection, note_id)
        if found.removed_at is not None:
            raise NotFoundError(
                "this note was taken away, and its picture with it",
                code="note_removed",
                fix="Put the note back, which is possible for a day.",
            )
        picture = _picture(found)
    return notebook.file_content(context.database.path, picture.file)


def keep_marks(context: Context, note_id: int, marks: Sequence[Mark]) -> Note:
    """Keep the marks a picture was counted by, in place of those before."""
    with context.database.atomic() as connection:
        found = notebook.note(connection, note_id)
        check_marks(marks, _picture(found))
        notebook.set_marks(connection, note_id, marks)
        return notebook.note(connection, note_id)


def proposed_marks(context: Context, note_id: int) -> tuple[Mark, ...]:
    """Return what the spotter proposes for a picture, by the looks of the trial's pest."""
    from orthocris.core.counting.leaf.spotting import spot
    from orthocris.formats.pictures import pixels

    with context.database.reading() as connection:
        found = notebook.note(connection, note_id)
        pest = reading.load_plan(connection, found.trial_id).pest
    image = pixels(picture_content(context, note_id))
    return tuple(Mark(s.x, s.y, s.stage) for s in spot(image, pest))


def cover_of(context: Context, note_id: int, threshold: float) -> Cover:
    """Return how much of the leaf on a picture is covered, at a threshold."""
    from orthocris.core.counting.leaf.cover import measure_cover
    from orthocris.formats.pictures import pixels

    return measure_cover(pixels(picture_content(context, note_id), FOR_COVER), threshold)


def cover_overlay(context: Context, note_id: int, threshold: float) -> bytes:
    """Return what counts as covered as a picture (PNG) to lay over the other."""
    from orthocris.formats.pictures import overlay

    return overlay(cover_of(context, note_id, threshold).mask)


def _kept(
    connection: Connection, context: Context, trial_id: int, look_number: int, entry: NoteEntry
) -> Note:
    plan = reading.load_plan(connection, trial_id)
    find_look(plan, look_number)
    if not notebook.has_plant(connection, trial_id, entry.plant_id):
        raise NotFoundError(
            f"{plan.name} has no plant {entry.plant_id}",
            code="no_such_plant",
            field="plant_id",
            fix="Read the trial anew.",
        )
    now = context.now()
    at = replace(entry, noted_at=time_of_tap(entry.noted_at, now))
    note_id = notebook.add_note(connection, trial_id, look_number, at, now)
    found = notebook.note(connection, note_id)
    kept = found.trial_id, found.plant_id, found.look_number, found.sample, found.said, found.seen
    sent = trial_id, entry.plant_id, look_number, entry.sample, entry.said, entry.seen
    if kept != sent:
        raise ConflictError(
            "this key was sent before with something else",
            code="key_used",
            field="key",
            fix="Give each note a key of its own.",
        )
    return found


def _with_picture(context: Context, note_id: int, kept: KeptPicture, source: str) -> Note:
    # The file first: a row never names one that is not there.
    name = notebook.keep_file(context.database.path, kept.content)
    with context.database.atomic() as connection:
        before = notebook.note(connection, note_id)
        if before.picture is None or before.picture.file != name:
            notebook.set_picture(
                connection, note_id, Picture(name, kept.width, kept.height, source)
            )
        return notebook.note(connection, note_id)


def _set_removed(context: Context, note_id: int, at: datetime | None) -> None:
    with context.database.atomic() as connection:
        notebook.note(connection, note_id)
        notebook.set_removed(connection, note_id, at)


def _picture(note: Note) -> Picture:
    if note.picture is None:
        raise NotFoundError(
            "this note has no picture", code="no_picture", fix="Take one, or choose a file."
        )
    return note.picture
