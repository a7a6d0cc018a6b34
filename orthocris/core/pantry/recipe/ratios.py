"""Ratios and parts: one to forty, one in ten, nine of water, three of water to one of milk."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.numbers import HUNDRED
from orthocris.core.pantry.recipe.row import (
    MATTER,
    MEASURES,
    NAMES,
    NUMBERS,
    Found,
    Ratio,
    exact,
    kinds,
    merged,
    named_at,
    thing_at,
)
from orthocris.core.pantry.substance_list import Substance

_SHARED = frozenset({"l", "ml", "cl", "dl", "cup", "pint", "quart", "gal", "floz", "oz?", "tsp",
                     "tbsp", "dsp"})  # fmt: skip
_METRIC = frozenset({"l", "ml", "cl", "dl"})  # "10 ml to 500 ml" is filled up to it
_EQUAL = ("equal amount", "equal volume", "equal part", "equal quantity")
_SAYS = MEASURES | {Kind.PARTS, Kind.STRENGTH, Kind.RATIO, Kind.PROPORTION, Kind.EQUAL,
                    Kind.FRACTION, Kind.SAME, Kind.A, Kind.NEAT, Kind.THIN}  # fmt: skip


def ratio_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "1:40" and "1 to 40" are one part and forty; "1 in 40" is one in forty altogether."""
    numbers = frozenset({Kind.NUMBER})
    several = _proportion(row, place) or _plus(row, place) or _part_in(row, place)
    if several is not None:
        return several
    alike = kinds(row, place, NUMBERS, Kind.UNIT, Kind.TO, NUMBERS, Kind.UNIT)
    same = alike and row[place + 1].value == row[place + 4].value
    if same and row[place + 1].value not in _METRIC:  # a cup to nine cups
        end = _past_water(row, place + 5)
        value = Ratio(exact(row[place]), exact(row[place + 3]), False)
        return merged(row, place, end - place, Kind.RATIO, value)
    beside = kinds(row, place, Kind.NUMBER, Kind.PARTS, Kind.TO, Kind.NUMBER)
    if beside and not kinds(row, place + 4, MEASURES):  # one part to nineteen
        end = _past_water(row, place + 4 + kinds(row, place + 4, Kind.PARTS))
        value = Ratio(exact(row[place]), exact(row[place + 3]), False)
        return merged(row, place, end - place, Kind.RATIO, value)
    if _of_the_two(row, place):  # milk/water 1/9
        above, _, below = row[place].text.partition("/")
        return merged(row, place, 1, Kind.RATIO, Ratio(Fraction(above), Fraction(below), False))
    if kinds(row, place, Kind.NUMBER, Kind.DASH, Kind.NUMBER, MATTER):  # 60-40 water and milk
        one, rest = exact(row[place]), exact(row[place + 2])
        if one + rest == HUNDRED:
            return merged(row, place, 3, Kind.RATIO, Ratio(one, rest, False))
    if kinds(row, place, numbers, frozenset({Kind.AT, Kind.TO, Kind.IN}), numbers):
        joint, after = row[place + 1], place + 3
        spaced = joint.kind is Kind.AT and joint.text != ":"
        amount = kinds(row, after, MEASURES | {Kind.PARTS, Kind.STRENGTH})
        if not spaced and not (amount and joint.kind is not Kind.AT):
            value = Ratio(exact(row[place]), exact(row[place + 2]), joint.kind is Kind.IN)
            return merged(row, place, 3, Kind.RATIO, value)
    return None


def _past_water(row: Sequence[Lexeme], place: int) -> int:
    """Where "of water" ends that is said here; the place itself where none is."""
    of = place + kinds(row, place, Kind.OF)
    return of + 1 if kinds(row, of, Kind.WATER) else place


def _of_the_two(row: Sequence[Lexeme], place: int) -> bool:
    """True for a fraction right after two things of which one is water."""
    if "/" not in row[place].text or row[place].kind not in (Kind.NUMBER, Kind.FRACTION):
        return False
    name = place - 1 - (place > 0 and kinds(row, place - 1, Kind.AT))
    joint = frozenset({Kind.SEP, Kind.PER, Kind.AT})
    if name < 2 or not kinds(row, name - 2, MATTER, joint, MATTER):
        return False
    watery = Kind.WATER in (row[name].kind, row[name - 2].kind)
    plain = all(part.strip().isdigit() for part in row[place].text.split("/"))
    return watery and plain and not kinds(row, place + 1, MEASURES)


