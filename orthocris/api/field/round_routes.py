"""Routes of spray rounds and the schedule."""

from __future__ import annotations

from fastapi import APIRouter

from orthocris.api.field.round_schemas import (
    BlockerOut,
    ChecksIn,
    MessIn,
    MoveRoundIn,
    ScheduleOut,
    SprayIn,
    UndoIn,
)
from orthocris.api.requests import Ctx, DayNumber, PlantId, TrialId
from orthocris.api.trial.schemas import RoundOut, TrialOut
from orthocris.api.trial.views import round_view, trial_view
from orthocris.core.trial.lookup import find_round
from orthocris.core.trial.mess import MessKind
from orthocris.services.field import mess, moves, rounds, schedule
from orthocris.services.trial import overviews

router = APIRouter(prefix="/api/trials/{trial_id}")


@router.post("/rounds/{number}/queries/check")
def check_round(
    context: Ctx, trial_id: TrialId, number: DayNumber, body: ChecksIn
) -> tuple[BlockerOut, ...]:
    """Return what still holds a round back; nothing is kept."""
    found = rounds.what_blocks(context, trial_id, number, body.to_core(), body.batches)
    return tuple(BlockerOut.model_validate(b) for b in found)


@router.post("/rounds/{number}/start")
def start_round(context: Ctx, trial_id: TrialId, number: DayNumber, body: ChecksIn) -> TrialOut:
    """Start a round, or take it up again, after its checks."""
    rounds.start_round(context, trial_id, number, body.to_core(), body.batches)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/sprays")
def record_spray(context: Ctx, trial_id: TrialId, number: DayNumber, body: SprayIn) -> RoundOut:
    """Record what one plant got; return the round as it stands then."""
    rounds.record_spray(context, trial_id, number, body.to_core())
    trial, sealed = rounds.round_sheet(context, trial_id, number)
    return round_view(trial, find_round(trial, number), context.now(), sealed=sealed)


@router.delete("/rounds/{number}/sprays/{plant_id}", status_code=204)
def undo_spray(context: Ctx, trial_id: TrialId, number: DayNumber, plant_id: PlantId) -> None:
    """Take back what was recorded of a plant; its trace is kept."""
    rounds.undo_spray(context, trial_id, number, plant_id)


@router.post("/rounds/{number}/undo")
def undo_round(context: Ctx, trial_id: TrialId, number: DayNumber, body: UndoIn) -> TrialOut:
    """Take back a whole round with its reason; the trace is kept."""
    rounds.undo_spray(context, trial_id, number, None, body.reason)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/rounds/{number}/mess")
def mess_in(context: Ctx, trial_id: TrialId, number: DayNumber) -> dict[str, tuple[MessKind, ...]]:
    """Return what the bottles of a round were like to use, by letter."""
    return mess.mess_in(context, trial_id, number)


@router.put("/rounds/{number}/mess")
def say_mess(
    context: Ctx, trial_id: TrialId, number: DayNumber, body: MessIn
) -> dict[str, tuple[MessKind, ...]]:
    """Say what a bottle was like to use, in place of what was said before."""
    return mess.say_mess(context, trial_id, number, body.letter, body.kinds)


@router.post("/rounds/{number}/move")
def move_round(context: Ctx, trial_id: TrialId, number: DayNumber, body: MoveRoundIn) -> TrialOut:
    """Move a round to another day, or add one behind the last."""
    moves.move_round(context, trial_id, number, body.on, body.reason)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/leave-out")
def leave_out(context: Ctx, trial_id: TrialId, number: DayNumber, body: UndoIn) -> TrialOut:
    """Leave a planned round out, with its reason."""
    moves.leave_out(context, trial_id, number, body.reason)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/schedule")
def get_schedule(context: Ctx, trial_id: TrialId) -> ScheduleOut:
    """Return generations, proposals by school and what the last look calls for."""
    return ScheduleOut.model_validate(schedule.schedule_of(context, trial_id))
