"""Lexemes put together: numbers of several words, ranges, strengths, ratios, times, asides.

Each rule looks at one place and says what stands there and how many lexemes it takes. After
all of them the sentence is a row of the grammar's terminals.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from orthocris.core.pantry.recipe.asides import asides
from orthocris.core.pantry.recipe.denying import (
    apart,
    at_the_bound,
    denied,
    free_of,
    none_of,
    told_later,
)
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import SHORT, Lexeme, lexemes
from orthocris.core.pantry.recipe.numbers import (
    number_of,
    range_of,
    same_as,
    strength_of,
    times_of,
    unit_and_a_half,
)
from orthocris.core.pantry.recipe.pieces import counted, plant_part, weighed, weighed_after
from orthocris.core.pantry.recipe.ratios import (
    as_much_water,
    as_water,
    equal_amount,
    in_water,
    ratio_of,
    to_water,
    water_first,
    water_to,
    with_shared_units,
)
from orthocris.core.pantry.recipe.row import (
    MATTER,
    MEASURES,
    NAMES,
    NUMBERS,
    Found,
    Rule,
    exact,
    kinds,
    merged,
    named_at,
    rewritten,
)
from orthocris.core.pantry.recipe.turns import FIRST, TURNS, each_vessel, used_at

_MOST_CUPS = 12


@lru_cache(maxsize=512)
def row_of(text: str) -> tuple[Lexeme, ...]:
    """Return a text as lexemes with what belongs together as one; kept, for several ask."""
    return composed(lexemes(text))


def composed(found: Sequence[Lexeme]) -> tuple[Lexeme, ...]:
    """Return the sentence with what belongs together as one lexeme."""
    row = asides(_without_short_stops(found))
    for rule in _RULES:
        row = rewritten(row, rule)
    return tuple(with_shared_units(row))


def _without_short_stops(found: Sequence[Lexeme]) -> list[Lexeme]:
    """The sentence where a stop after "ml" ends something only after "soap, 10 ml"."""
    made: list[Lexeme] = []
    for place, one in enumerate(found):
        if one.kind is not Kind.SEP or one.value != SHORT:
            made.append(one)
        elif _ends_a_line(made) and named_at(found, place + 1):
            made.append(replace(one, value="stop"))
    return made


def _ends_a_line(said: Sequence[Lexeme]) -> bool:
    """True after "soap, 10 ml": a name without an amount before it, then its amount."""
    place = len(said) - 1
    if place < 0 or said[place].kind is not Kind.UNIT:
        return False
    place -= 1
    counts = NUMBERS | {Kind.HEAP, Kind.DROP, Kind.TO, Kind.WORD}
    while place >= 0 and (said[place].kind in counts or _spans(said, place)):
        place -= 1
    place -= place >= 0 and said[place].kind in (Kind.SEP, Kind.AT, Kind.DASH)
    if place < 0 or said[place].kind not in NAMES | {Kind.BREW}:
        return False
    while place >= 0 and said[place].kind in NAMES | {Kind.ADJECTIVE, Kind.BREW, Kind.WORD}:
        place -= 1
    amount = MEASURES | NUMBERS | {Kind.OF, Kind.STRENGTH, Kind.CLOSE}
    return place < 0 or said[place].kind not in amount


def _spans(said: Sequence[Lexeme], place: int) -> bool:
    """The dash of "5-10 ml"."""
    return place > 0 and kinds(said, place - 1, Kind.NUMBER, Kind.DASH, Kind.NUMBER)


def _dropped(row: Sequence[Lexeme], place: int) -> Found:
    """ "The", "about" and such: they go, unless nothing follows that they could belong to."""
    one = row[place]
    if one.kind is Kind.DROP and place + 1 < len(row):
        after = row[place + 1]
        return replace(after), 2
    return None


def _cup(row: Sequence[Lexeme], place: int) -> Found:
    """ "1 c. milk" is a cup of it, "25 c" are degrees."""
    if row[place].text != "c" or not place or row[place - 1].kind is not Kind.NUMBER:
        return None
    thing = kinds(row, place + 1 + kinds(row, place + 1, Kind.OF), MATTER)
    ended = place + 1 >= len(row) or kinds(row, place + 1, Kind.SEP)
    thing = thing or (ended and place > 1 and kinds(row, place - 2, MATTER))
    if not thing or exact(row[place - 1]) > _MOST_CUPS:
        return None
    return replace(row[place], kind=Kind.UNIT, value="cup"), 1


def _no_amount(row: Sequence[Lexeme], place: int) -> Found:
    """Times, temperatures, distances and what a plant gets are no amounts of the mix."""
    dose = (Kind.NUMBER, Kind.UNIT)
    if kinds(row, place, *dose):
        glue = 2
        while kinds(row, place + glue, frozenset({Kind.A, Kind.PER, Kind.EACH, Kind.IN, Kind.TO})):
            glue += 1
        plant = kinds(row, place + glue, Kind.COUNTED) or (
            kinds(row, place + glue, Kind.WORD) and row[place + glue].text in ("plant", "pot")
        )
        if glue > 2 and plant:
            return merged(row, place, glue + 1, Kind.NOTE, None)
    if kinds(row, place, NUMBERS, Kind.TIME):
        minutes = row[place + 1].value
        assert isinstance(minutes, int)  # noqa: S101 - from the table of times
        return merged(row, place, 2, Kind.TIME, exact(row[place]) * minutes)
    if kinds(row, place, Kind.FRACTION, Kind.A, Kind.TIME):  # half an hour
        minutes = row[place + 2].value
        assert isinstance(minutes, int)  # noqa: S101 - from the table of times
        return merged(row, place, 3, Kind.TIME, exact(row[place]) * minutes)
    counted = frozenset({Kind.COUNTED, Kind.TIMES})
    if kinds(row, place, Kind.NUMBER, Kind.DASH, Kind.NUMBER, Kind.COUNTED):  # 20-25 degrees
        return merged(row, place, 4, Kind.NOTE, None)
    if kinds(row, place, frozenset({Kind.NUMBER, Kind.FRACTION}), counted):
        return merged(row, place, 2, Kind.NOTE, None)
    if kinds(row, place, Kind.PER, Kind.FRACTION, Kind.TIME):
        return merged(row, place, 3, Kind.NOTE, None)
    return None


def _stronger(row: Sequence[Lexeme], place: int) -> Found:
    """ "Double the water", "twice as strong", "to the second litre": of what? It is asked."""
    second = row[place].text == "second" and not (place and row[place - 1].kind in NUMBERS)
    before = place > 0 and row[place - 1].kind in (Kind.IN, Kind.TO, Kind.PER)
    if second and (before or kinds(row, place + 1, Kind.UNIT)):
        return merged(row, place, 1, Kind.SAME, None)
    if kinds(row, place, Kind.TIMES, Kind.WATER):
        return merged(row, place, 2, Kind.WORD, None)
    if kinds(row, place, Kind.TIMES, Kind.SOLUTION):
        titled = kinds(row, place + 2, Kind.AT)  # "double strength: 20 ml per litre"
        return merged(row, place, 2, Kind.NOTE if titled else Kind.WORD, None)
    times = place + kinds(row, place, Kind.NUMBER)
    if kinds(row, times, Kind.TIMES, Kind.NOTE) and row[times + 1].text == "as":
        return merged(row, place, times + 2 - place, Kind.WORD, None)
    return None


def _water(row: Sequence[Lexeme], place: int) -> Found:
    """ "fresh cool tap water" is water."""
    end = place
    while kinds(row, end, frozenset({Kind.ADJECTIVE, Kind.STEEP})):
        end += 1
    if end > place and kinds(row, end, Kind.WATER):
        return merged(row, place, end + 1 - place, Kind.WATER, None)
    return None


def _colon(row: Sequence[Lexeme], place: int) -> Found:
    """ "Soap: 10 ml", "oil at 1%": what joins the two says nothing."""
    one = row[place]
    between = (
        place and kinds(row, place - 1, MATTER | {Kind.BREW}) and kinds(row, place + 1, MATTER)
    )
    if between and one.text in (":", "/"):
        return replace(one, kind=Kind.SEP, value=None), 1
    if one.kind is Kind.AT and place + 1 < len(row):
        return replace(row[place + 1]), 2
    joins = one.text in ("concentration", "strength") or one.kind is Kind.OF
    if joins and kinds(row, place - 1, NAMES) and kinds(row, place + 1, Kind.STRENGTH):
        return replace(row[place + 1]), 2  # "soap concentration 1%", "peroxide of 3 percent"
    if one.kind is Kind.THIN and kinds(row, place + 1, NUMBERS, Kind.UNIT):
        return replace(one, kind=Kind.UP_TO), 1
    return None


def _articles(row: Sequence[Lexeme], place: int) -> Found:
    """ "a 2% soap", "a bottle", "a soap": the article says nothing."""
    after = frozenset({Kind.STRENGTH, Kind.RATIO, Kind.VESSEL, Kind.EQUAL, Kind.NUMBER, Kind.NOTE,
                       Kind.BREW, Kind.SOLUTION, Kind.WATER, Kind.TIME, Kind.SOME})  # fmt: skip
    if kinds(row, place, Kind.A, after):
        return replace(row[place + 1]), 2
    return None


def _most(row: Sequence[Lexeme], place: int) -> Found:
    """ "up to 10 ml soap" is an amount; "up to 1 litre" is the volume of the mix."""
    if kinds(row, place, Kind.UP_TO, Kind.NUMBER, Kind.UNIT) and row[place].text == "up to":
        end = place + 3 + kinds(row, place + 3, Kind.OF)
        if kinds(row, end, NAMES | {Kind.ADJECTIVE}):
            return replace(row[place + 1]), 2
    return None


def _rest(row: Sequence[Lexeme], place: int) -> Found:
    """ "the rest water": it follows from the parts."""
    if row[place].text not in ("rest", "remainder", "balance"):
        return None
    end = place + 1 + kinds(row, place + 1, frozenset({Kind.OF, Kind.AT, Kind.IN, Kind.SEP}))
    if not kinds(row, end, Kind.WATER):
        return None
    return merged(row, place, end + 1 - place, Kind.NOTE, None)


def _stock_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "a stock of soap" is soap stock."""
    if row[place].text in ("stock", "concentrate", "stock solution") and kinds(
        row, place, Kind.BREW, Kind.OF, NAMES
    ):
        name = row[place + 2]
        return replace(name, start=row[place].start, text=f"{name.text} {row[place].text}"), 3
    return None


def _separators(row: Sequence[Lexeme], place: int) -> Found:
    end = place
    while kinds(row, end, Kind.SEP):
        end += 1
    if end - place < 2:
        return None
    stop = any(one.value == "stop" for one in row[place:end])
    return merged(row, place, end - place, Kind.SEP, "stop" if stop else None)


_RULES: tuple[Rule, ...] = (
    _dropped, _stock_of, plant_part, free_of, none_of, counted, weighed, number_of,
    weighed_after, each_vessel,
    times_of, unit_and_a_half, *FIRST, same_as, range_of, strength_of, _cup, _stronger,
    _no_amount, ratio_of, _rest, to_water, in_water, as_much_water, as_water, equal_amount,
    water_first, water_to, _colon, *TURNS, denied, at_the_bound, apart, told_later,
    _water, _articles, _most, _separators, used_at,
)  # fmt: skip
