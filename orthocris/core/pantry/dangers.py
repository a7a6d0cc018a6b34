"""What must not be mixed or used, by what it is and not by how it is spelt."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.substance_list import Substance, Trait
from orthocris.core.pantry.substances import classify, words_of

_PERCENT = re.compile(r"(\d+(?:[.,]\d+)?)\s*%")
MOST_PEROXIDE = Fraction(11, 1000)  # on leaves and soil: about 1%
MOST_ON_ROOTS = Fraction(3, 100)  # on bare roots, a school of its own
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
        Code ``dangerous``: one of `CLASHES`, bleach with anything, peroxide stronger than leaves
        or roots bear, alcohol by a flame.
    """
    there = substances_of(parts, said)
    for danger, fix in _mixtures(there, len([p for p in parts if p.per_litre > 0])):
        _refuse(danger, fix)
    if _some(there, Trait.FLAMMABLE) and near_flame:
        _refuse(
            "alcohol burns with a flame that is hard to see", "Mix and spray far from any flame."
        )
    words = set(words_of(said))
    soil = on_soil or bool(SOIL_WORDS & words)
    bare = "bare" in words and bool({"root", "roots"} & words)
    for part in parts:
        found = classify(part.name)
        if found is not None and found.has(Trait.PEROXIDE):
            _check_peroxide(part, found, soil=soil, bare_roots=bare)
            return
    # Said without any water it is read as no mix: it is used as it comes from its bottle.
    told = [Fraction(n.replace(",", ".")) / 100 for n in _PERCENT.findall(said)]
    thinned = bare or {"water", "per", "in", "to"} & words
    if told and not thinned and _some(there, Trait.PEROXIDE) and min(told) > MOST_PEROXIDE:
        _refuse_peroxide(min(told), soil=soil)


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


@dataclass(frozen=True, slots=True)
class Clash:
    """Two kinds of things that must not meet; `other` empty: one is refused by itself."""

    one: tuple[Trait, ...]
    other: tuple[Trait, ...]
    danger: str
    fix: str


ACIDS = (Trait.ACID, Trait.STRONG_ACID)
ONE_OR_OTHER = "Use one or the other."
# The worst first: it is the one that is named.
CLASHES = (
    Clash((Trait.BLEACH,), (Trait.AMMONIA,), "bleach with ammonia gives off chloramine, which "
          "kills", "Never keep them together."),
    Clash((Trait.CYANIDE,), (), "it gives off a gas that kills, with damp air or an acid",
          "Leave it out, and ask a licensed applicator how to get rid of it."),
    Clash((Trait.SULPHIDE,), ACIDS, "a sulphide with an acid gives off hydrogen sulphide, a gas "
          "that kills", "Never keep them together."),
    Clash((Trait.SULPHITE,), ACIDS, "a sulphite with an acid gives off sulphur dioxide, which "
          "burns lungs", "Never keep them together."),
    Clash((Trait.AMMONIA,), (Trait.CAUSTIC,), "ammonia salts with lime, ash or lye give off "
          "ammonia, which burns eyes and lungs", ONE_OR_OTHER),
    Clash((Trait.PEROXIDE,), ACIDS, "peroxide with vinegar makes peracetic acid, which burns "
          "eyes and lungs", ONE_OR_OTHER),
    Clash((Trait.CARBONATE,), ACIDS, "an acid with soda gives off gas and bursts a closed "
          "bottle; it also undoes both", ONE_OR_OTHER),
    Clash((Trait.CAUSTIC,), (Trait.STRONG_ACID,), "an acid and an alkali boil and spit when they "
          "meet", ONE_OR_OTHER),
    Clash((Trait.COPPER,), ACIDS, "an acid dissolves copper: it burns leaves and poisons the "
          "soil", ONE_OR_OTHER),
    Clash((Trait.SULPHUR,), (Trait.OIL,), "sulphur with oil, or within four weeks of it, burns "
          "leaves badly", "Use one, and wait four weeks before the other."),
    Clash((Trait.NICOTINE,), (), "tobacco and nicotine poison people through the skin, pets, "
          "bees and helpers", "Leave it out; soap does what is wanted of it."),
    Clash((Trait.POISON,), (), "this is a poison for people and pets, homemade or bought",
          "Leave it out; soap does what is wanted of it."),
    Clash((Trait.POOL_EARTH,), (), "earth for pools and other burnt or ground mineral has sharp "
          "crystals that cut lungs", "Use earth that is sold for insects, with a dust mask."),
    Clash((Trait.NO_REMEDY,), (), "fuels, solvents and what cleans houses and machines burn "
          "leaves, skin and houses and are no remedy for a plant", "Leave it out; mild soap does "
          "what is wanted of it."),
    Clash((Trait.BLEACH,), (), "bleach burns leaves and is no remedy for a plant",
          "Leave the bleach out."),
)  # fmt: skip


def _mixtures(there: Sequence[Substance], parts: int) -> Iterable[tuple[str, str]]:
    """Yield the dangers of things together and of those refused by themselves, the worst first."""
    mixed = parts > 1 or len(there) > 1
    if _some(there, Trait.BLEACH) and mixed and not _some(there, Trait.AMMONIA):
        yield "bleach with anything else gives off poisonous gas", "Leave the bleach out."
    for clash in CLASHES:
        met = any(
            one.has(*clash.one) and (not clash.other or _other(there, one, clash.other))
            for one in there
        )
        if met:
            yield clash.danger, clash.fix


def _other(there: Sequence[Substance], one: Substance, traits: Sequence[Trait]) -> bool:
    return any(other is not one and other.has(*traits) for other in there)


def _check_peroxide(part: Part, found: Substance, *, soil: bool, bare_roots: bool) -> None:
    if part.strength is not None and part.strength > CORROSIVE:
        _refuse(
            f"peroxide of {float(part.strength):.0%} is corrosive and sets things on fire; it is "
            "no home material",
            "Buy the 3% kind of the pharmacy.",
        )
    reached = strength_of(part, found)
    if reached <= (MOST_ON_ROOTS if bare_roots else MOST_PEROXIDE):
        return
    if bare_roots:
        said = f"{float(reached * 100):.2g}% peroxide kills roots"
        _refuse(f"{said}; 3% is the very most on bare ones", "Thin it to 3% or less.")
    _refuse_peroxide(reached, soil=soil)


def _refuse_peroxide(share: Fraction, *, soil: bool) -> None:
    harm = "kills roots" if soil else "burns leaves"
    _refuse(
        f"{float(share * 100):.2g}% peroxide {harm}; about 1% is the most",
        "Thin it to 1% or less; up to 3% is for bare roots only, where some swear by it.",
    )


def _refuse(danger: str, fix: str) -> None:
    raise InputError(danger, code="dangerous", field="parts", fix=fix)
