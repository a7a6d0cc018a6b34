"""Where the clocks of the world are: the town that each time zone is named after."""

from __future__ import annotations

import re
from functools import cache
from importlib.resources import files

_WRITTEN = re.compile(r"([+-])(\d{2,3})(\d{2})(\d{2})?$")  # ISO 6709: degrees, minutes, seconds
_BOTH = re.compile(r"([+-]\d+)([+-]\d+)$")


def place_of_zone(zone: str) -> tuple[float, float] | None:
    """Return latitude and longitude (degrees, to a tenth) of a zone's town, None where unknown.

    The places are those of the tz database (zone.tab).
    """
    return _places().get(zone)


@cache
def _places() -> dict[str, tuple[float, float]]:
    text = (files("tzdata") / "zoneinfo" / "zone.tab").read_text("utf-8")
    found = {}
    for line in text.splitlines():
        if line.startswith("#"):
            continue
        _, where, zone, *_ = line.split("\t")
        parts = _BOTH.match(where)
        if parts is not None:
            found[zone] = (_degrees(parts[1]), _degrees(parts[2]))
    return found


def _degrees(written: str) -> float:
    found = _WRITTEN.match(written)
    if found is None:
        raise ValueError(f"{written!r} is no angle")
    sign, degrees, minutes, seconds = found.groups()
    size = int(degrees) + int(minutes) / 60 + int(seconds or 0) / 3600
    return round(-size if sign == "-" else size, 1)
