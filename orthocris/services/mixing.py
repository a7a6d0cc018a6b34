"""The mixing bench: a recipe read, scaled to a bottle or to plants, and made measurable."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.cautions import cautions_for, general_cautions
from orthocris.core.errors import InputError
from orthocris.core.recipe_words import Reading, read_recipe
from orthocris.core.recipes import ORDER_REASONS, Part, Pour, batch, bottle_for, volume_for
from orthocris.core.remedies import CatalogueRemedy, Ingredient
from orthocris.core.units import TOOLS, Dimension, Measured, Region, Tool, measure_with
from orthocris.knowledge import cautions, remedies

BOTTLES = tuple(Fraction(ml) for ml in (250, 500, 750, 1000, 1500, 2000, 3000, 5000, 10_000))
HEADROOM = Fraction(1, 5)  # of the bottle stays empty, to shake
MAX_VOLUME = Fraction(1_000_000)  # ml


@dataclass(frozen=True, slots=True)
class MixPour:
    """One thing to put into the bottle, with the tool for it (None for the water)."""

    pour: Pour
    reason: str
    measured: Measured | None


@dataclass(frozen=True, slots=True)
class Mix:
    """A batch ready to be mixed."""

    reading: Reading
    volume: Fraction
    bottle: Fraction
    pours: tuple[MixPour, ...]
    strengths: tuple[str, ...]
    cautions: tuple[str, ...]
    general_cautions: tuple[str, ...]


def mix(
    text: str,
    region: Region,
    tools: Sequence[str],
    *,
    volume: Fraction | None,
    plants: int | None,
    ml_per_plant: Fraction,
    margin: Fraction,
) -> Mix:
    """Read a recipe and make it a batch.

    Parameters
    ----------
    text, region:
        The recipe as it is said, and whose spoons are meant.
    tools:
        Keys of the tools at hand.
    volume:
        Ready mix in ml; None: worked out from the plants.
    plants, ml_per_plant, margin:
        Used without a volume: plants × ml each, plus the margin (a fraction).

    Raises
    ------
    InputError
        When the recipe cannot be read, is impossible or dangerous, or cannot be measured.
    """
    reading = read_recipe(text, region)
    wanted = volume if volume is not None else volume_for(plants or 0, ml_per_plant, margin)
    if not 0 < wanted <= MAX_VOLUME:
        raise InputError(
            f"{float(wanted):g} ml",
            code="bad_volume",
            field="volume",
            fix="Give a volume above 0 and up to 1000 litres.",
        )
    chosen = [_tool(key) for key in tools]
    pours = batch(reading.parts, wanted)
    return Mix(
        reading=reading,
        volume=wanted,
        bottle=_bottle(wanted),
        pours=tuple(_measured(pour, chosen) for pour in pours),
        strengths=_strengths(reading.parts),
        cautions=cautions_for(text, cautions()),
        general_cautions=general_cautions(cautions()),
    )


def _tool(key: str) -> Tool:
    if key not in TOOLS:
        raise InputError(
            f"there is no tool {key!r}",
            code="unknown_tool",
            field="tools",
            fix=f"Use some of: {', '.join(TOOLS)}.",
        )
    return TOOLS[key]


def _bottle(volume: Fraction) -> Fraction:
    """The smallest usual bottle with room to shake; beyond those, one made to measure."""
    try:
        return bottle_for(volume, BOTTLES, HEADROOM)
    except InputError:
        return volume / (1 - HEADROOM)


def _measured(pour: Pour, tools: Sequence[Tool]) -> MixPour:
    reason = ORDER_REASONS[pour.step]
    if pour.name == "water" or pour.amount <= 0:
        return MixPour(pour, reason, None)
    return MixPour(pour, reason, measure_with(pour.amount, pour.dimension, tools))


def _strengths(parts: Sequence[Part]) -> tuple[str, ...]:
    """Put each ingredient beside the usual range of the shipped remedy that is most alike.

    Alike is the remedy with the most of these ingredients and the fewest others: soap beside
    oil is an emulsifier and has another range than soap alone.
    """

    def alike(remedy: CatalogueRemedy) -> tuple[int, int]:
        shared = sum(_found_in(remedy, part) is not None for part in parts)
        return shared, -len(remedy.ingredients)

    best = max(remedies(), key=alike)
    said = []
    for part in parts:
        ingredient = _found_in(best, part)
        if ingredient is not None:
            said.append(_beside(part, ingredient))
    return tuple(said)


def _found_in(remedy: CatalogueRemedy, part: Part) -> Ingredient | None:
    for ingredient in remedy.ingredients:
        word = ingredient.key.replace("_", " ")
        if word in part.name.casefold() and ingredient.unit == _per_litre(part):
            return ingredient
    return None


def _per_litre(part: Part) -> str:
    return "g/L" if part.dimension is Dimension.MASS else "ml/L"


def _beside(part: Part, usual: Ingredient) -> str:
    unit, high, low = _per_litre(part), Fraction(str(usual.high)), Fraction(str(usual.low))
    said = f"{part.name}: {float(part.per_litre):.3g} {unit}; typical is {usual.low:g} to "
    said += f"{usual.high:g}"
    if part.per_litre > high:
        return f"{said}. Yours is {float(part.per_litre / high):.2g} times the harsh end."
    if part.per_litre < low:
        return f"{said}. Yours is weaker than the mild end."
    return f"{said}. Yours lies within."
