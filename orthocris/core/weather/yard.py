"""The yard: where it lies, its weather station, its water, and what stands in the shed."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta, tzinfo
from enum import StrEnum
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.household import HOUSEHOLD
from orthocris.core.pantry.units import TOOLS, Region
from orthocris.core.ranges import check_ranges
from orthocris.core.weather.sunlight import Place, check_place

LONGEST_AWAY = timedelta(days=366)


class WeatherSource(StrEnum):
    """Where the weather comes from."""

    NONE = "none"
    SIMULATED = "simulated"  # a stand-in, to try things out
    RECORD = "record"  # an hourly CSV file that was read in
    ENTERED = "entered"  # days entered by hand


@dataclass(frozen=True, slots=True)
class Absence:
    """Days on which nobody is there, the first and the last among them."""

    first: date
    last: date


@dataclass(frozen=True, slots=True)
class Yard:
    """One gardener's place and tools.

    `latitude` and `longitude` in degrees; `hardness` of the tap water in mg/L CaCO3, None
    when not known; `tools` are keys of `units.TOOLS`; `bottles` in ml; `drop` ml a drop;
    `mild` and `swing` (°C) set the simulated station's climate; in the days of `away` nobody
    sprays or counts; `in_house` are keys of `HOUSEHOLD`, None while nobody has said.
    """

    name: str = "My garden"
    latitude: float = 50.0
    longitude: float = 0.0
    weather_source: WeatherSource = WeatherSource.NONE
    seed: int = 1
    mild: float = 12.0
    swing: float = 7.5
    hardness: float | None = None
    region: Region = Region.METRIC
    tools: tuple[str, ...] = ("syringe_1", "syringe_10", "tsp", "tbsp", "jug", "scale")
    bottles: tuple[float, ...] = (500.0, 750.0, 1000.0, 2000.0, 5000.0)
    drop: float = 0.05
    currency: str = "€"
    away: tuple[Absence, ...] = ()
    in_house: tuple[str, ...] | None = None

    def place(self, zone: tzinfo | None) -> Place:
        """Return the place with its clock (UTC when there is none)."""
        return Place(self.latitude, self.longitude, zone=zone)

    def exact_bottles(self) -> tuple[Fraction, ...]:
        """Return the bottles as exact numbers."""
        return tuple(Fraction(repr(ml)) for ml in self.bottles)


def check_yard(yard: Yard) -> None:
    """Check a yard, or raise InputError for its first fault, naming the field."""
    check_place(yard.place(None))
    if not 1 <= len(yard.name.strip()) <= 60:
        raise InputError(
            "the garden has no name",
            code="empty",
            field="name",
            fix="Give it a name of up to 60 letters.",
        )
    unknown = [key for key in yard.tools if key not in TOOLS]
    if unknown:
        raise InputError(
            f"there is no tool {unknown[0]!r}",
            code="unknown_tool",
            field="tools",
            fix=f"Use some of: {', '.join(TOOLS)}.",
        )
    strange = [key for key in yard.in_house or () if key not in HOUSEHOLD]
    if strange:
        raise InputError(
            f"{strange[0]!r} is nothing that a remedy is made of",
            code="unknown_thing",
            field="in_house",
            fix=f"Use some of: {', '.join(HOUSEHOLD)}.",
        )
    if not 1 <= len(yard.bottles) <= 20 or not all(10 <= ml <= 200_000 for ml in yard.bottles):
        raise InputError(
            "a bottle holds 10 ml to 200 litres",
            code="bad_bottle",
            field="bottles",
            fix="Give the volumes of your bottles and sprayers in ml, such as 500, 1000, 5000.",
        )
    check_ranges(
        yard,
        (
            ("hardness", 0.0, 2000.0, "mg/L CaCO3"),
            ("drop", 0.01, 0.2, "ml"),
            ("seed", 0, 2**31 - 1, ""),
            ("mild", -20.0, 35.0, "°C"),
            ("swing", 0.0, 30.0, "°C"),
        ),
    )
    for days in yard.away:
        if not timedelta(0) <= days.last - days.first <= LONGEST_AWAY:
            raise InputError(
                f"{days.first} to {days.last} are no days away",
                code="bad_days",
                field="away",
                fix="Give the first day and then the last, at most a year later.",
            )
    if len(yard.currency) > 4:
        raise InputError(
            f"{yard.currency!r} is long for a currency sign",
            code="too_long",
            field="currency",
            fix="Use up to four letters.",
        )
