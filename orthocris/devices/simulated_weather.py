"""A simulated weather station: seeded seasons, the same whenever they are asked for."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from orthocris.core.weather.days import humidity_above
from orthocris.core.weather.hours import LIMITS, Weather, unknown_weather
from orthocris.core.weather.sunlight import Place, clear_sun

Series = NDArray[np.float64]
SMOOTH = 6  # hours over which forecast errors hang together
FORECAST_HOURS = 24 * 8  # errors of the same hour stay the same up to here


@dataclass(frozen=True, slots=True)
class Climate:
    """A climate: mean and seasonal half-swing of the day's mean (°C), share of wet days."""

    mean: float = 15.0
    swing: float = 6.5
    wet_days: float = 0.3
    wind: float = 9.0  # km/h


class SimulatedStation:
    """Seasons with fronts, showers, gusts and clear nights; the forecast blurs with distance.

    Parameters
    ----------
    place:
        Gives the sun.
    seed:
        The same seed gives the same weather, whatever hours are asked for.
    """

    name = "simulated station"

    def __init__(self, place: Place, seed: int, climate: Climate | None = None) -> None:
        self._place = place
        self._seed = seed
        self._climate = climate or Climate()

    def read(self, start: datetime, hours: int, now: datetime) -> Weather:
        """Return readings up to now, and from then on a forecast."""
        found = unknown_weather(start, hours)
        end = start + timedelta(hours=hours)
        for year in range(start.year, end.year + 1):
            record = _year(self._place, self._seed, self._climate, year)
            shift = found.index_of(record.start)
            low, high = max(shift, 0), min(shift + record.hours, hours)
            for field in LIMITS:
                own = getattr(record, field)
                getattr(found, field)[low:high] = own[low - shift : high - shift]
        ahead = min(max(found.index_of(now) + 1, 0), hours)
        return self._blurred(replace(found, forecast_from=ahead), now)

    def _blurred(self, weather: Weather, now: datetime) -> Weather:
        """Forecast errors grow with the lead; they are fixed for the day of the forecast."""
        first = weather.forecast_from
        if first >= weather.hours:
            return weather
        rng = np.random.default_rng([self._seed, now.toordinal()])
        ahead = weather.hours - first
        lead = np.sqrt(np.arange(1, ahead + 1) / 24)
        # Smoothed before it is cut: a forecast of an hour is as good as one of a week.
        noise = rng.normal(0, 1, max(ahead, FORECAST_HOURS) + SMOOTH)
        smooth = np.convolve(noise, np.ones(SMOOTH) / SMOOTH, mode="valid")[:ahead]
        factor = np.exp(0.25 * lead * smooth)
        temperature, wind = weather.temperature.copy(), weather.wind.copy()
        rain = weather.rain.copy()
        temperature[first:] += 0.8 * lead * smooth
        wind[first:] *= factor
        rain[first:] *= factor
        return replace(weather, temperature=temperature, wind=wind, rain=rain)


@lru_cache(maxsize=16)
def _year(place: Place, seed: int, climate: Climate, year: int) -> Weather:
    """Simulate one year by the hour."""
    start = datetime(year, 1, 1)
    days = (datetime(year + 1, 1, 1) - start).days
    hours = days * 24
    rng = np.random.default_rng([seed, year])
    cloud = np.clip(0.45 + 0.3 * _red(rng, days, 0.6), 0.02, 1.0)
    wet = rng.random(days) < np.clip(climate.wet_days * (0.3 + 1.5 * cloud**2), 0, 0.95)
    north = 1 if place.latitude >= 0 else -1
    season = -north * np.cos(2 * np.pi * (np.arange(days) - 20) / days)
    mean = climate.mean + climate.swing * season + 2.2 * _red(rng, days, 0.75)
    half = np.interp(cloud, [0, 1], [6.0, 2.0])  # half of the day's range: clear days swing
    clock = np.tile(np.arange(24) + 0.5, days)
    by_hour = np.repeat(np.arange(days), 24)
    temperature = _smooth(mean, hours) + half[by_hour] * np.cos(2 * np.pi * (clock - 15) / 24)
    dew = _smooth(mean - half - 0.5 + 0.8 * _red(rng, days, 0.5), hours)
    rain = _showers(rng, wet, days)
    humidity = humidity_above(temperature, dew)
    humidity = np.where(rain > 0, np.maximum(humidity, 92.0), humidity)
    through = 1 - 0.78 * _smooth(cloud, hours)
    gusts = np.exp(0.35 * _red(rng, hours, 0.9)) * (0.7 + 0.5 * np.sin(np.pi * clock / 24) ** 2)
    wind = climate.wind * np.exp(0.4 * _red(rng, days, 0.5))[by_hour] * gusts
    return Weather(
        start=start,
        temperature=temperature,
        humidity=humidity,
        rain=rain,
        wind=np.minimum(wind, 90.0),
        sun=clear_sun(place, start, hours) * through * np.where(rain > 0, 0.4, 1.0),
        forecast_from=hours,
    )


def _red(rng: np.random.Generator, count: int, memory: float) -> Series:
    """A first-order autoregressive series with mean 0 and standard deviation 1."""
    shocks = rng.normal(0, np.sqrt(1 - memory**2), count)
    found = np.empty(count)
    value = float(rng.normal())
    for k, shock in enumerate(shocks.tolist()):
        value = memory * value + shock
        found[k] = value
    return found


def _smooth(daily: Series, hours: int) -> Series:
    """Daily values, held at noon, drawn out to hours."""
    found: Series = np.interp(np.arange(hours) + 0.5, np.arange(len(daily)) * 24 + 12, daily)
    return found


def _showers(rng: np.random.Generator, wet: NDArray[np.bool_], days: int) -> Series:
    """Rain of the wet days: one to three spells of some hours, amounts skewed."""
    rain = np.zeros(days * 24)
    for day in np.flatnonzero(wet):
        for _ in range(int(rng.integers(1, 4))):
            first = int(day) * 24 + int(rng.integers(0, 22))
            length = int(rng.integers(1, 6))
            amount = float(rng.gamma(0.8, 3.0))
            rain[first : first + length] += amount / length
    return rain
