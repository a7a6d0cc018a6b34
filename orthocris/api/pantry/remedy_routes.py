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
from orthocris.core.pantry.remedies import (
    CatalogueRemedy,
    draft_of,
    ladder,
    square,
    unsuitable,
    usual_ladder,
)
from orthocris.core.trial.setup import Setup
from orthocris.knowledge import pest_named, remedies, remedy_named

router = APIRouter(prefix="/api", responses=ERRORS)


@router.post("/remedies")
def catalogue(body: SuitIn) -> tuple[CatalogueOut, ...]:
    """Return the shipped remedies, each with the reasons against it for this pest and plant."""
    setup = body.setup.to_core()
    return tuple(_catalogue_row(remedy, body.pest, setup) for remedy in remedies())


@router.post("/remedies/proposal")
def propose(body: ProposalIn) -> ProposalOut:
    """Make remedies for a question from the shipped list."""
    chosen = [remedy_named(key) for key in body.keys]
    if body.square and len(chosen) == 2:
        drafts = square(chosen[0], chosen[1])
    elif body.strengths is not None:
        drafts = ladder(chosen[0], body.strengths)
    else:
        drafts = tuple(draft_of(remedy) for remedy in chosen)
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


def _catalogue_row(remedy: CatalogueRemedy, pest: str, setup: Setup) -> CatalogueOut:
    known = pest_named(pest)
    return CatalogueOut(
        key=remedy.key,
        name=remedy.name,
        role=remedy.role,
        way=remedy.way,
        acts=remedy.acts,
        recipe=remedy.recipe,
        ingredients=tuple(IngredientOut.model_validate(i) for i in remedy.ingredients),
        schools=tuple(SchoolOut.model_validate(x) for x in remedy.schools),
        usual_ladder=usual_ladder(remedy) if remedy.ingredients else (),
        reasons=unsuitable(
            remedy,
            setup,
            pest=pest,
            cannot_work=known.cannot_work if known else {},
            known_pest=known is not None,
        ),
    )
