"""What may be in a house already, of which remedies are made."""

from __future__ import annotations

from collections.abc import Collection, Iterable

HOUSEHOLD = {
    "soap": "mild liquid soap",
    "detergent": "dish detergent",
    "oil": "cooking oil",
    "neem": "neem oil",
    "alcohol": "rubbing alcohol",
    "soda": "baking soda",
    "milk": "milk",
    "vinegar": "vinegar",
    "peroxide": "hydrogen peroxide",
    "mineral_oil": "paraffin oil",
    "bicarbonate": "potassium bicarbonate",
    "essential_oil": "rosemary or mint oil",
    "sulphur": "wettable sulphur",
    "cinnamon": "cinnamon",
    "aspirin": "aspirin",
}


def missing(ingredients: Iterable[str], in_house: Collection[str] | None) -> tuple[str, ...]:
    """Return the names of what is not in the house; nothing while nobody has said what is."""
    if in_house is None:
        return ()
    return tuple(HOUSEHOLD[key] for key in ingredients if key in HOUSEHOLD and key not in in_house)
