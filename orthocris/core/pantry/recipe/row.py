"""A row of lexemes and what rules over it ask: which kinds stand here, and what they make."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme

Found = tuple[Lexeme, int] | None
Rule = Callable[[Sequence[Lexeme], int], Found]

MEASURES = frozenset({Kind.UNIT, Kind.VAGUE, Kind.HEAP, Kind.PIECE})
NUMBERS = frozenset({Kind.NUMBER, Kind.FRACTION, Kind.A})
NAMES = frozenset({Kind.NAME, Kind.STOCK})
MATTER = NAMES | {Kind.WATER}
NAMELIKE = NAMES | {Kind.WORD, Kind.ADJECTIVE, Kind.OF, Kind.BREW}


@dataclass(frozen=True, slots=True)
class Ratio:
    """One part to others (`altogether` false: and `rest` of water) or in a whole."""

    one: Fraction
    rest: Fraction
    altogether: bool


def kinds(row: Sequence[Lexeme], place: int, *wanted: Kind | frozenset[Kind]) -> bool:
    """True when these kinds stand here one after the other."""
    if place < 0 or place + len(wanted) > len(row):
        return False
    for at, kind in enumerate(wanted, place):  # asked a thousand times a keystroke
        found = row[at].kind
        if found is not kind and (isinstance(kind, Kind) or found not in kind):
            return False
    return True


def rewritten(row: Sequence[Lexeme], rule: Rule) -> list[Lexeme]:
    """Return the row with a rule followed wherever it holds, from the beginning."""
    made: list[Lexeme] = []
    place = 0
    while place < len(row):
        found = rule(row, place)
        if found is None:
            made.append(row[place])
            place += 1
        else:
            made.append(found[0])
            place += found[1]
    return made


def merged(
    row: Sequence[Lexeme], place: int, used: int, kind: Kind, value: object, guess: str = ""
) -> tuple[Lexeme, int]:
    parts = row[place : place + used]
    said = "; ".join(dict.fromkeys(p.guess for p in (*parts,) if p.guess))
    other = next((p.other for p in parts if p.other), "")
    return (
        Lexeme(kind, parts[0].start, parts[-1].end, " ".join(p.text for p in parts), value,
               "; ".join(filter(None, (said, guess))), other if used == 1 else ""),
        used,
    )  # fmt: skip


def begins(row: Sequence[Lexeme], place: int) -> bool:
    """True at the beginning of the text or of one of its sentences."""
    return place == 0 or row[place - 1].value == "stop"


def thing_at(row: Sequence[Lexeme], place: int) -> int:
    """Return where the name of what is said here stands: past "of" and "soft"."""
    place += kinds(row, place, Kind.OF)
    while kinds(row, place, Kind.ADJECTIVE):
        place += 1
    return place


def named_at(row: Sequence[Lexeme], place: int) -> bool:
    """True where an ingredient is named here, as in "of soft soap"."""
    return kinds(row, thing_at(row, place), NAMES)


def exact(lexeme: Lexeme) -> Fraction:
    assert isinstance(lexeme.value, Fraction)  # noqa: S101 - only numbers are asked
    return lexeme.value
