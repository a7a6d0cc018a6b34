"""Weather a gardener enters by hand: a day in a few numbers, spread over its hours."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from enum import StrEnum

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.ranges import check_ranges
from orthocris.core.weather.hours import LIMITS, Hours, Weather, unknown_weather
from orthocris.core.weather.sunlight import Place, clear_sun, sun_times


class Sky(StrEnum):
    """How much of the sun comes through."""

    CLEAR = "clear"
    MIXED = "mixed"
    CLOUDY = "cloudy"


_SHARE = {Sky.CLEAR: 1.0, Sky.MIXED: 0.6, Sky.CLOUDY: 0.22}  # of the clear sky's sun, typical


@dataclass(frozen=True, slots=True)
class DayEntry:
    """One day as a gardener reads or expects it.

    `low` and `high` in °C, `wind` in km/h, `rain` in mm, fallen from hour `rain_from` to
    `rain_to`.
    """

    day: date
    low: float
    high: float
    wind: float
    sky: Sky
    rain: float = 0.0
    rain_from: int = 0
    rain_to: int = 24


class Warmth(StrEnum):
    """How warm a day gets."""

    COLD = "cold"
    COOL = "cool"
    MILD = "mild"
    WARM = "warm"
    HOT = "hot"


class Breeze(StrEnum):
    """What the wind moves."""

    STILL = "still"
    LEAVES = "leaves"
    BRANCHES = "branches"


class Wet(StrEnum):
    """Whether it rains today."""

    NONE = "none"
    LATER = "later"
    ALL_DAY = "all_day"


# What such a day usually is: coolest and warmest (°C), wind (km/h), rain (mm).
_WARMTH = {
    Warmth.COLD: (0.0, 6.0),
    Warmth.COOL: (5.0, 13.0),
    Warmth.MILD: (9.0, 19.0),
    Warmth.WARM: (13.0, 25.0),
    Warmth.HOT: (17.0, 32.0),
}
_WIND = {Breeze.STILL: 4.0, Breeze.LEAVES: 12.0, Breeze.BRANCHES: 28.0}
_RAIN = {Wet.NONE: 0.0, Wet.LATER: 4.0, Wet.ALL_DAY: 8.0}
RAIN_AHEAD = 3  # hours until rain that comes later today is reckoned with


def day_by_eye(now: datetime, warmth: Warmth, breeze: Breeze, wet: Wet) -> DayEntry:
    """Return today in typical numbers, from a look out of the door; rain later ends at midnight."""
    low, high = _WARMTH[warmth]
    return DayEntry(
        day=now.date(),
        low=low,
        high=high,
        wind=_WIND[breeze],
        sky=Sky.MIXED if wet is Wet.NONE else Sky.CLOUDY,
        rain=_RAIN[wet],
        rain_from=min(now.hour + RAIN_AHEAD, 23) if wet is Wet.LATER else 0,
    )


def check_entry(entry: DayEntry) -> None:
    """Check a day, or raise InputError naming the field."""
    check_ranges(
        entry,
        (
            ("low", *LIMITS["temperature"], "°C"),
            ("high", *LIMITS["temperature"], "°C"),
            ("wind", *LIMITS["wind"], "km/h"),
            ("rain", *LIMITS["rain"], "mm"),
            ("rain_from", 0, 23, ""),
            ("rain_to", 1, 24, ""),
        ),
    )
    if entry.low > entry.high:
        raise InputError(
            f"the coolest ({entry.low:g} °C) lies above the warmest ({entry.high:g} °C)",
            code="out_of_range",
            field="low",
            fix="Exchange them.",
        )
    if entry.rain_from >= entry.rain_to:
        raise InputError(
            f"rain from {entry.rain_from} to {entry.rain_to} o'clock",
            code="out_of_range",
            field="rain_to",
            fix="Give an end after the start; over midnight, split it between the two days.",
        )


def day_weather(entry: DayEntry, place: Place) -> Weather:
    """Spread a day over its hours.

    Temperature falls along a sine to its low at sunrise and rises to its high at 15 o'clock;
    humidity follows from air that is saturated at the low; rain falls evenly.
    """
    check_entry(entry)
    start = datetime(entry.day.year, entry.day.month, entry.day.day)
    clock = np.arange(24) + 0.5
    rise = sun_times(place, entry.day).rise if sun_times(place, entry.day).rise < 12 else 6.0
    up = (clock - rise) / (15 - rise)
    down = ((clock - 15) % 24) / (24 - 15 + rise)
    phase = np.where((clock >= rise) & (clock <= 15), up, 1 - down)
    temperature = entry.low + (entry.high - entry.low) * (0.5 - 0.5 * np.cos(np.pi * phase))
    rain = np.zeros(24)
    rain[entry.rain_from : entry.rain_to] = entry.rain / (entry.rain_to - entry.rain_from)
    return Weather(
        start=start,
        temperature=temperature,
        humidity=humidity_above(temperature, entry.low),
        rain=rain,
        wind=np.full(24, float(entry.wind)),
        sun=clear_sun(place, start, 24) * _SHARE[entry.sky],
        forecast_from=24,
    )


def humidity_above(temperature: Hours, dew_point: float | Hours) -> Hours:
    """Return relative humidity (%) from temperature and dew point, by Tetens (1930)."""

    def pressure(t: Hours | float) -> Hours:
        return np.asarray(np.exp(17.27 * np.asarray(t) / (np.asarray(t) + 237.3)))

    return np.clip(100 * pressure(dew_point) / pressure(temperature), 0.0, 100.0)


def weather_of_days(
    entries: Iterable[DayEntry], place: Place, start: datetime, hours: int, now: datetime
) -> Weather:
    """Return the hours from `start`, known on the days entered and unknown on the others."""
    found = unknown_weather(start, hours)
    for entry in entries:
        begins = datetime(entry.day.year, entry.day.month, entry.day.day)
        shift = int((begins - start) / timedelta(hours=1))
        low, high = max(shift, 0), min(shift + 24, hours)
        if low >= high:
            continue  # the day lies before or behind what is asked for
        part = day_weather(entry, place)
        for field in LIMITS:
            getattr(found, field)[low:high] = getattr(part, field)[low - shift : high - shift]
    ahead = int((now - start) / timedelta(hours=1)) + 1
    return replace(found, forecast_from=min(max(ahead, 0), hours))
