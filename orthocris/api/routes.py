"""The routes under /api. Those that touch the data are plain functions, run in threads."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Depends, Header, Path, Query, Request, Response

from orthocris import __version__
from orthocris.api import schemas as s
from orthocris.api.verdict_schemas import VerdictBody, VerdictOut
from orthocris.api.views import today_row, trial_view
from orthocris.core.trial.measures import MEASURES
from orthocris.core.trial.trial import Plant
from orthocris.knowledge import pests, signs
from orthocris.services import (
    benches,
    fieldwork,
    layouts,
    overviews,
    questions,
    verdicts,
    weathering,
)
from orthocris.services.context import Context
from orthocris.storage.tallies import TallyEntry

ERRORS: dict[int | str, dict[str, Any]] = {
    status: {"model": s.ErrorOut} for status in (400, 403, 404, 409, 412, 413, 422, 503)
}
router = APIRouter(prefix="/api", responses=ERRORS)


def context_of(request: Request) -> Context:
    """Return the context the application was made with."""
    context: Context = request.app.state.context
    return context


Ctx = Annotated[Context, Depends(context_of)]
TrialId = Annotated[int, Path(ge=1, le=2**31 - 1)]
PlantId = Annotated[int, Path(ge=1, le=2**31 - 1)]
Number = Annotated[int, Path(ge=0, le=1000)]
# What was read (a revision): a change is refused with 412 when it was changed since.
IfMatch = Annotated[str | None, Header(alias="If-Match", max_length=80)]
# The sender's own name of a creation: sent twice, it is made once.
Key = Annotated[str | None, Header(alias="Idempotency-Key", min_length=8, max_length=80)]


@router.get("/health")
def health() -> s.Health:
    """Tell that the application is ready (the data is migrated before it listens)."""
    return s.Health(status="ok", version=__version__)


@router.get("/knowledge")
def knowledge() -> s.Knowledge:
    """Return the pests and measures the program knows."""
    return s.Knowledge(
        pests=tuple(s.PestOut.model_validate(p) for p in pests()),
        measures=tuple(s.MeasureOut.model_validate(m) for m in MEASURES.values()),
        signs=tuple(s.SignOut.model_validate(x) for x in signs()),
    )


@router.get("/today")
def today(context: Ctx) -> s.TodayOut:
    """Return what is due across all trials; rain and heat on sprayed rounds are logged first."""
    weathering.log_weather(context)
    found = overviews.today(context)
    return s.TodayOut(
        today=context.now().date(),
        trials=tuple(today_row(o) for o in found),
        put_away=tuple(
            s.PutAwayOut(id=i, name=name, put_away_at=at)
            for i, name, at in questions.put_away_trials(context)
        ),
    )


@router.post("/trials", status_code=201)
def create_trial(context: Ctx, body: s.QuestionIn, key: Key = None) -> s.Created:
    """Set up a trial from its question."""
    return s.Created(id=questions.create_trial(context, body.to_core(), body.start_on, key))


@router.get("/trials/{trial_id}")
def get_trial(context: Ctx, trial_id: TrialId) -> s.TrialOut:
    """Return a whole trial."""
    return trial_view(overviews.overview(context, trial_id))


@router.delete("/trials/{trial_id}", status_code=204)
def remove_trial(context: Ctx, trial_id: TrialId, with_records: bool = False) -> None:
    """Put a trial away; one that holds records only when `with_records` says that it is meant."""
    questions.remove_trial(context, trial_id, with_records=with_records)


@router.post("/trials/{trial_id}/restore")
def bring_back(context: Ctx, trial_id: TrialId) -> s.TrialOut:
    """Bring back a trial that was put away."""
    questions.bring_back(context, trial_id)
    return trial_view(overviews.overview(context, trial_id))


@router.put("/trials/{trial_id}/question")
def change_question(
    context: Ctx, trial_id: TrialId, body: s.QuestionIn, revision: IfMatch = None
) -> s.TrialOut:
    """Change the question; after the first spray only the name."""
    questions.change_question(context, trial_id, body.to_core(), body.start_on, revision)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/plants", status_code=201)
def add_plants(context: Ctx, trial_id: TrialId, body: s.PlantsIn, key: Key = None) -> s.TrialOut:
    """Add rows of plants."""
    benches.add_plants(
        context, trial_id, prefix=body.prefix, rows=body.rows, per_row=body.per_row, key=key
    )
    return trial_view(overviews.overview(context, trial_id))


@router.put("/trials/{trial_id}/plants/{plant_id}")
def change_plant(
    context: Ctx, trial_id: TrialId, plant_id: PlantId, body: s.PlantIn, revision: IfMatch = None
) -> s.TrialOut:
    """Change a plant."""
    benches.change_plant(
        context,
        trial_id,
        Plant(
            plant_id,
            body.name,
            body.row,
            body.place,
            body.match_count,
            body.set_aside,
            size=body.size,
        ),
        revision,
    )
    return trial_view(overviews.overview(context, trial_id))


@router.delete("/trials/{trial_id}/plants/{plant_id}")
def remove_plant(context: Ctx, trial_id: TrialId, plant_id: PlantId) -> s.TrialOut:
    """Remove a plant that was not counted yet."""
    benches.remove_plant(context, trial_id, plant_id)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/layout")
def draw_layout(context: Ctx, trial_id: TrialId, body: s.LayoutIn) -> s.TrialOut:
    """Form blocks and allot remedies at random."""
    layouts.draw_layout(context, trial_id, reason=body.reason, seed=body.seed)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/looks/{number}/tallies")
def keep_tally(
    context: Ctx, trial_id: TrialId, number: Number, body: s.TallyIn
) -> tuple[s.TallyOut, ...]:
    """Keep a count; answers once it is safe, with every count kept of that plant."""
    entry = TallyEntry(
        look_id=0,
        plant_id=body.plant_id,
        measure=body.measure,
        session=body.session,
        step=body.step,
        value=body.value,
        of=body.of,
        effort=body.effort,
        finished=body.finished,
        counted_on=body.counted_on,
    )
    kept = fieldwork.keep_tally(context, trial_id, number, entry)
    return tuple(s.TallyOut.model_validate(t) for t in kept)


@router.get("/trials/{trial_id}/looks/{number}/tallies/{plant_id}")
def tally_history(
    context: Ctx,
    trial_id: TrialId,
    number: Number,
    plant_id: PlantId,
    measure: Annotated[str, Query(max_length=20)],
) -> tuple[s.TallyOut, ...]:
    """Return every count kept of a plant at a look, the oldest first."""
    found = fieldwork.tally_history(context, trial_id, number, plant_id, measure)
    return tuple(s.TallyOut.model_validate(t) for t in found)


@router.get("/trials/{trial_id}/verdict")
def verdict(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> VerdictOut:
    """Judge the trial at a look, by default the last with counts."""
    found = verdicts.verdict_of(context, trial_id, look)
    return VerdictOut(
        verdict=VerdictBody.model_validate(found.verdict.to_dict()),
        final=found.final,
        look_number=found.look_number,
        notes=found.notes,
        reading=found.reading,
        early=found.early,
    )


@router.get("/trials/{trial_id}/table.csv", response_class=Response)
def table(context: Ctx, trial_id: TrialId) -> Response:
    """Return the finished counts as a tidy table (CSV)."""
    return Response(
        verdicts.table_of(context, trial_id),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="trial-{trial_id}.csv"'},
    )
