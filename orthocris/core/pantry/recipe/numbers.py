"""Numbers as people say them: of several words, ranges, strengths, ratios, as much again."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import (
    MATTER,
    MEASURES,
    NAMELIKE,
    NAMES,
    NUMBERS,
    Found,
    Ratio,
    exact,
    kinds,
    merged,
)
from orthocris.core.pantry.substance_list import Substance

PER_MILLE = ("‰", "per mille", "per mil", "permille")
HUNDRED = 100  # 40/60 are parts of it


def number_of(row: Sequence[Lexeme], place: int) -> Found:
    """Numbers of several words: twenty-five, two hundred and fifty, one and a half, half a."""
    figures = _figures(row, place)
    if figures is not None:
        return figures
    taken = _cardinal(row, place) or _fraction(row, place)
    if taken is None:
        return None
    value, used, kind = taken
    of_ratio = place > 1 and kinds(row, place - 2, Kind.NUMBER, Kind.AT)  # "1:100 and ½ % soap"
    bit = _and_a_bit(row, place + used) if kind is Kind.NUMBER and not of_ratio else None
    if bit is not None:
        value, used = value + bit[0], used + bit[1]
    glue = place + used
    of = kinds(row, glue, Kind.OF)
    more = place > 1 and kinds(row, place - 2, Kind.UNIT, Kind.SEP) and row[place - 1].text == "and"
    if more and row[place].text.split()[0] in ("a", "an") and kinds(row, glue, Kind.A):
        return merged(row, place, used, kind, value)  # "a tablespoon and a half a gallon"
    if kinds(row, glue + of, Kind.A) and kind is Kind.FRACTION:
        after = glue + of + 1
        if kinds(row, after, MEASURES | {Kind.STRENGTH}) or _is_piece(row, after):
            used += of + 1
    elif of and kinds(row, glue + 1, MEASURES):
        used += 1
    return merged(row, place, used, kind, value) if used > 1 else None


def _is_piece(row: Sequence[Lexeme], place: int) -> bool:
    """ "half an onion": what comes in pieces of a known weight."""
    thing = row[place].value if place < len(row) else None
    return isinstance(thing, Substance) and thing.piece is not None


def times_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "2 x 5 ml" is 10 ml."""
    cross = kinds(row, place + 1, Kind.WORD) and row[place + 1].text in ("x", "×")
    if cross and kinds(row, place, Kind.NUMBER) and kinds(row, place + 2, Kind.NUMBER, MEASURES):
        return merged(row, place, 3, Kind.NUMBER, exact(row[place]) * exact(row[place + 2]))
    return None


def _figures(row: Sequence[Lexeme], place: int) -> Found:
    """Figures that depend on what follows: 1.000 ml, 1,000 l, 1/10 milk."""
    one = row[place]
    if one.kind is not Kind.NUMBER:
        return None
    unit = row[place + 1].value if kinds(row, place + 1, Kind.UNIT) else None
    thousand = re.fullmatch(r"[1-9]\d{0,2}\.\d{3}", one.text) and unit == "ml"
    decimal = re.fullmatch(r"[1-9]\d{0,2},\d{3}", one.text) and unit in ("l", "kg", "gal", "quart")
    if thousand or decimal:
        value = exact(one) * 1000 if thousand else exact(one) / 1000
        other = f"{float(exact(one)):g}"
        said = f"{one.text} is taken as {float(value):g}"
        return replace(one, value=value, guess=said, other=other), 1
    of = place + 1 + kinds(row, place + 1, Kind.OF)
    if "/" not in one.text or kinds(row, place + 1, MEASURES):
        return None
    above, _, below = one.text.partition("/")
    if above.isdigit() and below.isdigit() and int(above) + int(below) == HUNDRED:
        ratio = Ratio(Fraction(above), Fraction(below), False)  # 40/60 milk and water
        return replace(one, kind=Kind.RATIO, value=ratio), 1
    if exact(one) < 1 and kinds(row, of, MATTER):
        return replace(one, kind=Kind.FRACTION), 1
    return None


