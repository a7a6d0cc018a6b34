"""Spray rounds and the schedule over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field, StringConstraints

from orthocris.api.base import Date, Id, In, Instant, Line, Out, Real
from orthocris.api.field.schemas import Reason, Short, StageIO
from orthocris.core.field.rounds import Checks
from orthocris.core.field.stopping import Next
from orthocris.core.trial.mess import MessKind
from orthocris.core.trial.sprays import EventKind, SprayEntry, SprayKind
from orthocris.core.trial.stages import RoundRhythm


class ChecksIn(In):
    """What the gardener says before a round; `reasons` overrule by code."""

    shaken: bool = False
    cautions_read: bool = False
    bees_looked: bool = False
    fruit_looked: bool = False
    weather_looked: bool = False
    done_on: Date | None = None
    batches: dict[Annotated[str, StringConstraints(max_length=1)], Id] = Field(default_factory=dict)
    reasons: dict[Short, Annotated[Line, Field(max_length=500)]] = Field(default_factory=dict)

    def to_core(self) -> Checks:
        """Return the core's checks, without the bottles: their letters are read by the service."""
        return Checks(**self.model_dump(exclude={"batches"}))


class BlockerOut(Out):
    """Something that holds a round back."""

    code: str
    text: str
    fix: str
    overrulable: bool


class SprayIn(In):
    """What one plant got.

    `key` names the tap, so that one sent twice is kept once; `tapped_at` is when it was done by
    the clock of a device that was out of reach.
    """

    plant_id: Id
    kind: SprayKind = SprayKind.SPRAYED
    volume: Real | None = None
    undersides: bool = True
    drifted: bool = False
    neighbour_id: Id | None = None
    deviation: Reason = ""
    note: Reason = ""
    key: Annotated[str, StringConstraints(min_length=8, max_length=64)] | None = None
    tapped_at: Instant | None = None

    def to_core(self) -> SprayEntry:
        """Return the core's entry."""
        return SprayEntry(**self.model_dump())


class UndoIn(In):
    """Why a whole round is taken back or left out."""

    reason: Reason


class MessIn(In):
    """What a bottle was like to use, and how its leaves dried, by letter; nothing: it was fine."""

    letter: Annotated[str, StringConstraints(min_length=1, max_length=4)]
    kinds: Annotated[tuple[MessKind, ...], Field(max_length=20)]


class EventOut(Out):
    """What happened to a round."""

    at: datetime
    kind: EventKind
    amount: float
    text: str


class RoundProposalOut(Out):
    """When to spray next, by one rhythm."""

    rhythm: RoundRhythm
    first: date | None
    last: date | None
    on: date | None
    reason: str


class GenerationsOut(Out):
    """What becomes of the eggs left behind, day by day."""

    days: tuple[date, ...]
    eggs: tuple[float, ...]
    young: tuple[float, ...]
    grown: tuple[float, ...]
    hatched_on: date | None
    lays_on: date | None
    safe_stages: tuple[str, ...]


class StopAdviceOut(Out):
    """What a look calls for."""

    action: Next
    reason: str
    best_left: float | None
    best_efficacy: float | None


class ScheduleOut(Out):
    """What comes next in a trial."""

    stages: tuple[StageIO, ...]
    generations: GenerationsOut | None
    last_spray: date | None
    proposals: tuple[RoundProposalOut, ...]
    advice: StopAdviceOut | None
    decided_at: int | None
    next_number: int | None
    next_on: date | None
    moved: RoundProposalOut | None
    degree_days: bool


class MoveRoundIn(In):
    """A round moved to another day."""

    on: Date
    reason: Reason