def _plus(row: Sequence[Lexeme], place: int) -> Found:
    """ "1+9" is one part and nine."""
    if not kinds(row, place, Kind.NUMBER, Kind.SEP, Kind.NUMBER) or row[place + 1].text != "+":
        return None
    again = kinds(row, place + 3, Kind.SEP) and row[place + 3].text == "+"
    if again or kinds(row, place + 3, MEASURES | {Kind.PARTS, Kind.STRENGTH, Kind.TIME}):
        return None
    value = Ratio(exact(row[place]), exact(row[place + 2]), False)
    return merged(row, place, 3, Kind.RATIO, value)


def _part_in(row: Sequence[Lexeme], place: int) -> Found:
    """ "One part in ten" is of the whole, "one part in nine of water" is beside it."""
    parts = (Kind.NUMBER, Kind.PARTS, Kind.IN, Kind.NUMBER)
    if not kinds(row, place, *parts) or kinds(row, place + 4, MEASURES):
        return None
    end = place + 4 + kinds(row, place + 4, Kind.PARTS)
    past = _past_water(row, end)
    value = Ratio(exact(row[place]), exact(row[place + 3]), past == end)
    return merged(row, place, past - place, Kind.RATIO, value)


def _proportion(row: Sequence[Lexeme], place: int) -> Found:
    """ "1:1:98" is as many parts of each thing."""
    end = place
    while kinds(row, end, Kind.NUMBER, Kind.AT, Kind.NUMBER) and row[end + 1].text == ":":
        end += 2
    if end - place < 4:
        return None
    values = tuple(exact(row[k]) for k in range(place, end + 1, 2))
    return merged(row, place, end + 1 - place, Kind.PROPORTION, values)


def to_water(row: Sequence[Lexeme], place: int) -> Found:
    """ "soap to water 1:50" is soap and water 1:50."""
    if place and kinds(row, place - 1, MATTER) and kinds(row, place, Kind.TO, MATTER):
        after = place + 2 + kinds(row, place + 2, frozenset({Kind.SEP, Kind.AT, Kind.IN}))
        watery = Kind.WATER in (row[place - 1].kind, row[place + 1].kind)
        if watery and kinds(row, after, Kind.RATIO):
            return replace(row[place], kind=Kind.SEP), 1
    return None


def in_water(row: Sequence[Lexeme], place: int) -> Found:
    """ "Neem oil in water, 1:100" is neem oil 1:100."""
    if not place or not kinds(row, place - 1, NAMES | {Kind.BREW}):
        return None
    ratio = place + 2 + kinds(row, place + 2, frozenset({Kind.SEP, Kind.AT}))
    if not kinds(row, place, frozenset({Kind.IN, Kind.TO}), Kind.WATER):
        return None
    if not kinds(row, ratio, Kind.RATIO):
        return None
    return merged(row, place, ratio + 1 - place, Kind.RATIO, row[ratio].value)


def as_much_water(row: Sequence[Lexeme], place: int) -> Found:
    """ "As much milk as water", "the same amount of milk and water": equal parts."""
    before = any(one.kind in MEASURES for one in row[:place])
    once = kinds(row, place, Kind.SAME) and row[place].value in (None, 1)
    thing = thing_at(row, place + 1)
    if before or not once or not kinds(row, thing, NAMES):
        return None
    joint = thing + 1 + kinds(row, thing + 1, Kind.BREW)
    if not kinds(row, joint, frozenset({Kind.SEP, Kind.NOTE}), Kind.WATER):
        return None
    return replace(row[place], kind=Kind.EQUAL, value=None), 1


def equal_amount(row: Sequence[Lexeme], place: int) -> Found:
    """ "5 ml oil and an equal amount of soap": as much again."""
    one = kinds(row, place, Kind.EQUAL) and row[place].text in _EQUAL
    told = place > 1 and any(word.kind in MEASURES for word in row[:place])
    if not one or not told or not named_at(row, place + 1):
        return None
    return replace(row[place], kind=Kind.SAME, value=Fraction(1)), 1


def as_water(row: Sequence[Lexeme], place: int) -> Found:
    """The second word of "as much milk as water"."""
    if not place or row[place].text != "as" or not kinds(row, place + 1, Kind.WATER):
        return None
    equal = next((k for k in range(place - 1, -1, -1) if row[k].kind is Kind.EQUAL), None)
    if equal is None or not row[equal].text.startswith("as "):
        return None
    return replace(row[place], kind=Kind.SEP), 1


