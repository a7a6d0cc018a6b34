"""What a mix costs: per litre, per plant, per round, from the prices of the packs."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.reading import amount_said
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.substances import classify, words_of
from orthocris.core.pantry.units import UNITS, Region
from orthocris.core.ranges import check_length

HARD_WATER = 200.0  # mg/L CaCO3 above which soap is weakened, about


@dataclass(frozen=True, slots=True)
class Price:
    """What a pack costs: `pack` ml, g or pieces of what `name` says; `price` in any currency."""

    name: str
    pack: Fraction
    price: Fraction

    @property
    def each(self) -> Fraction:
        """Price of one ml, g or piece."""
        return self.price / self.pack


@dataclass(frozen=True, slots=True)
class Cost:
    """Cost of a mix; `missing` names parts without a price, which are left out."""

    per_litre: Fraction
    per_plant: Fraction | None
    per_round: Fraction
    missing: tuple[str, ...]


def pack_said(
    pack: str, name: str, region: Region = Region.METRIC, drop: Fraction = UNITS["drop"].factor
) -> Fraction:
    """Return what is in a pack, as it is said: 500, "1.5 l", "32 fl oz", "2 lb", "10 cards".

    A bare number is ml, g or pieces, whichever the thing is told in. An ounce is one of volume or
    of weight by what is sold, as in a recipe.

    Raises
    ------
    InputError
        When no amount can be read out of it.
    """
    plain = " ".join(pack.split())
    bare = re.fullmatch(
        r"(\d{1,7}(?:\.\d{1,12}|,\d{1,2})?)(?: ?(?:pieces?|pcs?\.?|cards?))?", plain
    )
    if bare is not None:
        return Fraction(bare[1].replace(",", "."))
    said = _one_amount(plain, name, region, drop)
    if said is None:
        raise InputError(
            f"no pack is read in {plain[:30]!r}",
            code="bad_price",
            field="price",
            fix="Give what is in it, such as 500 ml, 32 fl oz, 2 lb or 10 pieces.",
        )
    return said


def _one_amount(plain: str, name: str, region: Region, drop: Fraction) -> Fraction | None:
    """One number and one unit; "2 x 500 ml" is two packs, and is asked back."""
    if not re.fullmatch(
        r"(?:[\d.,/½¼¾]{1,12}|an?|half an?) ?[^\W\d][^\W\d. ]*[. ]{0,2}[a-z.]*", plain
    ):
        return None
    try:
        return amount_said(f"{plain} {name}", region, drop)
    except InputError:
        return None


def check_price(price: Price) -> None:
    """Refuse packs of nothing and negative prices."""
    if not Fraction(1, 100) <= price.pack <= 10**6 or not 0 <= price.price <= 10**6:
        raise InputError(
            f"{float(price.pack):g} of {price.name} for {float(price.price):g}",
            code="bad_price",
            field="price",
            fix="Give the pack's ml, g or pieces, 0.01 or more, and a price of 0 or more.",
        )
    check_length(price.name.strip(), 60, "the name of a price", "name")
    if not price.name.strip():
        raise InputError(
            "a price without a name",
            code="empty",
            field="name",
            fix="Name the ingredient, such as soap.",
        )


def cost_of(
    parts: Sequence[Part], prices: Sequence[Price], volume: Fraction, plants: int | None
) -> Cost:
    """Return what a batch costs.

    Parameters
    ----------
    parts:
        Ingredients per litre; water is free, and so is a brew, whose solids are parts.
    prices:
        Packs; a price is for every part that is the same substance.
    volume:
        Ready mix for the round, ml.
    plants:
        Plants it serves, None when not known.
    """
    total = Fraction(0)
    missing = []
    brewed = any(part.steeped for part in parts)
    for part in parts:
        if brewed and part.name.endswith(" brew"):
            continue
        price = _price_for(part, prices)
        if price is None:
            missing.append(part.name)
        else:
            total += part.per_litre * price.each
    whole = total * volume / LITRE
    return Cost(total, whole / plants if plants else None, whole, tuple(missing))


def _price_for(part: Part, prices: Sequence[Price]) -> Price | None:
    """The pack a part comes out of: of the same substance, the one most alike in its words."""
    own = set(words_of(part.name))
    found = classify(part.name)

    def fits(price: Price) -> bool:
        sold = classify(price.name)
        if sold is not None and found is not None:
            return sold.key == found.key
        return set(words_of(price.name)) <= own

    fitting = [price for price in prices if fits(price)]
    return max(fitting, key=lambda price: len(own & set(words_of(price.name))), default=None)


def price_of(said: str, prices: Sequence[Price]) -> Price | None:
    """Return the price of what is laid, hung or strewn, by its words: "yellow card" of ten cards.

    The one most alike in its words, one or many; None where none is of it.
    """
    own = _singular(said)
    fitting = [price for price in prices if _singular(price.name) <= own]
    return max(fitting, key=lambda price: len(_singular(price.name)), default=None)


def _singular(text: str) -> set[str]:
    return {word.removesuffix("s") for word in words_of(text)}


def hardness_warning(parts: Sequence[Part], hardness: float | None) -> str | None:
    """Warn where hard water weakens soap: above about 200 mg/L CaCO3."""
    found = [classify(part.name) for part in parts]
    soap = any(one.key in ("soap", "solid_soap") for one in found if one is not None)
    if hardness is None or not soap or hardness <= HARD_WATER:
        return None
    return (
        f"Water of {hardness:g} mg/L CaCO3 binds part of the soap: use rain or filtered water, "
        "the same for every batch."
    )
