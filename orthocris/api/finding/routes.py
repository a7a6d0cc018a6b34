"""Routes of finding out."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from orthocris.api.finding.schemas import AdviceOut, CandidateOut, InspectionOut, SightingIn
from orthocris.api.requests import ERRORS, Ctx, Key
from orthocris.core.finding.triage import Sighting
from orthocris.services import finding as looks

router = APIRouter(prefix="/api", responses=ERRORS)


@router.get("/signs/candidates")
def candidates(
    signs: Annotated[list[str], Query(max_length=40)],
) -> tuple[CandidateOut, ...]:
    """Rank the pests by the signs seen."""
    return tuple(CandidateOut.model_validate(c) for c in looks.find_out(signs))


@router.post("/looks/decision")
def decide(context: Ctx, body: SightingIn) -> AdviceOut:
    """Say what a look calls for, without keeping it."""
    return AdviceOut.model_validate(looks.advise_on(context, body.pest, body.place, _quick(body)))


@router.post("/looks", status_code=201)
def keep_inspection(context: Ctx, body: SightingIn, key: Key = None) -> InspectionOut:
    """Keep a look round."""
    kept = looks.keep_inspection(context, body.pest, body.place, body.signs, _quick(body), key)
    return InspectionOut.model_validate(kept)


@router.get("/looks")
def inspections(context: Ctx) -> tuple[InspectionOut, ...]:
    """Return the look rounds kept, the newest first."""
    return tuple(InspectionOut.model_validate(look) for look in looks.inspections(context))


def _quick(body: SightingIn) -> Sighting:
    return Sighting(
        looked=body.looked,
        affected=body.affected,
        helpers=body.helpers,
        vigorous=body.vigorous,
        wilting=body.wilting,
    )
