"""What is not in the mix: "no oil", "never within four weeks of oil", "soap rather than 5 ml oil".

What is denied is a note in the sentence, shown as one; it is never a part. Where two denials
make a demand ("never without soap", "don't forget the soap") the thing stays a part, whose
amount is asked for if nobody said it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import MEASURES, NAMES, NUMBERS, Found, kinds, merged

SAID_DENIED = "denied"  # the value of a note about what is not in the mix
_FARTHEST = 9  # lexemes between the denial and the thing denied

_BETWEEN = frozenset({Kind.ADJECTIVE, Kind.A, Kind.SOME, Kind.WORD, Kind.DROP, Kind.VERB, Kind.IN,
                      Kind.TO, Kind.OF, Kind.TIME, Kind.STEEP,
                      Kind.VESSEL, Kind.NEAT, Kind.SOLUTION})  # fmt: skip
_NEARNESS = frozenset({Kind.NOTE, Kind.IN, Kind.TIME, Kind.OF, Kind.A, Kind.SOME, Kind.ADJECTIVE})
_TOGETHER = ("with", "together with", "along with", "mixed with", "combined with")
_OWNERS = NAMES | {Kind.OF, Kind.WORD, Kind.ADJECTIVE, Kind.WATER, Kind.BREW}
_TIMES = ("before", "after", "near", "close", "when", "last", "away", "off", "from", "until")
_MIXING = ("use", "mix", "combine", "add", "put", "take", "give", "apply", "pour")
_DEMANDS = ("forget", "skip", "omit", "miss", "spare", "forgetting", "skipping", "omitting")


def denied(row: Sequence[Lexeme], place: int) -> Found:
    """ "No oil", "without soap", "never with bleach", "not within a month of oil": a note."""
    if row[place].kind is not Kind.DENIES:
        return None
    demand = _demanded(row, place)
    if demand:
        return merged(row, place, demand, Kind.NOTE, SAID_DENIED)
    name = _named(row, place + 1)
    if name is None:
        return merged(row, place, 1 + _unknown(row, place + 1), Kind.NOTE, None)
    if kinds(row, name + 1, Kind.WORD, NUMBERS) and row[name + 1].text == "than":
        return merged(row, place, name - place, Kind.NOTE, None)  # "no more oil than 5 ml"
    return merged(row, place, _more(row, name) - place, Kind.NOTE, SAID_DENIED)


def _unknown(row: Sequence[Lexeme], place: int) -> int:
    """How many lexemes name something nobody knows: "without perfume"."""
    named = kinds(row, place, Kind.WORD) and row[place].text not in ("need", "than")
    return int(named and not kinds(row, place + 1, frozenset({Kind.WORD, Kind.OF})))


def _demanded(row: Sequence[Lexeme], place: int) -> int:
    """How many lexemes say no twice: "never without", "do not forget", "never leave out"."""
    if kinds(row, place + 1, Kind.DENIES):
        return 2
    word = row[place + 1].text if place + 1 < len(row) else ""
    if word in _DEMANDS:
        return 2
    leaves = word in ("leave", "left", "leaving") and kinds(row, place + 2, Kind.WORD)
    return 3 if leaves and row[place + 2].text == "out" else 0


def _named(row: Sequence[Lexeme], place: int) -> int | None:
    """Where the name of what is denied stands; None where nothing is named."""
    start = place
    while place < min(len(row), start + _FARTHEST):
        one = row[place]
        if one.kind in NAMES:
            return place
        if one.kind is Kind.NEAT and not kinds(row, place + 1, NAMES | {Kind.ADJECTIVE}):
            return place  # "never use it neat"
        timed = one.kind is Kind.NOTE and one.text in _TIMES
        mixing = one.text in _MIXING or one.text in ("it", "this", "that")
        either = one.kind is Kind.OR and kinds(row, place + 1, Kind.NOTE)
        joined = one.kind is Kind.SEP and one.text in _TOGETHER
        if kinds(row, place, NUMBERS, Kind.TIME) or timed or mixing or either or joined:
            place += 1
        elif kinds(row, place, NUMBERS, MEASURES) or one.kind is Kind.STRENGTH:
            return _dosed(row, start, place)
        elif one.kind in _BETWEEN and one.text != "than":
            place += 1
        else:
            return None
    return None


def _dosed(row: Sequence[Lexeme], start: int, place: int) -> int | None:
    """Where the name of a denied amount stands: "rather than 5 ml oil", "not with 5 ml oil".

    None where something else is denied and the amount is a part: "do not boil 5 ml soap".
    """
    said = [one for one in row[start:place] if one.kind not in (Kind.A, Kind.SOME, Kind.DROP)]
    mixing = all(one.text in _MIXING + _TOGETHER for one in said)
    if row[start - 1].text == "minus":
        return None  # less than nothing: refused in the amount
    if row[start - 1].text == "no" and row[start].start - row[start - 1].end > 1:
        return None  # "Scented: no. 5 ml soap": its stop is gone with those of abbreviations
    end = place + (1 if row[place].kind is Kind.STRENGTH else 2)
    end += kinds(row, end, Kind.OF)
    while kinds(row, end, frozenset({Kind.ADJECTIVE, Kind.WORD})):
        end += 1
    return end if mixing and kinds(row, end, NAMES) else None


def _more(row: Sequence[Lexeme], name: int) -> int:
    """Where a list of denied things ends: "no vinegar, bleach or soda"."""
    end = name + 1
    while True:
        listed = end
        while kinds(row, listed, Kind.SEP, NAMES) and row[listed].text.strip() == ",":
            listed += 2
        if not kinds(row, listed, Kind.OR):
            return end
        other = listed + 1  # "or bleach", "or near bleach"
        while kinds(row, other, _NEARNESS) or kinds(row, other, NUMBERS, Kind.TIME):
            other += 1
        if not kinds(row, other, NAMES):
            return end
        end = other + 1


def apart(row: Sequence[Lexeme], place: int) -> Found:
    """ "Four weeks after oil", "two days before any sulphur": how far apart, and no part."""
    if not place or row[place - 1].kind is not Kind.TIME:
        return None
    end = place + kinds(row, place, Kind.NOTE)
    away = kinds(row, place, Kind.NOTE) and row[place].text in ("before", "after")
    while kinds(row, end, frozenset({Kind.OF, Kind.FROM, Kind.A, Kind.SOME, Kind.NOTE, Kind.OR,
                                     Kind.ADJECTIVE, Kind.WORD})):  # fmt: skip
        away = away or row[end].text in ("from", "before", "after")
        end += 1
    if not away or not kinds(row, end, NAMES):
        return None
    if kinds(row, end + 1, NUMBERS):
        return None  # "soak 2 days before soap 10 ml"
    return merged(row, place, _more(row, end) - place, Kind.NOTE, SAID_DENIED)


def none_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "Oil: none" is no oil."""
    end = place + 1 + kinds(row, place + 1, Kind.AT)
    if kinds(row, place, NAMES) and end < len(row) and row[end].text in ("none", "nil", "nothing"):
        return merged(row, place, end + 1 - place, Kind.NOTE, SAID_DENIED)
    return None


