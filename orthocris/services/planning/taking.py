"""What a plan takes before it is kept: bottles, and the money of its mixes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.suiting import card_for
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.ways import POURED
from orthocris.core.weather.yard import Yard
from orthocris.knowledge import recipe_cards
from orthocris.services.context import Context
from orthocris.services.pantry.mixing import Mix, Wanted, fillings, mix
from orthocris.storage import weather as yards

MIXED = POURED - {"dab"}  # that is used as it is in its bottle


@dataclass(frozen=True, slots=True)
class Taking:
    """What the mixes of a plan take.

    `bottle` is the largest that one remedy needs at a time, ml, and `fills` how often it is filled
    each time; None where nothing is mixed. `cost` is of all rounds, None where nothing has a price;
    `unpriced` names what has none, `unread` the remedies whose recipe does not say what is mixed.
    """

    bottle: float | None
    fills: int
    cost: float | None
    currency: str
    unpriced: tuple[str, ...]
    unread: tuple[str, ...]


def taking(
    context: Context, remedies: Sequence[RemedyDraft], *, plants: int, ml: float, times: int
) -> Taking:
    """Return what the mixes take: `plants` of each remedy, `ml` on each plant, so many `times`."""
    with context.database.reading() as connection:
        yard, prices = yards.load(connection), yards.prices(connection)
    found: list[Mix] = []
    unread: list[str] = []
    for draft in remedies:
        if draft.traits.way not in MIXED or not draft.recipe.strip() or not _is_mixed(draft):
            continue
        each = Fraction(repr(draft.traits.ml_each(ml)))
        wanted = Wanted(plants=plants, ml_per_plant=each)
        try:
            found.append(mix(draft.recipe, yard, wanted, prices=prices))
        except InputError:
            unread.append(draft.name)
    cost = sum((m.cost.per_round for m in found), Fraction(0)) * times
    return Taking(
        *_bottles(found, yard),
        cost=float(cost) if cost else None,
        currency=yard.currency,
        unpriced=tuple(dict.fromkeys(name for m in found for name in m.cost.missing)),
        unread=tuple(unread),
    )


def _is_mixed(draft: RemedyDraft) -> bool:
    return card_for(draft.name, draft, recipe_cards()).mixed


def _bottles(found: Sequence[Mix], yard: Yard) -> tuple[float | None, int]:
    if not found:
        return None, 1
    most = max(found, key=lambda one: one.volume)
    fills = fillings(float(most.volume), yard)
    return float(max(yard.exact_bottles()) if fills > 1 else most.bottle), fills
