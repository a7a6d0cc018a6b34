"""Routes for finding out, planning and printing."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query, Request, Response

from orthocris.api import planning_schemas as p
from orthocris.api import schemas as s
from orthocris.api.routes import ERRORS, Ctx, IfMatch, Key, PlantId, TrialId
from orthocris.api.setup_schemas import TraitsIO
from orthocris.api.views import trial_view
from orthocris.core.finding.triage import QuickLook
from orthocris.core.pantry.remedies import (
    CatalogueRemedy,
    draft_of,
    ladder,
    square,
    unsuitable,
    usual_ladder,
)
from orthocris.core.trial.setup import Setup
from orthocris.formats.prints import PAPERS
from orthocris.knowledge import pest_named, remedies, remedy_named
from orthocris.services import looks, overviews, planning, printing
from orthocris.services.powers import PowerJob, PowerJobs

router = APIRouter(prefix="/api", responses=ERRORS)
Code = Annotated[str, Path(max_length=40)]
JobId = Annotated[int, Path(ge=1, le=2**31 - 1)]


def jobs_of(request: Request) -> PowerJobs:
    """Return the simulations of this program."""
    found: PowerJobs = request.app.state.power_jobs
    return found


Jobs = Annotated[PowerJobs, Depends(jobs_of)]


@router.get("/signs/candidates")
def candidates(
    signs: Annotated[list[str], Query(max_length=40)],
) -> tuple[p.CandidateOut, ...]:
    """Rank the pests by the signs seen."""
    return tuple(p.CandidateOut.model_validate(c) for c in looks.find_out(signs))


@router.post("/looks/decision")
def decide(context: Ctx, body: p.LookIn) -> p.ActionOut:
    """Say what a look calls for, without keeping it."""
    return p.ActionOut.model_validate(
        looks.decide_look(context, body.pest, body.place, _quick(body))
    )


@router.post("/looks", status_code=201)
def keep_look(context: Ctx, body: p.LookIn, key: Key = None) -> p.LookRecordOut:
    """Keep a look round."""
    kept = looks.keep_look(context, body.pest, body.place, body.signs, _quick(body), key)
    return p.LookRecordOut.model_validate(kept)


@router.get("/looks")
def kept_looks(context: Ctx) -> tuple[p.LookRecordOut, ...]:
    """Return the look rounds kept, the newest first."""
    return tuple(p.LookRecordOut.model_validate(look) for look in looks.kept_looks(context))


@router.post("/remedies")
def catalogue(body: p.SuitIn) -> tuple[p.CatalogueOut, ...]:
    """Return the shipped remedies, each with the reasons against it for this pest and plant."""
    setup = body.setup.to_core()
    return tuple(_catalogue_row(remedy, body.pest, setup) for remedy in remedies())


@router.post("/remedies/proposal")
def propose(body: p.ProposalIn) -> p.ProposalOut:
    """Make remedies for a question from the shipped list."""
    chosen = [remedy_named(key) for key in body.keys]
    if body.square and len(chosen) == 2:
        drafts = square(chosen[0], chosen[1])
    elif body.strengths is not None:
        drafts = ladder(chosen[0], body.strengths)
    else:
        drafts = tuple(draft_of(remedy) for remedy in chosen)
    return p.ProposalOut(
        remedies=[
            s.RemedyIn(
                name=d.name,
                role=d.role,
                recipe=d.recipe,
                traits=TraitsIO.model_validate(d.traits),
            )
            for d in drafts
        ]
    )


@router.get("/trials/{trial_id}/critique")
def critique(context: Ctx, trial_id: TrialId) -> p.CritiqueOut:
    """Review the plan as it stands."""
    return _critique(context, trial_id)


@router.post("/trials/{trial_id}/critique/{code}/mend")
def mend(context: Ctx, trial_id: TrialId, code: Code, revision: IfMatch = None) -> s.TrialOut:
    """Mend a finding."""
    planning.mend(context, trial_id, code, revision)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/critique/take-back")
def take_back_mend(context: Ctx, trial_id: TrialId) -> s.TrialOut:
    """Take back the newest mend; the plan is again as it was before it."""
    planning.take_back_mend(context, trial_id)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/critique/{code}/overrule")
def overrule(context: Ctx, trial_id: TrialId, code: Code, body: p.OverruleIn) -> p.CritiqueOut:
    """Overrule a finding; the reason goes with the verdict."""
    planning.overrule(context, trial_id, code, body.reason)
    return _critique(context, trial_id)


@router.post("/trials/{trial_id}/plants/{plant_id}/move")
def move(context: Ctx, trial_id: TrialId, plant_id: PlantId, body: p.MoveIn) -> s.TrialOut:
    """Put a plant at another place; whoever stands there changes places with it."""
    planning.move_plant(context, trial_id, plant_id, body.row, body.place)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/key")
def open_key(context: Ctx, trial_id: TrialId) -> s.TrialOut:
    """Open the sealed key; the first time is recorded."""
    planning.open_key(context, trial_id)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/power", status_code=202)
def begin_power(context: Ctx, jobs: Jobs, trial_id: TrialId, body: p.PowerIn) -> p.PowerOut:
    """Begin to simulate this design."""
    efficacies = None if body.efficacies is None else tuple(body.efficacies)
    return _power(jobs.begin(context, trial_id, efficacies, body.growth, body.dispersion))


@router.get("/power/{job_id}")
def power(jobs: Jobs, job_id: JobId) -> p.PowerOut:
    """Return how far a simulation is and what it found."""
    return _power(jobs.find(job_id))


@router.delete("/power/{job_id}")
def cancel_power(jobs: Jobs, job_id: JobId) -> p.PowerOut:
    """Stop a simulation."""
    return _power(jobs.cancel(job_id))


@router.get("/trials/{trial_id}/prints")
def prints(context: Ctx, trial_id: TrialId) -> p.PrintsOut:
    """Return what can be printed."""
    base = f"/api/trials/{trial_id}"
    pages = {paper: printing.tag_pages_of(context, trial_id, paper) for paper in PAPERS}
    return p.PrintsOut(
        sheet={paper: f"{base}/sheet.svg?paper={paper}" for paper in PAPERS},
        tags={
            paper: tuple(f"{base}/tags.svg?paper={paper}&page={n + 1}" for n in range(count))
            for paper, count in pages.items()
        },
    )


@router.get("/trials/{trial_id}/sheet.svg", response_class=Response)
def sheet(context: Ctx, trial_id: TrialId, paper: str = "a4") -> Response:
    """Return the bench as a sheet."""
    return Response(printing.sheet_of(context, trial_id, paper), media_type="image/svg+xml")


@router.get("/trials/{trial_id}/tags.svg", response_class=Response)
def tags(
    context: Ctx,
    request: Request,
    trial_id: TrialId,
    paper: str = "a4",
    page: Annotated[int, Query(ge=-(10**6), le=10**6)] = 1,
) -> Response:
    """Return a page of tags at real size; QR codes lead to the address asked."""
    address = str(request.base_url).rstrip("/")
    content = printing.tags_of(context, trial_id, paper, page, address)
    return Response(content, media_type="image/svg+xml")


def _quick(body: p.LookIn) -> QuickLook:
    return QuickLook(
        looked=body.looked,
        affected=body.affected,
        helpers=body.helpers,
        vigorous=body.vigorous,
        wilting=body.wilting,
    )


def _catalogue_row(remedy: CatalogueRemedy, pest: str, setup: Setup) -> p.CatalogueOut:
    known = pest_named(pest)
    return p.CatalogueOut(
        key=remedy.key,
        name=remedy.name,
        role=remedy.role,
        way=remedy.way,
        acts=remedy.acts,
        recipe=remedy.recipe,
        ingredients=tuple(p.IngredientOut.model_validate(i) for i in remedy.ingredients),
        schools=tuple(p.SchoolOut.model_validate(x) for x in remedy.schools),
        usual_ladder=usual_ladder(remedy) if remedy.ingredients else (),
        reasons=unsuitable(
            remedy,
            setup,
            pest=pest,
            cannot_work=known.cannot_work if known else {},
            known_pest=known is not None,
        ),
    )


def _critique(context: Ctx, trial_id: int) -> p.CritiqueOut:
    found = planning.review(context, trial_id)
    return p.CritiqueOut(
        findings=tuple(
            p.FindingOut(
                code=f.code,
                title=f.title,
                harm=f.harm,
                mend=f.mend.label if f.mend else None,
                changes=tuple(
                    p.PlanChangeOut.model_validate(c) for c in (f.mend.changes if f.mend else ())
                ),
            )
            for f in found.findings
        ),
        overruled=tuple(p.OverruleOut.model_validate(o) for o in found.overruled),
        promise=found.promise,
        mended=p.MendOut.model_validate(found.mended) if found.mended else None,
    )


def _power(job: PowerJob) -> p.PowerOut:
    return p.PowerOut(
        id=job.id,
        state=job.state,
        progress=job.progress,
        at_hand=job.at_hand,
        efficacies=job.assumptions.efficacies,
        points=tuple(p.PowerPointOut.model_validate(x) for x in job.points),
        answer=job.answer,
    )
