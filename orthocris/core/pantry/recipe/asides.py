"""What stands in parentheses: an amount said twice, a remark, or a part of the recipe.

An amount that is told a second time must say the same; where it does not, both stay in the
sentence and are asked about, for one of them is wrong.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from orthocris.core.pantry.recipe.amounts import HEAD, HEADS, PIECE
from orthocris.core.pantry.recipe.denying import SAID_DENIED, denied
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.numbers import number_of, range_of, times_of
from orthocris.core.pantry.recipe.ratios import ratio_of
from orthocris.core.pantry.recipe.row import (
    MEASURES,
    NAMES,
    NUMBERS,
    Rule,
    exact,
    kinds,
    rewritten,
)
from orthocris.core.pantry.recipe.turns import OFF
from orthocris.core.pantry.substance_list import Substance
from orthocris.core.pantry.units import UNITS, Dimension

TOLD_TWICE = "told twice"  # the value of an empty note behind what the next amount contradicts
PIECES_OFF = Fraction(5, 4)  # nor a told weight of pieces from their usual one
EACH_OFF = Fraction(2)  # nor what each piece is told to weigh
POWDER_OFF = Fraction(5, 2)  # nor a told weight of a spoon from the usual one
LIGHTEST, HEAVIEST = Fraction(3, 20), Fraction(5, 2)  # g in a ml of what is put into a mix
_TIMES = re.compile(r"[x×]\s?\d*")
_OUNCE = Fraction(29)  # g or ml, for telling only
_DROP = Fraction(1, 20)  # ml, for telling only
_METRIC = frozenset({"ml", "cl", "dl", "l", "mg", "g", "kg"})
_PLACES = frozenset({Kind.IN, Kind.PER, Kind.UP_TO})
_DOSES = frozenset({Kind.COUNTED, Kind.TIME})
_OWNED = NAMES | {Kind.ADJECTIVE, Kind.OF, Kind.WORD, Kind.WATER, Kind.VESSEL, Kind.BREW}
_NUMBERED: tuple[Rule, ...] = (number_of, times_of, range_of)


@dataclass(frozen=True, slots=True)
class _Told:
    """An amount: so many of a unit of `size` ml or g (None: either); where both stand."""

    number: Fraction
    size: Fraction
    dimension: Dimension | None
    place: int
    unit: int
    rough: bool = False
    each: bool = False


def asides(row: Sequence[Lexeme]) -> list[Lexeme]:
    """Return the row without parentheses: remarks are notes, what counts stands in line."""
    made: list[Lexeme] = []
    place = 0
    while place < len(row):
        if row[place].kind is not Kind.OPEN:
            made.append(row[place])
            place += 1
            continue
        end, depth = place + 1, 1
        while end < len(row) and depth:
            depth += (row[end].kind is Kind.OPEN) - (row[end].kind is Kind.CLOSE)
            end += 1
        made = _with(made, row[place:end], row[end:])
        place = end
    return made


def _with(made: list[Lexeme], whole: Sequence[Lexeme], after: Sequence[Lexeme]) -> list[Lexeme]:
    """What was said so far, with the aside as a note, in line, or as the more exact amount."""
    inside = list(whole[1:-1] if whole[-1].kind is Kind.CLOSE else whole[1:])
    if any(one.kind is Kind.OPEN for one in inside):
        inside = asides(inside)
    if _same_share(made, inside) or _same_number(made, inside):
        return [*made[:-1], replace(made[-1], end=whole[-1].end)]
    if _told_again(made, inside):
        return _twice(made, inside, whole[-1].end, after)
    if _is_remark(made, inside):
        said = " ".join(one.text for one in inside)
        value = SAID_DENIED if _only_denies(inside) else _ratio_in(inside)
        return [*made, Lexeme(Kind.NOTE, whole[0].start, whole[-1].end, said, value)]
    known = {one.value for one in made if one.kind in NAMES}
    if any(one.kind is Kind.STRENGTH for one in inside):  # "rubbing alcohol (isopropyl, 70%)"
        inside = [one for one in inside if one.kind not in NAMES or one.value not in known]
    if all(one.kind in NUMBERS | {Kind.STRENGTH, Kind.ADJECTIVE, Kind.SEP} for one in inside):
        inside = [one for one in inside if one.text.strip() != ","]  # "(cold pressed, 100%)"
    return [*made, *inside]


def _ratio_in(inside: Sequence[Lexeme]) -> object:
    """The ratio of "(1:20)", which has to say the same as the amount before it."""
    told = rewritten(rewritten(inside, number_of), ratio_of)
    return told[0].value if [one.kind for one in told] == [Kind.RATIO] else None


def _only_denies(inside: Sequence[Lexeme]) -> bool:
    """ "(never within four weeks of oil)": whatever it names is not there."""
    rest = rewritten(rewritten(inside, number_of), denied)
    names = any(one.kind in NAMES | {Kind.WORD} for one in rest)
    return not names and any(one.value == SAID_DENIED for one in rest)


def _told_again(before: Sequence[Lexeme], inside: Sequence[Lexeme]) -> bool:
    """True for an amount said a second time: "15 ml soap (1 tablespoon)"."""
    said = {one.kind for one in inside}
    if not said & MEASURES or said & (NAMES | _DOSES | {Kind.STRENGTH, Kind.PARTS}):
        return False
    return inside[0].kind not in _PLACES and _has_amount(before)


def _has_amount(before: Sequence[Lexeme]) -> bool:
    """True where what was just said has its amount: "15 ml soap (1 tablespoon)"."""
    place = len(before) - 1
    while place >= 0 and before[place].kind in _OWNED:
        place -= 1
    return place >= 0 and before[place].kind in MEASURES | {Kind.NUMBER}


def _is_remark(before: Sequence[Lexeme], inside: Sequence[Lexeme]) -> bool:
    """True for what adds nothing to the mix: "(unscented)", "(not detergent)", "(40 ml a pot)"."""
    said = {one.kind for one in inside}
    if any(_TIMES.fullmatch(one.text) for one in inside):
        return False  # "10 ml soap (x2)"
    names = {one.value for one in inside if one.kind in NAMES}
    pure = [one.text for one in inside if one.kind in NUMBERS] == ["100"]
    if pure and Kind.STRENGTH in said and not names and not said & MEASURES:
        return True  # "neem oil (cold pressed, 100%)"
    if said & {Kind.STRENGTH, Kind.OR, Kind.SOLUTION} and not said & {Kind.DENIES}:
        return False
    if said & MEASURES:
        return bool(said & _DOSES) or (_has_amount(before) and inside[0].kind not in _PLACES)
    told = said & NUMBERS and said & {Kind.PARTS, Kind.AT, Kind.EQUAL}
    if told and not _has_amount(before):
        return False  # "milk (1 part)", "milk (1:9)"
    known = {one.value for one in before if one.kind in NAMES}
    return bool(said & {Kind.DENIES}) or names <= known or Kind.NUMBER in said or not names


def _same_number(before: Sequence[Lexeme], inside: Sequence[Lexeme]) -> bool:
    """ "One (1) tablespoon"."""
    told = kinds(before, len(before) - 1, Kind.NUMBER) and kinds(inside, 0, Kind.NUMBER)
    return told and len(inside) == 1 and exact(before[-1]) == exact(inside[0])


def _same_share(before: Sequence[Lexeme], inside: Sequence[Lexeme]) -> bool:
    """ "1% (10 ml per litre) soap": the same share of the mix."""
    rate = (Kind.NUMBER, Kind.UNIT, Kind.PER)
    told = kinds(before, len(before) - 2, Kind.NUMBER, Kind.STRENGTH) and before[-1].value == "%"
    if not told or not kinds(inside, 0, *rate):
        return False
    many = 3 + kinds(inside, 3, NUMBERS)
    if len(inside) != many + 1 or not kinds(inside, many, Kind.UNIT):
        return False
    sizes = [UNITS.get(str(inside[k].value)) for k in (1, many)]
    part, whole = (one.factor if one else Fraction(0) for one in sizes)
    whole *= exact(inside[3]) if many > 3 else 1
    share = exact(before[-2]) / 100
    return bool(whole and share) and 1 / OFF <= exact(inside[0]) * part / whole / share <= OFF


def _twice(
    made: list[Lexeme], inside: list[Lexeme], end: int, after: Sequence[Lexeme]
) -> list[Lexeme]:
    """The row with the more exact of two tellings, or with both where they do not agree."""
    row = made
    for rule in _NUMBERED:
        row = rewritten(row, rule)
        inside = rewritten(inside, rule)
    first, told = _amount_before(row), _amounts_in(inside)
    thing = _thing([*(row[first.unit :] if first else ()), *after])
    times = [_times(first, one, thing) if first else None for one in told]
    if first is None or not told:
        return [*made, *inside]
    if None in times and _agrees_earlier(row, first, told, after):
        return [*row[:-1], replace(row[-1], end=end)]
    if None in times:
        at = made[-1].end
        return [*made, Lexeme(Kind.NOTE, at, at, "", TOLD_TWICE), *inside]
    exacter = next((k for k, one in enumerate(told) if inside[one.unit].value in _METRIC), None)
    if exacter is None or row[first.unit].value in _METRIC:
        return [*row[:-1], replace(row[-1], end=end)]
    best, factor = told[exacter], times[exacter] or Fraction(1)
    number, unit = row[first.place], row[first.unit]
    made = [
        *row[: first.place],
        replace(inside[best.place], kind=Kind.NUMBER, value=best.number * factor,
                start=number.start, end=number.end),
        replace(inside[best.unit], start=unit.start, end=unit.end),
        *row[first.unit + 1 :],
    ]  # fmt: skip
    return [*made[:-1], replace(made[-1], end=end)]


def _agrees_earlier(
    row: Sequence[Lexeme], volume: _Told, told: Sequence[_Told], after: Sequence[Lexeme]
) -> bool:
    """ "Soda, 1 tsp per litre (5 g)": the aside is of the spoon, not of the litre."""
    place = (min(volume.unit, volume.place)) - 1
    if place < 1 or row[place].kind not in _PLACES | {Kind.TO}:
        return False
    first = _amount_before(row[:place])
    if first is None:
        return False
    named = next((one for one in reversed(row[:place]) if isinstance(one.value, Substance)), None)
    thing = named.value if named is not None and isinstance(named.value, Substance) else None
    return all(_times(first, one, thing or _thing(after)) is not None for one in told)


def _amount_before(row: Sequence[Lexeme]) -> _Told | None:
    """The amount that was said last, over the names of what it is of."""
    unit = len(row) - 1
    while unit > 0 and row[unit].kind in _OWNED:
        unit -= 1
    thing = _thing(row[unit:])
    if row[unit].kind in NUMBERS:  # "3 aspirin tablets"
        if thing is None or thing.piece is None:
            return None
        return _Told(exact(row[unit]), thing.piece, Dimension.MASS, unit, unit, rough=True)
    if row[unit].kind is Kind.PIECE:
        heads = row[unit].text.removesuffix("s") in HEADS
        size = thing.piece if thing is not None and thing.piece and not heads else PIECE
        size = HEAD if heads else size
        return _counted(row, unit, size, Dimension.MASS, rough=True)
    return _measured(row, unit)


def _measured(row: Sequence[Lexeme], unit: int) -> _Told | None:
    one = row[unit]
    if one.kind is Kind.VAGUE:
        size = one.value if isinstance(one.value, Fraction) else Fraction(1)
        return _counted(row, unit, size, Dimension.VOLUME, rough=True)
    if one.kind is not Kind.UNIT or not isinstance(one.value, str):
        return None
    if one.value == "oz?":
        return _counted(row, unit, _OUNCE, None)
    if one.value == "drop":
        return _counted(row, unit, _DROP, Dimension.VOLUME, rough=True)
    known = UNITS[one.value.removeprefix("=")]
    return _counted(row, unit, known.factor, known.dimension)


def _counted(
    row: Sequence[Lexeme],
    unit: int,
    size: Fraction,
    dimension: Dimension | None,
    *,
    rough: bool = False,
) -> _Told:
    """The amount whose unit stands there, with its number, one where none was said."""
    place = unit - (unit > 0 and row[unit - 1].kind is Kind.HEAP)
    heap = row[place].value if place < unit else None
    size *= heap if isinstance(heap, Fraction) else 1
    numbered = place > 0 and row[place - 1].kind in NUMBERS
    number = exact(row[place - 1]) if numbered else Fraction(1)
    return _Told(number, size, dimension, place - numbered, unit, rough)


def _amounts_in(inside: Sequence[Lexeme]) -> list[_Told]:
    """The amounts of an aside that holds nothing else: "(15 ml, or 1/2 fl oz)"; else none."""
    found: list[_Told] = []
    place = 0
    while place < len(inside):
        one = inside[place]
        if kinds(inside, place, NUMBERS, frozenset({Kind.UNIT, Kind.VAGUE})):
            told = _measured(inside, place + 1)
            each = kinds(inside, place + 2, Kind.EACH)
            if told is None:
                return []
            found.append(replace(told, each=each))
            place += 2 + each
        elif one.kind in (Kind.SEP, Kind.OR, Kind.AT, Kind.DROP, Kind.PER, Kind.ADJECTIVE):
            place += 1
        else:
            return []
    return found


def _thing(row: Sequence[Lexeme]) -> Substance | None:
    """The first thing named, before anything else begins."""
    for one in row:
        if one.kind is Kind.SEP:
            return None
        if isinstance(one.value, Substance):
            return one.value
    return None


def _times(first: _Told, told: _Told, thing: Substance | None) -> Fraction | None:
    """By what the second telling is to be taken to be the first; None where it is another amount.

    1 for a total, the number of spoons or pieces where one of them was told.
    """
    low, high, usual = _bounds(first, told, thing)
    total = told.number * told.size / (first.number * first.size) if first.number else Fraction(0)
    several = first.number > 1
    if told.each:
        return first.number if low <= total * first.number <= high or first.rough else None
    if not several:
        return Fraction(1) if low <= total <= high or (first.rough and total) else None
    fitting = [t for t in (Fraction(1), first.number) if low <= total * t <= high]
    if not fitting and first.rough:  # "5 aspirins (300 mg)": another size, of each
        fitting = [t for t in (Fraction(1), first.number) if 1 / EACH_OFF <= total * t <= EACH_OFF]
    if not fitting:
        return None
    return min(fitting, key=lambda t: max(total * t / usual, usual / (total * t)))


def _bounds(
    first: _Told, told: _Told, thing: Substance | None
) -> tuple[Fraction, Fraction, Fraction]:
    """Within what a telling by another unit may differ, and what it usually is."""
    alike = None in (first.dimension, told.dimension) or first.dimension is told.dimension
    if alike:
        off = PIECES_OFF if first.rough else OFF
        return 1 / off, off, Fraction(1)
    density = thing.density if thing is not None else None
    if density is None:
        return LIGHTEST, HEAVIEST, Fraction(1)
    usual = density if first.dimension is Dimension.VOLUME else 1 / density
    return usual / POWDER_OFF, usual * POWDER_OFF, usual
