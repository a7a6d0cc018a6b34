"""Recipes as amounts per litre: scaled to a bottle, in the order of pouring."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.pantry.substances import classify
from orthocris.core.pantry.units import Dimension

LITRE = Fraction(1000)  # ml


class Step(IntEnum):
    """When an ingredient goes in; the reasons are in `ORDER_REASONS`."""

    POWDER = 1
    EMULSIFIER = 2
    ACTIVE = 3
    OIL = 4
    TOP_UP = 5


ORDER_REASONS = {
    Step.POWDER: "Powder first, in a little lukewarm water: it dissolves before oil coats it.",
    Step.EMULSIFIER: "Soap before the oil: without it the oil floats.",
    Step.ACTIVE: "Then what else mixes with water.",
    Step.OIL: "Oil into the soapy water, shaking: it breaks into fine drops.",
    Step.TOP_UP: "Top up gently along the wall: less foam.",
}


@dataclass(frozen=True, slots=True)
class Part:
    """An ingredient and how much of it is in a litre of the ready mix (ml or g).

    `strength` is its own, as a share, where the bottle has one; a `steeped` part is strained off
    again: it goes into the brew that is made first, not into the bottle.
    """

    name: str
    per_litre: Fraction
    dimension: Dimension = Dimension.VOLUME
    strength: Fraction | None = None
    steeped: bool = False


@dataclass(frozen=True, slots=True)
class Pour:
    """One ingredient of a batch, in the order of mixing.

    `amount` is in ml or g; `level` is the height of the fill line in ml once it is in (a
    powder does not raise it).
    """

    name: str
    amount: Fraction
    dimension: Dimension
    step: Step
    level: Fraction


def reason_for(step: Step, steps: Sequence[Step]) -> str:
    """Say why an ingredient goes in when it does, among the steps of its recipe."""
    if step is Step.EMULSIFIER and Step.OIL not in steps:
        return "Soap before the water: topped up along the wall, it foams less."
    if step is Step.ACTIVE and step == min(steps):
        return "It mixes with water by itself."
    return ORDER_REASONS[step]


def step_of(part: Part) -> Step:
    """Return when an ingredient goes in, by what it is."""
    found = classify(part.name)
    if part.dimension is Dimension.MASS:
        return Step.POWDER
    if found is None:
        return Step.ACTIVE
    if found.has(Trait.SOAPY):
        return Step.EMULSIFIER
    return Step.OIL if found.has(Trait.OIL) else Step.ACTIVE


def pours_of(parts: Sequence[Part], volume: Fraction) -> tuple[Pour, ...]:
    """Scale a recipe to a volume of ready mix, in pouring order, water last.

    Parameters
    ----------
    parts:
        Ingredients per litre.
    volume:
        Ready mix, ml, above 0.

    Raises
    ------
    InputError
        When an amount is negative, the parts are more than the whole, or the volume is not
        above 0.
    """
    check_parts(parts)
    if volume <= 0:
        raise InputError(
            f"a batch of {float(volume):g} ml",
            code="bad_volume",
            field="volume",
            fix="Give the volume of the ready mix, above 0.",
        )
    pours = []
    level = Fraction(0)
    for part in sorted((p for p in parts if not p.steeped), key=step_of):
        amount = part.per_litre * volume / LITRE
        level += amount if part.dimension is Dimension.VOLUME else 0
        pours.append(Pour(part.name, amount, part.dimension, step_of(part), level))
    pours.append(Pour("water", volume - level, Dimension.VOLUME, Step.TOP_UP, volume))
    return tuple(pours)


def check_parts(parts: Sequence[Part]) -> None:
    """Refuse negative amounts and more than 100%."""
    for part in parts:
        if part.per_litre < 0:
            raise InputError(
                f"{float(part.per_litre):g} of {part.name} in a litre",
                code="negative_amount",
                field="parts",
                fix="Give an amount of 0 or more.",
            )
    poured = [p for p in parts if p.dimension is Dimension.VOLUME and not p.steeped]
    whole = sum((p.per_litre for p in poured), Fraction(0))
    if whole > LITRE:
        raise InputError(
            f"the parts make {float(whole):g} ml in a litre, more than 100%",
            code="more_than_whole",
            field="parts",
            fix="Check the units; a spoon may have been read as a cup.",
        )
