"""Routes of what the program knows."""

from __future__ import annotations

from dataclasses import replace

from fastapi import APIRouter

from orthocris import __version__
from orthocris.api.base import Date
from orthocris.api.field.schemas import CareIO
from orthocris.api.knowledge.schemas import (
    ClassOut,
    CropOut,
    DisorderOut,
    Health,
    Knowledge,
    MeasureOut,
    Numbers,
    OwnPestIn,
    OwnPestOut,
    PestOut,
    SignOut,
    WayOut,
)
from orthocris.api.requests import Ctx, ErrorOut, Key, MadeAt, RowId
from orthocris.api.trial.setup_schemas import SetupIO
from orthocris.core.counting.classes import CLASSES
from orthocris.core.pantry.household import HOUSEHOLD
from orthocris.core.trial.care import Care
from orthocris.core.trial.measures import EGG_MEASURE, MEASURES
from orthocris.core.trial.own_pests import OwnPest
from orthocris.core.trial.plants import LEAST_BLOCKS, MAX_PLANTS, USUAL_BLOCKS
from orthocris.core.trial.question import MAX_REMEDIES
from orthocris.core.trial.setup import EGG_UNIT, Setup
from orthocris.core.trial.ways import WAYS
from orthocris.knowledge import disorders, pests, signs
from orthocris.services.finding import OWN_TOLERANCE
from orthocris.services.trial.crops import crops_on
from orthocris.services.trial.own_pests import (
    as_pest,
    change_pest,
    drop_pest,
    keep_pest,
    own_pests,
)

router = APIRouter(prefix="/api")


@router.get("/health", responses={503: {"model": ErrorOut}})  # the model of all errors
def health() -> Health:
    """Tell that the application is ready (the data is migrated before it listens)."""
    return Health(status="ok", version=__version__)


@router.get("/knowledge")
def knowledge() -> Knowledge:
    """Return the pests and measures the program knows."""
    return Knowledge(
        numbers=Numbers(
            least_blocks=LEAST_BLOCKS,
            usual_blocks=USUAL_BLOCKS,
            most_plants=MAX_PLANTS,
            household=HOUSEHOLD,
            most_remedies=MAX_REMEDIES,
            own_tolerance=OWN_TOLERANCE,
            egg_measure=EGG_MEASURE,
            egg_unit=EGG_UNIT,
            care=CareIO.model_validate(Care()),
            setup=SetupIO.model_validate(Setup()),
            classes=tuple(ClassOut.model_validate(kind) for kind in CLASSES),
        ),
        ways=tuple(WayOut.model_validate(way) for way in WAYS.values()),
        pests=tuple(PestOut.model_validate(p) for p in pests()),
        measures=tuple(MeasureOut.model_validate(m) for m in MEASURES.values()),
        signs=tuple(SignOut.model_validate(x) for x in signs()),
        disorders=tuple(DisorderOut.model_validate(x) for x in disorders()),
    )


@router.get("/crops")
def crops_of_the_day(context: Ctx, on: Date) -> tuple[CropOut, ...]:
    """Return the garden and house plants known by name, as they are on a day in this yard."""
    return tuple(CropOut.model_validate(crop) for crop in crops_on(context, on))


@router.get("/own-pests")
def own(context: Ctx) -> tuple[OwnPestOut, ...]:
    """Return the gardener's own pests, laid out as the shipped ones."""
    return tuple(_own(pest) for pest in own_pests(context))


@router.post("/own-pests", status_code=201)
def keep_own_pest(context: Ctx, made_at: MadeAt, body: OwnPestIn, key: Key = None) -> OwnPestOut:
    """Keep a pest of the gardener's own."""
    kept = keep_pest(context, body.to_core(), key)
    made_at(f"/api/own-pests/{kept.id}")
    return _own(kept)


@router.put("/own-pests/{pest_id}")
def change_own_pest(context: Ctx, pest_id: RowId, body: OwnPestIn) -> OwnPestOut:
    """Change a pest of the list."""
    return _own(change_pest(context, replace(body.to_core(), id=pest_id)))


@router.delete("/own-pests/{pest_id}", status_code=204)
def drop_own_pest(context: Ctx, pest_id: RowId) -> None:
    """Take a pest off the list; trials of it keep its name."""
    drop_pest(context, pest_id)


def _own(pest: OwnPest) -> OwnPestOut:
    laid_out = PestOut.model_validate(as_pest(pest))
    return OwnPestOut(id=pest.id, **laid_out.model_dump())
