"""The day ribbon: windows hour by hour for a bench, and the best hours to come."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta

import numpy as np

from orthocris.core.field.rounds import HourNow
from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.trial.trial import Remedy, Trial
from orthocris.core.weather.sunlight import SunTimes, light_enough, sun_times
from orthocris.core.weather.window_words import (
    UNKNOWN_SAID,
    explain,
    main_sign,
    remarks,
    why_closed,
)
from orthocris.core.weather.windows import (
    WindowTable,
    bees_fly,
    best_hour,
    local_hour,
    together,
    windows,
)
from orthocris.core.weather.yard import Yard
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import rules_of
from orthocris.services.weather.weathering import clock_of, weather_at
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.trial import trials

DAYS_AHEAD = 6  # today and the next five

HISTORY = timedelta(hours=24)  # so that leaves wet from last night are known to be


@dataclass(frozen=True, slots=True)
class HourView:
    """One hour of the ribbon; None where a value is not known.

    `closed_by` and `closed_word` are key and short name of what chiefly closes it for the
    whole round (empty when open), `against` says all that does, `notes` what only speaks
    against it.
    """

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


@dataclass(frozen=True, slots=True)
class RowView:
    """One remedy's windows today: `open` and `against` hour by hour."""

    remedy_id: int
    open: tuple[bool, ...]
    against: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class DayView:
    """A day's best hour, None with the commonest reason why there is none."""

    day: date
    best: datetime | None
    open_hours: int
    why: str


@dataclass(frozen=True, slots=True)
class Ribbon:
    """Today from midnight to midnight, and the next days' best hours."""

    station: str
    outdoors: bool
    known: bool
    now: datetime
    sun: SunTimes
    hours: tuple[HourView, ...]
    rows: tuple[RowView, ...]
    days: tuple[DayView, ...]


def ribbon_of(context: Context, trial_id: int) -> Ribbon:
    """Return the day ribbon of one trial's bench."""
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
        return trial_ribbon(connection, trial, context.now())


def yard_ribbon(context: Context) -> Ribbon:
    """Return the ribbon of the yard for an ordinary soap, without a trial."""
    with context.database.reading() as connection:
        place = yard.load(connection)
        empty = Trial(0, place.name, "", "", 0.5, context.now().date(), None, None)
        return _ribbon(connection, empty, [], SprayRules(), context.now())


def trial_ribbon(connection: Connection, trial: Trial, now: datetime) -> Ribbon:
    """Return the ribbon of a trial that is loaded."""
    own = [(r, rules) for r in trial.remedies if (rules := rules_of(r, trial.care)) is not None]
    all_ = together([rules for _, rules in own]) if own else SprayRules(wets=False, wind=100.0)
    return _ribbon(connection, trial, own, all_, now)


def _ribbon(
    connection: Connection,
    trial: Trial,
    own: list[tuple[Remedy, SprayRules]],
    all_: SprayRules,
    now: datetime,
) -> Ribbon:
    place = yard.load(connection)
    midnight = datetime.combine(now.date(), time())
    table, light, name = _table(connection, place, trial, [*(r for _, r in own), all_], now)
    first = int(HISTORY / timedelta(hours=1))
    row = len(own)
    today = range(first, first + 24)
    bees = bees_fly(table.weather)
    return Ribbon(
        station=name,
        outdoors=trial.care.spot.outdoors,
        known=bool(table.weather.known()[first : first + 24].any()),
        now=now,
        sun=sun_times(clock_of(place, now), midnight.date()),
        hours=tuple(
            _hour(table, row, k, light=bool(light[k]), bees=bool(bees[k]), now=now) for k in today
        ),
        rows=tuple(
            RowView(
                remedy.id,
                tuple(bool(o) for o in table.open()[k, first : first + 24]),
                tuple(explain(table, k, hour) for hour in today),
            )
            for k, (remedy, _) in enumerate(own)
        ),
        days=tuple(_day(table, row, d, now) for d in range(DAYS_AHEAD)),
    )


def _table(
    connection: Connection,
    place: Yard,
    trial: Trial,
    rules: list[SprayRules],
    now: datetime,
) -> tuple[WindowTable, np.ndarray[tuple[int], np.dtype[np.bool_]], str]:
    start = datetime.combine(now.date(), time()) - HISTORY
    hours = (DAYS_AHEAD + 2) * 24
    weather, name = weather_at(connection, place, start, hours, now)
    light = light_enough(clock_of(place, now), start, hours)
    spot = trial.care.spot
    if trial.setup.in_bloom and spot.outdoors:
        spot = replace(spot, bees=True)
    return windows(weather, light, spot, rules), light, name


def _hour(
    table: WindowTable, row: int, k: int, *, light: bool, bees: bool, now: datetime
) -> HourView:
    weather = table.weather
    open_ = bool(table.open()[row, k])
    main = main_sign(table, row, k)

    def value(series: np.ndarray[tuple[int], np.dtype[np.float64]]) -> float | None:
        return None if np.isnan(series[k]) else round(float(series[k]), 2)

    return HourView(
        at=weather.time_of(k).replace(tzinfo=now.tzinfo),
        temperature=value(weather.temperature),
        humidity=value(weather.humidity),
        rain=value(weather.rain),
        wind=value(weather.wind),
        sun=value(weather.sun),
        light=light,
        bees=bees,
        forecast=k >= weather.forecast_from,
        open=open_,
        closed_by=main[0] if main else "",
        closed_word=main[1] if main else "",
        drying=round(float(table.drying[row, k]), 2),
        against=explain(table, row, k),
        notes=remarks(table, row, k),
    )


def _day(table: WindowTable, row: int, ahead: int, now: datetime) -> DayView:
    first = int(HISTORY / timedelta(hours=1)) + 24 * ahead
    start = max(first, table.weather.index_of(local_hour(now))) if ahead == 0 else first
    best = best_hour(table, row, start, first + 24)
    open_hours = int(table.open()[row, start : first + 24].sum())
    return DayView(
        day=now.date() + timedelta(days=ahead),
        best=None if best is None else table.weather.time_of(best).replace(tzinfo=now.tzinfo),
        open_hours=open_hours,
        why="" if best is not None else why_closed(table, row, range(start, first + 24)),
    )


def hour_now(connection: Connection, trial: Trial, now: datetime) -> HourNow:
    """Return this hour's window for the whole round.

    That nothing is known of the weather does not close it: then somebody can look.
    """
    ribbon = trial_ribbon(connection, trial, now)
    said = next(h.against for h in ribbon.hours if h.at.hour == now.hour)
    return HourNow(tuple(t for t in said if t != UNKNOWN_SAID), UNKNOWN_SAID not in said)


def best_on(ribbon: Ribbon, day: date) -> datetime | None:
    """Return the best hour of a day within the ribbon's reach."""
    return next((d.best for d in ribbon.days if d.day == day), None)
