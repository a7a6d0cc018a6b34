"""Routes of the yard: settings, prices, weather, the day ribbon and the calendar."""

from __future__ import annotations

from datetime import date, datetime
from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter, Body, Query, Response
from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from orthocris.api.base import In, Number, Out
from orthocris.api.routes import ERRORS, Ctx, IfMatch, TrialId
from orthocris.api.schemas import ChangeOut
from orthocris.api.views import change_view
from orthocris.core.pantry.costs import Price
from orthocris.core.pantry.units import Region
from orthocris.core.weather.days import DayEntry, Sky
from orthocris.core.weather.yard import StationKind, Yard
from orthocris.services import calendars, ribbons, yards
from orthocris.services.revisions import revision_of

router = APIRouter(prefix="/api", responses=ERRORS)
Whole = Annotated[int, Field(ge=-(2**31), le=2**31 - 1)]
Short = Annotated[str, StringConstraints(max_length=80)]


class YardIO(In):
    """Place, station, water and tools."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    name: Short
    latitude: Number
    longitude: Number
    station: StationKind = StationKind.NONE
    seed: Whole = 1
    mild: Number = 12.0
    swing: Number = 7.5
    hardness: Number | None = None
    region: Region = Region.METRIC
    tools: Annotated[list[Short], Field(max_length=20)]
    bottles: Annotated[list[Number], Field(max_length=30)]
    drop: Number = 0.05
    currency: Short = "€"

    def to_core(self) -> Yard:
        """Return the core's yard."""
        return Yard(
            **{
                **self.model_dump(),
                "tools": tuple(self.tools),
                "bottles": tuple(self.bottles),
            }
        )


class PriceIO(In):
    """What a pack costs: `pack` ml or g."""

    name: Short
    pack: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]
    price: Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]


class DayIO(In):
    """A day's weather as the gardener reads or expects it."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)

    day: date
    low: Number
    high: Number
    wind: Number
    sky: Sky
    rain: Number = 0.0
    rain_from: Whole = 0
    rain_to: Whole = 24

    def to_core(self) -> DayEntry:
        """Return the core's entry."""
        return DayEntry(**self.model_dump())


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

    remedy_id: int
    open: tuple[bool, ...]
    against: tuple[tuple[str, ...], ...]


class DayOut(Out):
    """A day's best hour, or why there is none."""

    day: date
    best: datetime | None
    open_hours: int
    why: str


class RibbonOut(BaseModel):
    """Today, hour by hour, and the next days."""

    station: str
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


@router.get("/yard")
def get_yard(context: Ctx, response: Response) -> YardIO:
    """Return the yard's settings; the header ETag names their revision."""
    found = yards.yard_of(context)
    response.headers["ETag"] = f'"{revision_of(found)}"'
    return YardIO.model_validate(found)


@router.put("/yard")
def change_yard(context: Ctx, body: YardIO, response: Response, revision: IfMatch = None) -> YardIO:
    """Change the yard's settings."""
    yards.change_yard(context, body.to_core(), revision)
    return get_yard(context, response)


@router.get("/yard/changes")
def yard_changes(context: Ctx) -> tuple[ChangeOut, ...]:
    """Return every change of the yard, its prices and its weather by hand, the newest first."""
    return tuple(change_view(c) for c in reversed(yards.changes_of_yard(context)))


@router.get("/prices")
def get_prices(context: Ctx, response: Response) -> tuple[PriceIO, ...]:
    """Return the prices entered; the header ETag names their revision."""
    found = yards.prices_of(context)
    response.headers["ETag"] = f'"{yards.prices_revision(found)}"'
    return tuple(PriceIO(name=p.name, pack=float(p.pack), price=float(p.price)) for p in found)


@router.put("/prices")
def change_prices(
    context: Ctx,
    body: Annotated[list[PriceIO], Body(max_length=100)],
    response: Response,
    revision: IfMatch = None,
) -> tuple[PriceIO, ...]:
    """Make the prices those given."""
    given = [Price(p.name, Fraction(repr(p.pack)), Fraction(repr(p.price))) for p in body]
    yards.change_prices(context, given, revision)
    return get_prices(context, response)


@router.get("/weather/days")
def entered_days(context: Ctx) -> tuple[DayIO, ...]:
    """Return the days entered by hand, the newest first."""
    return tuple(DayIO.model_validate(d) for d in yards.entered_days(context))


@router.post("/weather/days", status_code=201)
def enter_day(context: Ctx, body: DayIO) -> tuple[DayIO, ...]:
    """Enter a day by hand."""
    yards.enter_day(context, body.to_core())
    return entered_days(context)


@router.post("/weather/table", status_code=201)
def read_in(context: Ctx, body: Annotated[bytes, Body(media_type="text/csv")]) -> HoursRead:
    """Read in an hourly table (CSV) and use it as the yard's weather."""
    return HoursRead(hours=yards.read_in_weather(context, body))


@router.get("/weather/table.csv", response_class=Response)
def weather_table(context: Ctx, days: Annotated[int, Query(ge=0, le=366)] = 7) -> Response:
    """Return the last days' hours and the forecast as CSV."""
    return Response(
        yards.weather_table(context, days),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="weather.csv"'},
    )


@router.get("/ribbon")
def yard_ribbon(context: Ctx) -> RibbonOut:
    """Return the day ribbon of the yard for an ordinary spray."""
    return _ribbon(ribbons.yard_ribbon(context))


@router.get("/trials/{trial_id}/ribbon")
def trial_ribbon(context: Ctx, trial_id: TrialId) -> RibbonOut:
    """Return the day ribbon of a trial's bench."""
    return _ribbon(ribbons.ribbon_of(context, trial_id))


@router.get("/calendar.ics", response_class=Response)
def calendar(context: Ctx) -> Response:
    """Return every job of the next two months (iCalendar), as a file and as a feed."""
    return Response(
        calendars.calendar_of(context),
        media_type="text/calendar; charset=utf-8",
        headers={"Content-Disposition": 'inline; filename="orthocris.ics"'},
    )


def _ribbon(found: ribbons.Ribbon) -> RibbonOut:
    return RibbonOut(
        station=found.station,
        outdoors=found.outdoors,
        known=found.known,
        now=found.now,
        sunrise=found.sun.rise,
        sunset=found.sun.set,
        hours=tuple(HourOut.model_validate(h) for h in found.hours),
        rows=tuple(RowOut.model_validate(r) for r in found.rows),
        days=tuple(DayOut.model_validate(d) for d in found.days),
    )
