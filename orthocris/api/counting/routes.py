"""Routes of counting."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from orthocris.api.counting.schemas import (
    AgreementOut,
    ClusterWatchOut,
    CountCheckOut,
    CountSheetOut,
    SamplingOut,
    SettleIn,
    TallyIn,
    TallyOut,
    TapsIn,
    TapsOut,
)
from orthocris.api.requests import Ctx, DayNumber, Device, PlantId, TrialId
from orthocris.core.counting.agreement import agreement_note
from orthocris.core.trial.measures import MeasureKey
from orthocris.services.counting import advice, keeping, sheets

router = APIRouter(prefix="/api")


@router.post("/taps")
def keep_taps(context: Ctx, device: Device, body: TapsIn) -> TapsOut:
    """Keep taps of one device, each once however often it is sent; answers once they are safe."""
    taps = [tap.to_core() for tap in body.taps]
    return TapsOut.of(keeping.keep_taps(context, taps, sent_at=body.sent_at, device=device))


@router.post("/trials/{trial_id}/looks/{number}/tallies")
def keep_tally(
    context: Ctx, trial_id: TrialId, number: DayNumber, body: TallyIn
) -> tuple[TallyOut, ...]:
    """Keep a count; answers once it is safe, with every count kept of that plant."""
    kept = keeping.keep_tally(context, trial_id, number, body.to_core())
    return tuple(TallyOut.model_validate(t) for t in kept)


@router.post("/trials/{trial_id}/looks/{number}/settle")
def settle_contest(
    context: Ctx, trial_id: TrialId, number: DayNumber, body: SettleIn
) -> CountSheetOut:
    """Say which of two counts of one sample is right; returns what holds of the look now."""
    keeping.settle_contest(context, trial_id, number, body.plant_id, body.sample, body.session)
    return CountSheetOut.model_validate(sheets.count_sheet(context, trial_id, number))


@router.get("/sampling")
def sampling(
    context: Ctx,
    trial_id: Annotated[int | None, Query(ge=1, le=2**31 - 1)] = None,
    plants: Annotated[int | None, Query(ge=1, le=1000)] = None,
    mean: Annotated[float | None, Query(ge=0, le=1_000_000, allow_inf_nan=False)] = None,
) -> SamplingOut:
    """Return how sure numbers of leaves make a plant's mean, and how long they take."""
    return SamplingOut.model_validate(advice.sampling_advice(context, trial_id, plants, mean))


@router.get("/trials/{trial_id}/looks/{number}/checks")
def checks(context: Ctx, trial_id: TrialId, number: DayNumber) -> tuple[CountCheckOut, ...]:
    """Return what is worth a second look while a look is counted."""
    found = advice.checks_at(context, trial_id, number)
    return tuple(CountCheckOut.model_validate(check) for check in found)


@router.get("/trials/{trial_id}/looks/{number}/sheet")
def count_sheet(
    context: Ctx,
    trial_id: TrialId,
    number: DayNumber,
    person: Annotated[str, Query(max_length=40)] = "",
) -> CountSheetOut:
    """Return what was counted at a look so far, or what a second person counted: that alone."""
    found = sheets.count_sheet(context, trial_id, number, person.strip())
    return CountSheetOut.model_validate(found)


@router.get("/trials/{trial_id}/eggs")
def egg_watch(context: Ctx, trial_id: TrialId) -> tuple[ClusterWatchOut, ...]:
    """Return how each egg cluster went so far; it names no remedy."""
    found = sheets.egg_watch(context, trial_id)
    return tuple(ClusterWatchOut.model_validate(one) for one in found)


@router.get("/trials/{trial_id}/looks/{number}/agreement")
def agreement(context: Ctx, trial_id: TrialId, number: DayNumber) -> tuple[AgreementOut, ...]:
    """Return how second people's numbers compare with those that hold."""
    return tuple(
        AgreementOut(
            **{name: getattr(found, name) for name in AgreementOut.model_fields if name != "says"},
            says=agreement_note(found),
        )
        for found in sheets.agreements(context, trial_id, number)
    )


@router.get("/trials/{trial_id}/looks/{number}/tallies/{plant_id}")
def tally_history(
    context: Ctx,
    trial_id: TrialId,
    number: DayNumber,
    plant_id: PlantId,
    measure: Annotated[MeasureKey, Query()],
) -> tuple[TallyOut, ...]:
    """Return every count kept of a plant at a look, the oldest first."""
    found = sheets.tally_history(context, trial_id, number, plant_id, measure)
    return tuple(TallyOut.model_validate(t) for t in found)
