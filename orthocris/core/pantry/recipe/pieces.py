"""What comes in pieces: so many, of what weight each, and what one of them weighs."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import Found, exact, kinds, merged
from orthocris.core.pantry.substance_list import Form, Substance

_WEIGHTS = ("mg", "g")
_PARTS_OF_PLANTS = frozenset({"leaf", "leaves", "stem", "stems", "stalk", "stalks", "flower",
                              "flowers", "root", "roots", "tops", "skin", "skins", "peel",
                              "shoots", "needles", "husks"})  # fmt: skip
_MOST = 24  # pieces said in figures before their weight: "2 300 mg aspirins"


def counted(row: Sequence[Lexeme], place: int) -> Found:
    """ "Two 300 mg aspirins" are 600 mg."""
    blank = re.fullmatch(r"(\d{1,2}) (\d{3})", row[place].text)
    weight = kinds(row, place, Kind.NUMBER, Kind.UNIT) and row[place + 1].value in _WEIGHTS
    if blank and weight and _of_pieces(row, place + 2):  # "2 325 mg tablets": no thousands
        times = Fraction(blank[1]) * Fraction(blank[2])
        return replace(row[place], value=times, guess="", other=""), 1
    within = place and row[place - 1].kind in (Kind.FRACTION, Kind.OF)  # "half an onion"
    if (
        row[place].text == "an" and not within and _of_pieces(row, place + 1)
    ):  # "dissolve an aspirin"
        made = kinds(row, place + 2, frozenset({Kind.BREW, Kind.SOLUTION, Kind.STEEP}))
        return None if made else (replace(row[place], kind=Kind.NUMBER), 1)
    half = kinds(row, place, Kind.FRACTION, Kind.A, Kind.NUMBER, Kind.UNIT)
    if half and row[place + 3].value in _WEIGHTS and _of_pieces(row, place + 4):
        return merged(row, place, 3, Kind.NUMBER, exact(row[place]) * exact(row[place + 2]))
    if kinds(row, place, Kind.NUMBER, Kind.ADJECTIVE, Kind.NUMBER, Kind.UNIT):
        told = counted((row[place], *row[place + 2 :]), 0)  # "3 uncoated 325 mg aspirins"
        return (replace(told[0], start=row[place].start), 3) if told is not None else None
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


def weighed_after(row: Sequence[Lexeme], place: int) -> Found:
    """ "2 aspirin tablets 500 mg" are 1,000 mg of it."""
    if _told_after(row, place):
        size = exact(row[place]) * exact(row[place + 2])
        return replace(row[place], kind=Kind.UNIT, value=(size, row[place + 3].value)), 1
    if place > 1 and _told_after(row, place - 2):
        return merged(row, place, 2, Kind.NOTE, None)
    return None


def _told_after(row: Sequence[Lexeme], place: int) -> bool:
    named = frozenset({Kind.NAME, Kind.STOCK})
    if not kinds(row, place, Kind.NUMBER, named, Kind.NUMBER, Kind.UNIT):
        return False
    thing, unit = row[place + 1].value, row[place + 3].value
    pieces = isinstance(thing, Substance) and thing.piece is not None
    return pieces and unit in _WEIGHTS and not kinds(row, place + 4, named)


def plant_part(row: Sequence[Lexeme], place: int) -> Found:
    """ "Comfrey leaves" are comfrey."""
    thing = row[place].value
    plant = isinstance(thing, Substance) and thing.form is Form.SOLID
    if not plant or place + 1 >= len(row) or row[place + 1].text not in _PARTS_OF_PLANTS:
        return None
    name = f"{row[place].text} {row[place + 1].text}"
    return replace(row[place], end=row[place + 1].end, text=name), 2


def _of_pieces(row: Sequence[Lexeme], place: int) -> bool:
    """True where a thing follows that comes in pieces: "aspirins", "tablets of aspirin"."""
    place += kinds(row, place, Kind.PIECE)
    place += kinds(row, place, Kind.OF)
    thing = row[place].value if place < len(row) else None
    return isinstance(thing, Substance) and thing.piece is not None
