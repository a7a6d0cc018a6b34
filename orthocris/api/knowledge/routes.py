"""Routes of what the program knows."""

from __future__ import annotations

from fastapi import APIRouter

from orthocris import __version__
from orthocris.api.knowledge.schemas import Health, Knowledge, MeasureOut, PestOut, SignOut
from orthocris.api.requests import ERRORS
from orthocris.core.trial.measures import MEASURES
from orthocris.knowledge import pests, signs

router = APIRouter(prefix="/api", responses=ERRORS)


@router.get("/health")
def health() -> Health:
    """Tell that the application is ready (the data is migrated before it listens)."""
    return Health(status="ok", version=__version__)


@router.get("/knowledge")
def knowledge() -> Knowledge:
    """Return the pests and measures the program knows."""
    return Knowledge(
        pests=tuple(PestOut.model_validate(p) for p in pests()),
        measures=tuple(MeasureOut.model_validate(m) for m in MEASURES.values()),
        signs=tuple(SignOut.model_validate(x) for x in signs()),
    )