def free_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "Oil free soap" is a soap."""
    named = NAMES | {Kind.ADJECTIVE, Kind.WORD}
    if kinds(row, place, NAMES | {Kind.WORD}, Kind.WORD, named) and row[place + 1].text == "free":
        return merged(row, place, 2, Kind.ADJECTIVE, None)
    return None


def at_the_bound(row: Sequence[Lexeme], place: int) -> Found:
    """ "More than 5 ml", "less than 5 ml": taken as 5 ml, and said to be."""
    than = place + kinds(row, place, Kind.SOME)
    if not kinds(row, than, Kind.WORD, NUMBERS) or row[than].text != "than":
        return None
    number = row[than + 1]
    said = "".join(f"{one.text} " for one in row[place : than + 1])
    guess = f"{said}{number.text} is taken as {number.text}"
    return merged(row, than + 1, 1, number.kind, number.value, guess)[0], than + 2 - place


def told_later(row: Sequence[Lexeme], place: int) -> Found:
    """ "Soap (no detergent) 10 ml": the note does not part a thing from its amount."""
    named = place - 1 - (place > 1 and kinds(row, place - 1, Kind.SEP))
    if named < 0 or not kinds(row, named, NAMES):
        return None
    wettable = kinds(row, place - 1, Kind.SEP) and kinds(row, place, Kind.ADJECTIVE, Kind.SEP)
    if not wettable and not kinds(row, place, Kind.NOTE):
        return None
    if named and row[named - 1].kind in MEASURES | {Kind.OF}:
        return None  # it has its amount
    number = place + 1 + kinds(row, place + 1, Kind.SEP)
    if not kinds(row, number, NUMBERS, MEASURES):
        return None
    if kinds(row, number + 2, _OWNERS):
        return None  # the amount is of what follows
    return replace(row[number], start=row[place].start), number + 1 - place
