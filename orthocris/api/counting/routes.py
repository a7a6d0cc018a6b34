"""Routes of counting."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from orthocris.api.counting.schemas import CountSheetOut, TallyIn, TallyOut
from orthocris.api.requests import ERRORS, Ctx, DayNumber, PlantId, TrialId
from orthocris.core.trial.measures import MeasureKey
from orthocris.services import counting

router = APIRouter(prefix="/api", responses=ERRORS)


@router.post("/trials/{trial_id}/looks/{number}/tallies")
def keep_tally(
    context: Ctx, trial_id: TrialId, number: DayNumber, body: TallyIn
) -> tuple[TallyOut, ...]:
    """Keep a count; answers once it is safe, with every count kept of that plant."""
    kept = counting.keep_tally(context, trial_id, number, body.to_core())
    return tuple(TallyOut.model_validate(t) for t in kept)


@router.get("/trials/{trial_id}/looks/{number}/sheet")
def count_sheet(context: Ctx, trial_id: TrialId, number: DayNumber) -> CountSheetOut:
    """Return what was counted at a look so far."""
    return CountSheetOut.model_validate(counting.count_sheet(context, trial_id, number))


@router.get("/trials/{trial_id}/looks/{number}/tallies/{plant_id}")
def tally_history(
    context: Ctx,
    trial_id: TrialId,
    number: DayNumber,
    plant_id: PlantId,
    measure: Annotated[MeasureKey, Query()],
) -> tuple[TallyOut, ...]:
    """Return every count kept of a plant at a look, the oldest first."""
    found = counting.tally_history(context, trial_id, number, plant_id, measure)
    return tuple(TallyOut.model_validate(t) for t in found)
