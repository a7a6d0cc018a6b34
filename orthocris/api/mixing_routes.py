"""The route of the mixing bench."""

from __future__ import annotations

from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field, StringConstraints

from orthocris.api.base import In
from orthocris.api.routes import ERRORS
from orthocris.core.units import TOOLS, Dimension, Region
from orthocris.services.mixing import Mix, mix

router = APIRouter(prefix="/api", responses=ERRORS)
Amount = Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]


class MixIn(In):
    """A recipe as it is said, and how much of it is wanted."""

    text: Annotated[str, StringConstraints(max_length=500)]
    region: Region = Region.METRIC
    tools: Annotated[list[str], Field(max_length=20)] = Field(
        default_factory=lambda: ["syringe_1", "syringe_10", "tsp", "tbsp", "jug", "scale"]
    )
    volume: Amount | None = None
    plants: Annotated[int, Field(ge=-(10**6), le=10**6)] | None = None
    ml_per_plant: Amount = 40
    margin: Amount = 0.1


class PourOut(BaseModel):
    """One thing to put into the bottle; amounts in ml or g, `level` the fill line in ml."""

    name: str
    amount: float
    unit: str
    level: float
    reason: str
    tool: str | None
    fills: int
    rest: float
    measured: float | None
    error: float
    warns: bool


class PartOut(BaseModel):
    """An ingredient in a litre of the ready mix."""

    name: str
    per_litre: float
    unit: str


class MixOut(BaseModel):
    """A batch in pouring order."""

    parts: list[PartOut]
    guesses: list[str]
    volume: float
    bottle: float
    pours: list[PourOut]
    strengths: list[str]
    cautions: list[str]
    general_cautions: list[str]


class ToolOut(BaseModel):
    """Something to measure with."""

    key: str
    name: str


@router.get("/tools")
def tools() -> list[ToolOut]:
    """Return the tools a recipe can be measured with."""
    return [ToolOut(key=tool.key, name=tool.name) for tool in TOOLS.values()]


@router.post("/mix")
def make(body: MixIn) -> MixOut:
    """Read a recipe, scale it and say with which tool each part is measured."""
    found = mix(
        body.text,
        body.region,
        body.tools,
        volume=None if body.volume is None else _exact(body.volume),
        plants=body.plants,
        ml_per_plant=_exact(body.ml_per_plant),
        margin=_exact(body.margin),
    )
    return _view(found)


def _exact(number: float) -> Fraction:
    """The decimal that was typed, not its binary neighbour."""
    return Fraction(repr(number))


def _unit(dimension: Dimension) -> str:
    return "g" if dimension is Dimension.MASS else "ml"


def _view(found: Mix) -> MixOut:
    return MixOut(
        parts=[
            PartOut(name=p.name, per_litre=float(p.per_litre), unit=f"{_unit(p.dimension)}/L")
            for p in found.reading.parts
        ],
        guesses=list(found.reading.guesses),
        volume=float(found.volume),
        bottle=float(found.bottle),
        pours=[
            PourOut(
                name=m.pour.name,
                amount=float(m.pour.amount),
                unit=_unit(m.pour.dimension),
                level=float(m.pour.level),
                reason=m.reason,
                tool=m.measured.tool.name if m.measured else None,
                fills=m.measured.fills if m.measured else 0,
                rest=float(m.measured.rest) if m.measured else 0.0,
                measured=float(m.measured.amount) if m.measured else None,
                error=float(m.measured.error) if m.measured else 0.0,
                warns=m.measured.warns if m.measured else False,
            )
            for m in found.pours
        ],
        strengths=list(found.strengths),
        cautions=list(found.cautions),
        general_cautions=list(found.general_cautions),
    )
