"""Routes for playing a plan through; nothing of it is kept."""

from __future__ import annotations

from fastapi import APIRouter

from orthocris.api.playing.schemas import LessonIn, LessonOut, PlayIn, PlayOut
from orthocris.api.requests import ERRORS
from orthocris.core.playing.lessons import lesson
from orthocris.core.playing.play import play

router = APIRouter(prefix="/api", responses=ERRORS)


@router.post("/queries/play")
def play_so_far(body: PlayIn) -> PlayOut:
    """Return the board after so many moves."""
    return PlayOut.of(play(body.plan.plan(), body.seed, body.moves), body.seed)


@router.post("/queries/lesson")
def lesson_of(body: LessonIn) -> LessonOut:
    """Play many gardens of a plan, without the untreated, the lot or the wait, and with it."""
    return LessonOut.model_validate(lesson(body.plan.plan(), body.about, body.seed))
