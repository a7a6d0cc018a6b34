"""Setting up the yard: place, station, tools, prices, weather read in or entered."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime, time, timedelta

from orthocris.core.costs import Price, check_price
from orthocris.core.errors import InputError
from orthocris.core.weather_days import DayEntry, check_entry
from orthocris.core.yard import StationKind, Yard, check_yard
from orthocris.formats.weather_table import read_weather, write_weather
from orthocris.services.context import Context
from orthocris.services.weathering import weather_at
from orthocris.storage import yard


def yard_of(context: Context) -> Yard:
    """Return the yard."""
    with context.database.reading() as connection:
        return yard.load(connection)


def change_yard(context: Context, wanted: Yard) -> None:
    """Change the yard's settings."""
    check_yard(wanted)
    with context.database.atomic() as connection:
        yard.save(connection, wanted)


def prices_of(context: Context) -> tuple[Price, ...]:
    """Return the prices entered."""
    with context.database.reading() as connection:
        return yard.prices(connection)


def change_prices(context: Context, prices: Sequence[Price]) -> None:
    """Make the prices those given."""
    for price in prices:
        check_price(price)
    names = [price.name.strip().casefold() for price in prices]
    if len(set(names)) != len(names):
        raise InputError(
            "one ingredient has two prices",
            code="duplicate_name",
            field="name",
            fix="Keep one price for each.",
        )
    with context.database.atomic() as connection:
        yard.replace_prices(connection, prices)


def read_in_weather(context: Context, table: bytes) -> int:
    """Keep the hours of a CSV table and use them as the yard's weather; return how many."""
    weather = read_weather(table)
    with context.database.atomic() as connection:
        yard.keep_hours(connection, weather)
        yard.save(connection, replace(yard.load(connection), station=StationKind.RECORD))
    return weather.hours


def enter_day(context: Context, entry: DayEntry) -> None:
    """Keep a day entered by hand; where there was no station, entered days are used now."""
    check_entry(entry)
    with context.database.atomic() as connection:
        yard.keep_day(connection, entry)
        place = yard.load(connection)
        if place.station is StationKind.NONE:
            yard.save(connection, replace(place, station=StationKind.ENTERED))


def entered_days(context: Context) -> tuple[DayEntry, ...]:
    """Return the days entered by hand, the newest first."""
    with context.database.reading() as connection:
        return yard.days(connection)


def weather_table(context: Context, days: int) -> bytes:
    """Return the last days and the forecast as an hourly table (CSV)."""
    now = context.now()
    start = datetime.combine(now.date(), time()) - timedelta(days=days)
    with context.database.reading() as connection:
        place = yard.load(connection)
        weather, _ = weather_at(connection, place, start, (days + 6) * 24, now)
    return write_weather(weather)
