"""Mixing over HTTP, in and out."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from typing import Annotated

from pydantic import BaseModel, Field, StringConstraints

from orthocris.api.base import In, Out
from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.tokens import TokenKind
from orthocris.core.pantry.recipe_cards import PartRole
from orthocris.core.pantry.units import TOOLS, Dimension, Region
from orthocris.core.weather.yard import Yard
from orthocris.services.pantry.mixing import Wanted

Amount = Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]


class WantedIn(In):
    """How much of it is wanted: ml, or a bottle (ml) with room to shake, or plants with ml each."""

    region: Region | None = None
    tools: Annotated[list[str], Field(max_length=20)] | None = None
    volume: Amount | None = None
    bottle: Amount | None = None
    plants: Annotated[int, Field(ge=-(10**6), le=10**6)] | None = None
    ml_per_plant: Amount = 40
    margin: Amount = 0.1

    def wanted(self) -> Wanted:
        """Return the service's wish."""
        return Wanted(
            None if self.volume is None else exact(self.volume),
            self.plants,
            exact(self.ml_per_plant),
            exact(self.margin),
            None if self.bottle is None else exact(self.bottle),
        )

    def yard(self, own: Yard) -> Yard:
        """Return the yard with the spoons and tools said here."""
        for key in self.tools or ():
            if key not in TOOLS:
                raise InputError(
                    f"there is no tool {key!r}",
                    code="unknown_tool",
                    field="tools",
                    fix=f"Use some of: {', '.join(TOOLS)}.",
                )
        return replace(
            own,
            region=self.region or own.region,
            tools=own.tools if self.tools is None else tuple(self.tools),
        )


class MixIn(WantedIn):
    """A recipe as it is said, and perhaps another to compare it with."""

    text: Annotated[str, StringConstraints(max_length=500)]
    compare_with: Annotated[str, StringConstraints(max_length=500)] = ""
    near_flame: bool = False


class DiluteIn(WantedIn):
    """A stock to be made weaker: strengths in %, or one part in N at each step."""

    stock: Amount | None = None
    strength: Amount | None = None
    parts: Annotated[list[Amount], Field(max_length=4)] = Field(default_factory=list)
    altogether: bool = True


class MeasuredOut(BaseModel):
    """An amount as a tool can measure it."""

    tool: str
    fills: int
    rest: float
    amount: float
    error: float
    warns: bool


class PourOut(BaseModel):
    """One thing to put into the bottle; amounts in ml or g, `level` the fill line in ml."""

    name: str
    role: PartRole
    amount: float
    unit: str
    level: float
    reason: str
    measured: MeasuredOut | None


class PartOut(BaseModel):
    """An ingredient in a litre of the ready mix."""

    name: str
    per_litre: float
    unit: str


class AxisOut(BaseModel):
    """One ingredient's axis: this recipe, the other, and the usual range."""

    name: str
    unit: str
    yours: float | None
    theirs: float | None
    low: float | None
    high: float | None
    text: str


class CostOut(BaseModel):
    """What the mix costs; `missing` parts have no price."""

    per_litre: float
    per_plant: float | None
    per_round: float
    missing: tuple[str, ...]


class CautionOut(Out):
    """A strong caution that must be acknowledged."""

    key: str
    texts: tuple[str, ...]


class ChoiceOut(Out):
    """Another way to mean words of the text: put `text` in the place of `start` to `end`."""

    label: str
    start: int
    end: int
    text: str


class TokenOut(Out):
    """A piece of the sentence, what it was taken for, and what else it may be."""

    start: int
    end: int
    kind: TokenKind
    words: str
    taken_for: str
    choices: tuple[ChoiceOut, ...]


class ReadIn(In):
    """A recipe as far as it is typed."""

    text: Annotated[str, StringConstraints(max_length=500)]
    region: Region | None = None
    near_flame: bool = False


class RefusedOut(BaseModel):
    """Why a recipe is not mixed so: no sense in it yet, or a danger."""

    code: str
    message: str
    fix: str


class ReadingOut(BaseModel):
    """A sentence as it was read, token by token; places count letters from 0."""

    tokens: list[TokenOut]
    parts: list[PartOut]
    guesses: list[str]
    settled: bool
    refused: RefusedOut | None


class BrewStepOut(BaseModel):
    """One thing that is done for a brew, before the bottle."""

    text: str
    measured: MeasuredOut | None


class MixOut(BaseModel):
    """A batch in pouring order; `pours` are empty while words are `open`, to be settled.

    `needed` (ml) is what was asked for, `volume` what is mixed of it, so that it measures well.
    """

    open: list[TokenOut]
    brew: list[BrewStepOut]
    parts: list[PartOut]
    guesses: list[str]
    needed: float
    volume: float
    bottle: float
    pours: list[PourOut]
    axes: list[AxisOut]
    schools: list[str]
    like: str | None
    order_note: str
    life_hours: float | None
    agitation: str
    coverage: str
    suits: list[str]
    spares: list[str]
    dose_sign: str
    aftercare: str
    ml_per_plant: float | None
    interval_days: int | None
    cost: CostOut
    warnings: list[str]
    cautions: list[str]
    strong: list[CautionOut]
    general_cautions: list[str]


class StepOut(BaseModel):
    """One step of a dilution: `take` ml of what came before and `water` ml."""

    take: float
    water: float
    makes: float
    measured: MeasuredOut


class DilutionOut(BaseModel):
    """A stock made weaker; `share` is what the ready mix holds of it."""

    steps: list[StepOut]
    share: float
    bottle: float


class RecipeOut(BaseModel):
    """A shipped recipe, as it is said."""

    key: str
    name: str
    recipe: str


class UnitOut(BaseModel):
    """A unit and what it measures."""

    key: str
    name: str
    dimension: Dimension


class ConvertIn(In):
    """An amount to be converted; a powder's density in g/ml lets spoons be weighed."""

    amount: Amount
    unit: Annotated[str, StringConstraints(max_length=20)]
    grams_per_ml: Amount | None = None


class ConvertedOut(BaseModel):
    """The amount in one unit."""

    key: str
    name: str
    amount: float


class ToolOut(BaseModel):
    """Something to measure with."""

    key: str
    name: str


def exact(number: float) -> Fraction:
    """The decimal that was typed, not its binary neighbour."""
    return Fraction(repr(number))
