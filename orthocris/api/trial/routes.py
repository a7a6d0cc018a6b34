"""The routes under /api. Those that touch the data are plain functions, run in threads."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, BackgroundTasks, Depends, Query, Request, Response

from orthocris.api.answers import tag_of
from orthocris.api.requests import Ctx, IfMatch, Key, MadeAt, PlantId, TrialId
from orthocris.api.trial.schemas import (
    LayoutIn,
    PlantIn,
    PlantOut,
    PlantsIn,
    QuestionIn,
    TodayOut,
    TrialListOut,
    TrialOut,
    TrialRowOut,
)
from orthocris.api.trial.views import plant_view, trial_view
from orthocris.core.trial.trial import Plant
from orthocris.services.planning import layouts
from orthocris.services.trial import benches, overviews, questions
from orthocris.services.trial.benches import bench_revision
from orthocris.services.trial.board import TodayBoard

router = APIRouter(prefix="/api")


async def board_of(request: Request) -> TodayBoard:
    """Return the board of this program."""
    found: TodayBoard = request.app.state.today
    return found


@router.get("/today", response_model=TodayOut)
def today(board: Annotated[TodayBoard, Depends(board_of)]) -> Response:
    """Return what is due across all trials."""
    return Response(board.read(), media_type="application/json")


@router.post("/trials", status_code=201)
def create_trial(context: Ctx, made_at: MadeAt, body: QuestionIn, key: Key = None) -> TrialOut:
    """Set up a trial from its question; return it."""
    made = questions.create_trial(context, body.to_core(), body.start_on, key)
    made_at(f"/api/trials/{made}")
    return trial_view(overviews.overview(context, made))


@router.post("/trials/{trial_id}/copy", status_code=201)
def copy_trial(context: Ctx, made_at: MadeAt, trial_id: TrialId, key: Key = None) -> TrialOut:
    """Plan a trial again, on its places, from today; return the new one."""
    made = questions.copy_trial(context, trial_id, key)
    made_at(f"/api/trials/{made}")
    return trial_view(overviews.overview(context, made))


@router.get("/trials")
def list_trials(
    context: Ctx,
    limit: Annotated[int, Query(ge=1, le=200)] = 50,
    after: Annotated[int, Query(ge=0, le=2**31 - 1)] = 0,
) -> TrialListOut:
    """Return trials by the order of their ids, those put away too; `next` begins the next page."""
    found = overviews.list_trials(context, limit=limit, after=after)
    return TrialListOut(
        trials=tuple(TrialRowOut.model_validate(row) for row in found),
        next=found[-1].id if len(found) == limit else None,
    )


@router.get("/trials/{trial_id}", response_model=TrialOut)
def get_trial(context: Ctx, trial_id: TrialId) -> Response:
    """Return a whole trial; its ETag goes back with a change of its question, care or plants."""
    found = overviews.overview(context, trial_id)
    body = trial_view(found).model_dump_json().encode()
    bench = bench_revision(found.trial.plants)
    tag = tag_of(body, found.question_revision, found.care_revision, bench)
    return Response(body, media_type="application/json", headers={"ETag": tag})


@router.delete("/trials/{trial_id}", status_code=204)
def remove_trial(context: Ctx, trial_id: TrialId, with_records: bool = False) -> None:
    """Put a trial away; one that holds records only when `with_records` says that it is meant."""
    questions.remove_trial(context, trial_id, with_records=with_records)


@router.post("/trials/{trial_id}/restore")
def bring_back(context: Ctx, trial_id: TrialId) -> TrialOut:
    """Bring back a trial that was put away."""
    questions.bring_back(context, trial_id)
    return trial_view(overviews.overview(context, trial_id))


@router.put("/trials/{trial_id}/question")
def change_question(
    context: Ctx, trial_id: TrialId, body: QuestionIn, revision: IfMatch = None
) -> TrialOut:
    """Change the question; after the first spray only names."""
    questions.change_question(context, trial_id, body.to_core(), body.start_on, revision)
    return trial_view(overviews.overview(context, trial_id))


@router.post("/trials/{trial_id}/plants", status_code=201)
def add_plants(
    context: Ctx, made_at: MadeAt, trial_id: TrialId, body: PlantsIn, key: Key = None
) -> tuple[PlantOut, ...]:
    """Add rows of plants; return them."""
    made = benches.add_plants(
        context,
        trial_id,
        prefix=body.prefix,
        rows=body.rows,
        per_row=body.per_row,
        row_is_plant=body.row_is_plant,
        key=key,
    )
    made_at(f"/api/trials/{trial_id}")
    return tuple(plant_view(plant) for plant in made)


@router.put("/trials/{trial_id}/plants/{plant_id}")
def change_plant(
    context: Ctx, trial_id: TrialId, plant_id: PlantId, body: PlantIn, revision: IfMatch = None
) -> TrialOut:
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
            host=body.host or None,
            died_on=body.died_on,
        ),
        revision,
    )
    return trial_view(overviews.overview(context, trial_id))


@router.delete("/trials/{trial_id}/plants/{plant_id}", status_code=204)
def remove_plant(context: Ctx, trial_id: TrialId, plant_id: PlantId) -> None:
    """Remove a plant that was not counted yet."""
    benches.remove_plant(context, trial_id, plant_id)


@router.post("/trials/{trial_id}/layout")
def draw_layout(
    context: Ctx, trial_id: TrialId, body: LayoutIn, behind: BackgroundTasks, key: Key = None
) -> TrialOut:
    """Form blocks and allot remedies at random."""
    layouts.draw_layout(context, trial_id, reason=body.reason, seed=body.seed, key=key)
    behind.add_task(layouts.draw_others, context, trial_id)
    return trial_view(overviews.overview(context, trial_id))
