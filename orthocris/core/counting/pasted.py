"""A pasted table with a header: its columns are found by their names, not by their places."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from orthocris.core.counting.said_dates import MONTH, SaidDate, read_dates
from orthocris.core.trial.plan import Look

_NAMES = {
    "plant": "plant plants pot pots tag name plantname plantid plantno id no nr label",
    "block": "block bench shelf row tray bed",
    "remedy": "remedy treatment treated got spray sprayed product what letter with",
    "day": "day date when look countedon dayofcount dap dat dayafter daysafter",
    "measure": "measure what counted kind",
    "value": "value count counts number live alive pests total insects n",
    "of": "of outof lookedat",
    "damage": "damage leafdamage damagescore score",
}
_KINDS = {word: kind for kind, words in reversed(_NAMES.items()) for word in words.split()}
OF_A_LOOK = ("value", "of", "damage", "other")
_BEFORE = re.compile(r"\b(before|pre|start|baseline|begin(ning)?|initial)\b")
_DAY = re.compile(r"(?:^|\bafter |\b)(?:day|days|d)\s*\+?(\d{1,3})\b|\b(\d{1,3})\s*(?:d|days?)\b")
_WEEK = re.compile(r"\bweeks?\s*(\d{1,2})\b|\b(\d{1,2})\s*weeks?\b")
_LOOK = re.compile(r"\blook\s*(\d{1,2})\b")
_DATE = re.compile(
    r"\d{1,4}\s?[-/.]\s?\d{1,2}\s?(?:[-/.]\s?\d{0,4})?"  # 6.4. and 2026-04-06
    rf"|\d{{1,2}}(?:\.|st|nd|rd|th)?\s?{MONTH}\.?(?: \d{{4}})?"  # 6 April
    rf"|{MONTH}\.? \d{{1,2}}(?:, \d{{4}})?"  # April 6
)


@dataclass(frozen=True, slots=True)
class Pasted:
    """What a pasted table says, line by line, under the columns of the trial's own table.

    A column is named plant, block, remedy, or value/1, of/1, damage/1, other/1 for a look. `looks`
    are the days that were told by dates, `asked` dates that can be two, `left` columns nobody
    knows.
    """

    lines: tuple[dict[str, str], ...]
    looks: tuple[tuple[int, date], ...]
    asked: tuple[SaidDate, ...]
    left: tuple[str, ...]


def read_pasted(
    rows: Sequence[Sequence[str]],
    looks: Sequence[Look],
    measures: Sequence[str],
    today: date,
    *,
    also: str = "",
    month_first: bool | None = None,
) -> Pasted | None:
    """Read a table by its header; None where its first line is none.

    Parameters
    ----------
    rows:
        The cells, with the header first.
    looks:
        The looks of the trial, by whose days columns and dates are told apart.
    measures:
        Other names of what is counted, such as "live" and "aphids".
    also:
        The name of a second pest that is counted beside it.
    month_first:
        The order of dates such as 4/6, once it was said.
    """
    heads = [" ".join(cell.casefold().replace("_", " ").split()) for cell in rows[0]]
    kinds = ["other" if also and also in head else _kind(head, measures) for head in heads]
    if "plant" not in kinds and "remedy" not in kinds:
        return None
    body = [[cell.strip() for cell in row] for row in rows[1:] if any(c.strip() for c in row)]
    at_day = kinds.index("day") if "day" in kinds else None
    texts = [t for head in heads if (t := _dated(head))]
    if at_day is not None:
        texts = [row[at_day].casefold() for row in body if at_day < len(row)]
    days, asked = read_dates(texts, today, month_first=month_first)
    numbers = _looks_of(sorted(set(days.values())), looks)

    def look_of(said: str) -> int | None:
        on = days.get(said) or days.get(_dated(said) or "")
        return numbers.get(on) if on is not None else _look(said, looks)

    if at_day is None:
        keys = [
            _key(kind, look_of(head)) if kind not in {"plant", "block", "remedy"} else kind
            for kind, head in zip(kinds, heads, strict=True)
        ]
        lines = [_line(keys, row) for row in body]
        known: list[str | None] = list(keys)
    else:
        aside = {"damage": "damage"} | ({also: "other"} if also else {})
        lines = _pivot(body, kinds, at_day, look_of, measures, aside)
        known = [kind if kind in _KINDS.values() or kind == "other" else None for kind in kinds]
    told = {numbers[on]: on for on in days.values() if on in numbers}
    left = tuple(c.strip() for c, k in zip(rows[0], known, strict=True) if k is None and c.strip())
    return Pasted(tuple(lines), tuple(sorted(told.items())), asked, left)


def _kind(head: str, measures: Sequence[str]) -> str:
    plain = re.sub(r"[^a-z]", "", head)
    found = _KINDS.get(plain) if plain else None
    if found is not None and not re.search(r"\d", head):
        return found
    if "damage" in head:
        return "damage"
    if re.match(r"(out )?of\b", head):
        return "of"
    return "value" if head in measures or re.search(r"\d", head) or _BEFORE.search(head) else ""


def _key(kind: str, look: int | None) -> str | None:
    return f"{kind}/{look}" if kind in OF_A_LOOK and look is not None else None


def _look(said: str, looks: Sequence[Look]) -> int | None:
    """The look a name or number speaks of: before, day 7, 3 hours, week 1, look 2, or 7 alone."""
    if _BEFORE.search(said):
        return 0
    if found := _LOOK.search(said):
        return next((k.number for k in looks if k.number == int(found[1])), None)
    named = [k for k in looks if re.search(rf"\b{re.escape(k.when)}\b", said)]
    if named:  # of "day 1" and "day 1, 3 hours" the longer
        return max(named, key=lambda k: len(k.when)).number
    for pattern, days in ((re.compile(r"^(\d{1,3})$"), 1), (_DAY, 1), (_WEEK, 7)):
        if found := pattern.search(said):
            wanted = days * int(next(group for group in found.groups() if group))
            return next((k.number for k in looks if k.day == wanted and not k.hours), None)
    return None


def _dated(head: str) -> str | None:
    """The date in a column's name, such as "live 6.4.2026"."""
    found = _DATE.search(head)
    return found[0].strip() if found else None


