"""The yard, its prices and its weather over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from orthocris.api.base import Date, In, Out, Real
from orthocris.core.pantry.units import Region
from orthocris.core.weather.days import Breeze, DayEntry, Sky, Warmth, Wet
from orthocris.core.weather.yard import Absence, WeatherSource, Yard

Whole = Annotated[int, Field(ge=-(2**31), le=2**31 - 1)]
Short = Annotated[str, StringConstraints(max_length=80)]


class AbsenceIO(In):
    """Days on which nobody is there, the first and the last among them."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    first: Date
    last: Date


class YardIO(In):
    """Place, station, water and tools."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    name: Short
    latitude: Real
    longitude: Real
    weather_source: WeatherSource = WeatherSource.NONE
    seed: Whole = 1
    mild: Real = 12.0
    swing: Real = 7.5
    hardness: Real | None = None
    region: Region = Region.METRIC
    tools: Annotated[list[Short], Field(max_length=20)]
    bottles: Annotated[list[Real], Field(max_length=30)]
    drop: Real = 0.05
    currency: Short = "€"
    away: Annotated[list[AbsenceIO], Field(max_length=50)] = Field(default_factory=list)
    in_house: Annotated[list[Short], Field(max_length=40)] | None = None

    def to_core(self) -> Yard:
        """Return the core's yard."""
        return Yard(
            **{
                **self.model_dump(),
                "tools": tuple(self.tools),
                "bottles": tuple(self.bottles),
                "away": tuple(Absence(one.first, one.last) for one in self.away),
                "in_house": None if self.in_house is None else tuple(dict.fromkeys(self.in_house)),
            }
        )


class PlaceOut(BaseModel):
    """A place, in degrees."""

    latitude: float
    longitude: float


class PriceIn(In):
    """A price as the gardener says it: `pack` is a number, or such as "32 fl oz" or "10 pieces"."""

    name: Short
    pack: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)] | Short
    price: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]


class PriceIO(In):
    """What a pack costs: `pack` ml or g."""

    name: Short
    pack: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]
    price: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]


class DayIO(In):
    """A day's weather as the gardener reads or expects it."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    day: Date
    low: Real
    high: Real
    wind: Real
    sky: Sky
    rain: Real = 0.0
    rain_from: Whole = 0
    rain_to: Whole = 24

    def to_core(self) -> DayEntry:
        """Return the core's entry."""
        return DayEntry(**self.model_dump())


class TodayIn(In):
    """Today as it looks out of the door."""

    warmth: Warmth
    breeze: Breeze = Breeze.STILL
    wet: Wet = Wet.NONE


class HourOut(Out):
    """One hour of the ribbon."""

    at: datetime
    temperature: float | None
    humidity: float | None
    rain: float | None
    wind: float | None
    sun: float | None
    light: bool
    bees: bool
    forecast: bool
    open: bool
    drying: float
    closed_by: str
    closed_word: str
    against: tuple[str, ...]
    notes: tuple[str, ...]


class RowOut(Out):
    """One remedy's windows today."""

    letter: str | None
    notches: int | None
    name: str
    open: tuple[bool, ...]
    against: tuple[tuple[str, ...], ...]


class DayOut(Out):
    """A day's best hour, or why there is none."""

    day: date
    best: datetime | None
    open_hours: int
    why: str


class RibbonOut(BaseModel):
    """Today, hour by hour, and the next days; `by_hand`: as the gardener says each day."""

    station: str
    by_hand: bool
    outdoors: bool
    known: bool
    now: datetime
    sunrise: float
    sunset: float
    hours: tuple[HourOut, ...]
    rows: tuple[RowOut, ...]
    days: tuple[DayOut, ...]


class HoursRead(BaseModel):
    """How many hours a table held."""

    hours: int


class EventsLogged(BaseModel):
    """How many events of the weather were logged."""

    events: int
