"""How lists, numbers of things and verbs are written, everywhere alike."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date


def listing(names: Sequence[str]) -> str:
    """Join names as people do: a, b and c."""
    return " and ".join(filter(None, (", ".join(names[:-1]), *names[-1:])))


def many(count: int, one: str) -> str:
    """Write how many there are: 1 plant, 2 plants."""
    return f"{count} {one}" if count == 1 else f"{count} {one}s"


def day_words(day: date) -> str:
    """Write a day: 4 Dec 2026."""
    return f"{day.day} {day:%b %Y}"


def weekday_words(day: date) -> str:
    """Write a day that is near: Fri 4 Dec."""
    return f"{day:%a} {day.day} {day:%b}"


def weekday_and_day(day: date) -> str:
    """Write a day with its weekday and year: Fri 4 Dec 2026."""
    return f"{day:%a} {day_words(day)}"


def verb(names: Sequence[str], one: str, several: str) -> str:
    """Return the form of a verb that agrees with so many names."""
    return one if len(names) == 1 else several
