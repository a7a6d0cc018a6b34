"""Recipes side by side on one axis, and beside the usual range with its harsh end."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.pantry.dangers import strength_of
from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.remedies import CatalogueRemedy, Ingredient
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.pantry.substances import classify, words_of
from orthocris.core.pantry.units import Dimension


@dataclass(frozen=True, slots=True)
class Axis:
    """One ingredient's axis, in `unit`: the two recipes (None: has none) and the usual range."""

    name: str
    unit: str
    yours: Fraction | None
    theirs: Fraction | None
    low: Fraction | None
    high: Fraction | None
    text: str


def alike(parts: Sequence[Part], remedies: Sequence[CatalogueRemedy]) -> CatalogueRemedy | None:
    """Return the shipped remedy that is most alike; None when none shares an ingredient.

    It has the most of these ingredients, most of the mix, and the fewest others: soap beside
    oil is an emulsifier and has another range than soap alone.
    """

    def likeness(remedy: CatalogueRemedy) -> tuple[int, Fraction, int]:
        shared = [part.per_litre for part in parts if usual_for(remedy, part) is not None]
        return len(shared), sum(shared, Fraction(0)), -len(remedy.ingredients)

    best = max(remedies, key=likeness)
    return best if likeness(best)[0] else None


def usual_for(remedy: CatalogueRemedy | None, part: Part) -> Ingredient | None:
    """Return the ingredient of a shipped remedy that a part is, in a unit that compares.

    Neem, scented, mineral and kitchen oils are ingredients of their own, and so is a bottle of
    another strength than the usual.
    """
    if remedy is None or part.steeped:
        return None
    return next((i for i in remedy.ingredients if _is(i, part)), None)


# Ingredients of the shipped remedies that are called otherwise than the substance.
_SUBSTANCE_OF = {"soda": "baking_soda", "bicarbonate": "potassium_bicarbonate"}


def is_ingredient(ingredient: Ingredient, part: Part) -> bool:
    """Tell whether a part is an ingredient of the shipped remedies, whatever its unit."""
    found = classify(part.name)
    if found is None or is_brew(part):
        return False
    scented = found.has(Trait.SCENTED) and ingredient.key == "essential_oil"
    return found.key == _SUBSTANCE_OF.get(ingredient.key, ingredient.key) or scented


def _is(ingredient: Ingredient, part: Part) -> bool:
    if ingredient.key == "brew":
        return is_brew(part) and ingredient.unit == per_litre(part)
    found = classify(part.name)
    same = is_ingredient(ingredient, part)
    if found is None or ingredient.unit == "%":
        return same
    stock = part.strength is None or part.strength == found.stock
    return same and stock and ingredient.unit == per_litre(part)


def is_brew(part: Part) -> bool:
    """True for a stock that is steeped, boiled or bought as one."""
    return not part.steeped and words_of(part.name)[-1:] in (["brew"], ["tea"], ["infusion"])


def axes(
    yours: Sequence[Part],
    theirs: Sequence[Part],
    ranges: Mapping[Part, Ingredient],
) -> tuple[Axis, ...]:
    """Put two recipes and the usual ranges on one axis an ingredient.

    Parameters
    ----------
    yours, theirs:
        Parts of the two recipes; `theirs` may be empty.
    ranges:
        The usual range of a part, where one is known.
    """
    mine = {_axis_key(part): part for part in yours}
    other = {_axis_key(part): part for part in theirs}
    return tuple(
        _axis(mine.get(key), other.get(key), ranges) for key in dict.fromkeys((*mine, *other))
    )


def _axis_key(part: Part) -> tuple[str, Fraction | None, bool]:
    """What has one axis: the same substance out of a bottle of the same strength."""
    found = classify(part.name)
    if found is None or is_brew(part):
        return part.name.casefold(), part.strength, part.steeped
    return found.key, part.strength if part.strength != found.stock else None, part.steeped


def _axis(yours: Part | None, theirs: Part | None, ranges: Mapping[Part, Ingredient]) -> Axis:
    some = yours or theirs
    assert some is not None  # noqa: S101 - a name comes from one of the two
    usual = ranges.get(some)
    comparable = yours is None or theirs is None or yours.dimension is theirs.dimension
    said = []
    if yours is not None and theirs is not None and comparable and theirs.per_litre:
        said.append(_times(some.name, yours.per_litre / theirs.per_litre))
    elif yours is None:
        said.append(f"{some.name} is only in the other one")
    elif theirs is not None:
        said.append(f"{some.name}: one is weighed and one is poured")
    if usual is not None:
        said.append(beside(some, usual, of="yours" if yours else "the other"))
    if not said:
        here = f"{float(some.per_litre):.3g} {per_litre(some)}"
        said.append(f"{some.name}: {here}; no usual range is known here for it")
    return Axis(
        name=some.name,
        unit=usual.unit if usual and usual.unit == "%" else per_litre(some),
        yours=place_on(yours, usual) if yours else None,
        theirs=place_on(theirs, usual) if theirs and comparable else None,
        low=Fraction(str(usual.low)) if usual else None,
        high=Fraction(str(usual.high)) if usual else None,
        text="; ".join(said),
    )


def place_on(part: Part, usual: Ingredient | None) -> Fraction:
    """Return a part's place on its axis: ml or g a litre, or the % of the pure substance."""
    found = classify(part.name)
    if usual is not None and usual.unit == "%" and found is not None:
        return strength_of(part, found) * 100
    return part.per_litre


def per_litre(part: Part) -> str:
    """Return the unit in which a part is stated."""
    return "g/L" if part.dimension is Dimension.MASS else "ml/L"


def beside(part: Part, usual: Ingredient, of: str = "yours") -> str:
    """Say where an amount lies beside the usual range; weak is no fault, strong may burn."""
    here = place_on(part, usual)
    high, low = Fraction(str(usual.high)), Fraction(str(usual.low))
    said = f"{part.name}: {float(here):.3g} {usual.unit}; typical is {usual.low:g} to "
    said += f"{usual.high:g} {usual.unit}"
    who = of[0].upper() + of[1:]
    if here > high:
        return f"{said}. {who} is {float(here / high):.2g} times the harsh end."
    if here < low:
        return f"{said}. {who} is milder than is usual; whether mild is enough, a ladder tells."
    return f"{said}. {who} lies within."


def _times(name: str, times: Fraction) -> str:
    if times == 1:
        return f"{name}: yours is as strong"
    if times > 1:
        word = {2: "twice", 3: "three times"}.get(int(times) if times.denominator == 1 else 0)
        return f"{name}: yours is {word or f'{float(times):.2g} times'} as strong"
    return f"{name}: yours is {float(times):.0%} as strong"
