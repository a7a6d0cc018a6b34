"""Routes of the catalogue of remedies."""

from __future__ import annotations

from fastapi import APIRouter

from orthocris.api.pantry.remedy_schemas import (
    CatalogueOut,
    IngredientOut,
    OwnId,
    OwnRemedyIn,
    OwnRemedyOut,
    ProposalIn,
    ProposalOut,
    SchoolOut,
    SuitIn,
)
from orthocris.api.requests import Ctx, Key, MadeAt
from orthocris.api.trial.schemas import RemedyIn
from orthocris.api.trial.setup_schemas import TraitsIO
from orthocris.services.pantry.catalogue import Suited, propose, suited
from orthocris.services.pantry.own_remedies import (
    change_remedy,
    drop_remedy,
    keep_remedy,
    own_remedies,
)

router = APIRouter(prefix="/api")


@router.post("/queries/remedies")
def catalogue(context: Ctx, body: SuitIn) -> tuple[CatalogueOut, ...]:
    """Return the remedies, own and shipped, with the reasons against each for pest and plant."""
    return tuple(_row(found) for found in suited(context, body.pest, body.setup.to_core()))


@router.post("/queries/proposal")
def proposal(context: Ctx, body: ProposalIn) -> ProposalOut:
    """Make remedies for a question from the list."""
    drafts = propose(context, body.keys, strengths=body.strengths, as_square=body.square)
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


@router.get("/own-remedies")
def own(context: Ctx) -> tuple[OwnRemedyOut, ...]:
    """Return the gardener's own remedies."""
    return tuple(OwnRemedyOut.model_validate(remedy) for remedy in own_remedies(context))


@router.post("/own-remedies", status_code=201)
def keep_own(context: Ctx, made_at: MadeAt, body: OwnRemedyIn, key: Key = None) -> OwnRemedyOut:
    """Keep a remedy of the gardener's own."""
    kept = OwnRemedyOut.model_validate(keep_remedy(context, body.to_core(0), key))
    made_at(f"/api/own-remedies/{kept.id}")
    return kept


@router.put("/own-remedies/{remedy_id}")
def change_own(context: Ctx, remedy_id: OwnId, body: OwnRemedyIn) -> OwnRemedyOut:
    """Change a remedy of the gardener's own; trials stay as they were asked."""
    return OwnRemedyOut.model_validate(change_remedy(context, body.to_core(remedy_id)))


@router.delete("/own-remedies/{remedy_id}", status_code=204)
def drop_own(context: Ctx, remedy_id: OwnId) -> None:
    """Take a remedy off the list."""
    drop_remedy(context, remedy_id)


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
        reasons=tuple(found.reasons),
        acts_on_it=found.acts_on_it,
        tried=found.tried,
        missing=found.missing,
    )
