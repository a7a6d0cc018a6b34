"""The routes of the mixing bench."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field, StringConstraints

from orthocris.api.base import In, Out
from orthocris.api.routes import ERRORS, Ctx
from orthocris.core.errors import InputError
from orthocris.core.recipe_cards import MixKind, PartRole
from orthocris.core.strengths import per_litre
from orthocris.core.units import TOOLS, UNITS, Dimension, Measured, Region, conversions
from orthocris.core.yard import Yard
from orthocris.knowledge import recipe_cards, remedies
from orthocris.services.mixing import (
    Dilution,
    Mix,
    MixPour,
    Wanted,
    dilute_parts,
    dilute_stock,
    mix,
)
from orthocris.services.yards import prices_of, yard_of

router = APIRouter(prefix="/api", responses=ERRORS)
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


class MixOut(BaseModel):
    """A batch in pouring order."""

    parts: list[PartOut]
    guesses: list[str]
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


@router.get("/recipes")
def recipes() -> list[RecipeOut]:
    """Return the shipped recipes that are mixed from parts."""
    return [
        RecipeOut(key=remedy.key, name=remedy.name, recipe=remedy.recipe)
        for remedy in remedies()
        if recipe_cards()[remedy.key].kind in (MixKind.MIX, MixKind.BREW)
    ]


@router.get("/units")
def units() -> list[UnitOut]:
    """Return the units amounts can be given in."""
    return [UnitOut(key=u.key, name=u.name, dimension=u.dimension) for u in UNITS.values()]


@router.post("/convert")
def convert_amount(body: ConvertIn) -> list[ConvertedOut]:
    """Convert an amount into every other unit, exactly; powders by their density."""
    density = None if body.grams_per_ml is None else exact(body.grams_per_ml)
    found = conversions(exact(body.amount), body.unit, density)
    return [ConvertedOut(key=u.key, name=u.name, amount=float(a)) for u, a in found]


@router.get("/tools")
def tools() -> list[ToolOut]:
    """Return the tools a recipe can be measured with."""
    return [ToolOut(key=tool.key, name=tool.name) for tool in TOOLS.values()]


@router.post("/mix")
def make(context: Ctx, body: MixIn) -> MixOut:
    """Read a recipe, scale it and say with which tool each part is measured."""
    return mix_view(
        mix(
            body.text,
            body.yard(yard_of(context)),
            body.wanted(),
            prices=prices_of(context),
            compare_with=body.compare_with,
            near_flame=body.near_flame,
        )
    )


@router.post("/dilute")
def dilute(context: Ctx, body: DiluteIn) -> DilutionOut:
    """Dilute a stock to a strength, or by parts in one or more steps."""
    yard = body.yard(yard_of(context))
    if body.stock is not None and body.strength is not None:
        stock, strength = exact(body.stock) / 100, exact(body.strength) / 100
        return _dilution(dilute_stock(stock, strength, yard, body.wanted()))
    parts = [exact(n) for n in body.parts]
    return _dilution(dilute_parts(parts, yard, body.wanted(), altogether=body.altogether))


def exact(number: float) -> Fraction:
    """The decimal that was typed, not its binary neighbour."""
    return Fraction(repr(number))


def mix_view(found: Mix) -> MixOut:
    """Lay out a mix for the screens."""
    card = found.card
    return MixOut(
        parts=[
            PartOut(name=p.name, per_litre=float(p.per_litre), unit=per_litre(p))
            for p in found.reading.parts
        ],
        guesses=list(found.reading.guesses),
        volume=float(found.volume),
        bottle=float(found.bottle),
        pours=[_pour(m) for m in found.pours],
        axes=[
            AxisOut(
                name=a.name,
                unit=a.unit,
                yours=_float(a.yours),
                theirs=_float(a.theirs),
                low=_float(a.low),
                high=_float(a.high),
                text=a.text,
            )
            for a in found.axes
        ],
        schools=list(found.schools),
        like=found.like.name if found.like else None,
        order_note=card.order_note if card else "",
        life_hours=card.life_hours if card else None,
        agitation=card.agitation if card else "",
        coverage=card.coverage if card else "",
        suits=list(card.suits) if card else [],
        spares=list(card.spares) if card else [],
        dose_sign=card.dose_sign if card else "",
        aftercare=card.aftercare if card else "",
        cost=CostOut(
            per_litre=float(found.cost.per_litre),
            per_plant=_float(found.cost.per_plant),
            per_round=float(found.cost.per_round),
            missing=found.cost.missing,
        ),
        warnings=list(found.warnings),
        cautions=list(found.cautions),
        strong=[CautionOut.model_validate(c) for c in found.strong],
        general_cautions=list(found.general_cautions),
    )


def _float(value: Fraction | None) -> float | None:
    return None if value is None else float(value)


def _pour(m: MixPour) -> PourOut:
    return PourOut(
        name=m.pour.name,
        role=m.role,
        amount=float(m.pour.amount),
        unit="g" if m.pour.dimension is Dimension.MASS else "ml",
        level=float(m.pour.level),
        reason=m.reason,
        measured=_measured(m.measured) if m.measured else None,
    )


def _measured(found: Measured) -> MeasuredOut:
    return MeasuredOut(
        tool=found.tool.name,
        fills=found.fills,
        rest=float(found.rest),
        amount=float(found.amount),
        error=float(found.error),
        warns=found.warns,
    )


def _dilution(found: Dilution) -> DilutionOut:
    return DilutionOut(
        steps=[
            StepOut(
                take=float(step.take),
                water=float(step.water),
                makes=float(step.makes),
                measured=_measured(measured),
            )
            for step, measured in zip(found.steps, found.measured, strict=True)
        ],
        share=float(found.share),
        bottle=float(found.bottle),
    )