def _cardinal(row: Sequence[Lexeme], place: int) -> tuple[Fraction, int, Kind] | None:
    used = 0
    article = kinds(row, place, Kind.A)
    if article and not kinds(row, place + 1, Kind.NUMBER):
        return None
    if article:
        counted = row[place + 1].text in ("dozen", "couple", "few", "hundred", "thousand")
        if not counted and row[place + 1].text[0].isalpha() is False:
            return exact(row[place + 1]), 2, Kind.NUMBER  # a 16 oz bottle
        used = 1
    if not kinds(row, place + used, Kind.NUMBER):
        return None
    total = exact(row[place + used])
    used += 1
    while kinds(row, place + used, Kind.NUMBER) and row[place + used].text.isalpha():
        more = exact(row[place + used])
        if more in (100, 1000, 12) and total < more:
            total *= more
        elif total >= 20 and more < 10 and total % 10 == 0:
            total += more
        else:
            break
        used += 1
        and_more = kinds(row, place + used, Kind.SEP, Kind.NUMBER) and more in (100, 1000)
        if and_more and row[place + used].text == "and" and row[place + used + 1].text.isalpha():
            total += exact(row[place + used + 1])
            used += 2
    fraction = place + used
    if kinds(row, fraction, Kind.FRACTION) and row[fraction].text != "half":
        return total * exact(row[fraction]), used + 1, Kind.FRACTION
    return total, used, Kind.NUMBER


def _fraction(row: Sequence[Lexeme], place: int) -> tuple[Fraction, int, Kind] | None:
    article = kinds(row, place, Kind.A)
    if not kinds(row, place + article, Kind.FRACTION):
        return None
    value, used = exact(row[place + article]), article + 1
    after = place + used
    if kinds(row, after, Kind.A, Kind.NUMBER) and row[after + 1].text == "dozen":
        return value * 12, used + 2, Kind.NUMBER
    return value, used, Kind.FRACTION


def _and_a_bit(
    row: Sequence[Lexeme], place: int, *, after_unit: bool = False
) -> tuple[Fraction, int] | None:
    """ "and a half" after a number, where it does not begin a share of its own.

    After a unit it never does: "a teaspoon and a half of neem".
    """
    if not (kinds(row, place, Kind.SEP) and row[place].text in ("and", "&", "+")):
        return None
    article = kinds(row, place + 1, Kind.A)
    at = place + 1 + article
    own = NAMES | {Kind.WATER, Kind.A}  # "1:100 and half a teaspoon of milk"
    shared = not after_unit and kinds(row, at + 1, own)
    if kinds(row, at, Kind.FRACTION) and not shared:
        return exact(row[at]), 2 + article
    fraction = kinds(row, at, Kind.NUMBER) and re.search(r"[/½¼¾⅓⅔⅛⅕]", row[at].text)
    if fraction and exact(row[at]) < 1 and not kinds(row, at + 1, Kind.STRENGTH):
        return exact(row[at]), 2 + article
    return None


def unit_and_a_half(row: Sequence[Lexeme], place: int) -> Found:
    """ "A litre and a half": the number grows, the unit stays."""
    for_one = (
        place and row[place - 1].kind is Kind.PER and row[place - 1].text.endswith((" a", " one"))
    )
    if for_one and kinds(row, place, Kind.UNIT):  # "for a litre and a half"
        bit = _and_a_bit(row, place + 1, after_unit=True)
        if bit is not None and not kinds(
            row, place + 1 + bit[1], MEASURES | {Kind.PARTS, Kind.STRENGTH}
        ):
            number = 1 + bit[0]
            return merged(row, place, 1 + bit[1], Kind.UNIT, (number, row[place].value))
    if kinds(row, place, NUMBERS, Kind.UNIT):
        more = _and_a_bit(row, place + 2, after_unit=True)
        at = place + 2 + (more[1] if more else 0)
        if more and not kinds(row, at, MEASURES | {Kind.PARTS, Kind.STRENGTH}):
            unit = row[place + 1]
            number = exact(row[place]) + more[0]
            said = f"{float(number):g} {unit.text}"
            start, end = row[place].start, row[at - 1].end
            return Lexeme(Kind.UNIT, start, end, said, (number, unit.value)), at - place
    return None


