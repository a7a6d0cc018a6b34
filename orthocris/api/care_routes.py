"""Routes of patch tests, batches, spray rounds and the schedule."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Query, Response

from orthocris.api import care_schemas as c
from orthocris.api import round_schemas as r
from orthocris.api import schemas as s
from orthocris.api.base import Out
from orthocris.api.mixing_routes import mix_view
from orthocris.api.mixing_schemas import (
    CautionOut,
    MixOut,
)
from orthocris.api.routes import ERRORS, Ctx, IfMatch, Key, Number, PlantId, TrialId
from orthocris.api.views import trial_view
from orthocris.core.field.patchtest import PatchResult
from orthocris.core.trial.batches import MixKind
from orthocris.core.trial.patches import PatchTest
from orthocris.services import batches, moves, overviews, patches, rounds, schedule
from orthocris.services.batches import Bottle

router = APIRouter(prefix="/api/trials/{trial_id}", responses=ERRORS)
RowId = Annotated[int, Path(ge=1, le=2**31 - 1)]
Paper = Annotated[str, Query(max_length=10)]
Page = Annotated[int, Query(ge=-(10**6), le=10**6)]


class CardOut(Out):
    """How a remedy is mixed and applied."""

    key: str
    kind: MixKind
    order_note: str
    life_hours: float | None
    agitation: str
    coverage: str
    suits: tuple[str, ...]
    spares: tuple[str, ...]
    oil: bool
    dose_sign: str
    aftercare: str


class BottleOut(Out):
    """A remedy's bottle: what it needs and how it is mixed."""

    remedy_id: int
    plants: int
    volume: float
    card: CardOut
    mix: MixOut | None
    unread: str
    strong: tuple[CautionOut, ...]


