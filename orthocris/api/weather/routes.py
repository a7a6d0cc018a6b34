"""Routes of the yard: settings, prices, weather, the day ribbon and the calendar."""

from __future__ import annotations

from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter, Body, Query, Response

from orthocris.api.files import CALENDAR, CSV, Calendar, Csv
from orthocris.api.requests import Ctx, IfMatch, TrialId
from orthocris.api.trial.schemas import ChangeOut
from orthocris.api.trial.views import change_view
from orthocris.api.weather.schemas import (
    DayIO,
    DayOut,
    EventsLogged,
    HourOut,
    HoursRead,
    PlaceOut,
    PriceIn,
    PriceIO,
    RibbonOut,
    RowOut,
    TodayIn,
    YardIO,
)
from orthocris.core.errors import NotFoundError
from orthocris.core.pantry.costs import Price, pack_said
from orthocris.core.pantry.units import Region
from orthocris.knowledge.zones import place_of_zone
from orthocris.services.field import calendars
from orthocris.services.revisions import revision_of
from orthocris.services.weather import ribbons, weathering, yards

router = APIRouter(prefix="/api")


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


@router.get("/places")
def place_of_clock(zone: Annotated[str, Query(max_length=60)]) -> PlaceOut:
    """Return where the town lies that a time zone is named after."""
    found = place_of_zone(zone)
    if found is None:
        raise NotFoundError(
            f"no town is known by the clock {zone!r}",
            code="no_such_zone",
            fix="Give latitude and longitude; whole degrees are enough.",
        )
    return PlaceOut(latitude=found[0], longitude=found[1])


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
    body: Annotated[list[PriceIn], Body(max_length=100)],
    response: Response,
    revision: IfMatch = None,
) -> tuple[PriceIO, ...]:
    """Make the prices those given."""
    place = yards.yard_of(context)
    drop = Fraction(repr(place.drop))
    given = [Price(p.name, _pack(p, place.region, drop), Fraction(repr(p.price))) for p in body]
    yards.change_prices(context, given, revision)
    return get_prices(context, response)


def _pack(price: PriceIn, region: Region, drop: Fraction) -> Fraction:
    if isinstance(price.pack, str):
        return pack_said(price.pack, price.name, region, drop)
    return Fraction(repr(price.pack))


@router.get("/weather/days")
def entered_days(context: Ctx) -> tuple[DayIO, ...]:
    """Return the days entered by hand, the newest first."""
    return tuple(DayIO.model_validate(d) for d in yards.entered_days(context))


@router.post("/weather/days")
def enter_day(context: Ctx, body: DayIO) -> DayIO:
    """Enter a day by hand; entered again it replaces the older, so it needs no key."""
    yards.enter_day(context, body.to_core())
    return body


@router.post("/weather/today")
def say_today(context: Ctx, body: TodayIn) -> DayIO:
    """Enter today by a look out of the door, in three words; said again it replaces the older."""
    return DayIO.model_validate(yards.say_today(context, body.warmth, body.breeze, body.wet))


@router.post("/weather/table")
def read_in(context: Ctx, body: Annotated[bytes, Body(media_type="text/csv")]) -> HoursRead:
    """Read in an hourly table (CSV) and use it as the yard's weather."""
    return HoursRead(hours=yards.read_in_weather(context, body))


@router.post("/weather/log")
def log_weather(context: Ctx) -> EventsLogged:
    """Log rain and heat on the rounds of the last days now, as is done every ten minutes."""
    return EventsLogged(events=weathering.log_weather(context))


@router.get("/weather/table.csv", response_class=Response, responses=CSV)
def weather_table(context: Ctx, days: Annotated[int, Query(ge=0, le=366)] = 7) -> Csv:
    """Return the last days' hours and the forecast as CSV."""
    return Csv(
        yards.weather_table(context, days),
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


@router.get("/calendar.ics", response_class=Response, responses=CALENDAR)
def calendar(context: Ctx) -> Calendar:
    """Return every job of the next two months (iCalendar), as a file and as a feed."""
    return Calendar(
        calendars.calendar_of(context),
        headers={"Content-Disposition": 'inline; filename="orthocris.ics"'},
    )


def _ribbon(found: ribbons.Ribbon) -> RibbonOut:
    return RibbonOut(
        station=found.station,
        by_hand=found.by_hand,
        outdoors=found.outdoors,
        known=found.known,
        now=found.now,
        sunrise=found.sun.rise,
        sunset=found.sun.set,
        hours=tuple(HourOut.model_validate(h) for h in found.hours),
        rows=tuple(RowOut.model_validate(r) for r in found.rows),
        days=tuple(DayOut.model_validate(d) for d in found.days),
    )