def range_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "10 to 15 ml", "between 5 and 15": the middle, and said so."""
    between = row[place].text == "between" and kinds(row, place + 1, Kind.NUMBER, Kind.SEP)
    start = place + between
    if not kinds(row, start, frozenset({Kind.NUMBER, Kind.FRACTION})):
        return None
    unit = kinds(row, start + 1, MEASURES)
    mid = start + 1 + unit
    joints = frozenset({Kind.TO, Kind.DASH, Kind.OR, *((Kind.SEP,) if between else ())})
    dash = kinds(row, mid, Kind.SEP) and row[mid].text.strip() in ("-", "–", "—")
    if not (kinds(row, mid, joints) or dash) or not kinds(row, mid + 1, Kind.NUMBER):
        return None
    after = mid + 2
    if not kinds(row, after, MEASURES | {Kind.STRENGTH, Kind.TIME}):
        return None
    water = after + 1 + kinds(row, after + 1, Kind.OF)
    if unit and kinds(row, water, Kind.WATER):
        return None  # "10 ml to 1000 ml of water"
    if unit and (row[start + 1].value != row[after].value or not _names_follow(row, after + 1)):
        return None
    low, high = exact(row[start]), exact(row[mid + 1])
    middle = (low + high) / 2
    said = f"{float(low):g} to {float(high):g} is taken as {float(middle):g}"
    return merged(row, place, after - place, Kind.NUMBER, middle, said)


def _names_follow(row: Sequence[Lexeme], place: int) -> bool:
    return kinds(row, place, NAMELIKE | {Kind.PER})


def strength_of(row: Sequence[Lexeme], place: int) -> Found:
    if kinds(row, place, NUMBERS, Kind.STRENGTH):
        whole = 1000 if row[place + 1].text in PER_MILLE else 100
        return merged(row, place, 2, Kind.STRENGTH, exact(row[place]) / whole)
    parts = kinds(row, place, Kind.NUMBER, Kind.PARTS, Kind.PER, Kind.NUMBER)
    if parts and exact(row[place + 3]) in (100, 1000, 1_000_000):  # five parts per thousand
        value = exact(row[place]) / exact(row[place + 3])
        return merged(row, place, 4, Kind.STRENGTH, value)
    of = place + 2 + kinds(row, place + 2, Kind.OF)
    ppm = kinds(row, place, NUMBERS, Kind.COUNTED) and row[place + 1].text == "ppm"
    if ppm and kinds(row, of, NAMES):
        return merged(row, place, 2, Kind.STRENGTH, exact(row[place]) / 1_000_000)
    return None


def same_as(row: Sequence[Lexeme], place: int) -> Found:
    """ "half as much", "nine times as much", "twice the amount of"."""
    half_that = kinds(row, place, Kind.FRACTION, Kind.BREW) and row[place + 1].text == "that"
    if half_that or kinds(row, place, Kind.FRACTION, Kind.SAME):
        return merged(row, place, 2, Kind.SAME, row[place].value)
    if kinds(row, place, Kind.TIMES, Kind.SAME):
        times = {"twice": 2, "double": 2, "treble": 3, "thrice": 3}.get(row[place].text, 1)
        return merged(row, place, 2, Kind.SAME, Fraction(times))
    cross = kinds(row, place, Kind.NUMBER, Kind.WORD, Kind.SAME) and row[place + 1].text == "x"
    if cross or kinds(row, place, Kind.NUMBER, Kind.TIMES, Kind.SAME):
        return merged(row, place, 3, Kind.SAME, row[place].value)
    if kinds(row, place, Kind.SAME) and row[place].value is None:
        return merged(row, place, 1, Kind.SAME, Fraction(1))
    return None
