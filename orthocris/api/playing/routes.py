"""Routes for playing a plan through; nothing of it is kept."""

from __future__ import annotations

from fastapi import APIRouter, Request

from orthocris.api.playing.schemas import DemoOut, LessonIn, LessonOut, PlayIn, PlayOut
from orthocris.core.errors import ConflictError
from orthocris.core.playing.lessons import lesson
from orthocris.core.playing.play import play
from orthocris.services.door.network import DemoGarden

router = APIRouter(prefix="/api")


@router.post("/queries/play")
def play_so_far(body: PlayIn) -> PlayOut:
    """Return the board after so many moves."""
    return PlayOut.of(play(body.plan.plan(), body.seed, body.moves), body.seed)


@router.post("/queries/lesson")
def lesson_of(body: LessonIn) -> LessonOut:
    """Play many gardens of a plan, without the untreated, the lot or the wait, and with it."""
    return LessonOut.model_validate(lesson(body.plan.plan(), body.about, body.seed))


@router.post("/demo")
def open_demo(request: Request) -> DemoOut:
    """Serve the demo garden beside this one, and return where; nothing of it comes in here."""
    demo: DemoGarden | None = request.app.state.demo
    if demo is None:
        raise ConflictError(
            "this program is served without a demo garden",
            code="no_demo",
            fix="Start it by hand: orthocris demo --port 8750.",
        )
    return DemoOut(address=demo.open())
