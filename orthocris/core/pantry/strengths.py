"""Recipes side by side on one axis, and beside the usual range with its harsh end."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.remedies import Ingredient
from orthocris.core.pantry.units import Dimension


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two recipes on one ingredient's axis: how many times as strong the first is."""

    name: str
    times: Fraction
    text: str


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


def compare(yours: Sequence[Part], theirs: Sequence[Part]) -> tuple[Comparison, ...]:
    """Compare two recipes ingredient by ingredient, those that both have."""
    other = {part.name.casefold(): part for part in theirs}
    found = []
    for part in yours:
        match = other.get(part.name.casefold())
        if match is None or match.dimension is not part.dimension or match.per_litre == 0:
            continue
        times = part.per_litre / match.per_litre
        found.append(Comparison(part.name, times, _times(part.name, times)))
    return tuple(found)


def axes(
    yours: Sequence[Part],
    theirs: Sequence[Part],
    ranges: Mapping[str, Ingredient],
) -> tuple[Axis, ...]:
    """Put two recipes and the usual ranges on one axis an ingredient.

    Parameters
    ----------
    yours, theirs:
        Parts of the two recipes; `theirs` may be empty.
    ranges:
        The usual range by the part's name (casefolded), where one is known.
    """
    names = list(dict.fromkeys(part.name.casefold() for part in (*yours, *theirs)))
    return tuple(
        _axis(
            next((p for p in yours if p.name.casefold() == name), None),
            next((p for p in theirs if p.name.casefold() == name), None),
            ranges.get(name),
        )
        for name in names
    )


def _axis(yours: Part | None, theirs: Part | None, usual: Ingredient | None) -> Axis:
    some = yours or theirs
    assert some is not None  # noqa: S101 - a name comes from one of the two
    comparable = yours is None or theirs is None or yours.dimension is theirs.dimension
    said = []
    if yours is not None and theirs is not None and comparable and theirs.per_litre:
        said.append(_times(some.name, yours.per_litre / theirs.per_litre))
    elif yours is None or theirs is None:
        if yours is None:
            said.append(f"{some.name} is only in the other one")
    else:
        said.append(f"{some.name}: one is weighed and one is poured")
    subject = yours or theirs
    if usual is not None and subject is not None:
        said.append(beside(subject, usual, of="yours" if yours else "the other"))
    return Axis(
        name=some.name,
        unit=per_litre(some),
        yours=yours.per_litre if yours else None,
        theirs=theirs.per_litre if theirs and comparable else None,
        low=Fraction(str(usual.low)) if usual else None,
        high=Fraction(str(usual.high)) if usual else None,
        text="; ".join(said),
    )


def per_litre(part: Part) -> str:
    """Return the unit in which a part is stated."""
    return "g/L" if part.dimension is Dimension.MASS else "ml/L"


def beside(part: Part, usual: Ingredient, of: str = "yours") -> str:
    """Say where an amount lies beside the usual range and its harsh end."""
    unit, high, low = per_litre(part), Fraction(str(usual.high)), Fraction(str(usual.low))
    said = f"{part.name}: {float(part.per_litre):.3g} {unit}; typical is {usual.low:g} to "
    said += f"{usual.high:g}"
    who = of[0].upper() + of[1:]
    if part.per_litre > high:
        return f"{said}. {who} is {float(part.per_litre / high):.2g} times the harsh end."
    if part.per_litre < low:
        return f"{said}. {who} is weaker than the mild end."
    return f"{said}. {who} lies within."


def _times(name: str, times: Fraction) -> str:
    if times == 1:
        return f"{name}: yours is as strong"
    if times > 1:
        word = {2: "twice", 3: "three times"}.get(int(times) if times.denominator == 1 else 0)
        return f"{name}: yours is {word or f'{float(times):.2g} times'} as strong"
    return f"{name}: yours is {float(times):.0%} as strong"
