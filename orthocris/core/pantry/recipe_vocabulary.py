"""The words of recipes: units, numbers, vague measures, vessels."""

from __future__ import annotations

import re
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.units import UNITS, Dimension

UNIT_WORDS: dict[str, str] = {
    word: key
    for key, words in {
        "ml": "ml mls millilitre millilitres milliliter milliliters cc",
        "cl": "cl centilitre centilitres",
        "dl": "dl decilitre decilitres",
        "l": "l litre litres liter liters ltr",
        "tsp": "tsp tsps teaspoon teaspoons teaspoonful teaspoonfuls",
        "dsp": "dsp dessertspoon dessertspoons",
        "tbsp": "tbsp tbsps tbs tablespoon tablespoons tablespoonful tablespoonfuls spoon spoons"
        " spoonful spoonfuls",
        "floz": "floz",
        "cup": "cup cups",
        "pint": "pint pints pt",
        "quart": "quart quarts qt",
        "gal": "gal gallon gallons",
        "drop": "drop drops",
        "g": "g gram grams gramme grammes gr",
        "kg": "kg",
        "oz": "oz ounce ounces",
        "lb": "lb lbs pound pounds",
    }.items()
    for word in words.split()
}

NUMBER_WORDS: dict[str, int | Fraction] = {
    "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7,
    "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "half": Fraction(1, 2),
    "quarter": Fraction(1, 4), "couple": 2, "few": 3, "several": 5,
}  # fmt: skip

# Vague measures and how a spoon is filled: typical, and said to be guesses.
VAGUE = {
    "dash": Fraction(1), "splash": Fraction(5), "squirt": Fraction(5, 2), "glug": Fraction(15),
    "pinch": Fraction(3, 10),
}  # fmt: skip

HEAPS = {
    "heaped": Fraction(2), "heaping": Fraction(2), "rounded": Fraction(3, 2), "level": Fraction(1),
    "scant": Fraction(4, 5), "generous": Fraction(5, 4),
}  # fmt: skip

POWDERS = {"baking soda": Fraction(9, 10), "bicarbonate": Fraction(9, 10), "soda": Fraction(9, 10)}

# Words that tell that a part of the text was meant as an ingredient.
KNOWN = (
    "soap", "detergent", r"\boil", "neem", "alcohol", "soda", "bicarbonate", "milk", "vinegar",
    "peroxide", "bleach", "garlic", "pepper", "sulphur",
)  # fmt: skip

FRACTIONS = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅓": " 1/3", "⅔": " 2/3"}

LONGEST_NUMBER = 12  # figures and signs
NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?)"

VESSELS = r"(?:can|bottle|sprayer|bucket|jug|watering can|spray bottle|mister)"


def normal(text: str) -> str:
    """Return a recipe in lower case, with its signs and long words made plain."""
    plain = text.casefold()
    for sign, words in FRACTIONS.items():
        plain = plain.replace(sign, words)
    plain = re.sub(r"(\d),(\d)", r"\1.\2", plain)
    plain = re.sub(r"\bfl\.?\s*oz\.?|\bfluid ounces?", " floz", plain)
    plain = re.sub(r"\bdessert spoons?(?:ful)?", " dsp", plain)
    plain = re.sub(r"(\d)-(?=[a-z])", r"\1 ", plain)
    plain = re.sub(r"\bhalf an?\b", " 1/2", plain)
    plain = re.sub(r"\ba (few|couple)(?: of)?\b", r"\1", plain)
    # What each plant gets is no part of the mix.
    plain = re.sub(
        rf",?\s*{NUMBER} ?ml (?:a|per|each|on each|for each) (?:plant|pot)\b", " ", plain
    )
    return re.sub(r"\s+", " ", plain).strip(" .")


def ingredient_name(text: str) -> str:
    """Return the name of an ingredient without the words around it."""
    name = re.sub(
        r"\b(?:of|in|to|per|the|water|rain|lukewarm|warm|cold|filtered|parts?|then|shaken?|diluted|mix(?:ed)?)\b|[/,.]",
        " ", text,
    )  # fmt: skip
    name = re.sub(r"\s+", " ", name).strip(" -")
    return name or ("water" if "water" in text else "")


def number_value(text: str) -> Fraction:
    """Return the number that a word, a fraction or digits stand for."""
    if text in NUMBER_WORDS:
        return Fraction(NUMBER_WORDS[text])
    if len(text) > LONGEST_NUMBER:
        raise InputError(
            f"{text[:LONGEST_NUMBER]}… is too long for an amount",
            code="no_amount",
            field="text",
            fix="Give a number of a few figures.",
        )
    whole, _, fraction = text.rpartition(" ")
    if re.search(r"/0+$", fraction):
        raise InputError(
            f"{fraction} is no number",
            code="no_amount",
            field="text",
            fix="Write a fraction such as 1/2.",
        )
    return (Fraction(whole) if whole else Fraction(0)) + Fraction(fraction)


def is_volume(key: str) -> bool:
    """Tell whether a unit can say how much water there is."""
    return UNITS[key].dimension is Dimension.VOLUME and key not in ("drop", "tsp", "tbsp", "dsp")
