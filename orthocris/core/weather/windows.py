"""When a remedy may be sprayed: hour by hour, with the reason each closed hour is closed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from enum import IntFlag

import numpy as np
from numpy.typing import NDArray

from orthocris.core.pantry.spray_rules import FILM_RUN_OFF, SprayRules
from orthocris.core.trial.care import Spot
from orthocris.core.weather.hours import (
    Hours,
    Weather,
    drying_hours,
    evaporation,
    wet_leaves,
)

Flags = NDArray[np.uint16]
DIRECT_SUN = 250.0  # W/m² on the level: more is direct sun that can burn a wet leaf, typical
RAIN_FALLS = 0.1  # mm in an hour
RAIN_OF_THE_DAY = 1.0  # mm in 24 hours that makes a later hour better
SLOW_HOURS = 6.0
DUST_HOURS = 12.0  # a dust that rain or dew wets sooner than this has done little, typical
FULL_SUN = 700.0  # W/m² on the level: a clear day, typical
LEE_WIND = 3.0  # km/h of moving air in a tunnel or greenhouse, typical


class Sign(IntFlag):
    """What speaks against an hour; those from `RAIN_TODAY` on warn and do not close it."""

    UNKNOWN = 1
    DARK = 2
    RAIN = 4
    WET = 8
    SUN = 16
    HOT = 32
    COLD = 64
    WIND = 128
    RAIN_SOON = 256
    BEES = 512
    LAMP = 1024
    RAIN_TODAY = 2048
    HEAT_AFTER = 4096
    SLOW = 8192


CLOSING = Sign.RAIN_TODAY - 1
CLOSING_SIGNS = tuple(sign for sign in Sign if sign & CLOSING)


@dataclass(frozen=True, slots=True)
class WindowTable:
    """Signs against each hour for each remedy (rows), and hours until dry.

    `signs` has shape (remedies, hours); an hour is open when no closing sign is set.
    """

    weather: Weather
    rules: tuple[SprayRules, ...]
    signs: Flags
    drying: Hours

    def open(self) -> NDArray[np.bool_]:
        """Return which hours are open, shape (remedies, hours)."""
        found: NDArray[np.bool_] = (self.signs & int(CLOSING)) == 0
        return found


def windows(
    weather: Weather, light: NDArray[np.bool_], spot: Spot, rules: Sequence[SprayRules]
) -> WindowTable:
    """Check every hour for every remedy.

    Parameters
    ----------
    weather:
        Hours in a row.
    light:
        For each hour, whether one sees enough (see `sunlight.light_enough`).
    spot:
        Where the bench stands.
    rules:
        One for each remedy.

    Returns
    -------
    WindowTable
        Shape (len(rules), hours).
    """
    if not spot.outdoors:
        return _indoors(weather, spot, rules)
    weather = where_it_stands(weather, spot)
    lost = evaporation(weather)
    shared = _shared_signs(weather, light, spot)
    wet = np.where(wet_leaves(weather, lost), np.uint16(Sign.WET), np.uint16(0))
    sunny = (weather.sun > DIRECT_SUN) & _within(weather, spot.sun_from, spot.sun_to)
    films = {rule.film: drying_hours(lost, rule.film) for rule in rules if rule.wets}
    rain = weather.rain > RAIN_FALLS
    signs = np.empty((len(rules), weather.hours), dtype=np.uint16)
    drying = np.zeros((len(rules), weather.hours))
    for k, rule in enumerate(rules):
        found = shared.copy()
        found |= _flag(weather.wind > rule.wind, Sign.WIND)
        if rule.wets:
            drying[k] = films[rule.film]
            found |= wet | _while_drying(sunny, drying[k], Sign.SUN)
            found |= _while_drying(rain, drying[k], Sign.RAIN_SOON)
            found |= _flag(drying[k] > SLOW_HOURS, Sign.SLOW)
        if rule.needs_dry:
            lasting = np.full(weather.hours, DUST_HOURS)
            found |= wet | _while_drying(rain, lasting, Sign.RAIN_SOON)
        found |= _while_drying(weather.temperature > rule.high, drying[k], Sign.HOT)
        found |= _while_drying(weather.temperature < rule.low, drying[k], Sign.COLD)
        if rule.heat_hours:
            hours = np.full(weather.hours, float(rule.heat_hours))
            found |= _while_drying(weather.temperature > rule.high, hours, Sign.HEAT_AFTER)
        signs[k] = found
    return WindowTable(weather, tuple(rules), signs, drying)


def best_hour(table: WindowTable, row: int, first: int, last: int) -> int | None:
    """Return the best open hour of a remedy from `first` up to, not with, `last`; None if none.

    Best is the least sum of: hours to dry / 2, wind / its limit, distance from the middle of
    the allowed temperatures / 10 °C, 1 for rain within a day, 2 for heat after. Of equals the
    first. Where one bottle is followed by the next, ask for the row of all (`together`).
    """
    first, last = max(first, 0), min(last, table.weather.hours)
    open_ = table.open()[row, first:last]
    if last <= first or not open_.any():
        return None
    rule = table.rules[row]
    part = slice(first, last)
    middle = (rule.low + rule.high) / 2
    cost = table.drying[row, part] / 2
    cost = cost + np.nan_to_num(table.weather.wind[part]) / rule.wind
    cost += np.abs(np.nan_to_num(table.weather.temperature[part], nan=middle) - middle) / 10
    cost += _has(table.signs[row, part], Sign.RAIN_TODAY)
    cost += 2 * _has(table.signs[row, part], Sign.HEAT_AFTER)
    return first + int(np.argmin(np.where(open_, cost, np.inf)))


def together(rules: Sequence[SprayRules]) -> SprayRules:
    """Return the rules that hold when several remedies are sprayed in one go: the strictest."""
    return SprayRules(
        low=max(r.low for r in rules),
        high=min(r.high for r in rules),
        wind=min(r.wind for r in rules),
        film=max(r.film for r in rules),
        heat_hours=max(r.heat_hours for r in rules),
        wets=any(r.wets for r in rules),
        needs_dry=any(r.needs_dry for r in rules),
    )


def _shared_signs(weather: Weather, light: NDArray[np.bool_], spot: Spot) -> Flags:
    """Signs that do not depend on the remedy."""
    found = _flag(~weather.known(), Sign.UNKNOWN)
    if not spot.night:
        found |= _flag(~light, Sign.DARK)
    found |= _flag(weather.rain > RAIN_FALLS, Sign.RAIN)
    sums = np.concatenate([[0.0], np.cumsum(np.nan_to_num(weather.rain))])
    ahead = np.minimum(np.arange(weather.hours) + 24, weather.hours)
    found |= _flag(sums[ahead] - sums[:-1] >= RAIN_OF_THE_DAY, Sign.RAIN_TODAY)
    if spot.bees:
        found |= _flag(bees_fly(weather), Sign.BEES)
    return found


def where_it_stands(weather: Weather, spot: Spot) -> Weather:
    """Return the weather that a bench outdoors has: under cover no rain, hardly a wind, and heat.

    It is warmer than outside by `spot.rise` in full sun, less in proportion under cloud, not at
    all by night; where the sun is not known, by day it is taken to shine.
    """
    if not spot.covered:
        return weather
    calm = np.where(np.isnan(weather.wind), weather.wind, np.minimum(weather.wind, LEE_WIND))
    clock = (weather.start.hour + np.arange(weather.hours)) % 24
    guessed = np.where((clock >= 8) & (clock < 19), 1.0, 0.0)
    shine = np.where(np.isnan(weather.sun), guessed, np.minimum(weather.sun / FULL_SUN, 1.0))
    return replace(
        weather,
        rain=np.where(np.isnan(weather.rain), weather.rain, 0.0),
        wind=calm,
        temperature=weather.temperature + spot.rise * shine,
    )


def bees_fly(weather: Weather) -> NDArray[np.bool_]:
    """Tell in which hours honey bees fly: 13 °C or more, light, no rain, little wind (typical)."""
    found: NDArray[np.bool_] = (
        (weather.temperature >= 13)
        & (weather.sun > 80)
        & ~(weather.rain > RAIN_FALLS)
        & ~(weather.wind > 24)
    )
    return found


def _indoors(weather: Weather, spot: Spot, rules: Sequence[SprayRules]) -> WindowTable:
    """Indoors only the lamp is known: closed while it is on, or goes on before dry."""
    signs = np.zeros((len(rules), weather.hours), dtype=np.uint16)
    usual = drying_hours(np.full(weather.hours, evaporation(weather)[0]), FILM_RUN_OFF)
    drying = np.zeros((len(rules), weather.hours))
    for k, rule in enumerate(rules):
        if not rule.wets:
            continue
        drying[k] = usual
        if spot.lamp_from is not None and spot.lamp_to is not None:
            lit = _within(weather, spot.lamp_from, spot.lamp_to)
            signs[k] = _while_drying(lit, usual, Sign.LAMP)
    return WindowTable(weather, tuple(rules), signs, drying)


def _within(weather: Weather, first: float, last: float) -> NDArray[np.bool_]:
    """Tell which hours lie between two times of the clock, over midnight if need be."""
    clock = (weather.start.hour + np.arange(weather.hours)) % 24 + 0.5
    if first <= last:
        return (clock >= first) & (clock <= last)
    return (clock >= first) | (clock <= last)


def _flag(where: NDArray[np.bool_], sign: Sign) -> Flags:
    return np.where(where, np.uint16(sign), np.uint16(0))


def _has(signs: Flags, sign: Sign) -> NDArray[np.float64]:
    found: Hours = ((signs & int(sign)) != 0).astype(np.float64)
    return found


def _while_drying(where: NDArray[np.bool_], hours: Hours, sign: Sign) -> Flags:
    """Flag each hour from whose start `where` is true within the given hours."""
    count = len(where)
    sums = np.concatenate([[0], np.cumsum(where)])
    start = np.arange(count)
    end = np.minimum(start + np.maximum(np.ceil(hours).astype(np.int64), 1), count)
    return _flag(sums[end] > sums[start], sign)


def local_hour(when: datetime) -> datetime:
    """Return a time on the local clock, without offset and minutes."""
    return when.replace(tzinfo=None, minute=0, second=0, microsecond=0)
