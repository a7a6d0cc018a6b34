"""Routes of the rest of the garden: what comes after a verdict."""

from __future__ import annotations

from fastapi import APIRouter

from orthocris.api.field.rest_schemas import (
    ActIn,
    RestChoiceOut,
    RestIn,
    RestOut,
    RestPlanOut,
    ShownOut,
    TreatmentOut,
)
from orthocris.api.pantry.routes import mix_view
from orthocris.api.requests import Ctx, Key, MadeAt, RowId, TrialId
from orthocris.services.context import Context
from orthocris.services.field import rest, rest_plans
from orthocris.services.pantry.remedy_cards import cautions_of

router = APIRouter(prefix="/api/trials/{trial_id}")


@router.get("/rest")
def options(context: Ctx, trial_id: TrialId) -> RestOut:
    """Return what the rest of the garden may be treated with, and what is under way."""
    found = rest_plans.options(context, trial_id)
    return RestOut(
        choices=tuple(
            RestChoiceOut(
                remedy_id=one.remedy.id,
                name=one.remedy.name,
                shown=ShownOut.model_validate(one.shown),
                ml_each=one.ml_each,
            )
            for one in found.choices
        ),
        eaten=found.eaten,
        start_on=found.start_on,
        reasons=dict(found.reasons),
        treatments=tuple(TreatmentOut.of(view) for view in found.treatments),
    )


@router.post("/queries/rest")
def plan(context: Ctx, trial_id: TrialId, body: RestIn) -> RestPlanOut:
    """Return what treating the rest so would take; nothing is kept."""
    found = rest_plans.plan_rest(context, trial_id, body.to_core())
    shown = {name: getattr(found, name) for name in RestPlanOut.model_fields if name != "mix"}
    return RestPlanOut(**shown, mix=None if found.mix is None else mix_view(found.mix))


@router.post("/rest", status_code=201)
def begin(
    context: Ctx, made_at: MadeAt, trial_id: TrialId, body: RestIn, key: Key = None
) -> TreatmentOut:
    """Begin to treat the rest."""
    made = rest_plans.begin(context, trial_id, body.to_core(), key)
    made_at(f"/api/trials/{trial_id}/rest/{made}")
    return _shown(context, trial_id, made)


@router.get("/rest/{treatment_id}")
def treatment(context: Ctx, trial_id: TrialId, treatment_id: RowId) -> TreatmentOut:
    """Return a treatment of the rest as it is followed."""
    return _shown(context, trial_id, treatment_id)


@router.post("/rest/{treatment_id}/acts", status_code=201)
def keep_act(
    context: Ctx,
    made_at: MadeAt,
    trial_id: TrialId,
    treatment_id: RowId,
    body: ActIn,
    key: Key = None,
) -> TreatmentOut:
    """Keep what was done, and return what comes next."""
    rest.keep_act(context, trial_id, treatment_id, body.to_core(), key)
    made_at(f"/api/trials/{trial_id}/rest/{treatment_id}/acts/last")
    return _shown(context, trial_id, treatment_id)


@router.delete("/rest/{treatment_id}/acts/last", status_code=204)
def take_back(context: Ctx, trial_id: TrialId, treatment_id: RowId) -> None:
    """Take the last act back, or the end that was set by hand."""
    rest.take_back(context, trial_id, treatment_id)


@router.post("/rest/{treatment_id}/end")
def end(context: Ctx, trial_id: TrialId, treatment_id: RowId) -> TreatmentOut:
    """End it today, whatever its rule says."""
    rest.end(context, trial_id, treatment_id)
    return _shown(context, trial_id, treatment_id)


def _shown(context: Context, trial_id: int, treatment_id: int) -> TreatmentOut:
    view = rest.rest_of(context, trial_id, treatment_id)
    return TreatmentOut.of(view, cautions_of(view.remedy))
