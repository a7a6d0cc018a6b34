"""What goes in and out over HTTP while a trial is planned."""

from __future__ import annotations

import math
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from orthocris.api.base import In, Out
from orthocris.api.trial.schemas import QuestionIn, RemedyIn
from orthocris.core.planning.remarks import RemarkOn
from orthocris.core.planning.units import MOST_LEAVES
from orthocris.core.trial.measures import MeasureKey
from orthocris.core.trial.plants import MAX_PLACES, MAX_PLANTS, MAX_ROWS
from orthocris.core.trial.question import MAX_REMEDIES
from orthocris.core.trial.setup import Kind, Unit

Key = Annotated[str, StringConstraints(max_length=80)]
MatchCount = Annotated[float, Field(allow_inf_nan=False, ge=0, le=1e6)]
Whole = Annotated[int, Field(ge=-(10**6), le=10**6)]


class PlanChangeOut(Out):
    """One thing a mend changes, before and after."""

    what: str
    before: str
    after: str


class MendOut(Out):
    """A mend that was carried out and can be taken back."""

    label: str
    made_at: datetime


class FindingOut(BaseModel):
    """A fault of the plan, its mend, and what the mend would change."""

    code: str
    title: str
    harm: str
    mend: str | None
    changes: tuple[PlanChangeOut, ...]


class PlaceIn(In):
    """A plant that is still being said: where it stands, and the quick count of it."""

    row: Annotated[int, Field(ge=1, le=MAX_ROWS)]
    place: Annotated[int, Field(ge=1, le=MAX_PLACES)]
    match_count: MatchCount | None = None


class RemarksIn(In):
    """A plan that is still being said."""

    question: QuestionIn
    plants: Annotated[list[PlaceIn], Field(max_length=MAX_PLANTS)] = Field(default_factory=list)


class RemarkOut(BaseModel):
    """A finding, what it is about (and which remedy), and the plan as its mend would have it."""

    code: str
    harm: str
    about: RemarkOn
    remedy: str | None
    mend: str | None
    mended: QuestionIn | None


class OverruleOut(Out):
    """A finding that was overruled."""

    code: str
    finding: str
    reason: str
    made_at: datetime


class CritiqueOut(BaseModel):
    """The critic's review, and what the verdict will be able to say."""

    findings: tuple[FindingOut, ...]
    overruled: tuple[OverruleOut, ...]
    promise: str
    mended: MendOut | None


class OverruleIn(In):
    """Why a finding does not matter here."""

    reason: Annotated[str, StringConstraints(max_length=500)]


class MoveIn(In):
    """Where a plant goes."""

    row: Whole
    place: Whole


def _known(value: float) -> float | None:
    """JSON has no word for a number that is not known."""
    return None if math.isnan(value) else value


class GlanceIn(In):
    """So many plants for so many remedies, the control among them, and what is worth it."""

    plants: Annotated[int, Field(ge=1, le=MAX_PLANTS)]
    remedies: Annotated[int, Field(ge=2, le=MAX_REMEDIES)]
    threshold: Annotated[float, Field(allow_inf_nan=False, gt=0, lt=1)]
    measure: MeasureKey = MeasureKey.LIVE
    usual: bool = False
    unit: Unit = Unit.PLANT
    each: Annotated[int, Field(ge=1, le=MAX_PLACES)] = 1
    kind: Kind = Kind.COMPARE
    starts: Annotated[tuple[MatchCount, ...], Field(max_length=MAX_PLANTS)] = ()
    looks: Annotated[int, Field(ge=0, le=100)] = 1
    two_looks: bool = False
    whole: bool = False


class TakingIn(In):
    """The remedies of a plan, how many plants get each, and how much, so many times."""

    remedies: Annotated[list[RemedyIn], Field(max_length=MAX_REMEDIES)]
    plants: Annotated[int, Field(ge=1, le=MAX_PLANTS)]
    ml: Annotated[float, Field(allow_inf_nan=False, gt=0, le=10_000)]
    times: Annotated[int, Field(ge=0, le=100)]


class TakingOut(Out):
    """What the mixes of a plan take; see the service's `Taking`."""

    bottle: float | None
    fills: int
    cost: float | None
    currency: str
    unpriced: tuple[str, ...]
    unread: tuple[str, ...]


class ChanceOut(Out):
    """How often something would be shown, as a share of simulated trials."""

    says: str
    share: float


class GlanceOut(Out):
    """How sure such a plan would be."""

    blocks: int
    over: int
    says: str
    chances: tuple[ChanceOut, ...]
    assumed: str


class WayToTellOut(Out):
    """Another plan for the same plants, and how often it would show a clear remedy."""

    says: str
    unit: Unit
    each: int
    remedies: int
    share: float
    two_looks: bool


class UnitProposalOut(Out):
    """So many leaves or halves of each plant, and what a trial of them can show."""

    unit: Unit
    each: int
    says: str


class SplitIn(In):
    """Leaves or halves in the place of each plant."""

    unit: Literal[Unit.LEAF, Unit.SHOOT, Unit.HALF]
    each: Annotated[int, Field(ge=2, le=MOST_LEAVES)]
