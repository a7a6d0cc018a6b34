"""Routes of finding out."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from orthocris.api.finding.schemas import ActionOut, CandidateOut, LookIn, LookRecordOut
from orthocris.api.requests import ERRORS, Ctx, Key
from orthocris.core.finding.triage import QuickLook
from orthocris.services import finding as looks

router = APIRouter(prefix="/api", responses=ERRORS)


@router.get("/signs/candidates")
def candidates(
    signs: Annotated[list[str], Query(max_length=40)],
) -> tuple[CandidateOut, ...]:
    """Rank the pests by the signs seen."""
    return tuple(CandidateOut.model_validate(c) for c in looks.find_out(signs))


@router.post("/looks/decision")
def decide(context: Ctx, body: LookIn) -> ActionOut:
    """Say what a look calls for, without keeping it."""
    return ActionOut.model_validate(looks.decide_look(context, body.pest, body.place, _quick(body)))


@router.post("/looks", status_code=201)
def keep_look(context: Ctx, body: LookIn, key: Key = None) -> LookRecordOut:
    """Keep a look round."""
    kept = looks.keep_look(context, body.pest, body.place, body.signs, _quick(body), key)
    return LookRecordOut.model_validate(kept)


@router.get("/looks")
def kept_looks(context: Ctx) -> tuple[LookRecordOut, ...]:
    """Return the look rounds kept, the newest first."""
    return tuple(LookRecordOut.model_validate(look) for look in looks.kept_looks(context))


def _quick(body: LookIn) -> QuickLook:
    return QuickLook(
        looked=body.looked,
        affected=body.affected,
        helpers=body.helpers,
        vigorous=body.vigorous,
        wilting=body.wilting,
    )
