"""Routes of finding out."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from orthocris.api.finding.schemas import AdviceOut, CandidateOut, InspectionOut, SightingIn
from orthocris.api.requests import Ctx, Key, MadeAt
from orthocris.core.finding.triage import Sighting
from orthocris.services import finding

router = APIRouter(prefix="/api")


@router.get("/signs/candidates")
def candidates(
    signs: Annotated[list[str], Query(max_length=40)],
) -> tuple[CandidateOut, ...]:
    """Rank the pests by the signs seen."""
    return tuple(CandidateOut.model_validate(c) for c in finding.find_out(signs))


@router.post("/queries/advice")
def advice(context: Ctx, body: SightingIn) -> AdviceOut:
    """Say what an inspection calls for, without keeping it."""
    return AdviceOut.model_validate(
        finding.advise_on(context, body.pest, body.place, _sighting(body))
    )


@router.post("/inspections", status_code=201)
def keep_inspection(
    context: Ctx, made_at: MadeAt, body: SightingIn, key: Key = None
) -> InspectionOut:
    """Keep an inspection; return it."""
    kept = finding.keep_inspection(context, body.pest, body.place, body.signs, _sighting(body), key)
    made_at(f"/api/inspections/{kept.id}")
    return InspectionOut.model_validate(kept)


@router.get("/inspections")
def inspections(context: Ctx) -> tuple[InspectionOut, ...]:
    """Return the inspections kept, the newest first."""
    return tuple(InspectionOut.model_validate(kept) for kept in finding.inspections(context))


def _sighting(body: SightingIn) -> Sighting:
    return Sighting(
        looked=body.looked,
        affected=body.affected,
        helpers=body.helpers,
        vigorous=body.vigorous,
        wilting=body.wilting,
        indoors=body.indoors,
    )
