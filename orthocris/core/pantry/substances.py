"""What an ingredient is, whatever it is called: the one classifier of the pantry.

Mixing, costs, cautions, dangers, axes and recipe cards all ask here, so that a thing is the
same thing to each of them.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache

from orthocris.core.pantry.substance_list import SUBSTANCES, Substance, of_kind

_BY_KEY = {substance.key: substance for substance in SUBSTANCES}

# What is not there: "chlorine-free", "no bleach", "without soap".
DENIED_BEFORE = frozenset(["no", "not", "never", "without", "non", "minus", "avoid", "instead"])


def substance(key: str) -> Substance:
    """Return a substance by its key."""
    return _BY_KEY[key]


@cache
def named() -> dict[tuple[str, ...], Substance]:
    """Return every spelling, as its words."""
    return {tuple(name.split()): found for found in SUBSTANCES for name in found.names}


@cache
def longest_name() -> int:
    """Return the number of words in the longest name."""
    return max(len(name) for name in named())


_WORD = re.compile(r"[^\W\d_]+(?:'[^\W\d_]+)?\d?o?2?", re.UNICODE)


def words_of(text: str) -> list[str]:
    """Return the words of a text in small letters; a hyphen only joins words."""
    return [found[0] for found in _WORD.finditer(text.lower().replace("’", "'"))]


def classify(name: str) -> Substance | None:
    """Return what a name stands for, None when it is not known.

    The longest known spelling in it decides; of equally long ones the last, for English puts
    what a thing is at the end ("garlic soap" is a soap).

    Examples
    --------
    >>> classify("mild washing-up liquid").key, classify("boiled leaves").key
    ('detergent', 'plant_matter')
    """
    best: tuple[int, int] | None = None
    found = None
    words = words_of(name)
    words = words[: words.index("as")] if "as" in words[1:] else words  # "oil as sticker"
    for place, length, one in found_in(words):
        if best is None or (length, place) > best:
            best, found = (length, place), one
    return found


def substances_in(text: str) -> tuple[Substance, ...]:
    """Return every substance a text speaks of as being there, each once.

    "Chlorine-free", "no bleach" and "never within four weeks of oil" speak of what is not
    there, up to the end of their clause, an amount or a "but".
    """
    there: dict[Substance, None] = {}
    for clause in _CLAUSES.split(text):
        words = words_of(clause)
        for place, length, one in found_in(words):
            free = words[place + length : place + length + 1] == ["free"]
            if not free and not _denied(clause, words, place):
                there[one] = None
    return tuple(there)


_CLAUSES = re.compile(r"[,;.:()\n]+(?!\d)|\bbut\b", re.IGNORECASE)


def _denied(clause: str, words: list[str], place: int) -> bool:
    """True where the clause says before, with no amount between, that it is not there."""
    before = [k for k in range(place) if words[k] in DENIED_BEFORE]
    if not before:
        return False
    said = clause.lower().replace("’", "'")
    start = said.find(words[before[-1]])
    end = said.find(words[place], start)
    return not re.search(r"\d", said[start:end])


def found_in(words: list[str]) -> Iterator[tuple[int, int, Substance]]:
    """Yield place, number of words and substance of every known name, longest first, apart."""
    known = named()
    place = 0
    while place < len(words):
        for length in range(min(longest_name(), len(words) - place), 0, -1):
            spelled = tuple(words[place : place + length])
            one = known.get(spelled) or known.get((*spelled[:-1], spelled[-1].removesuffix("s")))
            if one is None and length == 1:
                one = of_kind(spelled[0])
            if one is not None:
                yield place, length, one
                place += length
                break
        else:
            place += 1
