"""Routes of patch tests, batches, spray rounds and the schedule."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query, Response

from orthocris.api.door.address import Address, ForPhones
from orthocris.api.field.schemas import (
    BatchIn,
    BatchOut,
    BottleOut,
    CardOut,
    CareIO,
    LabelsOut,
    PatchCellOut,
    PatchIn,
    PatchOut,
    PatchPlanOut,
    PatchReadingIn,
    PatchReadingOut,
    TestMixOut,
    WaterOut,
)
from orthocris.api.files import SVG, Svg
from orthocris.api.pantry.routes import mix_view
from orthocris.api.pantry.schemas import CautionOut
from orthocris.api.requests import Ctx, IfMatch, Key, MadeAt, RowId, TrialId
from orthocris.api.trial.schemas import TrialOut
from orthocris.api.trial.views import batch_view, trial_view
from orthocris.core.field.patchtest import PatchResult
from orthocris.core.trial.patches import PatchTest
from orthocris.core.trial.trial import Trial
from orthocris.services.field import batches, patches
from orthocris.services.field import labels as bottle_labels
from orthocris.services.field.batches import Bottle
from orthocris.services.trial import overviews

router = APIRouter(prefix="/api/trials/{trial_id}")
Paper = Annotated[str, Query(max_length=10)]
Page = Annotated[int, Query(ge=-(10**6), le=10**6)]


@router.get("/patches")
def patch_plan(context: Ctx, trial_id: TrialId) -> PatchPlanOut:
    """Return the patch tests a trial needs and how each stands."""
    plan = patches.patch_plan(context, trial_id)
    return PatchPlanOut(
        cells=tuple(
            PatchCellOut(
                remedy_id=cell.remedy.id,
                remedy=cell.remedy.name,
                leaf_kind=cell.leaf_kind,
                left_out=cell.left_out,
                hours=cell.hours,
                tests=tuple(_patch(test, result) for test, result in cell.tests),
            )
            for cell in plan.cells
        ),
        reason=plan.reason,
        care=CareIO.model_validate(plan.care),
    )


@router.get("/patches/mixes")
def test_mixes(context: Ctx, trial_id: TrialId) -> tuple[TestMixOut, ...]:
    """Return what is mixed for the tests, before the bottles of the trial."""
    return tuple(
        TestMixOut(
            remedy_id=one.remedy.id,
            step=one.step,
            name=one.remedy.name,
            recipe=one.remedy.recipe,
            mix=mix_view(one.mix) if one.mix else None,
            unread=one.unread,
            strong=tuple(CautionOut.model_validate(x) for x in one.strong),
        )
        for one in patches.test_mixes(context, trial_id)
    )


@router.post("/patches", status_code=201)
def put_on(
    context: Ctx, made_at: MadeAt, trial_id: TrialId, body: PatchIn, key: Key = None
) -> PatchOut:
    """Record a patch test that was put on now; return it."""
    made = patches.put_on(context, trial_id, body.to_core(), key)
    made_at(f"/api/trials/{trial_id}/patches/{made}")
    return _patch(*patches.patch_test(context, trial_id, made))


@router.post("/patches/{patch_id}/readings")
def look_at_patch(
    context: Ctx, trial_id: TrialId, patch_id: RowId, body: PatchReadingIn
) -> PatchPlanOut:
    """Keep a look at a patch test; its outcome is computed."""
    patches.look_at(
        context,
        trial_id,
        patch_id,
        hours=body.hours,
        treated=body.treated,
        beside=body.beside,
        harm=body.harm,
    )
    return patch_plan(context, trial_id)


@router.delete("/patches/{patch_id}", status_code=204)
def withdraw_patch(context: Ctx, trial_id: TrialId, patch_id: RowId) -> None:
    """Take back a patch test entered by mistake."""
    patches.withdraw(context, trial_id, patch_id)


@router.put("/care")
def change_care(
    context: Ctx, trial_id: TrialId, body: CareIO, revision: IfMatch = None
) -> TrialOut:
    """Change schools, spot, amounts and kinds of leaf."""
    patches.change_care(context, trial_id, body.to_core(), revision)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/bottles")
def bottles(context: Ctx, trial_id: TrialId, helper: bool = False) -> tuple[BottleOut, ...]:
    """Return the bottles a trial needs and how each is mixed; that tells which letter is which.

    While the key is sealed only for a helper, who mixes so that whoever counts stays blind.
    """
    found = batches.bottles_of(context, trial_id, helper=helper)
    return tuple(_bottle(found.trial, b, context.now()) for b in found.bottles)


@router.get("/bottles/water")
def water(context: Ctx, trial_id: TrialId, helper: bool = False) -> WaterOut | None:
    """Return the bottle of a control that is wetted, null where none is; that tells its letter.

    While the key is sealed only for a helper.
    """
    found = batches.bottles_of(context, trial_id, helper=helper).water
    return None if found is None else WaterOut.of(found)


@router.post("/remedies/{remedy_id}/batches", status_code=201)
def record_batch(
    context: Ctx,
    made_at: MadeAt,
    trial_id: TrialId,
    remedy_id: RowId,
    body: BatchIn,
    key: Key = None,
) -> BatchOut:
    """Record a bottle that was mixed; return its batch."""
    made = batches.record_batch(context, trial_id, remedy_id, body.to_core(), key)
    made_at(f"/api/trials/{trial_id}/batches/{made}")
    trial, batch = batches.batch_of(context, trial_id, made)
    return batch_view(trial, batch, context.now())


@router.delete("/batches/{batch_id}", status_code=204)
def discard_batch(context: Ctx, trial_id: TrialId, batch_id: RowId) -> None:
    """Record that a batch was poured away."""
    batches.discard_batch(context, trial_id, batch_id)


@router.get("/labels.svg", response_class=Response, responses=SVG)
def labels(
    context: Ctx, trial_id: TrialId, address: Address, paper: Paper = "a4", page: Page = 1
) -> Svg:
    """Return a page of labels for the bottles that can be used (SVG, real size)."""
    content = bottle_labels.labels_of(context, trial_id, paper, page, address)
    return Svg(content)


@router.get("/labels")
def label_pages(
    context: Ctx, trial_id: TrialId, for_phones: ForPhones, paper: Paper = "a4"
) -> LabelsOut:
    """Return the address of each page of labels; none while there is no bottle to be labelled."""
    pages = bottle_labels.label_pages_of(context, trial_id, paper)
    base = f"/api/trials/{trial_id}/labels.svg?paper={paper}"
    addresses = tuple(f"{base}&page={n + 1}" for n in range(pages))
    return LabelsOut(pages=addresses, phones_can_open=for_phones)


def _patch(test: PatchTest, result: PatchResult) -> PatchOut:
    return PatchOut(
        id=test.id,
        leaves=test.leaves,
        strength=test.strength,
        applied_at=test.applied_at,
        treated_before=test.treated_before,
        beside_before=test.beside_before,
        readings=tuple(PatchReadingOut.model_validate(r) for r in test.readings),
        hours=test.hours,
        outcome=result.outcome,
        worst=result.worst,
        reason=result.reason,
        next_look=result.next_look,
    )


def _bottle(trial: Trial, bottle: Bottle, now: datetime) -> BottleOut:
    return BottleOut(
        remedy_id=bottle.remedy.id,
        letter=bottle.remedy.letter,
        notches=bottle.remedy.notches,
        batches=tuple(
            batch_view(trial, b, now)
            for b in trial.batches
            if (b.remedy_id, b.step) == (bottle.remedy.id, bottle.step)
        ),
        plants=bottle.plants,
        volume=float(bottle.volume),
        card=CardOut.model_validate(bottle.card),
        mix=mix_view(bottle.mix) if bottle.mix else None,
        unread=bottle.unread,
        strong=tuple(CautionOut.model_validate(x) for x in bottle.strong),
        step=bottle.step,
        name=bottle.remedy.name,
        recipe=bottle.remedy.recipe,
        on=bottle.on,
    )
