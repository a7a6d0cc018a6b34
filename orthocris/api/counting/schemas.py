"""Counts over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field, StringConstraints

from orthocris.api.base import Id, In, Out, Real
from orthocris.core.counting.tally import TallyEntry
from orthocris.core.trial.measures import MeasureKey


class TallyIn(In):
    """A number counted on a plant; `session` and `step` order what one device sends.

    `counted_on` is the day it was counted on: today, or that of the number it corrects, when
    left out.
    """

    plant_id: Id
    measure: MeasureKey
    value: Real | None
    of: Real | None = None
    effort: Real = 1.0
    finished: bool
    session: Annotated[str, StringConstraints(min_length=8, max_length=64)]
    step: Annotated[int, Field(ge=0, le=2**31 - 1)]
    counted_on: date | None = None

    def to_core(self) -> TallyEntry:
        """Return it as the core takes it."""
        return TallyEntry(**self.model_dump())


class TallyOut(Out):
    """A number kept; null when it was withdrawn."""

    id: int
    look_id: int
    plant_id: int
    measure: MeasureKey
    value: float | None
    of: float | None
    effort: float
    finished: bool
    counted_at: datetime
    counted_on: date


class CountSheetOut(Out):
    """What was counted at one look; see `services.counting.CountSheet`."""

    tallies: tuple[TallyOut, ...]
    early: tuple[int, ...]
    totals: dict[int, float]
