"""Dates as people write them: in any usual order, and with the year left out."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
MONTH = rf"(?:{'|'.join(_MONTHS)})[a-z]{{0,6}}"
_YEAR_FIRST = re.compile(r"(\d{4})[-/. ](\d{1,2})[-/. ](\d{1,2})")
_FIGURES = re.compile(r"(\d{1,2})([-/.])\s?(\d{1,2})(?:\2\s?(\d{4}|\d{2})?)?")
_DAY_FIRST = re.compile(
    r"(\d{1,2})(?:st|nd|rd|th|\.)?(?: of)?[- ]?([a-z]{3,9})\.?,?(?:[- ](\d{4}))?"
)
_MONTH_FIRST = re.compile(r"([a-z]{3,9})\.?[- ]?(\d{1,2})(?:st|nd|rd|th)?,?(?:[- ](\d{4}))?")


@dataclass(frozen=True, slots=True)
class SaidDate:
    """A date as it was written; `other` is what it is with the month first, if that differs."""

    text: str
    on: date
    other: date | None = None


def read_date(text: str, today: date) -> SaidDate | None:
    """Read a date, None where the text is none.

    A date without its year is the last one that is not to come. Figures divided by dots have the
    day first; divided otherwise they can be two dates, unless one of them cannot be.
    """
    said = " ".join(text.split()).casefold()
    if found := _YEAR_FIRST.fullmatch(said):
        return _one(text, _on(*map(int, found.groups())))
    for pattern, day, month in ((_DAY_FIRST, 1, 2), (_MONTH_FIRST, 2, 1)):
        found = pattern.fullmatch(said)
        if found and found[month][:3] in _MONTHS:
            number = _MONTHS.index(found[month][:3]) + 1
            return _one(text, _of(found[3], number, int(found[day]), today))
    if found := _FIGURES.fullmatch(said):
        first, mark, second, year = found.groups()
        by_day = _of(year, int(second), int(first), today)
        by_month = None if mark == "." else _of(year, int(first), int(second), today)
        if by_day and by_month and by_day != by_month:
            return SaidDate(text, by_day, by_month)
        return _one(text, by_day or by_month)
    return None


def read_dates(
    texts: Sequence[str], today: date, *, month_first: bool | None = None
) -> tuple[dict[str, date], tuple[SaidDate, ...]]:
    """Read dates that one hand wrote, all in one order.

    Parameters
    ----------
    month_first:
        The order, once it was said; None: it is found where one of the dates tells it.

    Returns
    -------
    The dates by their texts, and those that can be two, empty where the order is known.
    """
    found = {text: said for text in texts if (said := read_date(text, today)) is not None}
    doubtful = tuple(said for said in found.values() if said.other is not None)
    if month_first is None:
        slashed = [
            (int(m[1]), int(m[3]))
            for text in found
            if (m := _FIGURES.fullmatch(" ".join(text.split()))) and m[2] != "."
        ]
        # Nothing was counted on a day that is still to come, and no year has a thirteenth month.
        if any(second > 12 for _, second in slashed) or any(d.on > today for d in doubtful):
            month_first = True
        elif any(first > 12 for first, _ in slashed) or any(
            d.other is not None and d.other > today for d in doubtful
        ):
            month_first = False
    asked = doubtful if month_first is None else ()
    days = {t: s.other if month_first and s.other is not None else s.on for t, s in found.items()}
    return days, asked


def _of(year: str | None, month: int, day: int, today: date) -> date | None:
    if year:
        return _on(int(year) + (2000 if len(year) == 2 else 0), month, day)
    found = _on(today.year, month, day)
    if found is not None and found > today + timedelta(days=1):
        return _on(today.year - 1, month, day)
    return found


def _on(year: int, month: int, day: int) -> date | None:
    try:
        return date(year, month, day)
    except ValueError:
        return None


def _one(text: str, on: date | None) -> SaidDate | None:
    return None if on is None else SaidDate(text, on)
