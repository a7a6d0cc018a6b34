"""A station that replays hours kept before (a file of readings, or days entered by hand)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime

from orthocris.core.weather.days import DayEntry, weather_of_days
from orthocris.core.weather.hours import LIMITS, Weather, unknown_weather
from orthocris.core.weather.sunlight import Place


class ReplayedStation:
    """Replays an hourly record; outside of it nothing is known."""

    name = "hourly record"

    def __init__(self, record: Weather) -> None:
        self._record = record

    def read(self, start: datetime, hours: int, now: datetime) -> Weather:
        """Return the hours of the record."""
        found = unknown_weather(start, hours)
        shift = found.index_of(self._record.start)
        low, high = max(shift, 0), min(shift + self._record.hours, hours)
        if low < high:
            for field in LIMITS:
                own = getattr(self._record, field)
                getattr(found, field)[low:high] = own[low - shift : high - shift]
        ahead = min(max(found.index_of(now) + 1, 0), hours)
        return replace(found, forecast_from=ahead)


class EnteredDays:
    """Stands in where there is no station: the days the gardener entered."""

    name = "entered by hand"

    def __init__(self, entries: Sequence[DayEntry], place: Place) -> None:
        self._entries = entries
        self._place = place

    def read(self, start: datetime, hours: int, now: datetime) -> Weather:
        """Return the hours of the days entered."""
        return weather_of_days(self._entries, self._place, start, hours, now)
