"""Hourly weather as a CSV table, in and out."""

from __future__ import annotations

import csv
import io
import math
from datetime import datetime, timedelta

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.weather import LIMITS, Weather, check_weather, weather_from

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
    """Read hourly weather.

    Parameters
    ----------
    data:
        CSV (UTF-8) with a header; `time` is required, of the other columns those there are.
        Hours may come in any order and with gaps; times with an offset are taken as they
        stand on the clock.

    Raises
    ------
    InputError
        Naming line and column.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise _fault(1, "file", "is not UTF-8 text", "Save it as CSV, UTF-8.") from None
    table = csv.DictReader(io.StringIO(text))
    names = [name.strip().casefold() for name in table.fieldnames or ()]
    if "time" not in names or not set(names) & set(LIMITS):
        raise _fault(1, "time", "the header is missing", f"Use: {', '.join(COLUMNS)}.")
    table.fieldnames = names
    hours: dict[datetime, dict[str, float]] = {}
    try:
        for row in table:
            when = _time(row.get("time"), table.line_num)
            fields = {f: _number(row.get(f), f, table.line_num) for f in LIMITS}
            hours[when] = fields
    except csv.Error as error:
        raise _fault(table.line_num, "file", str(error), "Save it as plain CSV.") from None
    if not hours:
        raise _fault(2, "time", "there is no line", "Give one line for each hour.")
    return _joined(hours)


def _joined(hours: dict[datetime, dict[str, float]]) -> Weather:
    start = min(hours)
    count = int((max(hours) - start) / timedelta(hours=1)) + 1
    if count > MAX_HOURS:
        raise InputError(
            f"the table spans {count} hours",
            code="too_long",
            field="time",
            fix="Give at most five years at once; check for a mistyped year.",
        )
    values = {field: np.full(count, np.nan) for field in LIMITS}
    for when, fields in hours.items():
        k = int((when - start) / timedelta(hours=1))
        for field, value in fields.items():
            values[field][k] = value
    found = weather_from(start, values, count)
    check_weather(found)
    return found


def _time(text: str | None, line: int) -> datetime:
    try:
        when = datetime.fromisoformat((text or "").strip())
    except ValueError:
        raise _fault(
            line, "time", f"{text!r} is no time", "Write it as 2026-05-31T07:00."
        ) from None
    return when.replace(tzinfo=None, minute=0, second=0, microsecond=0)


def _number(text: str | None, field: str, line: int) -> float:
    if text is None or not text.strip():
        return math.nan
    try:
        value = float(text)
    except ValueError:
        value = math.inf
    if not math.isfinite(value):
        raise _fault(line, field, f"{text!r} is no number", "Give a plain number, or nothing.")
    return value


def _fault(line: int, column: str, what: str, fix: str) -> InputError:
    return InputError(f"line {line}, {column}: {what}", code="bad_table", field=column, fix=fix)
