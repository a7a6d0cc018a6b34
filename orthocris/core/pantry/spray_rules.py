"""When a remedy may be sprayed."""

from __future__ import annotations

from dataclasses import dataclass

FILM_RUN_OFF = 0.10  # mm of water that stays on a leaf sprayed to run-off, typical


@dataclass(frozen=True, slots=True)
class SprayRules:
    """When one remedy may be sprayed; typical values, for the gardener to change.

    `low` and `high` are °C, `wind` km/h, `film` mm of mix that stays on the leaf;
    `heat_hours` is how long after spraying heat still harms (oils), 0 for none. A remedy that
    does not wet leaves (`wets` false) does not mind the sun, dew or drying; one that needs dry
    leaves (`needs_dry`, dusts) is stopped by dew, and by rain that comes before it could act.
    """

    low: float = 5.0
    high: float = 27.0
    wind: float = 15.0
    film: float = FILM_RUN_OFF
    heat_hours: int = 0
    wets: bool = True
    needs_dry: bool = False
