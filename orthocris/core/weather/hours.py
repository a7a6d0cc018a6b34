"""Hourly weather: what a station reads and foretells, and how fast leaves dry in it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from orthocris.core.errors import InputError

Hours = NDArray[np.float64]
HOUR = timedelta(hours=1)
# What an hour can be, so that a broken sensor is not believed.
LIMITS: dict[str, tuple[float, float]] = {
    "temperature": (-60.0, 60.0),  # °C
    "humidity": (0.0, 100.0),  # %
    "rain": (0.0, 300.0),  # mm in the hour
    "wind": (0.0, 250.0),  # km/h, mean of the hour
    "sun": (0.0, 1500.0),  # W/m² on the level
}
USUAL_DRYING = 0.06  # mm/h where nothing is known
FILM_RAIN = 0.20  # mm that stays on leaves after rain, typical
RAIN_WASHES_OFF = 5.0  # mm in the first 24 h after a spray, about
LONGEST_DRYING = 12  # hours; beyond, it is simply slow


@dataclass(frozen=True, slots=True)
class Weather:
    """Hours in a row from `start` (local time, on the hour); NaN where a value is not known.

    `temperature` in °C, `humidity` in %, `rain` in mm, `wind` in km/h, `sun` in W/m², each of
    the same length. Hours from index `forecast_from` on are foretold, not read.
    """

    start: datetime
    temperature: Hours
    humidity: Hours
    rain: Hours
    wind: Hours
    sun: Hours
    forecast_from: int

    @property
    def hours(self) -> int:
        """How many hours there are."""
        return len(self.temperature)

    def index_of(self, when: datetime) -> int:
        """Return the index of the hour that holds a local time; it may lie outside."""
        return int((when - self.start) // HOUR)

    def time_of(self, index: int) -> datetime:
        """Return the local time at which an hour begins."""
        return self.start + index * HOUR

    def known(self) -> NDArray[np.bool_]:
        """Tell for each hour whether temperature, rain and wind are known."""
        found: NDArray[np.bool_] = ~np.isnan(self.temperature + self.rain + self.wind)
        return found


def unknown_weather(start: datetime, hours: int) -> Weather:
    """Return hours of which nothing is known."""
    return weather_from(start, {field: np.full(hours, np.nan) for field in LIMITS}, hours)


def weather_from(start: datetime, values: Mapping[str, Hours], forecast_from: int) -> Weather:
    """Return weather from its series by name (those of `LIMITS`)."""
    return Weather(
        start=start,
        temperature=values["temperature"],
        humidity=values["humidity"],
        rain=values["rain"],
        wind=values["wind"],
        sun=values["sun"],
        forecast_from=forecast_from,
    )


def check_weather(weather: Weather) -> None:
    """Refuse readings that no garden has, naming hour and field."""
    for field, (low, high) in LIMITS.items():
        values: Hours = getattr(weather, field)
        bad = np.flatnonzero((values < low) | (values > high) | np.isinf(values))
        if len(bad):
            when = weather.time_of(int(bad[0]))
            raise InputError(
                f"{field} at {when:%Y-%m-%d %H:%M} is {values[bad[0]]:g}",
                code="bad_reading",
                field=field,
                fix=f"It must lie from {low:g} to {high:g}; check the sensor or the unit.",
            )


def evaporation(weather: Weather) -> Hours:
    """Return how much water a wet leaf loses in each hour, mm.

    The wind term is Penman's (1948), 0.35 (1 + 0.54 u) (es - ea) mm a day with u in m/s and
    vapour pressure in mmHg, es by Tetens (1930). To it comes the water that 30% of the sun's
    energy turns to vapour (2.45 MJ/kg); a leaf's shape, wax and hairs are left out, so take
    it as an estimate. Unknown hours dry at `USUAL_DRYING`.
    """
    saturated = 6.1078 * np.exp(17.27 * weather.temperature / (weather.temperature + 237.3))
    deficit = saturated * (1 - weather.humidity / 100) / 1.33322  # hPa to mmHg
    by_wind = 0.35 * (1 + 0.54 * weather.wind / 3.6) * deficit / 24
    by_sun = 0.3 * weather.sun * 3600 / 2.45e6
    total = by_wind + np.nan_to_num(by_sun)
    return np.where(np.isnan(total), USUAL_DRYING, np.maximum(total, 0.001))


def drying_hours(lost: Hours, film: float) -> Hours:
    """Return for each hour how long a film of water (mm) stays on the leaf from its start.

    `lost` is the evaporation of each hour; the last hour's goes on beyond the end.
    """
    far = np.concatenate([lost, np.full(LONGEST_DRYING, lost[-1])])
    total = np.concatenate([[0.0], np.cumsum(far)])
    start = total[: len(lost)]
    end = np.searchsorted(total, start + film, side="left")
    end = np.minimum(end, len(far))
    # Within the last hour it dries evenly.
    rest = (total[end] - (start + film)) / np.maximum(far[end - 1], 1e-9)
    hours: Hours = end - np.arange(len(lost)) - np.clip(rest, 0.0, 1.0)
    shown: Hours = np.minimum(hours, float(LONGEST_DRYING))
    return shown


def wet_leaves(weather: Weather, lost: Hours) -> NDArray[np.bool_]:
    """Tell for each hour whether leaves are wet at its start, from rain, or dew.

    Dew is taken to form when humidity is 94% or more and no sun shines (typical).
    """
    dew = (weather.humidity >= 94) & ~(weather.sun > 20)
    gains = np.where(dew, 0.05, 0.0) + np.nan_to_num(weather.rain)
    found = np.zeros(weather.hours, dtype=np.bool_)
    film = 0.0
    for k, (gain, loss) in enumerate(zip(gains.tolist(), lost.tolist(), strict=True)):
        found[k] = film > 0.001
        film = min(max(film + gain - (0.0 if gain else loss), 0.0), FILM_RAIN)
    return found
