"""Turns of speech: "thinned with water to 50%", "undiluted, on a brush", "day 1: 10 ml soap"."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import (
    MEASURES,
    NAMES,
    NUMBERS,
    Found,
    Rule,
    begins,
    exact,
    kinds,
    merged,
    thing_at,
)
from orthocris.core.pantry.recipe.titles import TITLES
from orthocris.core.pantry.units import UNITS

OFF = Fraction(3, 2)  # two tellings of one amount are not farther apart than this
LEADS = "leads"  # the value of the joint of a volume that its parts follow
_SPOONS = frozenset({"tsp", "dsp", "tbsp", "cup"})
_NUMBERED = frozenset({"day", "week", "step", "recipe", "mix", "spray", "round", "no", "number",
                       "variant", "treatment", "batch", "bottle", "night", "option",
                       "version"})  # fmt: skip
_MONTHS = frozenset({"january", "february", "march", "april", "may", "june", "july", "august",
                     "september", "october", "november", "december"})  # fmt: skip
_INTO = frozenset({Kind.IN, Kind.PER, Kind.TO, Kind.UP_TO})
_SMALLEST = 250  # ml, of what parts are mixed into
_MIXES = ("mix", "mixture", "solution", "emulsion", "blend", "batch")
_JOINING = frozenset({Kind.SEP, Kind.VERB, Kind.NOTE})


def strength_after(row: Sequence[Lexeme], place: int) -> Found:
    """ "Neem oil, 1%; soap solution, 0.25%": the comma parts nothing."""
    comma = place + kinds(row, place, Kind.SOLUTION)
    if not place or not kinds(row, place - 1, NAMES) or not kinds(row, comma, Kind.SEP):
        return None
    if place > 1 and row[place - 2].kind in MEASURES | {Kind.OF, Kind.STRENGTH, Kind.RATIO}:
        return None  # it has its amount
    end = comma + 2 + kinds(row, comma + 2, Kind.SOLUTION)
    alone = end >= len(row) or kinds(row, end, frozenset({Kind.SEP, Kind.TO, Kind.NOTE}))
    if row[comma].text.strip() != "," or not alone or not kinds(row, comma + 1, Kind.STRENGTH):
        return None
    return replace(row[comma + 1], start=row[place].start), comma + 2 - place


def used_at(row: Sequence[Lexeme], place: int) -> Found:
    """ "Nettle brew, use at 10%" is a brew at 10%."""
    if row[place].kind is not Kind.BREW:
        return None
    end = place + 1
    while kinds(row, end, frozenset({Kind.SEP, Kind.COUNTED, Kind.VERB})) and end < place + 4:
        if row[end].value == "stop":
            return None
        end += 1
    if end - place < 2 or not kinds(row, end, Kind.STRENGTH):
        return None
    return row[place], end - place


def _neat_again(row: Sequence[Lexeme], place: int) -> Found:
    """ "Undiluted, on a brush": the same twice."""
    end = place + 1
    while kinds(row, end, _JOINING) and row[end].value != "stop":
        end += 1
    if not kinds(row, place, Kind.NEAT) or not kinds(row, end, Kind.NEAT):
        return None
    return merged(row, place, end + 1 - place, Kind.NEAT, None)


def _thinned_with_water(row: Sequence[Lexeme], place: int) -> Found:
    """ "Thinned with water to 50%" is thinned to 50%."""
    thins = row[place].kind in (Kind.SEP, Kind.VERB, Kind.THIN) and "thin" in row[place].text
    cut = row[place].text.startswith(("cut", "let down", "dilute", "water", "weaken", "mixed"))
    water = place + 1 + kinds(row, place + 1, Kind.SEP)
    to = frozenset({Kind.TO, Kind.THIN, Kind.UP_TO, Kind.IN})
    if not (thins or cut) or not kinds(row, water, Kind.WATER, to, Kind.STRENGTH):
        return None
    return merged(row, place, water + 2 - place, Kind.THIN, None)


def _times_the_water(row: Sequence[Lexeme], place: int) -> Found:
    """ "Thinned with four times the water" is with four times as much."""
    joined = place and row[place - 1].kind is Kind.SEP and row[place - 1].text.endswith("with")
    if not joined or not kinds(row, place, Kind.NUMBER, Kind.TIMES, Kind.WATER):
        return None
    return merged(row, place, 2, Kind.SAME, row[place].value)


def _ratio_of_what_follows(row: Sequence[Lexeme], place: int) -> Found:
    """ "Dilution 1:200, neem": the comma parts nothing."""
    if not place or not kinds(row, place - 1, Kind.RATIO) or not kinds(row, place, Kind.SEP, NAMES):
        return None
    end = place + 2
    while kinds(row, end, frozenset({Kind.BREW, Kind.ADJECTIVE})):
        end += 1
    named = any(one.kind in NAMES | {Kind.WORD, Kind.BREW} for one in row[: place - 1])
    alone = end >= len(row) or row[end].kind in (Kind.SEP, Kind.NOTE)
    if named or not alone or row[place].text.strip() not in (",", ":", "-", "–"):
        return None
    return replace(row[place + 1], start=row[place].start), 2


def _amount_to_amount(row: Sequence[Lexeme], place: int) -> Found:
    """ "10 ml : 1 l soap" is 10 ml per litre."""
    if place < 2 or row[place].text != ":" or not kinds(row, place - 2, NUMBERS, Kind.UNIT):
        return None
    if not kinds(row, place + 1, NUMBERS, Kind.UNIT):
        return None
    sizes = [UNITS.get(str(row[k].value)) for k in (place - 1, place + 2)]
    small, large = (unit.factor * exact(row[k]) if unit else Fraction(0)
                    for unit, k in zip(sizes, (place - 2, place + 1), strict=True))  # fmt: skip
    if not small < large or (place > 2 and row[place - 3].kind in _INTO):
        return None  # "for 8 litres: 80 ml oil"
    return replace(row[place], kind=Kind.PER), 1


def _dilution_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "A 1 in 10 dilution of milk" is 1 in 10 milk."""
    of = frozenset({Kind.SOLUTION, Kind.VESSEL})
    if kinds(row, place, Kind.RATIO, of) and kinds(row, place + 2, Kind.OF):
        return replace(row[place], end=row[place + 2].end), 3
    if kinds(row, place, Kind.RATIO, Kind.SOLUTION) and row[place + 1].text.endswith(" of"):
        return replace(row[place], end=row[place + 1].end), 2
    return None


