"""Weather from the yard's station, and what rain and heat did to a round."""

from __future__ import annotations

from datetime import datetime, timedelta

from orthocris.core.field.rounds import heat_after, rain_after
from orthocris.core.trial.sprays import EventKind, RoundEvent
from orthocris.core.trial.trial import Round, Trial
from orthocris.core.weather.hours import Weather, unknown_weather
from orthocris.core.weather.sunlight import Place
from orthocris.core.weather.windows import local_hour, together
from orthocris.core.weather.yard import StationKind, Yard
from orthocris.devices.replayed_weather import EnteredDays, ReplayedStation
from orthocris.devices.simulated_weather import Climate, SimulatedStation
from orthocris.devices.weather_station import WeatherStation
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import card_of, rules_of
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.field import care
from orthocris.storage.trial import trials

NEWS = 0.5  # mm or °C by which an event must grow to be logged again


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
    """Return the yard's place with the clock of a time, changes of the clock included."""
    return place.place(now.tzinfo)


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
