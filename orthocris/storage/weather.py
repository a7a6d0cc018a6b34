"""The yard's settings, prices and weather."""

from __future__ import annotations

import math
import sqlite3
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from fractions import Fraction

import numpy as np

from orthocris.core.pantry.costs import Price
from orthocris.core.weather.days import DayEntry, Sky
from orthocris.core.weather.hours import LIMITS, Weather, weather_from
from orthocris.core.weather.yard import Yard
from orthocris.storage.trial.plain import YARD


def load(connection: sqlite3.Connection) -> Yard:
    """Return the yard as it was set up, or the usual one."""
    row = connection.execute("SELECT settings FROM yard WHERE id = 1").fetchone()
    return YARD.validate_json(row["settings"] if row else "{}")


def save(connection: sqlite3.Connection, yard: Yard) -> None:
    """Keep the yard's settings."""
    connection.execute(
        "INSERT INTO yard (id, settings) VALUES (1, :settings)"
        " ON CONFLICT (id) DO UPDATE SET settings = excluded.settings",
        {"settings": YARD.dump_json(yard).decode()},
    )


def prices(connection: sqlite3.Connection) -> tuple[Price, ...]:
    """Return the prices entered, by name."""
    rows = connection.execute("SELECT name, pack, price FROM price ORDER BY name")
    return tuple(
        Price(r["name"], Fraction(repr(r["pack"])), Fraction(repr(r["price"]))) for r in rows
    )


def replace_prices(connection: sqlite3.Connection, given: Sequence[Price]) -> None:
    """Make the prices those given."""
    connection.execute("DELETE FROM price")
    for price in given:
        connection.execute(
            "INSERT INTO price (name, pack, price) VALUES (:name, :pack, :price)",
            {
                "name": price.name.strip(),
                "pack": float(price.pack),
                "price": float(price.price),
            },
        )


def keep_hours(connection: sqlite3.Connection, weather: Weather) -> None:
    """Keep hourly readings; a value read in again replaces the older one, a gap replaces none."""
    series = [getattr(weather, field).tolist() for field in LIMITS]
    rows = []
    for k, values in enumerate(zip(*series, strict=True)):
        known = [None if math.isnan(v) else v for v in values]
        if any(v is not None for v in known):
            at = weather.time_of(k).isoformat()
            rows.append({"at": at, **dict(zip(LIMITS, known, strict=True))})
    connection.executemany(
        "INSERT INTO weather_hour (at, temperature, humidity, rain, wind, sun)"
        " VALUES (:at, :temperature, :humidity, :rain, :wind, :sun)"
        " ON CONFLICT (at) DO UPDATE SET"
        " temperature = coalesce(excluded.temperature, temperature),"
        " humidity = coalesce(excluded.humidity, humidity),"
        " rain = coalesce(excluded.rain, rain), wind = coalesce(excluded.wind, wind),"
        " sun = coalesce(excluded.sun, sun)",
        rows,
    )


def hours(connection: sqlite3.Connection, start: datetime, count: int) -> Weather:
    """Return the readings kept from a local hour on, NaN where there is none."""
    end = start + timedelta(hours=count)
    rows = connection.execute(
        "SELECT * FROM weather_hour WHERE at >= :start AND at < :end",
        {"start": start.isoformat(), "end": end.isoformat()},
    )
    values = {field: np.full(count, np.nan) for field in LIMITS}
    for row in rows:
        k = int((datetime.fromisoformat(row["at"]) - start) / timedelta(hours=1))
        for field in LIMITS:
            if row[field] is not None:
                values[field][k] = row[field]
    return weather_from(start, values, count)


def weather_revision(connection: sqlite3.Connection) -> tuple[str | int, ...]:
    """Return the data's file, and numbers that change whenever hours or days come or change."""
    row = connection.execute(
        "SELECT (SELECT file FROM pragma_database_list WHERE name = 'main'),"
        " (SELECT count(*) FROM weather_hour), (SELECT count(*) FROM weather_day),"
        " (SELECT coalesce(max(id), 0) FROM change WHERE trial_id IS NULL)"
    ).fetchone()
    return tuple(row)


def keep_day(connection: sqlite3.Connection, entry: DayEntry) -> None:
    """Keep a day entered by hand; the newest entry of a day holds."""
    connection.execute(
        "INSERT INTO weather_day (day, low, high, wind, sky, rain, rain_from, rain_to)"
        " VALUES (:day, :low, :high, :wind, :sky, :rain, :rain_from, :rain_to)"
        " ON CONFLICT (day) DO UPDATE SET low = excluded.low, high = excluded.high,"
        " wind = excluded.wind, sky = excluded.sky, rain = excluded.rain,"
        " rain_from = excluded.rain_from, rain_to = excluded.rain_to",
        {
            "day": entry.day.isoformat(),
            "low": entry.low,
            "high": entry.high,
            "wind": entry.wind,
            "sky": entry.sky.value,
            "rain": entry.rain,
            "rain_from": entry.rain_from,
            "rain_to": entry.rain_to,
        },
    )


def day_on(connection: sqlite3.Connection, day: date) -> DayEntry | None:
    """Return the entry of one day, if there is one."""
    row = connection.execute(
        "SELECT * FROM weather_day WHERE day = :day", {"day": day.isoformat()}
    ).fetchone()
    return None if row is None else _day(row)


def days(connection: sqlite3.Connection) -> tuple[DayEntry, ...]:
    """Return the days entered by hand, the newest first."""
    rows = connection.execute("SELECT * FROM weather_day ORDER BY day DESC")
    return tuple(_day(r) for r in rows)


def _day(r: sqlite3.Row) -> DayEntry:
    return DayEntry(
        date.fromisoformat(r["day"]),
        r["low"],
        r["high"],
        r["wind"],
        Sky(r["sky"]),
        r["rain"],
        r["rain_from"],
        r["rain_to"],
    )
