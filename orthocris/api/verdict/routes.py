"""Routes of the verdict."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query, Response

from orthocris.api.field.rest_schemas import BorneOut
from orthocris.api.files import CSV, PDF, Csv, Pdf
from orthocris.api.requests import Ctx, Key, MadeAt, TrialId
from orthocris.api.trial.schemas import TrialOut
from orthocris.api.trial.views import trial_view
from orthocris.api.verdict.schemas import (
    BeforeOut,
    CheckOut,
    CourseOut,
    KnownOut,
    KnownPestOut,
    NextPartOut,
    RecordOut,
    SeenOut,
    VerdictBody,
    VerdictOut,
)
from orthocris.core.counting.notebook import SEEN
from orthocris.services.field import bearing
from orthocris.services.trial import overviews
from orthocris.services.verdict import before, known, parts
from orthocris.services.verdict import judging as verdicts

router = APIRouter(prefix="/api")


@router.get("/trials/{trial_id}/verdict")
def verdict(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> VerdictOut:
    """Judge the trial at a look, by default the last with counts."""
    return _shown(verdicts.verdict_of(context, trial_id, look))


@router.get("/trials/{trial_id}/verdict.pdf", response_class=Response, responses=PDF)
def report(
    context: Ctx,
    trial_id: TrialId,
    kind: Literal["brief", "whole"] = "brief",
    paper: Literal["a4", "letter"] = "a4",
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> Pdf:
    """Return the verdict as a document: one page for a neighbour, or the whole record."""
    from orthocris.services.verdict.report import report_of  # loaded with its faces, when asked for

    return Pdf(
        report_of(context, trial_id, look, whole=kind == "whole", paper=paper),
        headers={"Content-Disposition": f'inline; filename="verdict-{trial_id}.pdf"'},
    )


@router.post("/trials/{trial_id}/verdict/record")
def record(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> VerdictOut:
    """Put a final verdict on record, unless its look has one."""
    return _shown(verdicts.record_verdict(context, trial_id, look))


@router.get("/trials/{trial_id}/next-part")
def next_part(context: Ctx, trial_id: TrialId) -> NextPartOut | None:
    """Return what the trial would go on with; null where it does not."""
    found = parts.next_part(context, trial_id)
    return None if found is None else NextPartOut.model_validate(found)


@router.post("/trials/{trial_id}/next-part", status_code=201)
def go_on(context: Ctx, made_at: MadeAt, trial_id: TrialId, key: Key = None) -> TrialOut:
    """Set up the trial that goes on from this one on further plants; return it."""
    made = parts.go_on(context, trial_id, key)
    made_at(f"/api/trials/{made}")
    return trial_view(overviews.overview(context, made))


@router.get("/trials/{trial_id}/verdict/before")
def with_what_was_known(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> tuple[BeforeOut, ...]:
    """Return what comes of each remedy together with earlier trials, beside the verdict."""
    return tuple(BeforeOut.of(one) for one in before.known_before(context, trial_id, look))


@router.get("/borne")
def leaves_borne(context: Ctx) -> tuple[BorneOut, ...]:
    """Return which kinds of leaf bore which mix, from every patch test made here."""
    return tuple(BorneOut.model_validate(one) for one in bearing.borne(context))


@router.get("/known")
def known_pests(context: Ctx) -> tuple[KnownPestOut, ...]:
    """Return the pests of which verdicts are on record here."""
    return tuple(KnownPestOut.model_validate(one) for one in known.known_pests(context))


@router.get("/known/{pest:path}")
def known_of(context: Ctx, pest: Annotated[str, Path(max_length=80)]) -> KnownOut:
    """Return what is known of the remedies against a pest from all own trials."""
    return KnownOut.model_validate(known.known_of(context, pest))


def _shown(found: verdicts.TrialVerdict) -> VerdictOut:
    return VerdictOut(
        verdict=VerdictBody.model_validate(found.verdict.to_dict()),
        final=found.final,
        look_number=found.look_number,
        notes=found.notes,
        answers=found.answers,
        early=found.early,
        record=None if found.record is None else RecordOut.model_validate(found.record),
        differs=found.differs,
        mess=found.mess,
        dots=found.dots,
        judged_on=found.judged_on,
        seen=tuple(
            SeenOut(what=s.what, words=SEEN[s.what], remedy=s.remedy, plants=s.plants, of=s.of)
            for s in found.seen
        ),
    )


@router.get("/trials/{trial_id}/verdict/checks")
def checks(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> tuple[CheckOut, ...]:
    """Judge the trial again in the ways a doubter would ask for."""
    found = verdicts.checks_of(context, trial_id, look)
    return tuple(CheckOut.model_validate(check) for check in found)


@router.get("/trials/{trial_id}/course")
def course(context: Ctx, trial_id: TrialId) -> CourseOut:
    """Return what was counted on every plant at every look; it names no remedy."""
    found = verdicts.course_of(context, trial_id)
    return CourseOut(looks=found.looks, values=found.values, damage=found.damage)


@router.get("/trials/{trial_id}/table.csv", response_class=Response, responses=CSV)
def table(context: Ctx, trial_id: TrialId) -> Csv:
    """Return the finished counts as a tidy table (CSV), once the key is open."""
    return Csv(
        verdicts.table_of(context, trial_id),
        headers={"Content-Disposition": f'attachment; filename="trial-{trial_id}.csv"'},
    )
