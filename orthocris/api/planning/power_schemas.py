"""How many plants a trial needs, over HTTP."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, BeforeValidator, Field

from orthocris.api.base import In, Out, Real
from orthocris.api.planning.schemas import _known


class PowerIn(In):
    """Assumptions to simulate under; efficacies of the remedies beside the control."""

    efficacies: Annotated[list[Real], Field(max_length=11)] | None = None
    growth: Real = 1.0
    dispersion: Real = 4.0


class FoundOut(Out):
    """The fraction that a remedy removed in earlier trials on the whole, and in how many."""

    remedy_id: int
    removed: float
    trials: int


class PowerPointOut(Out):
    """What to expect of one size."""

    blocks: int
    plants: int
    trials: int
    best_named: float
    false_winner: float
    best_beats: float
    second_beats: float
    width: Annotated[float | None, BeforeValidator(_known)]


class PowerOut(BaseModel):
    """A simulation, under way or done."""

    id: int
    state: str
    progress: float
    at_hand: int
    efficacies: tuple[float, ...]
    points: tuple[PowerPointOut, ...]
    waves: PowerPointOut | None
    answer: str
