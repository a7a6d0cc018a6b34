"""Setups and remedies' traits over HTTP, in and out alike."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Annotated

from pydantic import ConfigDict, Field, StringConstraints

from orthocris.api.base import Date, Day, In, Real
from orthocris.core.errors import InputError
from orthocris.core.trial.measures import MeasureKey
from orthocris.core.trial.plan import Amount, Traits
from orthocris.core.trial.programme import Programme, Rhythm, Step
from orthocris.core.trial.setup import USUAL_MARGIN, DesignKind, Gradient, Kind, Setup, Unit

MOST_HARVEST_DAYS = 400


class AmountIO(In):
    """An ingredient and how much of it."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    key: Annotated[str, StringConstraints(max_length=40)]
    amount: Annotated[float, Field(allow_inf_nan=False, ge=0, le=10_000)]
    unit: Annotated[str, StringConstraints(max_length=20)]


class ProgrammeIO(In):
    """On which days a remedy is given."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    rhythm: Rhythm = Rhythm.ROUNDS
    every: Annotated[int, Field(ge=-1000, le=1000)] = 0
    days: Annotated[list[Day], Field(max_length=100)] = Field(default_factory=list)


class StepIO(In):
    """What follows a remedy some days after its first part, or (`above`) by a rule; see `Step`."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    after: Annotated[int, Field(ge=1, le=30)]
    name: Annotated[str, StringConstraints(max_length=40)]
    recipe: Annotated[str, StringConstraints(max_length=2000)] = ""
    way: Annotated[str, StringConstraints(max_length=20)] = "spray"
    dose: Annotated[float, Field(allow_inf_nan=False, ge=0, le=100_000)] | None = None
    dose_unit: Annotated[str, StringConstraints(max_length=20)] = ""
    above: Annotated[float, Field(allow_inf_nan=False, ge=0, le=1e6)] | None = None


class TraitsIO(In):
    """What the program knows of a remedy beside its recipe."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    catalogue: Annotated[str, StringConstraints(max_length=40)] | None = None
    way: Annotated[str, StringConstraints(max_length=20)] = "spray"
    ingredients: Annotated[list[AmountIO], Field(max_length=12)] = Field(default_factory=list)
    drift_cm: Annotated[float, Field(allow_inf_nan=False, ge=0, le=1000)] = 30.0
    first_look_days: Annotated[int, Field(ge=0, le=365)] = 2
    wets: bool = True
    programme: ProgrammeIO = Field(default_factory=ProgrammeIO)
    dose: Annotated[float, Field(allow_inf_nan=False, ge=0, le=100_000)] | None = None
    dose_unit: Annotated[str, StringConstraints(max_length=20)] = ""
    steps: Annotated[list[StepIO], Field(max_length=10)] = Field(default_factory=list)
    caution: Annotated[str, StringConstraints(max_length=500)] = ""

    def to_core(self) -> Traits:
        """Return the core's traits."""
        return Traits(
            self.catalogue,
            self.way,
            tuple(Amount(i.key, i.amount, i.unit) for i in self.ingredients),
            self.drift_cm,
            self.first_look_days,
            self.wets,
            Programme(self.programme.rhythm, self.programme.every, tuple(self.programme.days)),
            self.dose,
            self.dose_unit,
            tuple(Step(**step.model_dump()) for step in self.steps),
            self.caution,
        )


class SetupIO(In):
    """How a trial is set up.

    `harvest_days`, from the first spray planned, may be given instead of `eaten` and `harvest_on`.
    """

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    kind: Kind = Kind.COMPARE
    unit: Unit = Unit.PLANT
    design: DesignKind = DesignKind.COMPLETE
    block_size: Annotated[int, Field(ge=-1000, le=1000)] | None = None
    gradient: Gradient = Gradient.NONE
    place_cm: Real = 40.0
    row_cm: Real = 60.0
    shields: bool = False
    match_place: bool = True
    stressed: bool = False
    in_bloom: bool = False
    delicate: bool = False
    hot: bool = False
    eaten: bool = False
    harvest_on: Date | None = None
    picked: bool = False
    harvest_days: Day | None = None
    margin: Real = USUAL_MARGIN
    samples: Annotated[int, Field(ge=-1000, le=1000)] = 0
    which: Annotated[str, StringConstraints(max_length=300)] = ""
    beside: Annotated[tuple[MeasureKey, ...], Field(max_length=10)] = (MeasureKey.DAMAGE,)
    marked: bool = False
    leaf_cm2: Real | None = None
    two_waves: bool = False
    two_looks: bool = False
    crop: Annotated[str, StringConstraints(max_length=60)] = ""
    also: Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)] = ""

    def to_core(self, start_on: date | None = None) -> Setup:
        """Return the core's setup; `start_on` is the day that days to a harvest count from."""
        plain = self.model_dump(exclude={"harvest_days"})
        beside = tuple(key for key in self.beside if key is not MeasureKey.OTHER)
        plain["beside"] = (*beside, MeasureKey.OTHER) if self.also else beside
        days = self.harvest_days
        if days is None:
            return Setup(**plain)
        if not 0 <= days <= MOST_HARVEST_DAYS:
            raise InputError(
                f"harvest in {days} days",
                code="bad_harvest",
                field="setup.harvest_days",
                fix=f"Give the days until something is picked, 0 to {MOST_HARVEST_DAYS}.",
            )
        plain["eaten"] = True
        if start_on is not None and self.harvest_on is None:
            plain["harvest_on"] = start_on + timedelta(days=days)
        return Setup(**plain)
