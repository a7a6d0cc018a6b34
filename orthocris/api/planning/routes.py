"""Routes for finding out, planning and printing."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, BackgroundTasks, Path

from orthocris.api.planning.schemas import (
    CritiqueOut,
    FindingOut,
    GlanceIn,
    GlanceOut,
    MendOut,
    MoveIn,
    OverruleIn,
    OverruleOut,
    PlanChangeOut,
    RemarkOut,
    RemarksIn,
    SplitIn,
    TakingIn,
    TakingOut,
    UnitProposalOut,
    WayToTellOut,
)
from orthocris.api.requests import Ctx, IfMatch, Key, PlantId, TrialId
from orthocris.api.trial.schemas import QuestionIn, TrialOut
from orthocris.api.trial.views import trial_view
from orthocris.core.planning.glance import Sketch, glance
from orthocris.core.planning.remarks import Remark
from orthocris.core.planning.surer import surer_ways
from orthocris.core.trial.trial import Plant
from orthocris.services.planning import critiques as planning
from orthocris.services.planning import layouts, units
from orthocris.services.planning.taking import taking
from orthocris.services.trial import overviews

router = APIRouter(prefix="/api")
Code = Annotated[str, Path(max_length=40)]


@router.post("/queries/glance")
def at_a_glance(body: GlanceIn) -> GlanceOut:
    """Tell how sure a plan would be, by some hundred simulated trials of it."""
    found = glance(Sketch(**body.model_dump()))
    return GlanceOut.model_validate(found)


@router.post("/queries/surer")
def surer(body: GlanceIn) -> tuple[WayToTellOut, ...]:
    """Name ways that would tell more with the very plants there are."""
    found = surer_ways(Sketch(**body.model_dump()))
    return tuple(WayToTellOut.model_validate(way) for way in found)


@router.post("/queries/taking")
def what_it_takes(context: Ctx, body: TakingIn) -> TakingOut:
    """Tell which bottle and how much money the mixes of a plan take."""
    drafts = [r.to_core() for r in body.remedies]
    found = taking(context, drafts, plants=body.plants, ml=body.ml, times=body.times)
    return TakingOut.model_validate(found)


@router.post("/queries/remarks")
def remarks(context: Ctx, body: RemarksIn) -> tuple[RemarkOut, ...]:
    """Review a plan that is still being said; each remark tells what it is about."""
    asked = body.question.to_core()
    plants = tuple(
        Plant(k, f"plant {k}", p.row, p.place, p.match_count) for k, p in enumerate(body.plants, 1)
    )
    found = planning.remarks(context, asked, body.question.start_on, plants)
    return tuple(_remark(one) for one in found)


@router.get("/trials/{trial_id}/critique")
def critique(context: Ctx, trial_id: TrialId) -> CritiqueOut:
    """Review the plan as it stands."""
    return _critique(context, trial_id)


@router.post("/trials/{trial_id}/critique/{code}/mend")
def mend(context: Ctx, trial_id: TrialId, code: Code, revision: IfMatch = None) -> TrialOut:
    """Mend a finding."""
    planning.mend(context, trial_id, code, revision)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/critique/take-back")
def take_back_mend(context: Ctx, trial_id: TrialId, behind: BackgroundTasks) -> TrialOut:
    """Take back the newest mend; the plan is again as it was before it."""
    planning.take_back_mend(context, trial_id)
    behind.add_task(layouts.draw_others, context, trial_id)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/critique/{code}/overrule")
def overrule(
    context: Ctx, trial_id: TrialId, code: Code, body: OverruleIn, key: Key = None
) -> CritiqueOut:
    """Overrule a finding; the reason goes with the verdict."""
    planning.overrule(context, trial_id, code, body.reason, key)
    return _critique(context, trial_id)


@router.post("/trials/{trial_id}/plants/{plant_id}/move")
def move(context: Ctx, trial_id: TrialId, plant_id: PlantId, body: MoveIn) -> TrialOut:
    """Put a plant at another place; whoever stands there changes places with it."""
    planning.move_plant(context, trial_id, plant_id, body.row, body.place)
    return trial_view(overviews.overview(context, trial_id))


@router.get("/trials/{trial_id}/units")
def unit_proposals(context: Ctx, trial_id: TrialId) -> tuple[UnitProposalOut, ...]:
    """Return what leaves or halves could show where plants are too few."""
    return tuple(UnitProposalOut.model_validate(p) for p in units.unit_proposals(context, trial_id))


@router.post("/trials/{trial_id}/units")
def split_plants(context: Ctx, trial_id: TrialId, body: SplitIn) -> TrialOut:
    """Put so many leaves or halves in the place of each plant."""
    units.split_plants(context, trial_id, body.unit, body.each)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/key")
def open_key(context: Ctx, trial_id: TrialId) -> TrialOut:
    """Open the sealed key; the first time is recorded."""
    planning.open_key(context, trial_id)
    return trial_view(overviews.overview(context, trial_id))


def _remark(remark: Remark) -> RemarkOut:
    finding, mend = remark.finding, remark.finding.mend
    return RemarkOut(
        code=finding.code,
        harm=finding.harm,
        about=remark.about,
        remedy=remark.remedy,
        mend=mend.label if mend else None,
        mended=QuestionIn.of(mend.question, mend.start_on) if mend else None,
    )


def _critique(context: Ctx, trial_id: int) -> CritiqueOut:
    found = planning.review(context, trial_id)
    return CritiqueOut(
        findings=tuple(
            FindingOut(
                code=f.code,
                title=f.title,
                harm=f.harm,
                mend=f.mend.label if f.mend else None,
                changes=tuple(
                    PlanChangeOut.model_validate(c) for c in (f.mend.changes if f.mend else ())
                ),
            )
            for f in found.findings
        ),
        overruled=tuple(OverruleOut.model_validate(o) for o in found.overruled),
        promise=found.promise,
        mended=MendOut.model_validate(found.mended) if found.mended else None,
    )