def each_vessel(row: Sequence[Lexeme], place: int) -> Found:
    """ "2 x 500 ml bottles, 5 ml soap in each", "two 1 litre bottles": so much in one of them."""
    size = place + 1 + (place + 1 < len(row) and row[place + 1].text in ("x", "×"))
    if not kinds(row, place, Kind.NUMBER) or not kinds(row, size, Kind.NUMBER, Kind.UNIT):
        return None
    each = any("each" in one.text.split() for one in row)
    if not each or not kinds(row, size + 2, Kind.VESSEL) or not row[size + 2].text.endswith("s"):
        return None
    return replace(row[size], start=row[place].start), size + 1 - place


def _one_vessel(row: Sequence[Lexeme], place: int) -> Found:
    """ "One spray bottle (750 ml)": the number counts no amount."""
    if kinds(row, place, Kind.NUMBER, Kind.VESSEL, NUMBERS, Kind.UNIT) and exact(row[place]) == 1:
        return replace(row[place + 1], start=row[place].start), 2
    return None


def _part_words(row: Sequence[Lexeme], place: int) -> Found:
    """ "One hundredth part of soap" is a hundredth; "for each part of soap" is one part."""
    whole = kinds(row, place, Kind.FRACTION, Kind.PARTS) and row[place + 1].text == "part"
    if whole and row[place].text.endswith(("th", "third")):
        return replace(row[place], end=row[place + 1].end), 2
    if kinds(row, place, Kind.PER, Kind.PARTS):
        return replace(row[place], kind=Kind.NUMBER, value=Fraction(1)), 1
    return None