@router.get("/patches")
def patch_plan(context: Ctx, trial_id: TrialId) -> c.PatchPlanOut:
    """Return the patch tests a trial needs and how each stands."""
    plan = patches.patch_plan(context, trial_id)
    trial = overviews.overview(context, trial_id).trial
    return c.PatchPlanOut(
        cells=tuple(
            c.PatchCellOut(
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
        care=c.CareIO.model_validate(trial.care),
    )


@router.post("/patches", status_code=201)
def put_on(context: Ctx, trial_id: TrialId, body: c.PatchIn, key: Key = None) -> c.PatchPlanOut:
    """Record a patch test that was put on now."""
    patches.put_on(context, trial_id, body.to_core(), key)
    return patch_plan(context, trial_id)


@router.post("/patches/{patch_id}/looks")
def look_at_patch(
    context: Ctx, trial_id: TrialId, patch_id: RowId, body: c.PatchLookIn
) -> c.PatchPlanOut:
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


@router.delete("/patches/{patch_id}")
def withdraw_patch(context: Ctx, trial_id: TrialId, patch_id: RowId) -> c.PatchPlanOut:
    """Take back a patch test entered by mistake."""
    patches.withdraw(context, trial_id, patch_id)
    return patch_plan(context, trial_id)


@router.put("/care")
def change_care(
    context: Ctx, trial_id: TrialId, body: c.CareIO, revision: IfMatch = None
) -> s.TrialOut:
    """Change schools, spot, amounts and kinds of leaf."""
    patches.change_care(context, trial_id, body.to_core(), revision)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/bottles")
def bottles(context: Ctx, trial_id: TrialId) -> tuple[BottleOut, ...]:
    """Return the bottles a trial needs and how each is mixed."""
    return tuple(_bottle(b) for b in batches.bottles_of(context, trial_id))


@router.post("/remedies/{remedy_id}/batches", status_code=201)
def record_batch(
    context: Ctx, trial_id: TrialId, remedy_id: RowId, body: c.BatchIn, key: Key = None
) -> s.TrialOut:
    """Record a bottle that was mixed."""
    batches.record_batch(context, trial_id, remedy_id, body.to_core(), key)
    return trial_view(overviews.overview(context, trial_id))


@router.delete("/batches/{batch_id}")
def discard_batch(context: Ctx, trial_id: TrialId, batch_id: RowId) -> s.TrialOut:
    """Record that a batch was poured away."""
    batches.discard_batch(context, trial_id, batch_id)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/labels.svg", response_class=Response)
def labels(context: Ctx, trial_id: TrialId, paper: Paper = "a4", page: Page = 1) -> Response:
    """Return a page of labels for the bottles that can be used (SVG, real size)."""
    content = batches.labels_of(context, trial_id, paper, page)
    return Response(content, media_type="image/svg+xml")


@router.get("/labels")
def label_pages(context: Ctx, trial_id: TrialId, paper: Paper = "a4") -> tuple[str, ...]:
    """Return the address of each page of labels; none while there is no bottle to be labelled."""
    pages = batches.label_pages_of(context, trial_id, paper)
    base = f"/api/trials/{trial_id}/labels.svg?paper={paper}"
    return tuple(f"{base}&page={n + 1}" for n in range(pages))


@router.post("/rounds/{number}/check")
def check_round(
    context: Ctx, trial_id: TrialId, number: Number, body: r.ChecksIn
) -> tuple[r.BlockerOut, ...]:
    """Return what still holds a round back; nothing is kept."""
    found = rounds.what_blocks(context, trial_id, number, body.to_core())
    return tuple(r.BlockerOut.model_validate(b) for b in found)


@router.post("/rounds/{number}/start")
def start_round(context: Ctx, trial_id: TrialId, number: Number, body: r.ChecksIn) -> s.TrialOut:
    """Start a round, or take it up again, after its checks."""
    rounds.start_round(context, trial_id, number, body.to_core())
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/sprays")
def record_spray(context: Ctx, trial_id: TrialId, number: Number, body: r.SprayIn) -> s.TrialOut:
    """Record what one plant got."""
    rounds.record_spray(context, trial_id, number, body.to_core())
    return trial_view(overviews.overview(context, trial_id))


@router.delete("/rounds/{number}/sprays/{plant_id}")
def undo_spray(context: Ctx, trial_id: TrialId, number: Number, plant_id: PlantId) -> s.TrialOut:
    """Take back what was recorded of a plant; its trace is kept."""
    rounds.undo_spray(context, trial_id, number, plant_id)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/undo")
def undo_round(context: Ctx, trial_id: TrialId, number: Number, body: r.UndoIn) -> s.TrialOut:
    """Take back a whole round with its reason; the trace is kept."""
    rounds.undo_spray(context, trial_id, number, None, body.reason)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/dry-leaf")
def record_dry_leaf(
    context: Ctx, trial_id: TrialId, number: Number, body: r.DryLeafIn
) -> s.TrialOut:
    """Record what the leaves look like once dry: dull, shiny or sticky."""
    rounds.record_dry_leaf(context, trial_id, number, body.looks)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/move")
def move_round(context: Ctx, trial_id: TrialId, number: Number, body: r.MoveRoundIn) -> s.TrialOut:
    """Move a round to another day, or add one behind the last."""
    moves.move_round(context, trial_id, number, body.on, body.reason)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/rounds/{number}/leave-out")
def leave_out(context: Ctx, trial_id: TrialId, number: Number, body: r.UndoIn) -> s.TrialOut:
    """Leave a planned round out, with its reason."""
    moves.leave_out(context, trial_id, number, body.reason)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/schedule")
def get_schedule(context: Ctx, trial_id: TrialId) -> r.ScheduleOut:
    """Return generations, proposals by school and what the last look calls for."""
    return r.ScheduleOut.model_validate(schedule.schedule_of(context, trial_id))


def _patch(test: PatchTest, result: PatchResult) -> c.PatchOut:
    return c.PatchOut(
        id=test.id,
        leaves=test.leaves,
        strength=test.strength,
        applied_at=test.applied_at,
        treated_before=test.treated_before,
        beside_before=test.beside_before,
        looks=tuple(c.PatchLookOut.model_validate(look) for look in test.looks),
        hours=test.hours,
        outcome=result.outcome,
        worst=result.worst,
        reason=result.reason,
        next_look=result.next_look,
    )


def _bottle(bottle: Bottle) -> BottleOut:
    return BottleOut(
        remedy_id=bottle.remedy.id,
        plants=bottle.plants,
        volume=float(bottle.volume),
        card=CardOut.model_validate(bottle.card),
        mix=mix_view(bottle.mix) if bottle.mix else None,
        unread=bottle.unread,
        strong=tuple(CautionOut.model_validate(x) for x in bottle.strong),
    )
