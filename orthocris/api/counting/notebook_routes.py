"""Routes of notes and pictures, and of counting by them."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Query, Response

from orthocris.api.counting.notebook_schemas import CoverOut, MarkOut, MarksIn, NoteIn, NoteOut
from orthocris.api.files import JPEG, PNG, ZIP, Jpeg, Png, Zip
from orthocris.api.requests import Ctx, DayNumber, MadeAt, RowId, TrialId
from orthocris.core.counting.notebook import HALF_WAY
from orthocris.services.counting import bundle, notebook

router = APIRouter(prefix="/api")
Threshold = Annotated[float, Query(gt=0, lt=1, allow_inf_nan=False)]


@router.post("/trials/{trial_id}/looks/{number}/notes", status_code=201)
def keep_note(
    context: Ctx, made_at: MadeAt, trial_id: TrialId, number: DayNumber, body: NoteIn
) -> NoteOut:
    """Keep a note at a plant, once however often it is sent."""
    made = NoteOut.of(notebook.keep_note(context, trial_id, number, body.to_core()))
    made_at(f"/api/notes/{made.id}")
    return made


@router.get("/trials/{trial_id}/notes")
def notes(
    context: Ctx, trial_id: TrialId, look: Annotated[int | None, Query(ge=0, le=1000)] = None
) -> tuple[NoteOut, ...]:
    """Return the notes of a trial, or of one look, the oldest first."""
    return tuple(NoteOut.of(note) for note in notebook.notes_of(context, trial_id, look))


@router.delete("/notes/{row_id}", status_code=204)
def remove_note(context: Ctx, row_id: RowId) -> None:
    """Take a note away; it can be put back."""
    notebook.remove_note(context, row_id)


@router.post("/notes/{row_id}/restore", status_code=204)
def restore_note(context: Ctx, row_id: RowId) -> None:
    """Put a note back that was taken away."""
    notebook.restore_note(context, row_id)


@router.put("/notes/{row_id}/picture")
def keep_picture(
    context: Ctx, row_id: RowId, body: Annotated[bytes, Body(media_type="image/*")]
) -> NoteOut:
    """Give a note a picture; its place, time and device are not kept."""
    return NoteOut.of(notebook.keep_picture(context, row_id, body))


@router.post("/notes/{row_id}/lens")
def take_picture(context: Ctx, row_id: RowId) -> NoteOut:
    """Give a note the picture of what lies under the leaf camera now."""
    return NoteOut.of(notebook.take_picture(context, row_id))


@router.get("/notes/{row_id}/picture.jpg", response_class=Response, responses=JPEG)
def picture(context: Ctx, row_id: RowId) -> Jpeg:
    """Return the picture of a note."""
    return Jpeg(notebook.picture_content(context, row_id))


@router.put("/notes/{row_id}/marks")
def keep_marks(context: Ctx, row_id: RowId, body: MarksIn) -> NoteOut:
    """Keep the marks a picture was counted by."""
    return NoteOut.of(notebook.keep_marks(context, row_id, body.to_core()))


@router.get("/notes/{row_id}/proposed")
def proposed(context: Ctx, row_id: RowId) -> tuple[MarkOut, ...]:
    """Return the marks that the spotter proposes; a person confirms or removes them."""
    found = notebook.proposed_marks(context, row_id)
    return tuple(MarkOut.model_validate(mark) for mark in found)


@router.get("/notes/{row_id}/cover")
def cover(context: Ctx, row_id: RowId, threshold: Threshold = HALF_WAY) -> CoverOut:
    """Return how much of the leaf on a picture is covered."""
    return CoverOut.of(notebook.cover_of(context, row_id, threshold))


@router.get("/notes/{row_id}/cover.png", response_class=Response, responses=PNG)
def cover_overlay(context: Ctx, row_id: RowId, threshold: Threshold = HALF_WAY) -> Png:
    """Return what counts as covered, to lay over the picture."""
    return Png(notebook.cover_overlay(context, row_id, threshold))


@router.get("/trials/{trial_id}/bundle.zip", response_class=Response, responses=ZIP)
def bundle_of(
    context: Ctx, trial_id: TrialId, without_names: Annotated[bool, Query()] = False
) -> Zip:
    """Return the trial's table (once the key is open), notes, marks and pictures in one file.

    Without names its plants are P1, P2 and so on, and notes and pictures stay here.
    """
    return Zip(
        bundle.bundle_of(context, trial_id, without_names=without_names),
        headers={"Content-Disposition": f'attachment; filename="trial-{trial_id}.zip"'},
    )
