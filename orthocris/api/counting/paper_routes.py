"""The route of a trial that was done on paper, and its shapes."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter
from pydantic import Field, StringConstraints

from orthocris.api.base import Date, In, Out, Real
from orthocris.api.requests import Ctx, Key, TrialId
from orthocris.api.trial.schemas import TrialOut
from orthocris.api.trial.views import trial_view
from orthocris.core.counting.paper import Paper, PaperCount, PaperPlant
from orthocris.core.trial.measures import MeasureKey
from orthocris.services.counting.paper import enter_paper, read_table
from orthocris.services.trial import overviews

router = APIRouter(prefix="/api")
MOST = 240  # plants
Name = Annotated[str, StringConstraints(max_length=80)]
Number = Annotated[int, Field(ge=0, le=1000)]


class PaperPlantIn(In):
    """A plant of the paper, its block, and what it got by name or letter."""

    name: Annotated[str, StringConstraints(max_length=40)]
    block: Name = ""
    remedy: Name


class PaperDayIn(In):
    """The true day of a round or look, by its number."""

    number: Number
    on: Date


class PaperCountIn(In):
    """A number on the paper."""

    plant: Name
    look: Number
    measure: MeasureKey
    value: Real
    of: Real | None = None
    effort: Real = 1.0


class PaperIn(In):
    """All that is entered in one sitting; parts that were entered before stay empty."""

    plants: Annotated[list[PaperPlantIn], Field(max_length=MOST)] = Field(default_factory=list)
    rounds: Annotated[list[PaperDayIn], Field(max_length=30)] = Field(default_factory=list)
    looks: Annotated[list[PaperDayIn], Field(max_length=31)] = Field(default_factory=list)
    counts: Annotated[list[PaperCountIn], Field(max_length=20_000)] = Field(default_factory=list)

    def to_core(self) -> Paper:
        """Return it as the core takes it."""
        return Paper(
            tuple(PaperPlant(p.name, p.block, p.remedy) for p in self.plants),
            tuple((d.number, d.on) for d in self.rounds),
            tuple((d.number, d.on) for d in self.looks),
            tuple(PaperCount(**c.model_dump()) for c in self.counts),
        )


class PastedIn(In):
    """Cells of a pasted table, its header first; `month_first`: the order of its dates, if said."""

    rows: Annotated[
        list[
            Annotated[list[Annotated[str, StringConstraints(max_length=200)]], Field(max_length=80)]
        ],
        Field(min_length=1, max_length=2_000),
    ]
    month_first: bool | None = None


class SaidDateOut(Out):
    """A date that can be two: with the day first, and (`other`) with the month first."""

    text: str
    on: date
    other: date | None


class PastedOut(Out):
    """What a pasted table says under the columns of the trial's own; `headed` False: no header.

    A column is named plant, block, remedy, or value/1, of/1, damage/1, other/1 for look 1.
    """

    headed: bool
    lines: tuple[dict[str, str], ...] = ()
    looks: tuple[PaperDayIn, ...] = ()
    asked: tuple[SaidDateOut, ...] = ()
    left: tuple[str, ...] = ()


@router.post("/trials/{trial_id}/paper/read")
def read(context: Ctx, trial_id: TrialId, body: PastedIn) -> PastedOut:
    """Read a pasted table by the names of its columns; nothing is kept."""
    found = read_table(context, trial_id, body.rows, month_first=body.month_first)
    if found is None:
        return PastedOut(headed=False)
    return PastedOut(
        headed=True,
        lines=found.lines,
        looks=tuple(PaperDayIn(number=number, on=on) for number, on in found.looks),
        asked=tuple(SaidDateOut.model_validate(said) for said in found.asked),
        left=found.left,
    )


@router.post("/trials/{trial_id}/paper")
def enter(context: Ctx, trial_id: TrialId, body: PaperIn, key: Key = None) -> TrialOut:
    """Enter a trial that was done on paper: all of it, or (with the first fault named) nothing."""
    enter_paper(context, trial_id, body.to_core(), key)
    return trial_view(overviews.overview(context, trial_id))
