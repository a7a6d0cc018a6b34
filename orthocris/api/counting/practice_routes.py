"""Routes of practice in counting."""

from __future__ import annotations

from fastapi import APIRouter, Response

from orthocris.api.counting.practice_schemas import (
    CountedIn,
    PracticeIn,
    PracticeOut,
    ProgressOut,
)
from orthocris.api.files import JPEG, Jpeg
from orthocris.api.requests import Ctx, DayNumber, MadeAt, RowId
from orthocris.services.counting import practice

router = APIRouter(prefix="/api/practice")


@router.post("", status_code=201)
def begin(context: Ctx, made_at: MadeAt, body: PracticeIn) -> PracticeOut:
    """Begin a session, once for its key."""
    told = practice.begin(context, body.key, body.pest, body.fill, body.leaves, body.person)
    made = PracticeOut.of(told)
    made_at(f"/api/practice/{made.id}")
    return made


@router.get("")
def progress(context: Ctx) -> tuple[ProgressOut, ...]:
    """Return how everybody counts so far, by pest and person."""
    return tuple(ProgressOut.of(one) for one in practice.progress(context))


@router.get("/{row_id}")
def session(context: Ctx, row_id: RowId) -> PracticeOut:
    """Return a session with the truth of the leaves that were counted."""
    return PracticeOut.of(practice.session_of(context, row_id))


@router.get("/{row_id}/leaves/{number}.jpg", response_class=Response, responses=JPEG)
def leaf(context: Ctx, row_id: RowId, number: DayNumber) -> Jpeg:
    """Return the picture of a leaf to count."""
    return Jpeg(practice.leaf_picture(context, row_id, number))


@router.put("/{row_id}/leaves/{number}")
def keep_count(context: Ctx, row_id: RowId, number: DayNumber, body: CountedIn) -> PracticeOut:
    """Keep what was counted on a leaf; its truth is told with the answer."""
    return PracticeOut.of(practice.keep_count(context, row_id, number, body.to_core()))
