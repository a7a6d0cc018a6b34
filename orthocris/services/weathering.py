"""Weather for the bench: the day ribbon, the best hours, and what rain and heat did to a round."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta

import numpy as np

from orthocris.core.rounds import EventKind, RoundEvent, heat_after, rain_after
from orthocris.core.sunlight import Place, SunTimes, light_enough, sun_times
from orthocris.core.trial import Remedy, Round, Trial
from orthocris.core.weather import Weather, unknown_weather
from orthocris.core.windows import (
    SprayRules,
    WindowTable,
    bees_fly,
    best_hour,
    explain,
    local_hour,
    main_sign,
    remarks,
    together,
    why_closed,
    windows,
)
from orthocris.core.yard import StationKind, Yard
from orthocris.devices.replayed_weather import EnteredDays, ReplayedStation
from orthocris.devices.simulated_weather import Climate, SimulatedStation
from orthocris.devices.weather_station import WeatherStation
from orthocris.services.context import Context
from orthocris.services.remedy_cards import card_of, rules_of
from orthocris.storage import care, trials, yard
from orthocris.storage.database import Connection

DAYS_AHEAD = 6  # today and the next five
NEWS = 0.5  # mm or °C by which an event must grow to be logged again
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


def station_of(
    connection: Connection, place: Yard, clock: Place, start: datetime, hours: int
) -> WeatherStation | None:
    """Return the yard's weather station for some hours, or None where there is none."""
    if place.station is StationKind.SIMULATED:
        return SimulatedStation(clock, place.seed, Climate(place.mild, place.swing))
    if place.station is StationKind.ENTERED:
        return EnteredDays(yard.days(connection), clock)
    if place.station is StationKind.RECORD:
        return ReplayedStation(yard.hours(connection, start, hours))
    return None


def weather_at(
    connection: Connection, place: Yard, start: datetime, hours: int, now: datetime
) -> tuple[Weather, str]:
    """Return hours from the yard's station, and its name.

    `start` is local without offset, on the hour; `now` has its offset.
    """
    station = station_of(connection, place, clock_of(place, now), start, hours)
    if station is None:
        return unknown_weather(start, hours), "no station"
    return station.read(start, hours, now.replace(tzinfo=None)), station.name


def clock_of(place: Yard, now: datetime) -> Place:
    """Return the yard's place with the clock of a time."""
    offset = now.utcoffset() or timedelta(0)
    return place.place(offset.total_seconds() / 3600)


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


def closed_now(connection: Connection, trial: Trial, now: datetime) -> tuple[str, ...]:
    """Return why this hour is closed for the whole round; empty when it is open."""
    ribbon = trial_ribbon(connection, trial, now)
    return next(h.against for h in ribbon.hours if h.at.hour == now.hour)


def best_on(ribbon: Ribbon, day: date) -> datetime | None:
    """Return the best hour of a day within the ribbon's reach."""
    return next((d.best for d in ribbon.days if d.day == day), None)


def log_weather(context: Context) -> int:
    """Log rain and heat that fell on sprayed rounds; return how many events are new.

    A round is looked at for three days after it; what was logged only grows.
    """
    now = context.now()
    with context.database.atomic() as connection:
        place = yard.load(connection)
        if place.station is StationKind.NONE:
            return 0
        found = [
            event
            for trial in trials.load_all(connection)
            if trial.care.spot.outdoors
            for round_ in trial.rounds
            for event in _weather_events(connection, place, trial, round_, now)
        ]
        for event in found:
            care.keep_event(connection, event)
        return len(found)


def _weather_events(
    connection: Connection, place: Yard, trial: Trial, round_: Round, now: datetime
) -> list[RoundEvent]:
    sprayed_at = trial.first_sprayed_at(round_)
    if sprayed_at is None or now - sprayed_at > timedelta(days=3):
        return []
    known = {e.kind: e.amount for e in trial.events if e.round_id == round_.id}
    start = local_hour(sprayed_at)
    weather, _ = weather_at(connection, place, start, 72, now)
    events = []
    rain, washed = rain_after(weather, start)
    if washed and rain > known.get(EventKind.WASHED_OFF, 0.0) + NEWS:
        text = (
            f"Round {round_.number}: {rain:.0f} mm of rain within 24 hours, logged as wash-off; "
            "the remedies look weaker than they are, and the next round is proposed sooner."
        )
        events.append(RoundEvent(round_.id, now, EventKind.WASHED_OFF, rain, text))
    hottest = known.get(EventKind.HEAT_AFTER_OIL, -100.0)
    events += [
        e for e in _heat_event(weather, trial, round_, start, now) if e.amount > hottest + NEWS
    ]
    return events


def _heat_event(
    weather: Weather, trial: Trial, round_: Round, start: datetime, now: datetime
) -> list[RoundEvent]:
    oils = [
        rules
        for r in trial.remedies
        if card_of(r).oil and (rules := rules_of(r, trial.care)) is not None
    ]
    if not oils:
        return []
    strictest = together(oils)
    top = heat_after(weather, start, strictest.heat_hours, strictest.high)
    if top is None:
        return []
    text = (
        f"Round {round_.number}: {top:.0f} °C within {strictest.heat_hours} hours after an oil; "
        "look for burn at the next look."
    )
    return [RoundEvent(round_.id, now, EventKind.HEAT_AFTER_OIL, top, text)]
