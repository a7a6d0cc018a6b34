"""Setting up the yard: place, station, tools, prices, weather read in or entered."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime, time, timedelta

from orthocris.core.errors import InputError
from orthocris.core.pantry.costs import Price, check_price
from orthocris.core.trial.record import Change
from orthocris.core.weather.days import (
    Breeze,
    DayEntry,
    Warmth,
    Wet,
    check_entry,
    day_by_eye,
)
from orthocris.core.weather.yard import WeatherSource, Yard, check_yard
from orthocris.formats.weather_table import known_hours, read_weather, write_weather
from orthocris.services.context import Context
from orthocris.services.revisions import check_unchanged, revision_of
from orthocris.services.weather.stations import weather_at
from orthocris.services.weather.weathering import log_weather
from orthocris.storage import record as kept
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.trial.plain import plain_day, plain_prices, plain_yard


def yard_of(context: Context) -> Yard:
    """Return the yard."""
    with context.database.reading() as connection:
        return yard.load(connection)


def change_yard(context: Context, wanted: Yard, expected: str | None = None) -> None:
    """Change the yard's settings; what they were stays on record."""
    check_yard(wanted)
    with context.database.atomic() as connection:
        before = yard.load(connection)
        check_unchanged(expected, revision_of(before), "the yard")
        yard.save(connection, wanted)
        _record(connection, context, "yard", plain_yard(before), plain_yard(wanted))


def changes_of_yard(context: Context) -> tuple[Change, ...]:
    """Return every change of the yard, its prices and its weather by hand, the oldest first."""
    with context.database.reading() as connection:
        return kept.changes(connection, None)


def prices_revision(prices: Sequence[Price]) -> str:
    """Return the revision of a list of prices."""
    return revision_of(tuple(sorted((p.name, p.pack, p.price) for p in prices)))


def _record(
    connection: Connection,
    context: Context,
    what: str,
    before: Mapping[str, object],
    after: Mapping[str, object],
) -> None:
    kept.record_change(connection, None, Change(context.now(), what, before, after))


def prices_of(context: Context) -> tuple[Price, ...]:
    """Return the prices entered."""
    with context.database.reading() as connection:
        return yard.prices(connection)


def change_prices(context: Context, prices: Sequence[Price], expected: str | None = None) -> None:
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
        before = yard.prices(connection)
        check_unchanged(expected, prices_revision(before), "the list of prices")
        yard.replace_prices(connection, prices)
        _record(connection, context, "prices", plain_prices(before), plain_prices(prices))


def read_in_weather(context: Context, table: bytes) -> int:
    """Keep the hours of a CSV table and use them as the yard's weather; return how many.

    Only hours with a reading count; what is empty in the table leaves what is kept as it is.
    """
    weather = read_weather(table)
    with context.database.atomic() as connection:
        yard.keep_hours(connection, weather)
        _record(connection, context, "yard", {}, {"hours_read_in": known_hours(weather)})
        _use_station(connection, context, WeatherSource.RECORD)
    log_weather(context)
    return known_hours(weather)


def _use_station(connection: Connection, context: Context, kind: WeatherSource) -> None:
    before = yard.load(connection)
    after = replace(before, weather_source=kind)
    yard.save(connection, after)
    _record(connection, context, "yard", plain_yard(before), plain_yard(after))


def enter_day(context: Context, entry: DayEntry) -> None:
    """Keep a day entered by hand; where there was no station, entered days are used now.

    An entry that replaces another of the same day leaves the other on record.
    """
    check_entry(entry)
    with context.database.atomic() as connection:
        known = yard.day_on(connection, entry.day)
        yard.keep_day(connection, entry)
        if known is not None:
            _record(connection, context, "weather_day", plain_day(known), plain_day(entry))
        if yard.load(connection).weather_source is WeatherSource.NONE:
            _use_station(connection, context, WeatherSource.ENTERED)
    log_weather(context)


def say_today(context: Context, warmth: Warmth, breeze: Breeze, wet: Wet) -> DayEntry:
    """Keep today as it looks out of the door, and return it in numbers."""
    entry = day_by_eye(context.now(), warmth, breeze, wet)
    enter_day(context, entry)
    return entry


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
