"""What must not be mixed or used, by what it is and not by how it is spelt."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.substances import Substance, Trait, classify, words_of

MOST_PEROXIDE = Fraction(3, 100)  # on anything that grows
MOST_ON_SOIL = Fraction(1, 100)
CORROSIVE = Fraction(12, 100)  # a stock of peroxide that is no home material
SOIL_WORDS = frozenset(
    ["soil", "drench", "drenched", "root", "roots", "pot", "pots", "compost", "substrate"]
)


def check_dangers(
    parts: Sequence[Part], *, said: str = "", near_flame: bool = False, on_soil: bool = False
) -> None:
    """Refuse what must not be mixed or used so, naming the danger.

    Parameters
    ----------
    parts:
        What was read as ingredients.
    said:
        The whole recipe as it was said: a part that could not be read is no less dangerous.
    near_flame:
        Whether a flame is near.
    on_soil:
        Whether it is poured on soil; also taken from the words of the recipe.

    Raises
    ------
    InputError
        Code ``dangerous``: bleach with anything, ammonia with bleach, peroxide with an acid, an
        acid with soda or lime in a closed bottle, peroxide stronger than leaves or soil bear,
        sulphur with oil, tobacco, fuel, alcohol by a flame.
    """
    there = substances_of(parts, said)
    for danger, fix in _mixtures(there, len([p for p in parts if p.per_litre > 0])):
        _refuse(danger, fix)
    if _some(there, Trait.FLAMMABLE) and near_flame:
        _refuse(
            "alcohol burns with a flame that is hard to see", "Mix and spray far from any flame."
        )
    soil = on_soil or bool(SOIL_WORDS.intersection(words_of(said)))
    for part in parts:
        found = classify(part.name)
        if found is not None and found.has(Trait.PEROXIDE):
            _check_peroxide(part, found, soil=soil)


def substances_of(parts: Iterable[Part], said: str) -> tuple[Substance, ...]:
    """Return every known ingredient of a mix or of what was said of it, each once."""
    named = [classify(part.name) for part in parts if part.per_litre > 0]
    return tuple(
        dict.fromkeys((*(one for one in named if one is not None), *substances_there(said)))
    )


def strength_of(part: Part, found: Substance) -> Fraction:
    """Return the share of the pure substance in the ready mix; its usual stock where unsaid."""
    stock = part.strength if part.strength is not None else found.stock or Fraction(1)
    return part.per_litre / LITRE * stock


def _some(there: Sequence[Substance], *traits: Trait) -> bool:
    return any(one.has(*traits) for one in there)


def _mixtures(there: Sequence[Substance], parts: int) -> Iterable[tuple[str, str]]:
    """Yield the dangers of things together, the worst first."""
    one_or_other = "Use one or the other."
    if _some(there, Trait.BLEACH) and _some(there, Trait.AMMONIA):
        yield "bleach with ammonia gives off chloramine, which kills", "Never keep them together."
    if _some(there, Trait.BLEACH) and (parts > 1 or len(there) > 1):
        yield "bleach with anything else gives off poisonous gas", "Leave the bleach out."
    if _some(there, Trait.PEROXIDE) and _some(there, Trait.ACID):
        said = "peroxide with vinegar makes peracetic acid, which burns eyes and lungs"
        yield said, one_or_other
    if _some(there, Trait.CARBONATE) and _some(there, Trait.ACID):
        said = "an acid with soda gives off gas and bursts a closed bottle; it also undoes both"
        yield said, one_or_other
    if _some(there, Trait.SULPHUR) and _some(there, Trait.OIL):
        said = "sulphur with oil, or within four weeks of it, burns leaves badly"
        yield said, "Use one, and wait four weeks before the other."
    if _some(there, Trait.NICOTINE):
        said = "tobacco and nicotine poison people through the skin, pets, bees and helpers"
        yield said, "Leave it out; soap does what is wanted of it."
    if _some(there, Trait.FUEL):
        yield "fuel and solvents burn leaves, skin and houses", "Leave it out."


def _check_peroxide(part: Part, found: Substance, *, soil: bool) -> None:
    if part.strength is not None and part.strength > CORROSIVE:
        _refuse(
            f"peroxide of {float(part.strength):.0%} is corrosive and sets things on fire; it is "
            "no home material",
            "Buy the 3% kind of the pharmacy.",
        )
    reached = strength_of(part, found)
    if reached > MOST_PEROXIDE:
        _refuse(
            f"{float(reached * 100):.2g}% peroxide burns leaves; 3% is the very most",
            "Thin it: 1% or less on soil, 3% at the very most on leaves.",
        )
    if soil and reached > MOST_ON_SOIL:
        _refuse(
            f"{float(reached * 100):.2g}% peroxide kills roots; 1% is the most on soil",
            "Thin it to 1% or less.",
        )


def _refuse(danger: str, fix: str) -> None:
    raise InputError(danger, code="dangerous", field="parts", fix=fix)
