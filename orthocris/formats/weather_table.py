"""Hourly weather as a CSV table, in and out."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterator
from datetime import datetime, timedelta

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.weather.hours import LIMITS, Hours, Weather, check_weather, weather_from

MAX_HOURS = 5 * 366 * 24
COLUMNS = ("time", *LIMITS)


def write_weather(weather: Weather) -> bytes:
    """Write hours as CSV: time (local, ISO), temperature °C, humidity %, rain mm, wind km/h, sun.

    Unknown values stay empty.
    """
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    for k in range(weather.hours):
        values = [float(getattr(weather, field)[k]) for field in LIMITS]
        said = ["" if math.isnan(v) else f"{v:.6g}" for v in values]
        table.writerow([weather.time_of(k).isoformat(timespec="minutes"), *said])
    return out.getvalue().encode()


def read_weather(data: bytes) -> Weather:
    """Read weather and make hours of it.

    Parameters
    ----------
    data:
        CSV (UTF-8) with a header; `time` is required, of the other columns those there are.
        Lines may come in any order and with gaps; times with an offset are taken as they
        stand on the clock. Several lines within an hour (quarter-hours, or the hour that
        comes twice when the clock is set back) make one: rain is added up, the rest averaged.

    Raises
    ------
    InputError
        Naming line and column.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise _fault(1, "file", "is not UTF-8 text", "Save it as CSV, UTF-8.") from None
    # Line ends of any system; a cell of this table has none of its own.
    table = csv.reader(io.StringIO(text.replace("\r\n", "\n").replace("\r", "\n")))
    try:
        names = [name.strip().casefold() for name in next(table, [])]
        if "time" not in names or not set(names) & set(LIMITS):
            raise _fault(1, "time", "the header is missing", f"Use: {', '.join(COLUMNS)}.")
        lines = _lines(table, names)
    except csv.Error as error:
        raise _fault(table.line_num, "file", str(error), "Save it as plain CSV.") from None
    if not lines:
        raise _fault(2, "time", "there is no line", "Give one line for each hour.")
    return _joined(lines)


def known_hours(weather: Weather) -> int:
    """Return how many hours have at least one reading."""
    some = [~np.isnan(getattr(weather, field)) for field in LIMITS]
    return int(np.logical_or.reduce(some).sum())


Line = tuple[datetime, tuple[float, ...]]


def _lines(table: Iterator[list[str]], names: list[str]) -> list[Line]:
    """Read each line once: a line that stands there twice, sign for sign, counts once."""
    at = {field: names.index(field) for field in ("time", *LIMITS) if field in names}
    seen: set[tuple[str, ...]] = set()
    found: list[Line] = []
    for number, row in enumerate(table, start=2):
        if not any(cell.strip() for cell in row):
            continue
        cells = {field: row[k] if k < len(row) else "" for field, k in at.items()}
        whole = tuple(cells.values())
        if whole in seen:
            continue
        seen.add(whole)
        when = _time(cells["time"], number)
        found.append((when, tuple(_number(cells.get(f), f, number) for f in LIMITS)))
    return found


def _joined(lines: list[Line]) -> Weather:
    start = min(when for when, _ in lines)
    count = int((max(when for when, _ in lines) - start) / timedelta(hours=1)) + 1
    if count > MAX_HOURS:
        raise InputError(
            f"the table spans {count} hours",
            code="too_long",
            field="time",
            fix="Give at most five years at once; check for a mistyped year.",
        )
    index = np.array([int((when - start) / timedelta(hours=1)) for when, _ in lines])
    table = np.array([values for _, values in lines])
    found: dict[str, Hours] = {}
    for k, field in enumerate(LIMITS):
        known = ~np.isnan(table[:, k])
        total = np.bincount(index[known], table[known, k], count)
        number = np.bincount(index[known], minlength=count)
        with np.errstate(invalid="ignore"):
            found[field] = np.where(
                number > 0, total if field == "rain" else total / np.maximum(number, 1), np.nan
            )
    weather = weather_from(start, found, count)
    check_weather(weather)
    return weather


def _time(text: str | None, line: int) -> datetime:
    try:
        when = datetime.fromisoformat((text or "").strip())
    except ValueError:
        raise _fault(
            line, "time", f"{(text or '')[:40]!r} is no time", "Write it as 2026-05-31T07:00."
        ) from None
    return when.replace(tzinfo=None, minute=0, second=0, microsecond=0)


def _number(text: str | None, field: str, line: int) -> float:
    if text is None or not text.strip():
        return math.nan
    try:
        value = float(text.strip().replace("_", "x"))  # Python's 1_000 is no number in a table
    except ValueError:
        value = math.inf
    if not math.isfinite(value):
        raise _fault(line, field, f"{text[:40]!r} is no number", "Give a plain number, or nothing.")
    return value


def _fault(line: int, column: str, what: str, fix: str) -> InputError:
    return InputError(f"line {line}, {column}: {what}", code="bad_table", field=column, fix=fix)
