"""What may be eaten after a remedy, by what the remedy is and not by what it is called."""

from __future__ import annotations

from collections.abc import Collection
from enum import StrEnum

from orthocris.core.pantry.recipe.reading import understand
from orthocris.core.pantry.recipe.there import is_nameless, substances_there
from orthocris.core.pantry.substance_list import Substance, Trait
from orthocris.core.pantry.substances import words_of
from orthocris.core.trial.ways import POURED


class Food(StrEnum):
    """What holds for eating from a treated plant, the mildest first."""

    FREE = "free"  # nothing is left on it
    WAIT = "wait"  # some days, then washed
    LABEL = "label"  # by its label, else not this season
    NEVER = "never"


NEVER_EATEN = (Trait.NICOTINE, Trait.POISON, Trait.NO_REMEDY, Trait.CYANIDE, Trait.BLEACH)
BY_LABEL = (
    Trait.PESTICIDE,
    Trait.PYRETHRIN,
    Trait.SPINOSAD,
    Trait.BACTERIA,
    Trait.COPPER,
    Trait.SULPHUR,
    Trait.MINERAL,
    Trait.DETERGENT,
    Trait.BORAX,
    Trait.DENATURED,
    Trait.AMMONIA,
    Trait.SULPHIDE,
    Trait.SULPHITE,
    Trait.CAUSTIC,
    Trait.STRONG_ACID,
)
LEFT_ON_PLANT = POURED | {"dust", "granule"}  # ways that leave something on leaves or in soil
USUAL_WAIT = 3  # days, where nothing more is known of what is harmless as such


def food_rule(name: str, recipe: str, way: str) -> Food:
    """Return what holds for eating after a remedy.

    Parameters
    ----------
    name, recipe:
        As the gardener says them, steps left out; a name alone tells too ("Pyrethrum").
    way:
        How it is given: what is trapped, picked or fenced off leaves nothing to eat, unless it
        is a poison.
    """
    there = substances_there(f"{name}. {recipe}")
    if _some(there, NEVER_EATEN):
        return Food.NEVER
    if way not in LEFT_ON_PLANT:
        return Food.LABEL if _some(there, (Trait.PESTICIDE, Trait.PYRETHRIN)) else Food.FREE
    if _some(there, BY_LABEL) or is_unknown(name, recipe):
        return Food.LABEL
    return Food.WAIT if there or understand(recipe).parts else Food.FREE


def is_unknown(name: str, recipe: str) -> bool:
    """True where something is given of which nobody can say here what it is.

    "As its label says", a name that no substance has, and nothing said at all; plain water is
    known.
    """
    words = {*words_of(name), *words_of(recipe)}
    if "label" in words:
        return True
    known = bool(substances_there(f"{name}. {recipe}"))
    reading = understand(recipe)
    nameless = [p.name for p in reading.parts if is_nameless(p.name) and not p.steeped]
    if nameless:  # a brew of known things, and "it", are what was named before
        told = reading.brew is not None or set(nameless) <= _PRONOUNS
        return not (known and told)
    return not known and "water" not in words


_PRONOUNS = frozenset(["it", "this", "that", "them", "these"])


def _some(there: Collection[Substance], traits: Collection[Trait]) -> bool:
    return any(one.has(*traits) for one in there)
