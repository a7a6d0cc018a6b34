"""What goes in and out over HTTP while a trial is planned."""

from __future__ import annotations

import math
from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, BeforeValidator, Field, StringConstraints

from orthocris.api.base import In, Number, Out
from orthocris.api.schemas import RemedyIn
from orthocris.api.setup_schemas import SetupIO
from orthocris.core.finding.triage import Action

Key = Annotated[str, StringConstraints(max_length=80)]
Whole = Annotated[int, Field(ge=-(10**6), le=10**6)]


class CandidateOut(Out):
    """A pest that fits some of the signs."""

    key: str
    fit: float
    seen: tuple[str, ...]
    unexplained: tuple[str, ...]


class LookIn(In):
    """A look round."""

    pest: Key
    place: Key = ""
    signs: Annotated[list[Key], Field(max_length=40)] = Field(default_factory=list)
    looked: Whole
    affected: Whole
    helpers: Whole = 0
    vigorous: bool = True
    wilting: bool = False


class ActionOut(Out):
    """What a look calls for, with the numbers that led to it."""

    action: Action
    reason: str
    share: float
    trend: str


class LookRecordOut(Out):
    """A look round as it is kept."""

    id: int
    seen_at: datetime
    place: str
    pest: str
    signs: tuple[str, ...]
    looked: int
    affected: int
    helpers: int
    action: Action
    reason: str


class IngredientOut(Out):
    """An ingredient of a shipped remedy with its usual range."""

    key: str
    name: str
    amount: float
    unit: str
    low: float
    high: float


class SchoolOut(Out):
    """A school and its reason."""

    name: str
    reason: str


class CatalogueOut(BaseModel):
    """A shipped remedy, with the reasons against it here."""

    key: str
    name: str
    role: str
    way: str
    acts: str
    recipe: str
    ingredients: tuple[IngredientOut, ...]
    schools: tuple[SchoolOut, ...]
    usual_ladder: tuple[float, ...]
    reasons: tuple[str, ...]


class SuitIn(In):
    """For which pest and setup remedies are asked for."""

    pest: Key
    setup: SetupIO = Field(default_factory=SetupIO)


class ProposalIn(In):
    """Which remedies to make from the shipped list.

    One key and strengths: a ladder; `square` with two keys: two-by-two; else one remedy each.
    """

    keys: Annotated[list[Key], Field(min_length=1, max_length=11)]
    strengths: Annotated[list[Number], Field(max_length=10)] | None = None
    square: bool = False


class ProposalOut(BaseModel):
    """Remedies for a question."""

    remedies: list[RemedyIn]


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


class PowerIn(In):
    """Assumptions to simulate under; efficacies of the remedies beside the control."""

    efficacies: Annotated[list[Number], Field(max_length=11)] | None = None
    growth: Number = 1.0
    dispersion: Number = 4.0


def _known(value: float) -> float | None:
    """JSON has no word for a number that is not known."""
    return None if math.isnan(value) else value


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
    answer: str


class PrintsOut(BaseModel):
    """Addresses of what can be printed, by paper."""

    sheet: dict[str, str]
    tags: dict[str, tuple[str, ...]]
