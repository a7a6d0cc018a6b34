"""Readings from the yard's weather station, whichever kind it is."""

from __future__ import annotations

import threading
from datetime import date, datetime, time

from orthocris.core.weather.hours import Weather, unknown_weather
from orthocris.core.weather.sunlight import Place
from orthocris.core.weather.yard import WeatherSource, Yard
from orthocris.devices.replayed_weather import EnteredDays, ReplayedStation
from orthocris.devices.simulated_weather import Climate, SimulatedStation
from orthocris.devices.weather_station import WeatherStation
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection

KEPT_YEARS = 16  # a third of a megabyte each
_PAST: dict[tuple[object, ...], Weather] = {}
_PAST_LOCK = threading.Lock()


def station_of(
    connection: Connection, place: Yard, clock: Place, start: datetime, hours: int
) -> WeatherStation | None:
    """Return the yard's weather station for some hours, or None where there is none."""
    if place.weather_source is WeatherSource.SIMULATED:
        return SimulatedStation(clock, place.seed, Climate(place.mild, place.swing))
    if place.weather_source is WeatherSource.ENTERED:
        return EnteredDays(yard.days(connection), clock)
    if place.weather_source is WeatherSource.RECORD:
        return ReplayedStation(yard.hours(connection, start, hours))
    return None


def weather_at(
    connection: Connection, place: Yard, start: datetime, hours: int, now: datetime
) -> tuple[Weather, str]:
    """Return hours from the yard's station, and its name.

    `start` is local without offset, on the hour; `now` has its offset.
    """
    station = station_of(connection, place, clock_of(place, now), start, hours)
    if station is None:
        return unknown_weather(start, hours), "no station"
    return station.read(start, hours, now.replace(tzinfo=None)), station.name


def past_days(
    connection: Connection, place: Yard, start: date, end: date, now: datetime
) -> Weather:
    """Return the hours from the beginning of one day to the beginning of another.

    They are years of hours, asked for with Today: they are read anew when a day begins, when hours
    came or were changed, and when the yard is another.
    """
    key = (place, yard.weather_revision(connection), start, end)
    with _PAST_LOCK:
        found = _PAST.get(key)
    if found is None:
        hours = (end - start).days * 24
        found, _ = weather_at(connection, place, datetime.combine(start, time()), hours, now)
        with _PAST_LOCK:
            _PAST[key] = found
            for old in list(_PAST)[:-KEPT_YEARS]:
                del _PAST[old]
    return found


def clock_of(place: Yard, now: datetime) -> Place:
    """Return the yard's place with the clock of a time, changes of the clock included."""
    return place.place(now.tzinfo)
