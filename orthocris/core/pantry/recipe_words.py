"""Recipes as people say them, read into amounts per litre."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe_vocabulary import (
    HEAPS,
    KNOWN,
    LONGEST_NUMBER,
    NUMBER,
    NUMBER_WORDS,
    POWDERS,
    UNIT_WORDS,
    VAGUE,
    VESSELS,
    ingredient_name,
    is_volume,
    normal,
    number_value,
)
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.units import UNITS, Dimension, Region, unit_named
from orthocris.core.ranges import check_length

LONGEST_RECIPE = 2000  # letters


@dataclass(frozen=True, slots=True)
class Reading:
    """A recipe read: its parts per litre, and what had to be guessed.

    `volume` is the ready mix it was said for, in ml, None for a bare ratio or strength.
    """

    parts: tuple[Part, ...]
    volume: Fraction | None
    guesses: tuple[str, ...]


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
    found = _read(text, region, drop)
    if isinstance(found, Reading):
        return found
    raise InputError(found.message, code=found.code, field=found.field, fix=found.fix)


@lru_cache(maxsize=512)
def _read(text: str, region: Region, drop: Fraction) -> Reading | InputError:
    """Read a recipe once; a screen asks for the same recipe many times, read or not."""
    try:
        return _read_anew(text, region, drop)
    except InputError as error:
        return error.with_traceback(None)


def _read_anew(text: str, region: Region, drop: Fraction) -> Reading:
    _refuse_long(text)
    plain = normal(text)
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
        elif re.search(rf"\d|{'|'.join(KNOWN)}", said):
            guesses.append(f"{said!r} was not understood and is left out")
    if not parts:
        raise InputError(
            f"no amount was found in {text.strip()[:60]!r}",
            code="no_amount",
            field="text",
            fix="Say how much of what in how much water, such as 10 ml soap in 1 litre.",
        )
    return Reading(tuple(parts), volume, tuple(guesses))


def _refuse_long(text: str) -> None:
    """No recipe has such a number or is so long; refused before anything looks for patterns."""
    check_length(text, LONGEST_RECIPE, "the recipe", "text")
    long = re.search(rf"\d[\d.,]{{{LONGEST_NUMBER},}}", text)
    if long:
        raise InputError(
            f"{long[0][:LONGEST_NUMBER]}… is too long for an amount",
            code="no_amount",
            field="text",
            fix="Give a number of a few figures.",
        )


def _refuse_negative(plain: str) -> None:
    """A minus at a number is no amount; a dash between numbers, or set apart, is another thing."""
    found = re.search(r"(?<!\w)(?<!\d )(?:[-−–]|minus )(\d+(?:\.\d+)?)", plain)
    if found:
        raise InputError(
            f"minus {found[1]} is less than nothing",
            code="negative_amount",
            field="text",
            fix="Give an amount of 0 or more.",
        )


def _ranges(plain: str, guesses: list[str]) -> str:
    """Read "10-15 ml" and "1 to 2 tablespoons" as the middle, and say so."""
    units = "|".join(sorted(UNIT_WORDS, key=len, reverse=True))
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
        rf"({NUMBER}|one) {part} (.+?) (?:to|and) ({NUMBER}|\w+) {part} (?:of )?water", plain
    )
    colon = re.search(rf"({NUMBER})\s*:\s*({NUMBER})", plain)
    among = re.search(
        rf"\b({NUMBER}|one) (?:part )?in ({NUMBER}|{'|'.join(NUMBER_WORDS)})\b", plain
    )
    spoken = re.search(rf"\b(?:{'|'.join(UNIT_WORDS)})\b", plain)
    share = re.search(rf"(?<![\d.])({NUMBER})\s*%", plain)
    stock = re.search(
        rf"({NUMBER})\s*%\s*(.*?)\s*(?:diluted |down )?to\s*({NUMBER})\s*%|"
        rf"(.*?)\s*({NUMBER})\s*%\s*(?:diluted |down )?to\s*({NUMBER})\s*%",
        plain,
    )
    if stock:
        return _from_stock(stock, plain)
    if named:
        one, rest = number_value(named[1]), number_value(named[3])
        return _share(named[2], _over(one, one + rest), plain)
    if colon:
        one, rest = number_value(colon[1]), number_value(colon[2])
        return _share(plain.replace(colon[0], " "), _over(one, one + rest), plain)
    if among and not spoken:
        one, whole = number_value(among[1]), number_value(among[2])
        return _share(plain.replace(among[0], " "), _over(one, whole), plain)
    if share and not spoken:
        return _share(plain.replace(share[0], " "), number_value(share[1]) / 100, plain)
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
    stock = number_value(found[1] or found[5]) / 100
    wanted = number_value(found[3] or found[6]) / 100
    name = ingredient_name(found[2] or found[4] or "")
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
    return Reading((Part(ingredient_name(name), share * LITRE),), None, ())


def _volume(plain: str, region: Region) -> tuple[str, Fraction | None]:
    """Take the volume of the ready mix out of the text; None when there is none."""
    units = "|".join(
        sorted((w for w, k in UNIT_WORDS.items() if is_volume(k)), key=len, reverse=True)
    )
    pattern = (
        rf"(?:(?:made|make|making|topped|top) up (?:to|with)|per|/|to|in|into|for|for each)\s*"
        rf"(?:(?:a|an|each|every|the)\s)?({NUMBER}|one|two|five|ten|half)?\s*({units})\b"
        rf"(?:\s{VESSELS})?(?:\s(?:of\s)?(?:\w+\s)?water)?"
    )
    each_litre = re.sub(r"\s*(?:/|\bper\b)\s*(?:l|litre|liter)\b", " ", plain)
    if each_litre != plain:  # "15 ml/L soap": the name may follow
        return each_litre, LITRE
    vessel = (
        rf"(?:^|(?<=\s))(?:(?:a|an|the|each|every)\s)?({NUMBER}|one|two|five|ten|half)?\s*({units})\s"
        rf"(?:{VESSELS}|(?:of\s)?(?:\w+\s)?water)(?:\s(?:and|with)\b)?"
    )
    matches = list(re.finditer(pattern, plain)) or list(re.finditer(vessel, plain))
    if not matches:
        return plain, None
    last = matches[-1]
    number = number_value(last[1]) if last[1] else Fraction(1)
    if number <= 0:
        raise InputError(
            f"{last[0].strip()!r} is no water to be in",
            code="no_volume",
            field="text",
            fix="Give the volume of the ready mix, above 0.",
        )
    volume = number * unit_named(UNIT_WORDS[last[2]], region).factor
    return plain[: last.start()] + " , " + plain[last.end() :], volume


def _clause(
    clause: str,
    region: Region,
    volume: Fraction | None,
    guesses: list[str],
    drop: Fraction,
) -> Part | None:
    units = "|".join(sorted(UNIT_WORDS, key=len, reverse=True))
    heaps = "|".join(HEAPS)
    numbers = "|".join(NUMBER_WORDS)
    match = re.match(
        rf"(?:({NUMBER}|{numbers})\s*)?(?:(?:of|an?)\s)?(?:({heaps})\s)?({units}|{'|'.join(VAGUE)})\b"
        rf"\s*(?:of\s)?(.*)",
        clause,
    )
    if match is None or not (match[1] or match[3] in VAGUE or match[2]):
        return None
    number = number_value(match[1]) if match[1] else Fraction(1)
    name = ingredient_name(match[4])
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
    if UNIT_WORDS.get(match[3]) == "drop":
        amount = number * drop
    return Part(name, amount * LITRE / volume, dimension)


def _amount(
    number: Fraction, word: str, heap: str | None, name: str, region: Region, guesses: list[str]
) -> tuple[Fraction, Dimension]:
    """Return ml or g; spoons of a powder are turned into grams by its bulk density."""
    if word in VAGUE:
        amount, dimension = number * VAGUE[word], Dimension.VOLUME
        guesses.append(f"a {word} is taken as {float(VAGUE[word]):g} ml; measure it next time")
    else:
        unit = unit_named(UNIT_WORDS[word], region)
        amount, dimension = number * unit.factor, unit.dimension
        if word.startswith("spoon"):
            guesses.append("a spoon is taken as a tablespoon")
    if heap is not None:
        amount *= HEAPS[heap]
        if HEAPS[heap] != 1:
            guesses.append(f"{heap} is taken as {float(HEAPS[heap]):g} level ones")
    density = next((d for powder, d in POWDERS.items() if powder in name), None)
    if density is not None and dimension is Dimension.VOLUME:
        guesses.append(f"1 ml of {name} is taken as {float(density):g} g")
        return amount * density, Dimension.MASS
    return amount, dimension
