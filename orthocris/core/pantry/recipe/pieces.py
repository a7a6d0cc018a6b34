"""What comes in pieces: so many, of what weight each, and what one of them weighs."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import NAMES, Found, exact, kinds, merged
from orthocris.core.pantry.substances import Substance
from orthocris.core.pantry.units import UNITS

ABOUT = Fraction(1, 4)  # so near to the usual weight is the same
_METRIC = frozenset({"ml", "cl", "dl", "l", "mg", "g", "kg"})
_SPOONS = frozenset({"tsp", "dsp", "tbsp", "cup", "drop"})
_WEIGHTS = ("mg", "g")
_MOST = 24  # pieces said in figures before their weight: "2 300 mg aspirins"


def counted(row: Sequence[Lexeme], place: int) -> Found:
    """ "Two 300 mg aspirins" are 600 mg."""
    blank = re.fullmatch(r"(\d{1,2}) (\d{3})", row[place].text)
    weight = kinds(row, place, Kind.NUMBER, Kind.UNIT) and row[place + 1].value in _WEIGHTS
    if blank and weight and _of_pieces(row, place + 2):  # "2 325 mg tablets": no thousands
        times = Fraction(blank[1]) * Fraction(blank[2])
        return replace(row[place], value=times, guess="", other=""), 1
    if not kinds(row, place, Kind.NUMBER, Kind.NUMBER, Kind.UNIT):
        return None
    number, each = exact(row[place]), exact(row[place + 1])
    whole = number.denominator == 1 and number <= _MOST
    if not whole or row[place + 2].value not in _WEIGHTS or not _of_pieces(row, place + 3):
        return None
    return merged(row, place, 2, Kind.NUMBER, number * each)


def weighed(row: Sequence[Lexeme], place: int) -> Found:
    """ "A 325 mg tablet of aspirin" is 325 mg of it."""
    weight = row[place].value in _WEIGHTS
    if not place or not weight or not kinds(row, place - 1, Kind.NUMBER):
        return None
    if not kinds(row, place, Kind.UNIT, Kind.PIECE) or not _of_pieces(row, place + 1):
        return None
    end = place + 2 + kinds(row, place + 2, Kind.OF)
    return replace(row[place], end=row[end - 1].end), end - place


def _of_pieces(row: Sequence[Lexeme], place: int) -> bool:
    """True where a thing follows that comes in pieces: "aspirins", "tablets of aspirin"."""
    place += kinds(row, place, Kind.PIECE)
    place += kinds(row, place, Kind.OF)
    thing = row[place].value if place < len(row) else None
    return isinstance(thing, Substance) and thing.piece is not None


def exacter(made: list[Lexeme], inside: Sequence[Lexeme]) -> list[Lexeme] | None:
    """ "A squirt (5 ml)", "2 tablets (325 mg each)": what one of them is, is said in the aside.

    None for "2 tablets (325 mg)": that may be one or both, and is asked about.
    """
    told = [one for one in inside if one.kind is not Kind.DROP]
    plain = [one.kind for one in told[:2]] == [Kind.NUMBER, Kind.UNIT]
    each = len(told) == 3 and told[2].kind is Kind.EACH
    if not made or not plain or told[1].value not in _METRIC or len(told) > 2 + each:
        return made
    unit = len(made) - 1
    while unit > 0 and made[unit].kind in NAMES | {Kind.ADJECTIVE, Kind.OF, Kind.WORD}:
        unit -= 1
    pieces = _are_pieces(made[unit:])  # "3 aspirin tablets"
    rough = pieces or made[unit].kind in (Kind.VAGUE, Kind.PIECE)
    if not rough and made[unit].value not in _SPOONS:
        return made
    number = unit if pieces else unit - 1 - (unit > 1 and made[unit - 1].kind is Kind.HEAP)
    if number < 0 or made[number].kind not in (Kind.A, Kind.NUMBER):
        return made
    if number and made[number - 1].kind in (Kind.FRACTION, Kind.NUMBER):
        return made  # "half a cup", "1 1/2 cups"
    count = exact(made[number])
    of_each = each or count == 1 or (pieces and _weighs(made[unit:], told, Fraction(1)))
    if not of_each and not (pieces and _weighs(made[unit:], told, count)):
        return None if rough else made
    times = exact(told[0]) * (count if of_each else 1)
    new = [
        replace(told[0], start=made[number].start, end=made[number].end, value=times),
        replace(told[1], start=made[unit].start, end=made[unit].end),
    ]
    return [*made[:number], *new, *made[unit + 1 :]]


def _are_pieces(row: Sequence[Lexeme]) -> bool:
    things = [one.value for one in row[1:] if one.kind in NAMES]
    counted = bool(row) and row[0].kind in (Kind.A, Kind.NUMBER)
    return counted and any(isinstance(t, Substance) and t.piece is not None for t in things)


def _weighs(row: Sequence[Lexeme], told: Sequence[Lexeme], number: Fraction) -> bool:
    """ "2 onions (200 g)": about what so many of them usually weigh."""
    thing = next(one.value for one in row if isinstance(one.value, Substance))
    assert isinstance(thing, Substance)  # noqa: S101 - the line above looks for one
    grams = exact(told[0]) * UNITS[str(told[1].value)].factor
    return bool(thing.piece) and abs(grams / (number * (thing.piece or 1)) - 1) <= ABOUT