def _two_more(row: Sequence[Lexeme], place: int) -> Found:
    """ "Two more cups of water" are two."""
    more = kinds(row, place, NUMBERS, frozenset({Kind.SOME, Kind.ADJECTIVE}), MEASURES)
    if not more or row[place + 1].text not in ("more", "further", "extra"):
        return None
    return replace(row[place], end=row[place + 1].end), 2


def _vessels(row: Sequence[Lexeme], place: int) -> Found:
    """ "A jug of milk to nine jugs of water": as many parts."""

    def is_one(k: int) -> bool:
        named = kinds(row, thing_at(row, k + 1), NAMES | {Kind.WATER, Kind.BREW})
        return named and kinds(row, k - 1, NUMBERS, Kind.VESSEL)

    if not place or not is_one(place):
        return None
    stem = row[place].text.removesuffix("s")
    others = [k for k in range(1, len(row)) if k != place and is_one(k)]
    if not any(row[k].text.removesuffix("s") == stem for k in others):
        return None
    return replace(row[place], kind=Kind.PARTS), 1


def _a_for_per(row: Sequence[Lexeme], place: int) -> Found:
    """ "Two ounces a pint of milk" is two ounces per pint."""
    if not place or row[place].text != "a" or not kinds(row, place, Kind.A, Kind.UNIT, Kind.OF):
        return None
    said = row[place - 1].value  # with its number where that is a half more
    key = said[1] if isinstance(said, tuple) else said
    if not kinds(row, place - 2, NUMBERS, Kind.UNIT) and not isinstance(said, tuple):
        return None
    small = UNITS.get(str(key), UNITS["floz"])  # an ounce of either kind
    large = UNITS.get(str(row[place + 1].value))
    if large is None or large.factor < _SMALLEST or small.factor * 2 > large.factor:
        return None
    return replace(row[place], kind=Kind.PER), 1


def _leading(row: Sequence[Lexeme], place: int) -> Found:
    """ "Per gallon: an ounce of oil; per quart: …": the volume of what follows it."""
    if row[place].kind not in _INTO - {Kind.UP_TO}:
        return None
    unit = place + 1 + kinds(row, place + 1, NUMBERS)
    colon = unit + 1
    while kinds(row, colon, frozenset({Kind.OF, Kind.WATER, Kind.VESSEL, Kind.ADJECTIVE})):
        colon += 1
    if not kinds(row, unit, Kind.UNIT) or not kinds(row, colon, Kind.AT) or row[colon].text != ":":
        return None
    return replace(row[place], value=LEADS), 1


def _for_so_much(row: Sequence[Lexeme], place: int) -> Found:
    """ "1.5 litres: soap 10 ml, oil 5 ml": a volume that the parts follow."""
    if not place or not kinds(row, place, Kind.AT, NAMES | {Kind.ADJECTIVE, Kind.WORD}):
        return None
    unit = row[place - 1]
    number = kinds(row, place - 2, NUMBERS) if place > 1 else False
    whole = unit.value if isinstance(unit.value, tuple) else None
    if unit.kind is not Kind.UNIT or not (number or whole):
        return None
    size, key = whole or (exact(row[place - 2]), unit.value)
    known = UNITS.get(str(key).removeprefix("="))
    start = place - 1 - bool(number)
    begins = start == 0 or row[start - 1].value == "stop" or row[start - 1].kind in _INTO
    if known is None or size * known.factor < _SMALLEST or not begins:
        return None
    return replace(row[place], kind=Kind.SEP, value="stop"), 1


