"""What closes an hour, in words."""

from __future__ import annotations

import numpy as np

from orthocris.core.weather import (
    Hours,
)
from orthocris.core.windows import CLOSING, CLOSING_SIGNS, Sign, WindowTable

UNKNOWN_SAID = "no weather is known for this hour"


def explain(table: WindowTable, row: int, index: int) -> tuple[str, ...]:
    """Say what closes an hour; empty when it is open."""
    flags = int(table.signs[row, index])
    return tuple(_say(sign, table, row, index) for sign in Sign if flags & sign & CLOSING)


def remarks(table: WindowTable, row: int, index: int) -> tuple[str, ...]:
    """Say what only speaks against an hour, without closing it."""
    flags = int(table.signs[row, index])
    return tuple(_say(sign, table, row, index) for sign in Sign if flags & sign & ~CLOSING)


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
    Sign.UNKNOWN: "no weather is known",
    Sign.DARK: "dark",
    Sign.RAIN: "rain",
    Sign.WET: "wet leaves",
    Sign.COLD: "too cold",
    Sign.HOT: "too warm",
    Sign.WIND: "wind",
    Sign.SUN: "sun on the bench",
    Sign.LAMP: "the lamp is on",
    Sign.RAIN_SOON: "rain before dry",
    Sign.BEES: "bees about",
}


def _say(sign: Sign, table: WindowTable, row: int, k: int) -> str:
    weather, rule = table.weather, table.rules[row]
    dry = table.drying[row, k]
    span = slice(k, k + int(np.ceil(dry)) + 1)
    texts = {
        Sign.UNKNOWN: UNKNOWN_SAID,
        Sign.DARK: "too dark to see the undersides",
        Sign.RAIN: f"it rains ({_top(weather.rain[k : k + 1]):.1f} mm)",
        Sign.WET: "leaves are still wet from rain or dew",
        Sign.SUN: "direct sun on the bench before the leaves are dry",
        Sign.HOT: f"up to {_top(weather.temperature[span]):.0f} °C before dry, above {rule.high:g}",
        Sign.COLD: f"down to {-_top(-weather.temperature[span]):.0f} °C before dry, below "
        f"{rule.low:g}",
        Sign.WIND: f"wind {_top(weather.wind[k : k + 1]):.0f} km/h, above {rule.wind:g}",
        Sign.RAIN_SOON: f"rain is expected before the leaves are dry ({dry:.1f} h)",
        Sign.BEES: "bees are about",
        Sign.LAMP: "the lamp is on before the leaves are dry",
        Sign.RAIN_TODAY: "rain is expected within 24 hours and may wash it off",
        Sign.HEAT_AFTER: f"heat above {rule.high:g} °C follows within {rule.heat_hours} h",
        Sign.SLOW: f"leaves dry slowly, about {dry:.0f} h",
    }
    return texts[sign]


def _top(values: Hours) -> float:
    return float(np.nanmax(values)) if len(values) and not np.isnan(values).all() else float("nan")
