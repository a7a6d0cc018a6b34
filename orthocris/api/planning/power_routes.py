"""Routes of how many plants a trial needs."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Path, Request

from orthocris.api.planning.power_schemas import FoundOut, PowerIn, PowerOut, PowerPointOut
from orthocris.api.requests import Ctx, Key, TrialId
from orthocris.services.planning.powers import PowerJob, PowerJobs
from orthocris.services.verdict.before import found_before

router = APIRouter(prefix="/api")


async def jobs_of(request: Request) -> PowerJobs:
    """Return the simulations of this program."""
    found: PowerJobs = request.app.state.power_jobs
    return found


Jobs = Annotated[PowerJobs, Depends(jobs_of)]


@router.post("/trials/{trial_id}/power", status_code=202)
def begin_power(
    context: Ctx, jobs: Jobs, trial_id: TrialId, body: PowerIn, key: Key = None
) -> PowerOut:
    """Begin to simulate this design."""
    efficacies = None if body.efficacies is None else tuple(body.efficacies)
    return _power(jobs.begin(context, trial_id, efficacies, body.growth, body.dispersion, key))


@router.get("/trials/{trial_id}/power/earlier")
def found_earlier(context: Ctx, trial_id: TrialId) -> tuple[FoundOut, ...]:
    """Return what earlier trials found of this plan's remedies, to reckon with."""
    return tuple(FoundOut.model_validate(one) for one in found_before(context, trial_id))


@router.get("/power/{job_id}")
def power(jobs: Jobs, job_id: JobId) -> PowerOut:
    """Return how far a simulation is and what it found."""
    return _power(jobs.find(job_id))


@router.delete("/power/{job_id}", status_code=204)
def cancel_power(jobs: Jobs, job_id: JobId) -> None:
    """Stop a simulation."""
    jobs.cancel(job_id)


def _power(job: PowerJob) -> PowerOut:
    return PowerOut(
        id=job.id,
        state=job.state,
        progress=job.progress,
        at_hand=job.at_hand,
        efficacies=job.assumptions.efficacies,
        points=tuple(PowerPointOut.model_validate(x) for x in job.points),
        waves=None if job.waves is None else PowerPointOut.model_validate(job.waves),
        answer=job.answer,
    )


JobId = Annotated[int, Path(ge=1, le=2**31 - 1)]
