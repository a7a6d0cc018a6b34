"""Sunrise and sunset, computed for a place and a day."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date, datetime, timedelta, tzinfo

import numpy as np
from numpy.typing import NDArray

from orthocris.core.errors import InputError

TWILIGHT_HOURS = 0.5  # before sunrise and after sunset one still sees undersides
_HORIZON = 90.833  # degrees from the zenith: refraction and half the sun's disc


@dataclass(frozen=True, slots=True)
class Place:
    """Where the garden is: degrees north and east, and its clock.

    `utc_offset` is how many hours its clocks are ahead of UTC; where a `zone` is given it
    rules, so that days before and after a change of the clock each have their own.
    """

    latitude: float
    longitude: float
    utc_offset: float = 0.0
    zone: tzinfo | None = None

    def offset_on(self, day: date) -> float:
        """Return how many hours the clocks are ahead of UTC at noon of a day."""
        ahead = None
        if self.zone is not None:
            ahead = self.zone.utcoffset(datetime(day.year, day.month, day.day, 12))
        return self.utc_offset if ahead is None else ahead / timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class SunTimes:
    """Sunrise and sunset in hours of the local clock; 0 and 24 when it never sets.

    Both are 12 on a day without sunrise.
    """

    rise: float
    set: float


def check_place(place: Place) -> None:
    """Check that a place is on the globe, or raise InputError."""
    for field, most in (("latitude", 90.0), ("longitude", 180.0)):
        value = getattr(place, field)
        if not -most <= value <= most:
            raise InputError(
                f"a {field} of {value:g} is not on the globe",
                code="bad_place",
                field=field,
                fix=f"Give degrees from -{most:g} to {most:g}; a map shows them.",
            )


def sun_times(place: Place, day: date) -> SunTimes:
    """Return sunrise and sunset, right to about two minutes between the polar circles.

    Source: the low-precision solar equations of Spencer (1971) for declination and the
    equation of time, with the hour angle at a zenith distance of 90.833 degrees.

    Examples
    --------
    >>> times = sun_times(Place(0.0, 0.0), date(2026, 3, 20))
    >>> round(times.rise), round(times.set)
    (6, 18)
    """
    offset = place.offset_on(day)
    noon = day.timetuple().tm_yday - 1 + (12 - offset) / 24
    equation, declination = _equation_and_declination(2 * math.pi * noon / 365)
    latitude = math.radians(max(-89.8, min(89.8, place.latitude)))
    cosine = math.cos(math.radians(_HORIZON)) / (math.cos(latitude) * math.cos(declination))
    cosine -= math.tan(latitude) * math.tan(declination)
    if cosine >= 1:
        return SunTimes(12.0, 12.0)
    if cosine <= -1:
        return SunTimes(0.0, 24.0)
    half = math.degrees(math.acos(cosine)) / 15
    middle = 12 + offset - place.longitude / 15 - equation / 60
    return SunTimes(middle - half, middle + half)


def _equation_and_declination(angle: float) -> tuple[float, float]:
    """Equation of time (minutes) and declination (radians), Spencer (1971)."""
    equation = 229.18 * (
        0.000075
        + 0.001868 * math.cos(angle)
        - 0.032077 * math.sin(angle)
        - 0.014615 * math.cos(2 * angle)
        - 0.040849 * math.sin(2 * angle)
    )
    declination = (
        0.006918
        - 0.399912 * math.cos(angle)
        + 0.070257 * math.sin(angle)
        - 0.006758 * math.cos(2 * angle)
        + 0.000907 * math.sin(2 * angle)
        - 0.002697 * math.cos(3 * angle)
        + 0.00148 * math.sin(3 * angle)
    )
    return equation, declination


def clear_sun(place: Place, start: datetime, hours: int) -> NDArray[np.float64]:
    """Return the sun on the level under a clear sky in the middle of each hour, W/m².

    Source: Haurwitz (1945), 1098 c exp(-0.059 / c) with c the sine of the sun's height.
    """
    height = np.empty(hours)
    latitude = math.radians(place.latitude)
    midnight = datetime(start.year, start.month, start.day)
    offset = int((start - midnight).total_seconds() // 3600)
    for k in range((offset + hours + 23) // 24):
        day = midnight + timedelta(days=k)
        noon = day.timetuple().tm_yday - 1 + 0.5
        equation, declination = _equation_and_declination(2 * math.pi * noon / 365)
        clock = np.arange(24) + 0.5 - place.offset_on(day) + place.longitude / 15 + equation / 60
        sine = math.sin(latitude) * math.sin(declination) + math.cos(latitude) * math.cos(
            declination
        ) * np.cos(np.radians(15 * (clock - 12)))
        first = k * 24 - offset
        low, high = max(first, 0), min(first + 24, hours)
        height[low:high] = sine[low - first : high - first]
    up = np.maximum(height, 1e-3)
    return np.where(height > 0, 1098 * up * np.exp(-0.059 / up), 0.0)


def light_enough(place: Place, start: datetime, hours: int) -> NDArray[np.bool_]:
    """Tell for each hour from `start` (local, on the hour) whether it is light at its middle."""
    found = np.zeros(hours, dtype=np.bool_)
    midnight = datetime(start.year, start.month, start.day)
    offset = int((start - midnight).total_seconds() // 3600)
    days = (offset + hours + 23) // 24
    for k in range(days):
        times = sun_times(place, (midnight + timedelta(days=k)).date())
        clock = np.arange(24) + 0.5
        lit = (clock >= times.rise - TWILIGHT_HOURS) & (clock <= times.set + TWILIGHT_HOURS)
        lit &= times.set > times.rise
        first = k * 24 - offset
        low, high = max(first, 0), min(first + 24, hours)
        found[low:high] = lit[low - first : high - first]
    return found
