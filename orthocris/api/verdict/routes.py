"""Routes of the verdict."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response

from orthocris.api.requests import ERRORS, Ctx, TrialId
from orthocris.api.verdict.schemas import VerdictBody, VerdictOut
from orthocris.services import verdict as verdicts

router = APIRouter(prefix="/api", responses=ERRORS)


@router.get("/trials/{trial_id}/verdict")
def verdict(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> VerdictOut:
    """Judge the trial at a look, by default the last with counts."""
    found = verdicts.verdict_of(context, trial_id, look)
    return VerdictOut(
        verdict=VerdictBody.model_validate(found.verdict.to_dict()),
        final=found.final,
        look_number=found.look_number,
        notes=found.notes,
        reading=found.reading,
        early=found.early,
    )


@router.get("/trials/{trial_id}/table.csv", response_class=Response)
def table(context: Ctx, trial_id: TrialId) -> Response:
    """Return the finished counts as a tidy table (CSV)."""
    return Response(
        verdicts.table_of(context, trial_id),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="trial-{trial_id}.csv"'},
    )