def _or_two(row: Sequence[Lexeme], place: int) -> Found:
    """ "A drop or two" is one and a half."""
    if not kinds(row, place, Kind.A, Kind.UNIT, Kind.OR, Kind.NUMBER) or _owned(row, place + 4):
        return None
    if exact(row[place + 3]) != 2 or kinds(row, place + 4, MEASURES):
        return None
    said = f"{' '.join(one.text for one in row[place : place + 4])} is taken as 1.5"
    return merged(row, place, 4, Kind.UNIT, (Fraction(3, 2), row[place + 1].value), said)


def _scant(row: Sequence[Lexeme], place: int) -> Found:
    """ "A scant 10 ml" is 10 ml, said to be taken so; "heaped 2 teaspoons" are two heaped ones."""
    heap = place + kinds(row, place, Kind.A)
    if not kinds(row, heap, Kind.HEAP, Kind.NUMBER, Kind.UNIT):
        return None
    number, factor = row[heap + 1], row[heap].value
    spoon = row[heap + 2].value in _SPOONS
    value = exact(number) * (factor if spoon and isinstance(factor, Fraction) else 1)
    said = f"{row[heap].text} {number.text} is taken as {float(value):g}"
    return merged(row, place, heap + 2 - place, Kind.NUMBER, value, said)


