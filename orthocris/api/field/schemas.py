"""Patch tests, batches, spray rounds and the schedule over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from orthocris.api.base import Id, In, Instant, Out, Real
from orthocris.api.pantry.schemas import CautionOut, MixOut
from orthocris.core.field.patchtest import PatchOutcome
from orthocris.core.trial.batches import MixKind
from orthocris.core.trial.care import Care, Side, Spot
from orthocris.core.trial.patches import Harm, PatchWait
from orthocris.core.trial.stages import Phase, RoundRhythm, Stage
from orthocris.services.field.batches import BatchDraft, WaterBottle
from orthocris.services.field.patches import PatchDraft

Short = Annotated[str, StringConstraints(max_length=80)]
Reason = Annotated[str, StringConstraints(max_length=500)]
Score = Annotated[int, Field(ge=-1000, le=1000)]
Hours = Annotated[int, Field(ge=0, le=100_000)]


class LabelsOut(Out):
    """The pages of labels, and whether a phone can open what their codes lead to."""

    pages: tuple[str, ...]
    phones_can_open: bool


class SpotIO(In):
    """Where the bench stands."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    outdoors: bool = True
    bees: bool = True
    sun_side: Side = Side.NONE
    wind_side: Side = Side.NONE
    sun_from: Real = 0.0
    sun_to: Real = 24.0
    lamp_from: Real | None = None
    lamp_to: Real | None = None
    covered: bool = False
    rise: Real = 15.0
    night: bool = False
    room: Real | None = None


class StageIO(In):
    """A stage of the life cycle: degree-days above a threshold."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    name: Short
    phase: Phase
    k: Real
    t0: Real


class CareIO(In):
    """How a trial is cared for."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    leaf_kinds: Annotated[list[Short], Field(max_length=20)]
    patch_wait: PatchWait = PatchWait.TWO_DAYS
    slow_leaves: bool = False
    round_rhythm: RoundRhythm = RoundRhythm.PLAN
    spot: SpotIO = Field(default_factory=SpotIO)
    ml_per_plant: Real = 40.0
    margin: Real = 0.1
    days_between: Annotated[int, Field(ge=-1000, le=1000)] = 3
    low: Real | None = None
    high: Real | None = None
    wind: Real | None = None
    stages: Annotated[list[StageIO], Field(min_length=1, max_length=8)] | None = None

    def to_core(self) -> Care:
        """Return the core's care."""
        plain = self.model_dump(exclude={"spot", "stages", "leaf_kinds"})
        stages = None
        if self.stages is not None:
            stages = tuple(Stage(s.name, s.phase, s.k, s.t0) for s in self.stages)
        return Care(
            **plain,
            leaf_kinds=tuple(kind.strip() for kind in self.leaf_kinds),
            spot=Spot(**self.spot.model_dump()),
            stages=stages,
        )


class PatchIn(In):
    """A patch test put on at a time, null for now."""

    remedy_id: Id
    leaf_kind: Short
    leaves: Score = 3
    strength: Real = 1.0
    treated_before: Score = 0
    beside_before: Score = 0
    applied_at: Instant | None = None

    def to_core(self) -> PatchDraft:
        """Return the service's draft."""
        return PatchDraft(**self.model_dump())


class PatchReadingIn(In):
    """What was seen of a patch test."""

    hours: Hours
    treated: Score
    beside: Score
    harm: Harm = Harm.NONE


class PatchReadingOut(Out):
    """A reading kept."""

    hours: int
    seen_at: datetime
    treated: int
    beside: int
    harm: Harm


class PatchOut(BaseModel):
    """A patch test and its outcome."""

    id: int
    leaves: int
    strength: float
    applied_at: datetime
    treated_before: int
    beside_before: int
    readings: tuple[PatchReadingOut, ...]
    hours: tuple[int, ...]
    outcome: PatchOutcome
    worst: int
    reason: str
    next_look: datetime | None


class PatchCellOut(BaseModel):
    """One remedy on one kind of leaf; the newest test last."""

    remedy_id: int
    remedy: str
    leaf_kind: str
    left_out: bool
    hours: tuple[int, ...]
    tests: tuple[PatchOut, ...]


class PatchPlanOut(BaseModel):
    """The patch tests of a trial."""

    cells: tuple[PatchCellOut, ...]
    reason: str
    care: CareIO


class PouredPartOut(Out):
    """What went into a bottle."""

    name: str
    amount: float
    unit: str
    tool: str


class BatchOut(Out):
    """A batch as it was mixed.

    While the key is sealed it has its letter only: no remedy, title, recipe, parts, cost or note.
    """

    id: int
    letter: str | None
    remedy_id: int | None
    title: str
    kind: MixKind
    recipe: str
    volume: float
    parts: tuple[PouredPartOut, ...]
    mixed_at: datetime
    use_by: datetime | None
    acknowledged: tuple[str, ...]
    mixed_by: str
    cost: float | None
    note: str
    discarded_at: datetime | None
    usable: bool
    rounds: tuple[int, ...]
    step: int


class BatchIn(In):
    """A bottle just mixed."""

    volume: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)] | None = None
    recipe: Annotated[str, StringConstraints(max_length=500)] | None = None
    life_hours: Real | None = None
    acknowledged: Annotated[list[Short], Field(max_length=20)] = Field(default_factory=list)
    mixed_by: Annotated[str, StringConstraints(max_length=40)] = ""
    note: Reason = ""
    step: Annotated[int, Field(ge=0, le=9)] = 0
    mixed_at: Instant | None = None

    def to_core(self) -> BatchDraft:
        """Return the service's draft."""
        return BatchDraft(**{**self.model_dump(), "acknowledged": tuple(self.acknowledged)})


class CardOut(Out):
    """How a remedy is mixed and applied."""

    key: str
    kind: MixKind
    order_note: str
    life_hours: float | None
    agitation: str
    coverage: str
    suits: tuple[str, ...]
    spares: tuple[str, ...]
    oil: bool
    dose_sign: str
    aftercare: str


class WaterOut(Out):
    """The control's bottle: plain water, labelled like the others; `volume` in ml."""

    letter: str | None
    notches: int | None
    name: str
    plants: int
    volume: float

    @classmethod
    def of(cls, bottle: WaterBottle) -> WaterOut:
        """Return it as it is answered."""
        control = bottle.remedy
        return cls(
            letter=control.letter,
            notches=control.notches,
            name=control.name,
            plants=bottle.plants,
            volume=bottle.volume,
        )


class TestMixOut(Out):
    """What is mixed of a part of a remedy for a patch test; `unread` says why nothing is."""

    remedy_id: int
    step: int
    name: str
    recipe: str
    mix: MixOut | None
    unread: str
    strong: tuple[CautionOut, ...]


class BottleOut(Out):
    """A remedy's bottle: what it needs, how it is mixed, and what was mixed."""

    remedy_id: int
    letter: str | None
    notches: int | None
    batches: tuple[BatchOut, ...]
    plants: int
    volume: float
    card: CardOut
    mix: MixOut | None
    unread: str
    strong: tuple[CautionOut, ...]
    step: int
    name: str
    recipe: str
    on: tuple[int, ...]
