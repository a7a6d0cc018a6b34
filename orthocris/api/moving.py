"""Routes of the garden taken along and brought in; from other devices they are not reached."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Body, Response

from orthocris.api.base import Out
from orthocris.api.files import ZIP, Zip
from orthocris.api.requests import Ctx, Key, MadeAt
from orthocris.services import moving

router = APIRouter(prefix="/api/moving")
Package = Annotated[bytes, Body(media_type="application/zip")]


class ComingTrialOut(Out):
    """A trial that would come in, and what it would be called here."""

    name: str
    called: str
    start_on: date
    plants: int
    numbers: int


class ComingOut(Out):
    """What a package would bring in; `beside` in words, `pictures_missing` are not in it."""

    title: str
    trials: tuple[ComingTrialOut, ...]
    beside: tuple[str, ...]
    pictures: int
    pictures_missing: int


class CameOut(Out):
    """The first trial that came in, None where there was none."""

    trial_id: int | None


@router.get("/garden.zip", response_class=Response, responses=ZIP)
def garden(context: Ctx) -> Zip:
    """Return all there is as a data package: every table, and the photos."""
    return Zip(
        moving.garden_bundle(context),
        headers={"Content-Disposition": 'attachment; filename="garden.zip"'},
    )


@router.post("/look")
def look_through(context: Ctx, body: Package) -> ComingOut:
    """Return what a package of a garden or a trial would bring in; nothing is kept."""
    return ComingOut.model_validate(moving.look_through(context, body))


@router.post("", status_code=201)
def bring_in(context: Ctx, made_at: MadeAt, body: Package, key: Key = None) -> CameOut:
    """Bring in all that a package holds, beside what is there, or nothing."""
    trial_id = moving.bring_in(context, body, key) or None
    made_at(f"/api/trials/{trial_id}" if trial_id else "/api/trials")
    return CameOut(trial_id=trial_id)
