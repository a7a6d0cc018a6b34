"""Shapes of the rest of the garden: what it takes, and how it is followed."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field

from orthocris.api.base import Date, Id, In, Line, Out, Real
from orthocris.api.pantry.schemas import MixOut
from orthocris.core.field.rest import Act, Done, RestDraft, Which
from orthocris.core.field.rounds import Checks
from orthocris.core.trial.stages import RoundRhythm
from orthocris.services.field.rest import RestView, Said

Name = Annotated[Line, Field(max_length=200)]


class RestIn(In):
    """What is to be treated outside the trial; see the core's `RestDraft`."""

    remedy_id: Id
    which: Which = Which.SICK
    place: Name
    plants: Annotated[int, Field(ge=-(10**6), le=10**6)]
    start_on: Date
    ml_each: Real | None = None
    kinds: Annotated[tuple[Name, ...], Field(max_length=20)] = ()
    eaten: bool = False
    rhythm: RoundRhythm = RoundRhythm.EGG_CYCLE

    def to_core(self) -> RestDraft:
        """Return the core's draft."""
        return RestDraft(**self.model_dump())


class ActIn(In):
    """What was done, with the ticks and the reason before a spray."""

    act: Act
    on: Date
    pests: Real | None = None
    looked_at: Annotated[int, Field(ge=-(10**6), le=10**6)] | None = None
    harmed: bool = False
    cautions_read: bool = False
    bees_looked: bool = False
    fruit_looked: bool = False
    weather_looked: bool = False
    reason: Annotated[Line, Field(max_length=500)] = ""

    def to_core(self) -> Said:
        """Return what is said."""
        count = self.act is Act.COUNT
        return Said(
            Done(
                self.act,
                self.on,
                self.pests if count else None,
                self.looked_at if count else None,
                self.harmed,
            ),
            Checks(
                cautions_read=self.cautions_read,
                bees_looked=self.bees_looked,
                fruit_looked=self.fruit_looked,
                weather_looked=self.weather_looked,
                reasons={"window_closed": self.reason} if self.reason.strip() else {},
            ),
        )


class ShownOut(Out):
    """What the trial showed: the fraction removed, and its 95% limits."""

    removes: float
    low: float
    high: float


class RestChoiceOut(Out):
    """A remedy that may be taken for the rest."""

    remedy_id: int
    name: str
    shown: ShownOut
    ml_each: float | None


class DoneOut(Out):
    """An act that was done."""

    act: Act
    on: date
    pests: float | None
    looked_at: int | None
    harmed: bool
    reason: str


class DueOut(Out):
    """The next act, its day, and why."""

    act: Act
    on: date
    why: str


class TreatmentOut(Out):
    """A treatment of the rest as it is followed; `closed` says why this hour is no good one."""

    id: int
    remedy: str
    recipe: str
    which: Which
    place: str
    plants: int
    ml_each: float | None
    kinds: tuple[str, ...]
    eaten: bool
    shown: ShownOut
    done: tuple[DoneOut, ...]
    due: DueOut | None
    ended: str
    ended_by_hand: bool
    left: tuple[float, ...]
    said: str
    eating: str
    asked: tuple[str, ...]
    closed: tuple[str, ...]
    cautions: tuple[str, ...]

    @classmethod
    def of(cls, view: RestView, cautions: tuple[str, ...] = ()) -> TreatmentOut:
        """Return the shape of a treatment."""
        draft, standing = view.treatment.draft, view.standing
        return cls(
            id=view.treatment.id,
            remedy=view.remedy.name,
            recipe=view.remedy.recipe,
            which=draft.which,
            place=draft.place,
            plants=draft.plants,
            ml_each=draft.ml_each,
            kinds=draft.kinds,
            eaten=draft.eaten,
            shown=ShownOut.model_validate(view.shown),
            done=tuple(DoneOut.model_validate(one) for one in view.treatment.done),
            due=None if standing.due is None else DueOut.model_validate(standing.due),
            ended=standing.ended,
            ended_by_hand=view.treatment.ended_on is not None,
            left=standing.left,
            said=standing.said,
            eating=view.eating,
            asked=view.asked,
            closed=view.hour.closed,
            cautions=cautions,
        )


class RestOut(Out):
    """What the rest may be treated with, the schools of which plants, and what is under way."""

    choices: tuple[RestChoiceOut, ...]
    eaten: bool
    start_on: date
    reasons: dict[Which, str]
    treatments: tuple[TreatmentOut, ...]


class BorneOut(Out):
    """How often a kind of leaf bore a mix, and how often it was marked."""

    kind: str
    remedy: str
    strength: str
    passed: int
    marked: int


class RestPlanOut(Out):
    """What treating the rest takes; `left` is the share expected after each of the `days`."""

    patch_days: int
    days: tuple[date, ...]
    left: tuple[float, ...]
    why: str
    volume: float | None
    bottle: float | None
    fills: int
    cost: float | None
    unpriced: tuple[str, ...]
    minutes: float
    eating: str
    against: tuple[str, ...]
    cautions: tuple[str, ...]
    helpers: str
    checks: str
    ends: str
    mix: MixOut | None
