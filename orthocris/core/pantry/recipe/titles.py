"""What a mix is called: "stock: …", "garlic oil: …", "my style: …" are no parts of it."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import (
    MEASURES,
    NAMES,
    NUMBERS,
    Found,
    Rule,
    begins,
    kinds,
    merged,
    thing_at,
)

TITLE = "title"  # the value of a note that names what follows


def _title_of(row: Sequence[Lexeme], place: int) -> Found:
    """ "Garlic oil: 100 g garlic in 30 ml oil": what it is called, and no part of it."""
    starts = begins(row, place)
    colon = place + 1 + kinds(row, place + 1, frozenset({Kind.BREW, Kind.SOLUTION}))
    if not starts or not kinds(row, place, NAMES) or not kinds(row, colon, Kind.AT, NUMBERS):
        return None
    if row[colon].text not in (":", "=") or not kinds(row, colon + 2, MEASURES):
        return None
    named = thing_at(row, colon + 3)
    listed = NUMBERS | {Kind.AT} if row[colon].text == ":" else NUMBERS  # "soap: 10 ml oil: 5 ml"
    if not kinds(row, named, NAMES) or kinds(row, named + 1, listed):
        return None
    if not _words(row[place]) & _words(row[named]):
        return None
    return merged(row, place, colon + 1 - place, Kind.NOTE, TITLE)


def _words(one: Lexeme) -> set[str]:
    return {word.removesuffix("s") for word in one.text.split()}


def _heading(row: Sequence[Lexeme], place: int) -> Found:
    """ "My style: 1 tbsp baking soda, …": unknown words that an ingredient does not follow from."""
    starts = begins(row, place)
    end = place
    while kinds(row, end, frozenset({Kind.WORD, Kind.ADJECTIVE, Kind.NOTE})):
        end += 1
    unknown = any(one.kind is Kind.WORD for one in row[place:end])
    if not starts or not unknown or not kinds(row, end, Kind.AT, NUMBERS, MEASURES):
        return None
    named = thing_at(row, end + 3)
    if row[end].text != ":" or not kinds(row, named, NAMES) or kinds(row, named + 1, Kind.AT):
        return None
    return merged(row, place, end + 1 - place, Kind.NOTE, None)


def _title(row: Sequence[Lexeme], place: int) -> Found:
    """ "Stock: 3 parts oil …": what it is called."""
    starts = begins(row, place)
    called = kinds(row, place, frozenset({Kind.BREW, Kind.VESSEL, Kind.SOLUTION}), Kind.AT)
    if not starts or not called or not kinds(row, place + 2, NUMBERS | {Kind.RATIO}):
        return None
    return merged(row, place, 2, Kind.NOTE, TITLE)


TITLES: tuple[Rule, ...] = (_title, _title_of, _heading)
