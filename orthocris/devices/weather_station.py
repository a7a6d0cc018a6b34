"""The weather station: what the program asks of one."""

from __future__ import annotations

from datetime import datetime
from typing import Protocol

from orthocris.core.weather.hours import Weather


class WeatherStation(Protocol):
    """A station on the roof, or whatever stands in for one."""

    @property
    def name(self) -> str:
        """What the gardener calls it."""

    def read(self, start: datetime, hours: int, now: datetime) -> Weather:
        """Return the hours from `start` (local, on the hour).

        Hours up to `now` are readings, later ones the forecast; NaN where the station knows
        nothing.
        """