def _looks_of(days: Sequence[date], looks: Sequence[Look]) -> dict[date, int]:
    """Tell which look each day was, by its distance from the first, the count before."""
    found: dict[date, int] = {}
    for on in days:
        away = (on - days[0]).days
        number = min(looks, key=lambda k: abs(k.moment - away)).number
        if number not in found.values():
            found[on] = number
    return found


def _line(keys: Sequence[str | None], row: Sequence[str]) -> dict[str, str]:
    return {key: cell for key, cell in zip(keys, row, strict=False) if key and cell}


def _pivot(
    body: Sequence[Sequence[str]],
    kinds: Sequence[str],
    at_day: int,
    look_of: Callable[[str], int | None],
    measures: Sequence[str],
    aside: Mapping[str, str],
) -> list[dict[str, str]]:
    """A line for each number becomes a line for each plant; `aside` are measures beside."""
    found: dict[str, dict[str, str]] = {}
    for row in body:
        cells = {kind: cell for kind, cell in zip(kinds, row, strict=False) if kind}
        name = cells.get("plant", "")
        line = found.setdefault(name.casefold(), {"plant": name})
        line |= {k: cells[k] for k in ("block", "remedy") if cells.get(k)}
        look = look_of(row[at_day].casefold()) if at_day < len(row) else None
        measure = cells.get("measure", "").casefold()
        if look is None or (measure and measure not in aside and measure not in measures):
            continue
        for kind in OF_A_LOOK:
            if cells.get(kind):
                line[f"{aside.get(measure, kind)}/{look}"] = cells[kind]
    return [line for line in found.values() if line["plant"]]
