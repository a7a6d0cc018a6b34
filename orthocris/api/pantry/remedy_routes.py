"""Routes of the catalogue of remedies."""

from __future__ import annotations

from fastapi import APIRouter

from orthocris.api.pantry.remedy_schemas import (
    CatalogueOut,
    IngredientOut,
    ProposalIn,
    ProposalOut,
    SchoolOut,
    SuitIn,
)
from orthocris.api.requests import ERRORS
from orthocris.api.trial.schemas import RemedyIn
from orthocris.api.trial.setup_schemas import TraitsIO
from orthocris.services.pantry.catalogue import Suited, propose, suited

router = APIRouter(prefix="/api", responses=ERRORS)


@router.post("/queries/remedies")
def catalogue(body: SuitIn) -> tuple[CatalogueOut, ...]:
    """Return the shipped remedies, each with the reasons against it for this pest and plant."""
    return tuple(_row(found) for found in suited(body.pest, body.setup.to_core()))


@router.post("/queries/proposal")
def proposal(body: ProposalIn) -> ProposalOut:
    """Make remedies for a question from the shipped list."""
    drafts = propose(body.keys, strengths=body.strengths, as_square=body.square)
    return ProposalOut(
        remedies=[
            RemedyIn(
                name=d.name,
                role=d.role,
                recipe=d.recipe,
                traits=TraitsIO.model_validate(d.traits),
            )
            for d in drafts
        ]
    )


def _row(found: Suited) -> CatalogueOut:
    remedy = found.remedy
    return CatalogueOut(
        key=remedy.key,
        name=remedy.name,
        role=remedy.role,
        way=remedy.way,
        acts=remedy.acts,
        recipe=remedy.recipe,
        ingredients=tuple(IngredientOut.model_validate(i) for i in remedy.ingredients),
        schools=tuple(SchoolOut.model_validate(x) for x in remedy.schools),
        usual_ladder=found.usual_ladder,
        reasons=found.reasons,
    )
