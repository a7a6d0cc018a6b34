"""Recipes as data: what each part is there for, how long a mix lives, how it is applied."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.pantry.food import USUAL_WAIT, Food
from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.pantry.substances import classify
from orthocris.core.trial.batches import MixKind
from orthocris.core.trial.ways import POURED


class PartRole(StrEnum):
    """What an ingredient is in the mix for."""

    ACTIVE = "active"
    EMULSIFIER = "emulsifier"
    STICKER = "sticker"
    CARRIER = "carrier"


@dataclass(frozen=True, slots=True)
class SchoolRange:
    """The range of one ingredient that a school swears by, and why; per litre."""

    school: str
    ingredient: str
    low: float
    high: float
    reason: str


@dataclass(frozen=True, slots=True)
class RecipeCard:
    """Everything about mixing and applying one remedy; typical values.

    `roles` by ingredient key; `life_hours` None when nothing spoils; `suits` and `spares`
    name leaves it is for and leaves it is not for; `rules` None when no weather stops it;
    `interval_days` the least time between two treatments of one plant; `dose_sign` what the
    dried leaf tells; `aftercare` what to do around the spray; `eat_after_days` how long edible
    parts wait before they are washed and eaten (None: by the label, or not on edibles at all).
    """

    key: str
    kind: MixKind
    roles: dict[str, PartRole]
    ranges: tuple[SchoolRange, ...]
    order_note: str
    life_hours: float | None
    agitation: str
    coverage: str
    ml_per_plant: float | None
    suits: tuple[str, ...]
    spares: tuple[str, ...]
    rules: SprayRules | None
    interval_days: int
    oil: bool
    dose_sign: str
    aftercare: str
    eat_after_days: int | None = None

    @property
    def mixed(self) -> bool:
        """True when a bottle has to be filled."""
        return self.kind is not MixKind.NONE


def own_card(
    key: str,
    parts: Sequence[Part],
    way: str,
    *,
    food: Food = Food.LABEL,
    alike: Sequence[RecipeCard] = (),
) -> RecipeCard:
    """Return the card of a gardener's own remedy, careful where nothing is known.

    Parameters
    ----------
    food:
        What holds for eating after it; see `food_rule`.
    alike:
        Cards of the shipped remedies that hold the same things: it is as careful as the most
        careful of them.
    """
    found = [classify(part.name) for part in parts]
    oil = any(one.has(Trait.OIL) for one in found if one is not None)
    oil = oil or any(card.oil for card in alike)
    wet = way in ("spray", "mist", "bath", "jet")
    rules = SprayRules(high=25.0, heat_hours=24 if oil else 0) if wet else None
    waits = [card.eat_after_days for card in alike if card.eat_after_days is not None]
    return RecipeCard(
        key=key,
        kind=MixKind.MIX if parts or way in POURED else MixKind.NONE,
        roles={part.name: PartRole.ACTIVE for part in parts},
        ranges=(),
        order_note="",
        life_hours=8.0,
        agitation="Shake before every plant." if oil else "Shake now and then.",
        coverage="Undersides first, then the tops, until the leaf is evenly wet.",
        ml_per_plant=None,
        suits=(),
        spares=("seedlings", "hairy, thin or waxy leaves", "thirsty plants"),
        rules=rules,
        interval_days=max((3, *(card.interval_days for card in alike))),
        oil=oil,
        dose_sign="",
        aftercare="",
        eat_after_days={
            Food.FREE: 0,
            Food.WAIT: max((USUAL_WAIT, *waits)),
        }.get(food),
    )


def school_note(card: RecipeCard, ingredient: str, amount: float, unit: str) -> Iterable[str]:
    """Say for each school of an ingredient whether an amount, in a unit, is in its range."""
    for entry in card.ranges:
        if entry.ingredient == ingredient:
            said = f"{entry.school}: {entry.low:g} to {entry.high:g} {unit}; {amount:g} {unit}"
            if amount < entry.low:  # mild is no fault, and nothing urges to more
                yield f"{said} is milder."
            else:
                where = "within" if amount <= entry.high else "above"
                yield f"{said} lies {where}. {entry.reason}"
