"""Routes of counting."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from orthocris.api.counting.schemas import TallyIn, TallyOut
from orthocris.api.requests import ERRORS, Ctx, DayNumber, PlantId, TrialId
from orthocris.core.counting import TallyEntry
from orthocris.services import counting as fieldwork

router = APIRouter(prefix="/api", responses=ERRORS)


@router.post("/trials/{trial_id}/looks/{number}/tallies")
def keep_tally(
    context: Ctx, trial_id: TrialId, number: DayNumber, body: TallyIn
) -> tuple[TallyOut, ...]:
    """Keep a count; answers once it is safe, with every count kept of that plant."""
    entry = TallyEntry(
        look_id=0,
        plant_id=body.plant_id,
        measure=body.measure,
        session=body.session,
        step=body.step,
        value=body.value,
        of=body.of,
        effort=body.effort,
        finished=body.finished,
        counted_on=body.counted_on,
    )
    kept = fieldwork.keep_tally(context, trial_id, number, entry)
    return tuple(TallyOut.model_validate(t) for t in kept)


@router.get("/trials/{trial_id}/looks/{number}/tallies/{plant_id}")
def tally_history(
    context: Ctx,
    trial_id: TrialId,
    number: DayNumber,
    plant_id: PlantId,
    measure: Annotated[str, Query(max_length=20)],
) -> tuple[TallyOut, ...]:
    """Return every count kept of a plant at a look, the oldest first."""
    found = fieldwork.tally_history(context, trial_id, number, plant_id, measure)
    return tuple(TallyOut.model_validate(t) for t in found)