def water_first(row: Sequence[Lexeme], place: int) -> Found:
    """ "3 parts water to 1 milk" and "three times as much water as milk" are 1:3 milk."""
    if kinds(row, place, Kind.SAME, Kind.WATER, Kind.NOTE, NAMES) and row[place + 2].text == "as":
        ratio = Ratio(Fraction(1), exact(row[place]), False)
        return merged(row, place, 3, Kind.RATIO, ratio)
    water = place + 1 + kinds(row, place + 1, Kind.PARTS)
    water += kinds(row, water, Kind.OF)
    if not kinds(row, place, Kind.NUMBER) or not kinds(row, water, Kind.WATER, Kind.TO, NUMBERS):
        return None
    thing = water + 3 + kinds(row, water + 3, Kind.PARTS)
    thing += kinds(row, thing, Kind.OF)
    if not kinds(row, thing, NAMES | {Kind.ADJECTIVE, Kind.BREW}):
        return None
    ratio = Ratio(exact(row[water + 2]), exact(row[place]), False)
    return merged(row, place, thing - place, Kind.RATIO, ratio)


def water_to(row: Sequence[Lexeme], place: int) -> Found:
    """ "Three cups of water to one cup of milk": the cup is of milk, no volume to fill up to."""
    if not place or not kinds(row, place - 1, Kind.WATER):
        return None
    if not kinds(row, place, Kind.TO, NUMBERS, Kind.UNIT):
        return None
    return (replace(row[place], kind=Kind.SEP), 1) if named_at(row, place + 3) else None


def with_shared_units(row: Sequence[Lexeme]) -> list[Lexeme]:
    """Return the row with the unit of "nine of water" after "one cup of milk" said again.

    Where nobody says any unit ("1 milk, 3 water"), the numbers are parts.
    """
    row = _as_parts(row)
    made: list[Lexeme] = []
    unit: Lexeme | None = None
    for place, one in enumerate(row):
        made.append(one)
        shared = one.kind is Kind.UNIT and one.value in _SHARED
        if shared or one.kind in (Kind.PARTS, Kind.VAGUE):
            unit = one
        elif one.kind is Kind.UNIT:
            unit = None
        if one.kind is Kind.NUMBER and unit is not None and _without_unit(row, place, unit):
            made.append(replace(unit, start=one.end, end=one.end))
    return made


def _without_unit(row: Sequence[Lexeme], place: int, unit: Lexeme) -> bool:
    """True for "nine of water", and beside parts for "nine water" and "one oil"."""
    of = kinds(row, place + 1, Kind.OF)
    if place and row[place - 1].kind in (Kind.DASH, Kind.AT, Kind.NUMBER):
        return False
    if unit.kind is not Kind.PARTS:
        after = row.index(unit) + 1
        watery = kinds(row, after + kinds(row, after, Kind.OF), Kind.WATER)
        wanted = (
            MATTER if watery else frozenset({Kind.WATER})
        )  # "four litres of water, one of milk"
        return of and kinds(row, place + 2, wanted)
    thing = place + 1 + of
    if not kinds(row, thing, MATTER):
        return False
    return of or not _in_pieces(row[thing])


def _in_pieces(one: Lexeme) -> bool:
    return isinstance(one.value, Substance) and one.value.piece is not None


def _as_parts(row: Sequence[Lexeme]) -> Sequence[Lexeme]:
    """ "1 milk, 3 water", "soap 1, oil 1, water 48": as many parts of each, water among them."""
    matter = [k for k, one in enumerate(row) if one.kind in MATTER | {Kind.NUMBER}]
    said = [one for one in row[: matter[-1] + 1] if one.kind is not Kind.NOTE] if matter else []
    pieces = any(
        _in_pieces(one) and not kinds(said, k + 1, Kind.BREW) for k, one in enumerate(said)
    )
    if pieces or any(one.kind in _SAYS for one in said):
        return row
    numbers = [one for one in said if one.kind is Kind.NUMBER]
    things = [one for one in said if one.kind in MATTER]
    if len(numbers) != len(things) or len(things) < 2 or things[-1] is things[0]:
        return row
    known = MATTER | {Kind.NUMBER, Kind.SEP, Kind.OF, Kind.TO, Kind.ADJECTIVE, Kind.AT,
                     Kind.BREW}  # fmt: skip
    if any(one.kind not in known for one in said) or not any(t.kind is Kind.WATER for t in things):
        return row
    core = [one.kind is Kind.NUMBER for one in said if one.kind in MATTER | {Kind.NUMBER}]
    if any(one == other for one, other in pairwise(core)):
        return row  # not one number beside each thing
    made: list[Lexeme] = []
    for place, one in enumerate(row):
        made.append(one)
        if place > matter[-1]:
            continue
        if one.kind is Kind.NUMBER:
            said_so = f"{one.text} is taken as {one.text} parts"
            made.append(Lexeme(Kind.PARTS, one.end, one.end, "parts", None, said_so))
        elif made[-1].kind in (Kind.TO, Kind.AT):
            made[-1] = replace(one, kind=Kind.SEP)
    return made
