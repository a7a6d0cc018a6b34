"""Which cautions belong to a recipe, by what is in it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.pantry.recipe.reading import understand
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.substance_list import Trait

OWN = "own"  # what the gardener adds, such as the caution of a label
HOT = "hot_brew"  # boiled or infused: not of the substances but of what is done with them
STRONG_ALCOHOL = "strong_alcohol"
STRONG = Fraction(3, 4)  # a share above which alcohol is thinned first


@dataclass(frozen=True, slots=True)
class Caution:
    """Short warnings that apply when an ingredient has one of `traits`; always, when it has none.

    Where `beside` names traits too, another ingredient must have one of them. Those that are
    `strong` must be acknowledged once for each batch.
    """

    key: str
    traits: frozenset[str]
    texts: tuple[str, ...]
    strong: bool = False
    beside: frozenset[str] = frozenset()

    def applies(self, there: frozenset[str]) -> bool:
        """True when these traits call for it."""
        return bool(self.traits & there) and (not self.beside or bool(self.beside & there))


def traits_in(text: str) -> frozenset[str]:
    """Return what a free-text remedy brings with it: the traits of what it speaks of.

    What it says is not there ("no oil", "chlorine-free") brings nothing; what is boiled first
    brings the scald, and alcohol stronger than the usual the wish to thin it.
    """
    found = {str(trait) for one in substances_there(text) for trait in one.traits}
    reading = understand(text)
    if reading.brew is not None and reading.brew.hot:
        found.add(HOT)
    strong = any(p.strength is not None and p.strength > STRONG for p in reading.parts)
    if strong and Trait.FLAMMABLE in found:
        found.add(STRONG_ALCOHOL)
    return frozenset(found)


def cautions_for(text: str, known: Iterable[Caution]) -> tuple[str, ...]:
    """Return the cautions that a free-text remedy calls for."""
    there = traits_in(text)
    return tuple(
        sentence for caution in known if caution.applies(there) for sentence in caution.texts
    )


def strong_cautions_for(text: str, known: Iterable[Caution]) -> tuple[Caution, ...]:
    """Return the cautions of a recipe that must be acknowledged before its batch is used."""
    there = traits_in(text)
    return tuple(caution for caution in known if caution.strong and caution.applies(there))


def own_caution(text: str) -> tuple[Caution, ...]:
    """Return a gardener's own caution as one that must be acknowledged; none where it is empty."""
    said = text.strip()
    return (Caution(OWN, frozenset(), (said,), strong=True),) if said else ()


def general_cautions(known: Iterable[Caution]) -> tuple[str, ...]:
    """Return the cautions that hold for every spray."""
    return tuple(sentence for caution in known if not caution.traits for sentence in caution.texts)
