"""What closes an hour, in words."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from orthocris.core.weather.hours import Hours
from orthocris.core.weather.windows import CLOSING, CLOSING_SIGNS, Sign, WindowTable

Say = Callable[[WindowTable, int, int], str]
_SIGNS = tuple((int(sign), sign) for sign in Sign)  # plain numbers: asked for every hour
UNKNOWN_DAY = "no weather is known"
UNKNOWN_SAID = f"{UNKNOWN_DAY} for this hour"


def explain(table: WindowTable, row: int, index: int) -> tuple[str, ...]:
    """Say what closes an hour; empty when it is open."""
    flags = int(table.signs[row, index]) & int(CLOSING)
    return tuple(_say(sign, table, row, index) for value, sign in _SIGNS if flags & value)


def remarks(table: WindowTable, row: int, index: int) -> tuple[str, ...]:
    """Say what only speaks against an hour, without closing it."""
    flags = int(table.signs[row, index]) & ~int(CLOSING)
    return tuple(_say(sign, table, row, index) for value, sign in _SIGNS if flags & value)


def main_sign(table: WindowTable, row: int, index: int) -> tuple[str, str] | None:
    """Return key and short name of the chief thing that closes an hour; None when it is open."""
    flags = int(table.signs[row, index]) & int(CLOSING)
    sign = next((s for s in _WHY if flags & s), None)
    return None if sign is None else ((sign.name or "").lower(), _WHY[sign])


def why_closed(table: WindowTable, row: int, hours: range) -> str:
    """Say what closes most of some hours by daylight."""
    signs = [int(table.signs[row, k]) for k in hours if not table.signs[row, k] & int(Sign.DARK)]
    counts = [(sum(bool(s & sign) for s in signs), -sign, sign) for sign in CLOSING_SIGNS]
    most, _, sign = max(counts, default=(0, 0, Sign.DARK))
    return _WHY[sign] if most else "no daylight is left"


# Short names, those that rule the others out first.
_WHY = {
    Sign.UNKNOWN: UNKNOWN_DAY,
    Sign.DARK: "dark",
    Sign.RAIN: "rain",
    Sign.WET: "wet leaves",
    Sign.COLD: "too cold",
    Sign.HOT: "too warm",
    Sign.WIND: "wind",
    Sign.SUN: "in full sun",
    Sign.LAMP: "the lamp is on",
    Sign.RAIN_SOON: "rain before dry",
    Sign.BEES: "bees about",
}


def _say(sign: Sign, table: WindowTable, row: int, k: int) -> str:
    return _WORDS[sign](table, row, k)


def _span(values: Hours, table: WindowTable, row: int, k: int) -> float:
    """The highest value while the leaf dries that is sprayed in hour k."""
    return _top(values[k : k + int(np.ceil(table.drying[row, k])) + 1])


def _hot(table: WindowTable, row: int, k: int) -> str:
    top = _span(table.weather.temperature, table, row, k)
    return f"up to {top:.0f} °C before dry, above {table.rules[row].high:g} °C"


def _cold(table: WindowTable, row: int, k: int) -> str:
    low = -_span(-table.weather.temperature, table, row, k)
    return f"down to {low:.0f} °C before dry, below {table.rules[row].low:g} °C"


def _wind(table: WindowTable, row: int, k: int) -> str:
    return (
        f"wind {_top(table.weather.wind[k : k + 1]):.0f} km/h, above {table.rules[row].wind:g} km/h"
    )


def _rain(table: WindowTable, _: int, k: int) -> str:
    return f"it rains ({_top(table.weather.rain[k : k + 1]):.1f} mm)"


def _rain_soon(table: WindowTable, row: int, k: int) -> str:
    return f"rain is expected before the leaves are dry ({table.drying[row, k]:.1f} h)"


def _heat_after(table: WindowTable, row: int, _: int) -> str:
    rule = table.rules[row]
    return f"heat above {rule.high:g} °C follows within {rule.heat_hours} h"


def _slow(table: WindowTable, row: int, k: int) -> str:
    return f"leaves dry slowly, about {table.drying[row, k]:.0f} h"


def _always(text: str) -> Say:
    return lambda *_: text


def _top(values: Hours) -> float:
    return float(np.nanmax(values)) if len(values) and not np.isnan(values).all() else float("nan")


_WORDS: dict[Sign, Say] = {
    Sign.UNKNOWN: _always(UNKNOWN_SAID),
    Sign.DARK: _always("too dark to see the undersides"),
    Sign.RAIN: _rain,
    Sign.WET: _always("leaves are still wet from rain or dew"),
    Sign.SUN: _always("direct sun on the bench before the leaves are dry"),
    Sign.HOT: _hot,
    Sign.COLD: _cold,
    Sign.WIND: _wind,
    Sign.RAIN_SOON: _rain_soon,
    Sign.BEES: _always("bees are about"),
    Sign.LAMP: _always("the lamp is on before the leaves are dry"),
    Sign.RAIN_TODAY: _always("rain is expected within 24 hours and may wash it off"),
    Sign.HEAT_AFTER: _heat_after,
    Sign.SLOW: _slow,
}