def _spoon_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "A 5 ml teaspoon", "two 20 ml spoons": so many ml each."""
    times = kinds(row, place, NUMBERS, Kind.NUMBER)
    number = place + times
    if not kinds(row, number, Kind.NUMBER, Kind.UNIT, frozenset({Kind.UNIT, Kind.VAGUE})):
        return None
    ml, spoon = row[number + 1], row[number + 2]
    if ml.value != "ml" or not (spoon.kind is Kind.VAGUE or spoon.value in _SPOONS):
        return None
    size = exact(row[number]) * (exact(row[place]) if times else 1)
    value = (size, "ml")
    return merged(row, place, number + 3 - place, Kind.UNIT, value)


def _told_apart(row: Sequence[Lexeme], place: int) -> Found:
    """ "Day 1: 10 ml soap", "recipe 2: ...", "on day 0, 4 and 8": a number of no amount."""
    word = row[place]
    named = word.text.removesuffix("s") in _NUMBERED
    if not named or word.kind is Kind.RATIO or not kinds(row, place + 1, Kind.NUMBER):
        return None
    end = place + 2
    if kinds(row, end, Kind.AT):
        ratio = kinds(row, end + 1, Kind.NUMBER) and not kinds(row, end + 2, MEASURES)
        return None if ratio else merged(row, place, end + 1 - place, Kind.NOTE, None)
    if word.kind is not Kind.TIME or kinds(row, end, MEASURES):
        return None
    joins = frozenset({Kind.SEP, Kind.TO, Kind.DASH, Kind.OR})
    while kinds(row, end, joins, Kind.NUMBER) and not _owned(row, end + 2):
        end += 2
    return merged(row, place, end - place, Kind.NOTE, None)


def _beside(row: Sequence[Lexeme], place: int) -> Found:
    """ "pH 6.5", "12 May", "3x a week", "every 5 days x 3": a number of no amount."""
    end = place + 1 + kinds(row, place + 1, frozenset({Kind.AT, Kind.OF}))
    acid = row[place].text == "ph" and kinds(row, end, Kind.NUMBER)
    if acid:
        end += 2 * kinds(row, end + 1, Kind.DASH, Kind.NUMBER)
    if acid and not _owned(row, end + 1):
        return merged(row, place, end + 1 - place, Kind.NOTE, None)
    word = row[place + 1].text if place + 1 < len(row) else ""
    if kinds(row, place, Kind.NUMBER) and word in _MONTHS:
        return merged(row, place, 2, Kind.NOTE, None)
    per = place + 2 + kinds(row, place + 2, frozenset({Kind.A, Kind.PER}))
    if kinds(row, place, Kind.NUMBER) and word in ("x", "×") and kinds(row, per, Kind.TIME):
        return merged(row, place, per + 1 - place, Kind.NOTE, None)
    times = row[place].text in ("x", "×") and kinds(row, place + 1, Kind.NUMBER)
    timed = place and row[place - 1].kind in (Kind.TIME, Kind.NOTE, Kind.COUNTED)
    if times and timed and not _owned(row, place + 2):
        return merged(row, place, 2, Kind.NOTE, None)
    return None


def _or_so_much(row: Sequence[Lexeme], place: int) -> Found:
    """ "15 ml/1 tbsp soap", "3 tsp = 1 tbsp": the same twice."""
    joint = frozenset({Kind.PER, Kind.AT})
    if not place or not kinds(row, place - 1, NUMBERS):
        return None
    if not kinds(row, place, Kind.UNIT, joint, NUMBERS, Kind.UNIT):
        return None
    one, other = (UNITS.get(str(row[k].value)) for k in (place, place + 3))
    if row[place + 1].text not in ("/", "=") or one is None or other is None:
        return None
    size, again = one.factor * exact(row[place - 1]), other.factor * exact(row[place + 2])
    if one.dimension is not other.dimension or not again <= size * OFF <= again * OFF**2:
        return None
    return replace(row[place], end=row[place + 3].end), 4


def _times_an_amount(row: Sequence[Lexeme], place: int) -> Found:
    """ "Twice the usual 10 ml of soap": how much that is, the gardener has to say."""
    end = place + 1
    while kinds(row, end, frozenset({Kind.ADJECTIVE, Kind.NOTE, Kind.DROP, Kind.OF})):
        end += 1
    told = kinds(row, place, Kind.TIMES) and kinds(row, end, NUMBERS, Kind.UNIT)
    counted = place > 0 and kinds(row, place - 1, NUMBERS)
    return (replace(row[place], kind=Kind.WORD), 1) if told and not counted else None


def _watering(row: Sequence[Lexeme], place: int) -> Found:
    """ "Water with 100 ml of 3% peroxide": what is done, and no water."""
    starts = begins(row, place)
    if starts and kinds(row, place, Kind.WATER, Kind.SEP) and row[place + 1].text == "with":
        return merged(row, place, 2, Kind.VERB, None)
    return None


def _owned(row: Sequence[Lexeme], place: int) -> bool:
    """True where what stands here takes the number before it for its own."""
    return kinds(row, place, MEASURES | NAMES | {Kind.STRENGTH, Kind.PARTS, Kind.AT, Kind.WATER})


def _of_the_mix(row: Sequence[Lexeme], place: int) -> Found:
    """ "Mix oil and soap 3:1, use 10 ml of the mix per litre": what was told before."""
    mix = place + kinds(row, place, Kind.OF)
    told = any(one.kind in NAMES for one in row[:place])
    if not told or not kinds(row, mix, frozenset({Kind.VESSEL, Kind.SOLUTION})):
        return None
    if row[mix].text.removeprefix("of ") not in _MIXES or (
        mix == place and not row[mix].text.startswith("of ")
    ):
        return None
    number = place - 2
    if not kinds(row, number, NUMBERS, Kind.UNIT) or (number and row[number - 1].kind in _INTO):
        return None
    into = kinds(row, mix + 1, frozenset({Kind.PER, Kind.IN, Kind.TO}))
    if not into or not kinds(row, mix + 2, NUMBERS | {Kind.UNIT}):
        return None
    return merged(row, place, mix + 1 - place, Kind.BREW, None)


# Before numbers become ratios and times become notes, and after.
FIRST: tuple[Rule, ...] = (
    _told_apart, _beside, _watering, _or_so_much, _times_an_amount, _or_two, _scant, _leading,
    _vessels, _a_for_per, _spoon_of, _amount_to_amount, _for_so_much, *TITLES,
    _part_words, _one_vessel, _two_more, _times_the_water, _of_the_mix,
)  # fmt: skip
TURNS: tuple[Rule, ...] = (
    strength_after, _dilution_of, _neat_again, _thinned_with_water, _ratio_of_what_follows,
)  # fmt: skip
