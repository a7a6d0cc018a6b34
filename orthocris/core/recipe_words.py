"""Recipes as people say them, read into amounts per litre."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.recipes import LITRE, Part
from orthocris.core.units import UNITS, Dimension, Region, unit_named


@dataclass(frozen=True, slots=True)
class Reading:
    """A recipe read: its parts per litre, and what had to be guessed.

    `volume` is the ready mix it was said for, in ml, None for a bare ratio or strength.
    """

    parts: tuple[Part, ...]
    volume: Fraction | None
    guesses: tuple[str, ...]


_WORDS: dict[str, str] = {
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
_NUMBERS: dict[str, int | Fraction] = {
    "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7,
    "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "half": Fraction(1, 2),
    "quarter": Fraction(1, 4), "couple": 2, "few": 3, "several": 5,
}  # fmt: skip
# Vague measures and how a spoon is filled: typical, and said to be guesses.
_VAGUE = {
    "dash": Fraction(1), "splash": Fraction(5), "squirt": Fraction(5, 2), "glug": Fraction(15),
    "pinch": Fraction(3, 10),
}  # fmt: skip
_HEAPS = {
    "heaped": Fraction(2), "heaping": Fraction(2), "rounded": Fraction(3, 2), "level": Fraction(1),
    "scant": Fraction(4, 5), "generous": Fraction(5, 4),
}  # fmt: skip
_POWDERS = {"baking soda": Fraction(9, 10), "bicarbonate": Fraction(9, 10), "soda": Fraction(9, 10)}
# Words that tell that a part of the text was meant as an ingredient.
_KNOWN = (
    "soap", "detergent", r"\boil", "neem", "alcohol", "soda", "bicarbonate", "milk", "vinegar",
    "peroxide", "bleach", "garlic", "pepper", "sulphur",
)  # fmt: skip
_FRACTIONS = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅓": " 1/3", "⅔": " 2/3"}
_NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?)"
_VESSELS = r"(?:can|bottle|sprayer|bucket|jug|watering can|spray bottle|mister)"


def read_recipe(
    text: str, region: Region = Region.METRIC, drop: Fraction = UNITS["drop"].factor
) -> Reading:
    """Read a recipe as people say it.

    Parameters
    ----------
    text:
        Such as "15 ml/L soap", "1:40 soap", "a heaped dessert spoon of baking soda to a 5-litre
        can and a dash of soap". "1:40" is one part and forty of water; "1 in 40" is one part
        in forty altogether. "In", "to" or "per" a volume is read as topped up to it.
    region:
        Whose spoons and gallons are meant.
    drop:
        ml in a drop of the gardener's own dropper.

    Raises
    ------
    InputError
        When no amount can be found, or an amount has no volume to be in.
    """
    plain = _normal(text)
    _refuse_negative(plain)
    ratio = _ratio(plain)
    if ratio is not None:
        return ratio
    guesses: list[str] = []
    plain = _ranges(plain, guesses)
    plain, volume = _volume(plain, region)
    parts: list[Part] = []
    for clause in re.split(r",|;|\+|&|\band\b|\bplus\b|\bwith\b", plain):
        said = clause.strip(" :.")
        found = _clause(said, region, volume, guesses, drop)
        if found is not None:
            parts.append(found)
        elif re.search(rf"\d|{'|'.join(_KNOWN)}", said):
            guesses.append(f"{said!r} was not understood and is left out")
    if not parts:
        raise InputError(
            f"no amount was found in {text.strip()[:60]!r}",
            code="no_amount",
            field="text",
            fix="Say how much of what in how much water, such as 10 ml soap in 1 litre.",
        )
    return Reading(tuple(parts), volume, tuple(guesses))


def _normal(text: str) -> str:
    plain = text.casefold()
    for sign, words in _FRACTIONS.items():
        plain = plain.replace(sign, words)
    plain = re.sub(r"(\d),(\d)", r"\1.\2", plain)
    plain = re.sub(r"\bfl\.?\s*oz\.?|\bfluid ounces?", " floz", plain)
    plain = re.sub(r"\bdessert spoons?(?:ful)?", " dsp", plain)
    plain = re.sub(r"(\d)-(?=[a-z])", r"\1 ", plain)
    plain = re.sub(r"\bhalf an?\b", " 1/2", plain)
    plain = re.sub(r"\ba (few|couple)(?: of)?\b", r"\1", plain)
    # What each plant gets is no part of the mix.
    plain = re.sub(
        rf",?\s*{_NUMBER} ?ml (?:a|per|each|on each|for each) (?:plant|pot)\b", " ", plain
    )
    return re.sub(r"\s+", " ", plain).strip(" .")


def _refuse_negative(plain: str) -> None:
    """A minus before a number is no amount; a dash between words or numbers is another thing."""
    found = re.search(r"(?:^|[\s(])(?:[-−–]|minus)\s*(\d+(?:\.\d+)?)", plain)
    between = re.search(r"\d\s*[-−–]\s*\d", plain)
    if found and not between:
        raise InputError(
            f"minus {found[1]} is less than nothing",
            code="negative_amount",
            field="text",
            fix="Give an amount of 0 or more.",
        )


def _ranges(plain: str, guesses: list[str]) -> str:
    """Read "10-15 ml" and "1 to 2 tablespoons" as the middle, and say so."""
    units = "|".join(sorted(_WORDS, key=len, reverse=True))
    number = r"\d+(?:\.\d+)?"

    def middle(found: re.Match[str]) -> str:
        mean = (Fraction(found[1]) + Fraction(found[2])) / 2
        guesses.append(f"{found[1]} to {found[2]} is taken as {float(mean):g}")
        return f"{float(mean):g} "

    between = rf"({number})\s*(?:-|–|to|or)\s*({number})\s*(?=(?:{units})\b)"
    return re.sub(between, middle, plain)


def _ratio(plain: str) -> Reading | None:
    """Read "1:40", "1 in 40", "1 part soap to 40 parts water" and "2% neem"."""
    part = r"parts?(?: of)?"
    named = re.fullmatch(
        rf"({_NUMBER}|one) {part} (.+?) (?:to|and) ({_NUMBER}|\w+) {part} (?:of )?water", plain
    )
    colon = re.search(rf"({_NUMBER})\s*:\s*({_NUMBER})", plain)
    among = re.search(rf"\b({_NUMBER}|one) (?:part )?in ({_NUMBER}|{'|'.join(_NUMBERS)})\b", plain)
    spoken = re.search(rf"\b(?:{'|'.join(_WORDS)})\b", plain)
    share = re.search(rf"(?<![\d.])({_NUMBER})\s*%", plain)
    stock = re.search(
        rf"({_NUMBER})\s*%\s*(.*?)\s*(?:diluted |down )?to\s*({_NUMBER})\s*%|"
        rf"(.*?)\s*({_NUMBER})\s*%\s*(?:diluted |down )?to\s*({_NUMBER})\s*%",
        plain,
    )
    if stock:
        return _from_stock(stock, plain)
    if named:
        one, rest = _value(named[1]), _value(named[3])
        return _share(named[2], _over(one, one + rest), plain)
    if colon:
        one, rest = _value(colon[1]), _value(colon[2])
        return _share(plain.replace(colon[0], " "), _over(one, one + rest), plain)
    if among and not spoken:
        one, whole = _value(among[1]), _value(among[2])
        return _share(plain.replace(among[0], " "), _over(one, whole), plain)
    if share and not spoken:
        return _share(plain.replace(share[0], " "), _value(share[1]) / 100, plain)
    return None


def _over(one: Fraction, whole: Fraction) -> Fraction:
    """One part over the whole; nothing in nothing is no strength."""
    if whole <= 0:
        raise InputError(
            f"{float(one):g} part in {float(whole):g} is no strength",
            code="bad_ratio",
            field="text",
            fix="Say how many parts there are altogether, such as 1 in 40.",
        )
    return one / whole


def _from_stock(found: re.Match[str], plain: str) -> Reading:
    """Read "3% peroxide to 0.5%": C1·V1 = C2·V2 a litre."""
    stock = _value(found[1] or found[5]) / 100
    wanted = _value(found[3] or found[6]) / 100
    name = _name(found[2] or found[4] or "")
    if not 0 < stock <= 1 or wanted > stock:
        raise InputError(
            f"a stock of {float(stock):.3%} cannot become {float(wanted):.3%}",
            code="stock_too_weak",
            field="text",
            fix="Water makes it weaker, never stronger: get a stronger stock or want less.",
        )
    return _share(f"{name or 'stock'} ({float(stock * 100):g}%)", wanted / stock, plain)


def _share(name: str, share: Fraction, plain: str) -> Reading:
    if not 0 < share <= 1:
        raise InputError(
            f"{plain!r} is {float(share):.0%} of the mix",
            code="more_than_whole",
            field="text",
            fix="A strength is above 0 and at most 100%.",
        )
    return Reading((Part(_name(name), share * LITRE),), None, ())


def _volume(plain: str, region: Region) -> tuple[str, Fraction | None]:
    """Take the volume of the ready mix out of the text; None when there is none."""
    units = "|".join(sorted((w for w, k in _WORDS.items() if _is_volume(k)), key=len, reverse=True))
    pattern = (
        rf"(?:(?:made|make|making|topped|top) up (?:to|with)|per|/|to|in|into|for|for each)\s*"
        rf"(?:(?:a|an|each|every|the)\s)?({_NUMBER}|one|two|five|ten|half)?\s*({units})\b"
        rf"(?:\s{_VESSELS})?(?:\s(?:of\s)?(?:\w+\s)?water)?"
    )
    each_litre = re.sub(r"\s*(?:/|\bper\b)\s*(?:l|litre|liter)\b", " ", plain)
    if each_litre != plain:  # "15 ml/L soap": the name may follow
        return each_litre, LITRE
    vessel = (
        rf"(?:^|(?<=\s))(?:(?:a|an|the|each|every)\s)?({_NUMBER}|one|two|five|ten|half)?\s*({units})\s"
        rf"(?:{_VESSELS}|(?:of\s)?(?:\w+\s)?water)(?:\s(?:and|with)\b)?"
    )
    matches = list(re.finditer(pattern, plain)) or list(re.finditer(vessel, plain))
    if not matches:
        return plain, None
    last = matches[-1]
    number = _value(last[1]) if last[1] else Fraction(1)
    if number <= 0:
        raise InputError(
            f"{last[0].strip()!r} is no water to be in",
            code="no_volume",
            field="text",
            fix="Give the volume of the ready mix, above 0.",
        )
    volume = number * unit_named(_WORDS[last[2]], region).factor
    return plain[: last.start()] + " , " + plain[last.end() :], volume


def _clause(
    clause: str,
    region: Region,
    volume: Fraction | None,
    guesses: list[str],
    drop: Fraction,
) -> Part | None:
    units = "|".join(sorted(_WORDS, key=len, reverse=True))
    heaps = "|".join(_HEAPS)
    numbers = "|".join(_NUMBERS)
    match = re.match(
        rf"(?:({_NUMBER}|{numbers})\s*)?(?:(?:of|an?)\s)?(?:({heaps})\s)?({units}|{'|'.join(_VAGUE)})\b"
        rf"\s*(?:of\s)?(.*)",
        clause,
    )
    if match is None or not (match[1] or match[3] in _VAGUE or match[2]):
        return None
    number = _value(match[1]) if match[1] else Fraction(1)
    name = _name(match[4])
    if not name or name == "water":
        return None
    if volume is None:
        raise InputError(
            f"{clause!r} has no volume of water to be in",
            code="no_volume",
            field="text",
            fix="Add it, such as in 1 litre.",
        )
    amount, dimension = _amount(number, match[3], match[2], name, region, guesses)
    if _WORDS.get(match[3]) == "drop":
        amount = number * drop
    return Part(name, amount * LITRE / volume, dimension)


def _amount(
    number: Fraction, word: str, heap: str | None, name: str, region: Region, guesses: list[str]
) -> tuple[Fraction, Dimension]:
    """Return ml or g; spoons of a powder are turned into grams by its bulk density."""
    if word in _VAGUE:
        amount, dimension = number * _VAGUE[word], Dimension.VOLUME
        guesses.append(f"a {word} is taken as {float(_VAGUE[word]):g} ml; measure it next time")
    else:
        unit = unit_named(_WORDS[word], region)
        amount, dimension = number * unit.factor, unit.dimension
        if word.startswith("spoon"):
            guesses.append("a spoon is taken as a tablespoon")
    if heap is not None:
        amount *= _HEAPS[heap]
        if _HEAPS[heap] != 1:
            guesses.append(f"{heap} is taken as {float(_HEAPS[heap]):g} level ones")
    density = next((d for powder, d in _POWDERS.items() if powder in name), None)
    if density is not None and dimension is Dimension.VOLUME:
        guesses.append(f"1 ml of {name} is taken as {float(density):g} g")
        return amount * density, Dimension.MASS
    return amount, dimension


def _name(text: str) -> str:
    name = re.sub(
        r"\b(?:of|in|to|per|the|water|rain|lukewarm|warm|cold|filtered|parts?|then|shaken?|diluted|mix(?:ed)?)\b|[/,.]",
        " ", text,
    )  # fmt: skip
    name = re.sub(r"\s+", " ", name).strip(" -")
    return name or ("water" if "water" in text else "")


def _value(text: str) -> Fraction:
    if text in _NUMBERS:
        return Fraction(_NUMBERS[text])
    whole, _, fraction = text.rpartition(" ")
    if re.search(r"/0+$", fraction):
        raise InputError(
            f"{fraction} is no number",
            code="no_amount",
            field="text",
            fix="Write a fraction such as 1/2.",
        )
    return (Fraction(whole) if whole else Fraction(0)) + Fraction(fraction)


def _is_number(text: str) -> bool:
    return text in _NUMBERS or re.fullmatch(_NUMBER, text) is not None


def _is_volume(key: str) -> bool:
    return UNITS[key].dimension is Dimension.VOLUME and key not in ("drop", "tsp", "tbsp", "dsp")
