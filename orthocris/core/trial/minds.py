"""What a gardener minds about a remedy beside what it removes, and how much."""

from __future__ import annotations

from collections.abc import Mapping
from enum import IntEnum, StrEnum

from orthocris.core.errors import InputError


class Mind(StrEnum):
    """Something a remedy can cost."""

    LEAVES = "leaves"  # marks that do not strike it out
    HELPERS = "helpers"
    PETS = "pets"  # and children
    SMELL = "smell"
    MONEY = "money"
    MINUTES = "minutes"
    FOOD = "food"  # days until something may be eaten


class Weight(IntEnum):
    """How much it is minded."""

    NOT = 0
    SOME = 1
    MUCH = 2


Minds = Mapping[Mind, Weight]
# What is minded where nobody has said: marked leaves, a little work and money.
USUAL_MINDS: Minds = {Mind.LEAVES: Weight.SOME, Mind.MINUTES: Weight.SOME, Mind.MONEY: Weight.SOME}


def minds_from(said: Mapping[str, int]) -> dict[Mind, Weight]:
    """Read what was said; raise InputError for what is none of them."""
    found = {}
    for name, weight in said.items():
        if name not in set(Mind) or weight not in set(Weight):
            raise InputError(
                f"{name} is minded {weight}",
                code="bad_mind",
                field="minds",
                fix=f"Say 0 (not), 1 (some) or 2 (much) of {', '.join(Mind)}.",
            )
        found[Mind(name)] = Weight(weight)
    return found
